package app.pragmata.core.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.jobs.Closing.Billed;
import app.pragmata.core.jobs.Closing.Kind;
import app.pragmata.core.money.Money;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class ClosingTest {
  private static final Closing INVOICE = new Closing(Kind.INVOICE, 4012L, Instant.EPOCH);
  private static final Closing NOT_CHARGED = new Closing(Kind.NOT_CHARGED, null, Instant.EPOCH);

  @Test
  void a_job_is_billed_while_its_invoice_owes_anything() {
    assertThat(Closing.billed(Optional.of(INVOICE), Money.ofMinor(1))).isEqualTo(Billed.BILLED);
  }

  @Test
  void a_billed_job_is_settled_by_its_money() {
    assertThat(Closing.billed(Optional.of(INVOICE), Money.ZERO)).isEqualTo(Billed.SETTLED);
  }

  @Test
  void a_job_that_is_not_charged_is_settled_at_once() {
    assertThat(Closing.billed(Optional.of(NOT_CHARGED), Money.ZERO)).isEqualTo(Billed.SETTLED);
  }

  @Test
  void a_job_without_a_closing_document_is_not_billed_though_nothing_is_owed() {
    assertThat(Closing.billed(Optional.empty(), Money.ZERO)).isEqualTo(Billed.UNBILLED);
  }

  @Test
  void an_invoice_that_closes_a_job_has_a_number() {
    assertThatThrownBy(() -> new Closing(Kind.INVOICE, null, Instant.EPOCH))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
