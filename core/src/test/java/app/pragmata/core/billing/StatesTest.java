package app.pragmata.core.billing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.JobState;
import app.pragmata.core.field.VisitState;
import app.pragmata.core.money.Money;
import java.util.List;
import org.junit.jupiter.api.Test;

class StatesTest {
  @Test
  void a_job_with_a_finished_visit_waits_for_the_check_even_when_another_is_planned() {
    assertThat(after(new VisitState.Finished(), new VisitState.Planned()))
        .isInstanceOf(JobState.Worked.class);
  }

  @Test
  void a_job_is_checked_once_every_visit_that_happened_is() {
    assertThat(after(new VisitState.Checked(), new VisitState.CalledOff()))
        .isInstanceOf(JobState.Checked.class);
  }

  @Test
  void a_job_with_a_visit_still_ahead_stays_open_after_one_is_checked() {
    assertThat(after(new VisitState.Checked(), new VisitState.Planned()))
        .isInstanceOf(JobState.Open.class);
  }

  @Test
  void a_job_whose_only_visit_did_not_happen_makes_no_invoice() {
    assertThat(after(new VisitState.NotThisTime())).isInstanceOf(JobState.Open.class);
  }

  @Test
  void an_invoice_is_settled_by_the_last_penny() {
    assertThat(new InvoiceState.Open(Money.of("10.00")).receive(Money.of("10.00")))
        .isInstanceOf(InvoiceState.Settled.class);
  }

  @Test
  void part_of_the_money_leaves_the_rest_open() {
    assertThat(new InvoiceState.Open(Money.of("10.00")).receive(Money.of("9.99")))
        .isEqualTo(new InvoiceState.Open(Money.of("0.01")));
  }

  @Test
  void more_than_is_owed_is_refused_by_name() {
    assertThatThrownBy(() -> new InvoiceState.Open(Money.of("10.00")).receive(Money.of("10.01")))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(Rule.MORE_THAN_OWED));
  }

  private static JobState after(VisitState... visits) {
    return new JobState.Open().after(List.of(visits));
  }
}
