package app.pragmata.core.billing;

import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.cover;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.entry;

import app.pragmata.core.Category;
import app.pragmata.core.costing.AnyJob;
import app.pragmata.core.jobs.BillingBasis.PromisedOnSite;
import app.pragmata.core.jobs.BillingBasis.TimeAndParts;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.money.Money;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.domains.Domain;
import net.jqwik.api.domains.DomainContext;
import org.junit.jupiter.api.Test;

/** The worked example comes to 450.99 without VAT and 541.19 with 20 %. */
@Domain(AnyJob.class)
@Domain(DomainContext.Global.class)
class OnSitePriceTest {
  private static Bill told(String amount, boolean withVat) {
    return told(job(), Money.of(amount), withVat);
  }

  private static Bill told(JobFacts job, Money amount, boolean withVat) {
    return billing().bill(job, new PromisedOnSite(amount, withVat), cover());
  }

  @Test
  void less_comes_off_the_lines_by_their_nets() {
    Bill bill = told("400", false);
    assertThat(bill.net()).isEqualTo(Money.of("400.00"));
    assertThat(bill.lines())
        .extracting(ChargeLine::cut)
        .map(Money::toString)
        .containsExactly("18.03", "7.38", "5.09", "14.41", "6.08");
  }

  @Test
  void more_is_a_line_of_its_own_that_says_so() {
    ChargeLine more = told("500", false).lines().getLast();
    assertThat(more.net()).isEqualTo(Money.of("49.01"));
    assertThat(more.description()).isEqualTo("To the agreed price");
    assertThat(more.category()).isEqualTo(Category.OTHER);
  }

  @Test
  void with_vat_the_customer_pays_to_the_penny_what_was_said() {
    Bill bill = told("600", true);
    assertThat(bill.net()).isEqualTo(Money.of("500.00"));
    assertThat(bill.vat().gross()).isEqualTo(Money.of("600.00"));
  }

  @Test
  void a_total_that_no_net_gives_is_the_next_lower_one() {
    assertThat(told("250.05", true).vat().gross()).isEqualTo(Money.of("250.04"));
  }

  @Test
  void it_says_what_is_charged_less_of_each_category() {
    Bill worked = billing().bill(job(), new TimeAndParts(), cover());
    assertThat(told("400", false).above(worked))
        .containsOnly(
            entry(Category.LABOUR, Money.of("-25.41")),
            entry(Category.DRIVE, Money.of("-5.09")),
            entry(Category.PARTS, Money.of("-20.49")));
  }

  @Test
  void a_job_on_which_nothing_was_noted_is_charged_in_one_line() {
    var nothing = new JobFacts(List.of(), List.of(), List.of());
    assertThat(told(nothing, Money.of("120"), true).lines())
        .singleElement()
        .extracting(ChargeLine::net)
        .isEqualTo(Money.of("100.00"));
  }

  @Property
  void whatever_was_done_it_comes_to_what_was_said(
      @ForAll JobFacts any, @ForAll @LongRange(min = 1, max = 1_000_000) long told) {
    Bill bill = told(any, Money.ofMinor(told), false);
    assertThat(bill.net()).isEqualTo(Money.ofMinor(told));
    assertThat(bill.lines()).noneMatch(line -> line.net().isNegative());
  }

  @Property
  void with_vat_it_is_never_above_what_was_said_and_at_most_a_penny_a_group_below(
      @ForAll JobFacts any, @ForAll @LongRange(min = 1, max = 1_000_000) long told) {
    Bill bill = told(any, Money.ofMinor(told), true);
    assertThat(Money.ofMinor(told).minus(bill.vat().gross()).minor())
        .isBetween(0L, (long) bill.vat().groups().size() + 1);
  }
}
