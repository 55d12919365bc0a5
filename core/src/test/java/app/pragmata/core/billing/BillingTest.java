package app.pragmata.core.billing;

import static app.pragmata.core.costing.WorkedExample.DAY;
import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static app.pragmata.core.costing.WorkedExample.chargeTerms;
import static app.pragmata.core.costing.WorkedExample.cover;
import static app.pragmata.core.costing.WorkedExample.entry;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import app.pragmata.core.Category;
import app.pragmata.core.company.ChargeTerms;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Wording;
import app.pragmata.core.costing.WorkedExample;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.BillingBasis.FixedPrice;
import app.pragmata.core.jobs.BillingBasis.NotCharged;
import app.pragmata.core.jobs.BillingBasis.TimeAndParts;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.OtherCost;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.JobVat;
import app.pragmata.core.jobs.PassedOn;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;

class BillingTest {
  private final Bill worked = draft(job(), new TimeAndParts(), chargeTerms());

  @Test
  void the_worked_example_charges_each_line_as_the_example_says() {
    assertThat(worked.lines())
        .map(line -> line.description() + ": " + line.net())
        .containsExactly(
            "Labour 2:45 at 58.00: 159.50",
            "Labour, overtime 0:45 at 87.00: 65.25",
            "Call-out: 45.00",
            "Gate ram: 127.44",
            "Photocell pair: 53.80");
  }

  @Test
  void the_warranty_reduction_stands_as_its_own_amount_on_the_line() {
    ChargeLine ram = worked.lines().get(3);
    assertThat(ram.full()).isEqualTo(Money.of("318.60"));
    assertThat(ram.reductions().warranty()).isEqualTo(Money.of("191.16"));
  }

  @Test
  void the_worked_example_comes_to_450_99_net_and_541_19_gross() {
    assertThat(worked.vat().net()).isEqualTo(Money.of("450.99"));
    assertThat(worked.vat().vat()).isEqualTo(Money.of("90.20"));
    assertThat(worked.vat().gross()).isEqualTo(Money.of("541.19"));
  }

  @Test
  void fixed_price_charges_the_quote_whatever_the_work_took() {
    assertThat(draft(job(), new FixedPrice(), chargeTerms()).vat().net())
        .isEqualTo(Money.of("612.00"));
  }

  @Test
  void what_was_taken_off_a_quoted_line_is_an_amount_of_its_own_on_the_invoice() {
    var reduced =
        job()
            .promise()
            .getFirst()
            .reducedBy(
                Reductions.of(job().promise().getFirst().full(), Money.of("14.50"), Share.NOTHING));
    ChargeLine line =
        draft(
                new JobFacts(List.of(reduced), job().visits(), List.of()),
                new FixedPrice(),
                chargeTerms())
            .lines()
            .getFirst();
    assertThat(line.net()).isEqualTo(reduced.full().minus(Money.of("14.50")));
    assertThat(line.reductions().discount()).isEqualTo(Money.of("14.50"));
    assertThat(line.description()).isEqualTo(reduced.description());
  }

  @Test
  void a_drive_quoted_by_the_mile_reads_its_miles_and_their_price_on_the_invoice() {
    var drive =
        new QuoteLine.Drive(
            "Drive there",
            40,
            new BigDecimal("18.4"),
            new BigDecimal("24.108"),
            new BigDecimal("0.38"),
            new DriveCharge.PerMile(UnitPrice.of("0.65")),
            STANDARD);
    ChargeLine line =
        draft(
                new JobFacts(List.of(drive), job().visits(), List.of()),
                new FixedPrice(),
                chargeTerms())
            .lines()
            .getFirst();
    assertThat(line.priced())
        .isEqualTo(new Priced(new BigDecimal("18.4"), Unit.MILE, UnitPrice.of("0.65")));
    assertThat(line.net()).isEqualTo(Money.of("11.96"));
  }

  @Test
  void a_job_that_is_not_charged_reads_nil() {
    assertThat(draft(job(), new NotCharged("Goodwill"), chargeTerms()).vat().gross())
        .isEqualTo(Money.ZERO);
  }

  @Test
  void a_short_visit_is_charged_the_minimum() {
    assertThat(
            draft(
                    visit(entry(1, Kind.LABOUR, RateClass.NORMAL, 5, "0")),
                    new TimeAndParts(),
                    chargeTerms())
                .lines())
        .first()
        .extracting(ChargeLine::description)
        .isEqualTo("Labour 1:00 at 58.00");
  }

  @Test
  void a_whole_step_is_not_rounded_further() {
    assertThat(
            draft(
                    visit(entry(1, Kind.LABOUR, RateClass.NORMAL, 75, "0")),
                    new TimeAndParts(),
                    chargeTerms())
                .lines())
        .first()
        .extracting(ChargeLine::description)
        .isEqualTo("Labour 1:15 at 58.00");
  }

  @Test
  void two_clocks_of_one_visit_are_rounded_together_not_each() {
    JobFacts twoClocks =
        visit(
            entry(1, Kind.LABOUR, RateClass.NORMAL, 50, "0"),
            entry(2, Kind.LABOUR, RateClass.NORMAL, 40, "0"));
    assertThat(draft(twoClocks, new TimeAndParts(), chargeTerms()).lines().getFirst().net())
        .isEqualTo(Money.of("87.00"));
  }

