package app.pragmata.core.costing;

import static app.pragmata.core.costing.WorkedExample.costing;
import static app.pragmata.core.costing.WorkedExample.entry;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.company.CostTerms;
import app.pragmata.core.company.InForce;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Rates;
import app.pragmata.core.company.Terms;
import app.pragmata.core.costing.CostSheet.Rung;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class CostingTest {
  @Test
  void a_time_entry_names_the_rates_that_its_cost_follows_from() {
    TimeEntry overtime = WorkedExample.job().visits().getFirst().times().getLast();
    Costing.RatesOfDay rates = WorkedExample.costing().rates(overtime);
    assertThat(rates.wagePerHour()).isEqualByComparingTo("19.60");
    assertThat(rates.onCostShare()).isEqualByComparingTo("0.23");
    assertThat(rates.classFactor()).isEqualByComparingTo("1.5");
    // 24.108 x 1.5; of it 45 minutes are 27.12.
    assertThat(rates.costPerHour()).isEqualByComparingTo("36.162");
    assertThat(Money.forMinutes(overtime.minutes(), rates.costPerHour()))
        .isEqualTo(WorkedExample.costing().cost(overtime).total());
  }

  private final CostSheet sheet = costing().cost(job());

  @Test
  void each_entry_of_the_worked_example_costs_what_the_example_says() {
    assertThat(job().visits().getFirst().times())
        .map(entry -> costing().cost(entry).total().toString())
        .containsExactly("23.06", "62.28", "27.12");
  }

  @Test
  void the_ladder_of_the_worked_example_holds_quoted_against_actual() {
    assertThat(sheet.rung(Category.LABOUR))
        .isEqualTo(new Rung(Money.of("60.27"), Money.of("89.40")));
    assertThat(sheet.rung(Category.DRIVE))
        .isEqualTo(new Rung(Money.of("17.75"), Money.of("23.06")));
    assertThat(sheet.rung(Category.PARTS))
        .isEqualTo(new Rung(Money.of("226.65"), Money.of("240.90")));
    assertThat(sheet.rung(Category.OTHER)).isEqualTo(new Rung(Money.ZERO, Money.ZERO));
  }

  @Test
  void the_worked_example_costs_353_36_in_all() {
    assertThat(sheet.actualCost()).isEqualTo(Money.of("353.36"));
  }

  @Test
  void the_worked_examples_margin_is_97_63_or_21_65_per_cent() {
    assertThat(sheet.marginOn(Money.of("450.99")).amount()).isEqualTo(Money.of("97.63"));
    assertThat(sheet.marginOn(Money.of("450.99")).percent()).isEqualTo("21.65");
  }

  @Test
  void overhead_follows_labour_hours_and_stays_outside_the_margin() {
    assertThat(sheet.overhead()).isEqualTo(Money.of("20.00"));
  }

  @Test
  void a_margin_on_nothing_charged_has_no_share() {
    assertThat(sheet.marginOn(Money.ZERO).percent()).isNull();
  }

  @Test
  void an_approved_entry_keeps_its_cost_when_wages_change_later() {
    var approved = new TimeEntry.Cost(Money.of("10.00"), Money.ZERO);
    var entry =
        new TimeEntry(
            9, 1, Kind.LABOUR, RateClass.NORMAL, WorkedExample.DAY, 60, BigDecimal.ZERO, approved);
    assertThat(costing().cost(entry)).isEqualTo(approved);
  }

  @Test
  void quoted_work_that_was_never_done_is_all_under() {
    CostSheet undone = costing().cost(new JobFacts(job().promise(), List.of(), List.of()));
    assertThat(undone.rung(Category.LABOUR).variance()).isEqualTo(Money.of("-60.27"));
  }

  @Test
  void a_suppliers_bill_is_other_cost_without_its_vat() {
    var hire =
        new JobFacts.OtherCost(
            1, WorkedExample.DAY, "Lift hire", Money.of("80.00"), WorkedExample.STANDARD);
    CostSheet withHire = costing().cost(new JobFacts(List.of(), List.of(), List.of(hire)));
    assertThat(withHire.rung(Category.OTHER).actual()).isEqualTo(Money.of("80.00"));
  }

  @Test
  void two_technicians_cost_what_each_of_them_earns() {
    var dearer =
        new TimeEntry(
            2, 2, Kind.LABOUR, RateClass.NORMAL, WorkedExample.DAY, 60, BigDecimal.ZERO, null);
    var rates =
        new Rates(
            Map.of(1L, wage("19.60", "0.23"), 2L, wage("24.00", "0.25")),
            WorkedExample.rates().termsByClass(),
            WorkedExample.rates().vehicle());
    var visit =
        new VisitFacts(
            1,
            WorkedExample.DAY,
            Charging.WHOLE,
            List.of(entry(1, Kind.LABOUR, RateClass.NORMAL, 60, "0"), dearer),
            List.of(),
            List.of());
    CostSheet crew =
        new Costing(of(rates, WorkedExample.terms().cost()))
            .cost(new JobFacts(List.of(), List.of(visit), List.of()));
    assertThat(crew.rung(Category.LABOUR).actual()).isEqualTo(Money.of("54.11"));
  }

  @Test
  void a_share_of_a_drive_home_costs_what_was_approved_beside_the_drive_out() {
    var share =
        new TimeEntry(
            2,
            1,
            Kind.DRIVE,
            RateClass.NORMAL,
            WorkedExample.DAY,
            12,
            new BigDecimal("6.1"),
            new TimeEntry.Cost(Money.of("4.82"), Money.of("2.32")));
    var visit =
        new VisitFacts(
            1,
            WorkedExample.DAY,
            Charging.WHOLE,
            List.of(entry(1, Kind.DRIVE, RateClass.NORMAL, 40, "18.4")),
            List.of(),
            List.of(share));
    CostSheet sheet =
        WorkedExample.costing().cost(new JobFacts(List.of(), List.of(visit), List.of()));
    assertThat(sheet.rung(Category.DRIVE).actual()).isEqualTo(Money.of("30.20"));
    assertThat(sheet.actual().driveMinutes()).isEqualTo(52);
    assertThat(sheet.actual().miles()).isEqualByComparingTo("24.5");
  }

  @Test
  void each_hour_absorbs_the_overhead_of_its_own_day() {
    var rising =
        new InForce<>(
            "cost terms",
            List.of(
                new CostTerms(LocalDate.EPOCH, BigDecimal.ONE, new BigDecimal("6.00")),
                new CostTerms(WorkedExample.DAY, BigDecimal.ONE, new BigDecimal("9.00"))));
    TimeEntry dayBefore =
        new TimeEntry(
            2,
            1,
            Kind.LABOUR,
            RateClass.NORMAL,
            WorkedExample.DAY.minusDays(1),
            60,
            BigDecimal.ZERO,
            null);
    var visit =
        new VisitFacts(
            1,
            WorkedExample.DAY,
            Charging.WHOLE,
            List.of(dayBefore, entry(1, Kind.LABOUR, RateClass.NORMAL, 60, "0")),
            List.of(),
            List.of());
    CostSheet sheet =
        new Costing(of(WorkedExample.rates(), rising))
            .cost(new JobFacts(List.of(), List.of(visit), List.of()));
    assertThat(sheet.overhead()).isEqualTo(Money.of("15.00"));
  }

  private static Terms of(Rates rates, InForce<CostTerms> cost) {
    Terms like = WorkedExample.terms();
    return new Terms(rates, like.charge(), cost, like.markup(), like.vat());
  }

  private static InForce<Rates.Wage> wage(String perHour, String onCosts) {
    return new InForce<>(
        "wage",
        List.of(
            new Rates.Wage(WorkedExample.DAY, new BigDecimal(perHour), new BigDecimal(onCosts))));
  }
}
