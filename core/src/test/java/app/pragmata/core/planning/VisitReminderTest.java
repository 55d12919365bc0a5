package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.InForce;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.company.WorkingHours;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class VisitReminderTest {
  /** Thursday the 24th of December is a workday, Friday and Monday are holidays. */
  private static final WorkingCalendar CALENDAR =
      new WorkingCalendar(
          ZoneId.of("Europe/London"),
          new InForce<>(
              "working hours",
              List.of(
                  new WorkingHours(
                      LocalDate.EPOCH,
                      EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
                      LocalTime.of(8, 0),
                      LocalTime.of(17, 0),
                      LocalTime.of(20, 0),
                      LocalTime.of(6, 0),
                      RateClass.OVERTIME))),
          Set.of(LocalDate.of(2026, 12, 25), LocalDate.of(2026, 12, 28)));

  @ParameterizedTest
  @CsvSource({
    "2026-12-15T16:00, 2026-12-16", // a Tuesday
    "2026-12-15T23:59, 2026-12-16",
    "2026-12-15T15:59,", // too early
    "2026-12-18T16:00, 2026-12-21", // on Friday of the weekend and Monday
    "2026-12-19T16:00,", // on Saturday of nothing
    "2026-12-24T16:00, 2026-12-29", // of all days until somebody is in again
    "2026-12-25T16:00,"
  })
  void visits_until_the_next_workday_are_reminded_of_on_the_workday_before(
      LocalDateTime now, LocalDate last) {
    assertThat(new VisitReminder(LocalTime.of(16, 0)).lastDay(now, CALENDAR).orElse(null))
        .isEqualTo(last);
  }
}
