package app.pragmata.core.costing;

import static app.pragmata.core.costing.WorkedExample.costing;
import static app.pragmata.core.costing.WorkedExample.entry;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.costing.JobFacts.VisitFacts;
import app.pragmata.core.field.TimeEntry;
import app.pragmata.core.field.TimeEntry.Kind;
import app.pragmata.core.people.RateClass;
import java.util.List;
import org.junit.jupiter.api.Test;

class BecauseTest {
  @Test
  void labour_over_its_quote_names_the_hours_and_the_rate() {
    assertThat(because(Category.LABOUR, job().visits().getFirst().times()))
        .isEqualTo("hours +0:50, +20.09 · rate +9.04");
  }

  @Test
  void driving_over_its_quote_names_the_minutes_and_the_miles() {
    assertThat(because(Category.DRIVE, job().visits().getFirst().times()))
        .isEqualTo("+0:10, +3.4 mi");
  }

  @Test
  void labour_under_its_quote_has_a_minus() {
    assertThat(because(Category.LABOUR, List.of(entry(1, Kind.LABOUR, RateClass.NORMAL, 120, "0"))))
        .isEqualTo("hours −0:30, −12.05");
  }

  @Test
  void a_drive_as_quoted_needs_no_reason() {
    assertThat(because(Category.DRIVE, List.of(entry(1, Kind.DRIVE, RateClass.NORMAL, 30, "15.0"))))
        .isEmpty();
  }

  @Test
  void the_same_hours_at_a_dearer_rate_name_the_rate_alone() {
    assertThat(
            because(Category.LABOUR, List.of(entry(1, Kind.LABOUR, RateClass.OVERTIME, 150, "0"))))
        .isEqualTo("rate +30.14");
  }

  private static String because(Category category, List<TimeEntry> times) {
    var visit = new VisitFacts(1, WorkedExample.DAY, true, times, List.of());
    return Because.of(
        costing().cost(new JobFacts(job().promise(), List.of(visit), List.of())), category);
  }
}
