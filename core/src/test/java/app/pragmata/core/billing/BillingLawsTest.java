package app.pragmata.core.billing;

import static app.pragmata.core.costing.WorkedExample.chargeTerms;
import static app.pragmata.core.costing.WorkedExample.cover;
import static app.pragmata.core.costing.WorkedExample.rates;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.company.ChargeTerms;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.Wording;
import app.pragmata.core.costing.AnyJob;
import app.pragmata.core.costing.WorkedExample;
import app.pragmata.core.jobs.BillingBasis.FixedPrice;
import app.pragmata.core.jobs.BillingBasis.NotCharged;
import app.pragmata.core.jobs.BillingBasis.TimeAndParts;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.List;
import java.util.Locale;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.domains.Domain;

/** What holds for the invoice of every job, whatever was worked on it. */
@Domain(AnyJob.class)
@Domain(net.jqwik.api.domains.DomainContext.Global.class)
class BillingLawsTest {
  private final Billing billing = WorkedExample.billing();

  @Property
  void the_total_is_the_sum_of_its_rounded_lines(
      @ForAll JobFacts job, @ForAll Cover cover, @ForAll ChargeTerms terms) {
    Bill draft = worked(job, cover, terms);
    assertThat(draft.vat().net())
        .isEqualTo(draft.lines().stream().map(ChargeLine::net).collect(Money.sum()));
  }

  @Property
  void the_categories_add_up_to_the_net(
      @ForAll JobFacts job, @ForAll Cover cover, @ForAll ChargeTerms terms) {
    Bill draft = worked(job, cover, terms);
    assertThat(draft.netByCategory().values().stream().collect(Money.sum()))
        .isEqualTo(draft.vat().net());
  }

  @Property
  void a_warranty_bears_between_nothing_and_all_of_a_line(
      @ForAll JobFacts job, @ForAll Cover cover, @ForAll ChargeTerms terms) {
    assertThat(worked(job, cover, terms).lines())
        .allSatisfy(
            line -> {
              assertThat(line.reductions().warranty().minor()).isBetween(0L, line.full().minor());
              assertThat(line.net().plus(line.reductions().warranty())).isEqualTo(line.full());
            });
  }

  @Property
  void a_warranty_never_makes_an_invoice_dearer(
      @ForAll JobFacts job, @ForAll Cover cover, @ForAll ChargeTerms terms) {
    Money without = worked(job, Cover.NONE, terms).vat().net();
    assertThat(worked(job, cover, terms).vat().net()).isLessThanOrEqualTo(without);
  }

  @Property
  void charged_labour_is_at_least_what_was_worked_on_visits_that_happened(@ForAll JobFacts job) {
    BigDecimal workedSixtieths =
        job.visits().stream()
            .filter(visit -> visit.charging() == Charging.WHOLE)
            .flatMap(visit -> visit.times().stream())
            .filter(entry -> entry.kind() == Kind.LABOUR)
            .map(BillingLawsTest::chargeInSixtieths)
            .reduce(BigDecimal.ZERO, BigDecimal::add);
    Money charged =
        billing
            .bill(job, new TimeAndParts(), Cover.NONE)
            .netByCategory()
            .getOrDefault(Category.LABOUR, Money.ZERO);
    assertThat(charged.major().multiply(BigDecimal.valueOf(60)))
        .isGreaterThanOrEqualTo(workedSixtieths);
  }

  private static BigDecimal chargeInSixtieths(TimeEntry entry) {
    return rates()
        .chargePerHour(entry.rateClass(), entry.day())
        .major()
        .multiply(BigDecimal.valueOf(entry.minutes()));
  }

  @Property
  void a_visit_that_did_not_happen_changes_nothing_on_the_invoice(
      @ForAll JobFacts job, @ForAll Cover cover, @ForAll ChargeTerms terms) {
    var happened =
        new JobFacts(
            job.promise(),
            job.visits().stream().filter(visit -> visit.charging() != Charging.NOTHING).toList(),
            job.otherCosts());
    assertThat(worked(job, cover, terms)).isEqualTo(worked(happened, cover, terms));
  }