  @Test
  void driving_by_the_hour_charges_the_minutes() {
    assertThat(driveCharge(new DriveCharge.PerHour(UnitPrice.of("30.00"))))
        .isEqualTo(Money.of("20.00"));
  }

  @Test
  void driving_by_the_mile_charges_the_distance() {
    assertThat(driveCharge(new DriveCharge.PerMile(UnitPrice.of("0.65"))))
        .isEqualTo(Money.of("11.96"));
  }

  @Test
  void driving_without_charge_leaves_no_line() {
    assertThat(driveCharge(new DriveCharge.None())).isEqualTo(Money.ZERO);
  }

  @Test
  void other_costs_are_marked_up() {
    var hire =
        new JobFacts(
            List.of(),
            List.of(),
            List.of(new OtherCost(1, WorkedExample.DAY, "Lift hire", Money.of("80.00"), STANDARD)));
    assertThat(draft(hire, new TimeAndParts(), chargeTerms()).vat().net())
        .isEqualTo(Money.of("92.00"));
  }

  @Test
  void other_costs_are_passed_on_at_cost_or_not_at_all_where_somebody_says_so() {
    var costs =
        new JobFacts(
            List.of(),
            List.of(),
            List.of(
                new OtherCost(1, DAY, "Permit", Money.of("35.00"), STANDARD, PassedOn.AT_COST),
                new OtherCost(2, DAY, "Lift hire", Money.of("80.00"), STANDARD),
                new OtherCost(3, DAY, "Glass", Money.of("60.00"), STANDARD, PassedOn.NOT_CHARGED)));
    assertThat(draft(costs, new TimeAndParts(), chargeTerms()).lines())
        .extracting(ChargeLine::description, ChargeLine::net)
        .containsExactly(tuple("Permit", Money.of("35.00")), tuple("Lift hire", Money.of("92.00")));
  }

  private static JobFacts certified(JobFacts done) {
    var certificate =
        new JobFacts.Charge(1, "Certificate", new BigDecimal("2"), UnitPrice.of("12.50"), null);
    return new JobFacts(
        List.of(), done.visits(), done.otherCosts(), List.of(certificate), JobVat.UNSAID);
  }

  @Test
  void a_charge_of_its_own_is_a_line_beside_the_work() {
    ChargeLine last = draft(certified(job()), new TimeAndParts(), chargeTerms()).lines().getLast();
    assertThat(last.description()).isEqualTo("Certificate");
    assertThat(last.net()).isEqualTo(Money.of("25.00"));
    assertThat(last.category()).isEqualTo(Category.OTHER);
  }

  @Test
  void where_nothing_was_done_no_charge_of_its_own_is_made() {
    assertThat(draft(certified(visit()), new TimeAndParts(), chargeTerms()).lines()).isEmpty();
  }

  @Test
  void a_charge_of_its_own_is_made_after_the_work_was_billed_before() {
    var billed = new VisitFacts(1, DAY, Charging.WHAT_WAS_ADDED, List.of(), List.of(), List.of());
    var left = new JobFacts(List.of(), List.of(billed), List.of());
    assertThat(draft(certified(left), new TimeAndParts(), chargeTerms()).vat().net())
        .isEqualTo(Money.of("25.00"));
  }

  @Test
  void a_visit_on_which_nothing_was_done_charges_no_call_out() {
    assertThat(draft(visit(), new TimeAndParts(), chargeTerms()).lines()).isEmpty();
  }

  @Test
  void a_visit_that_did_not_happen_charges_nothing_for_the_drive_there() {
    var inVain =
        new VisitFacts(
            1,
            DAY,
            Charging.NOTHING,
            List.of(entry(1, Kind.DRIVE, RateClass.NORMAL, 40, "18.4")),
            List.of(),
            List.of());
    assertThat(
            draft(
                    new JobFacts(List.of(), List.of(inVain), List.of()),
                    new TimeAndParts(),
                    chargeTerms())
                .lines())
        .isEmpty();
  }

  @Test
  void a_drive_home_is_never_charged_by_whatever_rule() {
    TimeEntry out = entry(1, Kind.DRIVE, RateClass.NORMAL, 40, "18.4");
    var visit =
        new VisitFacts(
            1,
            DAY,
            Charging.WHOLE,
            List.of(out),
            List.of(),
            List.of(entry(2, Kind.DRIVE, RateClass.NORMAL, 35, "12.0")));
    var terms = chargeTerms(new DriveCharge.PerHour(UnitPrice.of("48.00")), "0");
    assertThat(
            draft(new JobFacts(List.of(), List.of(visit), List.of()), new TimeAndParts(), terms)
                .vat()
                .net())
        .isEqualTo(Money.of("32.00"));
  }

  private static Money driveCharge(DriveCharge drive) {
    var terms = chargeTerms(drive, "0");
    return draft(
            visit(entry(1, Kind.DRIVE, RateClass.NORMAL, 40, "18.4")), new TimeAndParts(), terms)
        .vat()
        .net();
  }

  private static JobFacts visit(TimeEntry... times) {
    return new JobFacts(
        List.of(),
        List.of(new VisitFacts(1, DAY, Charging.WHOLE, List.of(times), List.of(), List.of())),
        List.of());
  }

  private static Bill draft(JobFacts job, BillingBasis basis, ChargeTerms terms) {
    return new Billing(WorkedExample.terms(terms), Wording.of(Locale.UK), WorkedExample.DAY)
        .bill(job, basis, cover());
  }
}
