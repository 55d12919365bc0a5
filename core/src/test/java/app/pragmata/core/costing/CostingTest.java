package app.pragmata.core.costing;

import static app.pragmata.core.costing.WorkedExample.costing;
import static app.pragmata.core.costing.WorkedExample.entry;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.costing.CostSheet.Rung;
import app.pragmata.core.costing.JobFacts.VisitFacts;
import app.pragmata.core.field.TimeEntry;
import app.pragmata.core.field.TimeEntry.Kind;
import app.pragmata.core.money.Money;
import app.pragmata.core.people.RateClass;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class CostingTest {
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
  void labour_variance_splits_into_fifty_minutes_more_and_the_overtime_rate() {
    assertThat(sheet.labourVariance().hours()).isEqualTo(Money.of("20.09"));
    assertThat(sheet.labourVariance().rate()).isEqualTo(Money.of("9.04"));
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

  @Property
  void hours_and_rate_variance_add_up_to_the_labour_variance(
      @ForAll @IntRange(min = 0, max = 2000) int normal,
      @ForAll @IntRange(min = 0, max = 600) int overtime) {
    CostSheet any = costing().cost(withLabour(normal, overtime));
    assertThat(any.labourVariance().hours().plus(any.labourVariance().rate()))
        .isEqualTo(any.rung(Category.LABOUR).variance());
  }

  @Property
  void a_ladder_never_loses_or_makes_a_penny_against_its_entries(
      @ForAll @IntRange(min = 0, max = 2000) int normal,
      @ForAll @IntRange(min = 0, max = 600) int overtime) {
    JobFacts job = withLabour(normal, overtime);
    Money entries = job.times(Kind.LABOUR).map(e -> costing().cost(e).total()).collect(Money.sum());
    assertThat(costing().cost(job).actualCost()).isEqualTo(entries);
  }

  private static JobFacts withLabour(int normal, int overtime) {
    var visit =
        new VisitFacts(
            1,
            WorkedExample.DAY,
            true,
            List.of(
                entry(1, Kind.LABOUR, RateClass.NORMAL, normal, "0"),
                entry(2, Kind.LABOUR, RateClass.OVERTIME, overtime, "0")),
            List.of());
    return new JobFacts(job().promise(), List.of(visit), List.of());
  }
}
