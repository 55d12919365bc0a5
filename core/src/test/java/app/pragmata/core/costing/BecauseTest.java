package app.pragmata.core.costing;

import static app.pragmata.core.costing.WorkedExample.costing;
import static app.pragmata.core.costing.WorkedExample.entry;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.costing.Because.Kind;
import app.pragmata.core.costing.Because.Reason;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

class BecauseTest {
  @Test
  void labour_over_its_quote_names_the_hours_and_the_rate() {
    assertThat(because(Category.LABOUR, job().visits().getFirst().times()))
        .containsExactly(
            reason(Kind.HOURS, 50, "20.09", "0", ""), reason(Kind.RATE, 0, "9.04", "0", ""));
  }

  @Test
  void driving_over_its_quote_names_the_minutes_and_the_miles() {
    assertThat(because(Category.DRIVE, job().visits().getFirst().times()))
        .containsExactly(
            reason(Kind.DRIVE_MINUTES, 10, "0", "0", ""), reason(Kind.MILES, 0, "0", "3.4", ""));
  }

  @Test
  void labour_under_its_quote_has_a_minus() {
    assertThat(
            because(
                Category.LABOUR,
                List.of(entry(1, TimeEntry.Kind.LABOUR, RateClass.NORMAL, 120, "0"))))
        .containsExactly(reason(Kind.HOURS, -30, "-12.05", "0", ""));
  }

  @Test
  void a_drive_as_quoted_needs_no_reason() {
    assertThat(
            because(
                Category.DRIVE,
                List.of(entry(1, TimeEntry.Kind.DRIVE, RateClass.NORMAL, 30, "15.0"))))
        .isEmpty();
  }

  @Test
  void the_same_hours_at_a_dearer_rate_name_the_rate_alone() {
    assertThat(
            because(
                Category.LABOUR,
                List.of(entry(1, TimeEntry.Kind.LABOUR, RateClass.OVERTIME, 150, "0"))))
        .containsExactly(reason(Kind.RATE, 0, "30.14", "0", ""));
  }

  private static List<Reason> because(Category category, List<TimeEntry> times) {
    return because(category, times, List.of());
  }

  private static List<Reason> because(
      Category category, List<TimeEntry> times, List<PartUse> parts) {
    var visit = new VisitFacts(1, WorkedExample.DAY, Charging.WHOLE, times, parts, List.of());
    var facts = new JobFacts(job().promise(), List.of(visit), List.of());
    CostSheet sheet = costing().cost(facts);
    return Because.of(facts, sheet, costing().variances(facts, sheet), category);
  }

  @Test
  void parts_name_what_was_fitted_beyond_the_promise() {
    assertThat(because(Category.PARTS, List.of(), job().visits().getFirst().parts()))
        .containsExactly(reason(Kind.PART, 0, "0", "1", "Photocell pair"));
  }

  @Test
  void parts_name_what_was_promised_and_not_fitted() {
    assertThat(because(Category.PARTS, List.of(), List.of()))
        .containsExactly(
            reason(Kind.PART, 0, "0", "-1", "Gate ram"),
            reason(Kind.PART, 0, "0", "-1", "Photocell pair"));
  }

  @Test
  void parts_beyond_the_first_two_are_counted() {
    List<PartUse> others =
        java.util.stream.LongStream.rangeClosed(10, 12)
            .mapToObj(
                id ->
                    new PartUse(
                        id,
                        id,
                        "Part " + id,
                        new BigDecimal("1.5"),
                        Money.ZERO,
                        UnitPrice.ZERO,
                        WorkedExample.STANDARD,
                        false))
            .toList();
    assertThat(because(Category.PARTS, List.of(), others))
        .containsExactly(
            reason(Kind.PART, 0, "0", "1.5", "Part 10"),
            reason(Kind.PART, 0, "0", "1.5", "Part 11"),
            reason(Kind.FURTHER_PARTS, 0, "0", "3", ""));
  }

  private static Reason reason(
      Kind kind, int minutes, String amount, String quantity, String part) {
    return new Reason(
        kind, minutes, Money.of(amount), new BigDecimal(quantity).stripTrailingZeros(), part);
  }
}