  @Property
  void the_fixed_price_does_not_depend_on_the_work(@ForAll JobFacts job) {
    Money promised = job.promise().stream().map(QuoteLine::net).collect(Money.sum());
    assertThat(billing.bill(job, new FixedPrice(), cover()).vat().net()).isEqualTo(promised);
  }

  @Property
  void a_drive_home_is_never_charged(
      @ForAll JobFacts job, @ForAll Cover cover, @ForAll ChargeTerms terms) {
    var withoutDrivesHome =
        new JobFacts(
            job.promise(),
            job.visits().stream()
                .map(
                    visit ->
                        new JobFacts.VisitFacts(
                            visit.id(),
                            visit.day(),
                            visit.charging(),
                            visit.outOfWarranty(),
                            visit.times(),
                            visit.parts(),
                            List.of()))
                .toList(),
            job.otherCosts());
    assertThat(worked(job, cover, terms)).isEqualTo(worked(withoutDrivesHome, cover, terms));
  }

  @Property
  void a_job_that_is_not_charged_has_no_lines_whatever_was_done(@ForAll JobFacts job) {
    assertThat(billing.bill(job, new NotCharged("Goodwill"), cover()).lines()).isEmpty();
  }

  @Property
  void another_minute_never_makes_the_charge_smaller(
      @ForAll @IntRange(min = 0, max = 900) int minutes) {
    assertThat(labour(minutes + 1)).isGreaterThanOrEqualTo(labour(minutes));
  }

  @Property
  void another_minute_adds_at_most_one_step_above_the_minimum(
      @ForAll @IntRange(min = 60, max = 900) int minutes) {
    assertThat(labour(minutes + 1).minus(labour(minutes)))
        .isLessThanOrEqualTo(Money.forMinutes(15, new BigDecimal("58.00")));
  }

  private Money labour(int minutes) {
    var visit =
        new JobFacts.VisitFacts(
            1,
            WorkedExample.DAY,
            Charging.WHOLE,
            List.of(
                WorkedExample.entry(
                    1, Kind.LABOUR, app.pragmata.core.company.RateClass.NORMAL, minutes, "0")),
            List.of(),
            List.of());
    return new Billing(
            WorkedExample.terms(chargeTerms(new DriveCharge.None(), "0")),
            Wording.of(Locale.UK),
            WorkedExample.DAY)
        .bill(new JobFacts(List.of(), List.of(visit), List.of()), new TimeAndParts(), Cover.NONE)
        .vat()
        .net();
  }

  private static Billing by(ChargeTerms terms) {
    return new Billing(WorkedExample.terms(terms), Wording.of(Locale.UK), WorkedExample.DAY);
  }

  private static Bill worked(JobFacts job, Cover cover, ChargeTerms terms) {
    return by(terms).bill(job, new TimeAndParts(), cover);
  }

  @Property
  void a_stranger_computes_every_line_from_its_fields(
      @ForAll JobFacts job, @ForAll Cover cover, @ForAll ChargeTerms terms) {
    for (ChargeLine line : worked(job, cover, terms).lines()) {
      Priced priced = line.priced();
      BigDecimal exact =
          priced
              .price()
              .major()
              .multiply(priced.quantity())
              .divide(BigDecimal.valueOf(priced.unit().priceBase()), 2, RoundingMode.HALF_UP);
      assertThat(line.full().major()).isEqualByComparingTo(exact);
      assertThat(line.net())
          .isEqualTo(
              line.full().minus(line.reductions().discount()).minus(line.reductions().warranty()));
      assertThat(line.reductions().warranty())
          .isEqualTo(
              line.reductions()
                  .warrantyShare()
                  .of(line.full().minus(line.reductions().discount())));
    }
  }
}
