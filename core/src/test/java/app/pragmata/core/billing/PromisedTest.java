package app.pragmata.core.billing;

import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.cover;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.costing.AnyJob;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.money.Money;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.domains.Domain;
import net.jqwik.api.domains.DomainContext;
import org.junit.jupiter.api.Test;

@Domain(AnyJob.class)
@Domain(DomainContext.Global.class)
class PromisedTest {
  private static Bill worked() {
    return billing().bill(job(), new BillingBasis.TimeAndParts(), cover());
  }

  private static Promised notMoreThan(String net) {
    return new Promised(PromiseKind.NOT_MORE_THAN, Money.of(net));
  }

  @Test
  void not_more_than_cuts_the_lines_by_their_nets_after_warranty() {
    Bill bill = notMoreThan("400.00").limit(worked(), Money.ZERO);
    assertThat(bill.net()).isEqualTo(Money.of("400.00"));
    assertThat(bill.lines())
        .extracting(ChargeLine::cut)
        .map(Money::toString)
        .containsExactly("18.03", "7.38", "5.09", "14.41", "6.08");
  }

  @Test
  void what_was_billed_before_counts_towards_not_more_than() {
    assertThat(notMoreThan("400.00").limit(worked(), Money.of("150.00")).net())
        .isEqualTo(Money.of("250.00"));
    assertThat(notMoreThan("400.00").limit(worked(), Money.of("500.00")).net())
        .isEqualTo(Money.ZERO);
  }

  @Test
  void less_than_was_promised_is_charged_as_it_is() {
    assertThat(notMoreThan("450.99").limit(worked(), Money.ZERO)).isEqualTo(worked());
  }

  @Test
  void an_estimate_cuts_nothing_and_tells_what_is_above_it() {
    var estimate = new Promised(PromiseKind.ESTIMATE, Money.of("400.00"));
    assertThat(estimate.limit(worked(), Money.ZERO)).isEqualTo(worked());
    assertThat(estimate.above(worked().net())).isEqualTo(Money.of("50.99"));
    assertThat(estimate.above(Money.of("399.99"))).isEqualTo(Money.ZERO);
  }

  @Property
  void not_more_than_is_never_exceeded_and_no_line_falls_below_nothing(
      @ForAll JobFacts any, @ForAll @LongRange(min = 0, max = 100_000) long most) {
    Bill whole = billing().bill(any, new BillingBasis.TimeAndParts(), cover());
    Bill bill =
        new Promised(PromiseKind.NOT_MORE_THAN, Money.ofMinor(most)).limit(whole, Money.ZERO);
    assertThat(bill.net())
        .isEqualTo(
            whole.net().compareTo(Money.ofMinor(most)) > 0 ? Money.ofMinor(most) : whole.net());
    assertThat(bill.lines()).noneMatch(line -> line.net().isNegative());
  }
}
