package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.time.LocalDate;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

class VisitPlanTest {
  private static final LocalDate TODAY = LocalDate.of(2026, 11, 26);

  @Test
  void others_may_come_along() {
    assertThat(faults(reading -> VisitPlan.checkCompanions(1, List.of(2L, 3L), reading))).isEmpty();
  }

  @Test
  void whoever_is_responsible_does_not_come_along_too() {
    assertThat(faults(reading -> VisitPlan.checkCompanions(1, List.of(2L, 1L), reading)))
        .containsExactly(Rule.REPEATED);
  }

  @Test
  void nobody_comes_along_twice() {
    assertThat(faults(reading -> VisitPlan.checkCompanions(1, List.of(2L, 2L), reading)))
        .containsExactly(Rule.REPEATED);
  }

  @Test
  void at_most_nine_come_along() {
    List<Long> ten = LongStream.rangeClosed(2, 11).boxed().toList();
    assertThat(faults(reading -> VisitPlan.checkCompanions(1, ten.subList(0, 9), reading)))
        .isEmpty();
    assertThat(faults(reading -> VisitPlan.checkCompanions(1, ten, reading)))
        .containsExactly(Rule.EXCEEDS_LIMIT);
  }

  @Test
  void work_of_a_day_that_has_passed_may_be_written_down_but_not_of_years_ago() {
    assertThat(faults(reading -> VisitPlan.check(TODAY.minusDays(3), 60, TODAY, reading)))
        .isEmpty();
    assertThat(faults(reading -> VisitPlan.check(TODAY.minusYears(2), 60, TODAY, reading)))
        .containsExactly(Rule.TOO_LARGE);
  }

  private static List<Rule> faults(Consumer<Reading> check) {
    var reading = new Reading();
    check.accept(reading);
    try {
      reading.refuseIfFaulty();
      return List.of();
    } catch (Refused refused) {
      return refused.faults().stream().map(Fault::rule).toList();
    }
  }
}
