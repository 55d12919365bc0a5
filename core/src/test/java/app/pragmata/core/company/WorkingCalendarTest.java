package app.pragmata.core.company;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WorkingCalendarTest {
  private static final ZoneId ZONE = ZoneId.of("Europe/London");
  private static final WorkingCalendar CALENDAR =
      new WorkingCalendar(
          ZONE,
          new InForce<>(
              "working hours",
              List.of(
                  new WorkingHours(
                      LocalDate.EPOCH,
                      EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
                      LocalTime.of(8, 0),
                      LocalTime.of(17, 0),
                      LocalTime.of(22, 0),
                      LocalTime.of(6, 0),
                      RateClass.OVERTIME))),
          Set.of(LocalDate.of(2026, 12, 25), LocalDate.of(2026, 12, 28)));

  private static Instant at(String local) {
    return LocalDateTime.parse(local).atZone(ZONE).toInstant();
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-24T10:00, 60, 2026-11-24T11:00",
    "2026-11-24T16:30, 60, 2026-11-25T08:30",
    "2026-11-24T05:00, 60, 2026-11-24T09:00",
    "2026-11-24T19:00, 60, 2026-11-25T09:00",
    "2026-11-27T16:00, 120, 2026-11-30T09:00",
    "2026-11-28T12:00, 30, 2026-11-30T08:30",
    "2026-12-24T16:00, 120, 2026-12-29T09:00",
    "2026-11-24T08:00, 540, 2026-11-24T17:00"
  })
  void working_time_stands_still_outside_the_hours_and_on_holidays(
      String called, int minutes, String by) {
    assertThat(CALENDAR.after(at(called), minutes)).isEqualTo(at(by));
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-24, 0, 2026-11-24",
    "2026-11-28, 0, 2026-11-28",
    "2026-11-24, 1, 2026-11-25",
    "2026-11-27, 1, 2026-11-30",
    "2026-11-28, 1, 2026-11-30",
    "2026-12-24, 1, 2026-12-29",
    "2026-11-24, 5, 2026-12-01"
  })
  void workdays_are_counted_past_weekends_and_holidays(
      LocalDate from, int workdays, LocalDate day) {
    assertThat(CALENDAR.workdaysAfter(from, workdays)).isEqualTo(day);
  }

  @Test
  void the_night_in_which_the_clocks_change_takes_no_working_time() {
    assertThat(CALENDAR.after(at("2026-10-23T16:00"), 120)).isEqualTo(at("2026-10-26T09:00"));
  }

  @Property
  void what_is_counted_forward_is_counted_back(
      @ForAll @IntRange(max = 400_000) int start,
      @ForAll @IntRange(min = 1, max = 6_000) int minutes) {
    Instant from = at("2026-01-01T00:00").plus(Duration.ofMinutes(start));
    assertThat(CALENDAR.minutesBetween(from, CALENDAR.after(from, minutes))).isEqualTo(minutes);
  }

  @Property
  void more_minutes_never_end_sooner(
      @ForAll @IntRange(max = 400_000) int start,
      @ForAll @IntRange(min = 1, max = 6_000) int minutes) {
    Instant from = at("2026-01-01T00:00").plus(Duration.ofMinutes(start));
    assertThat(CALENDAR.after(from, minutes + 1)).isAfter(CALENDAR.after(from, minutes));
  }

  @Test
  void an_emergency_is_counted_around_the_clock() {
    var response = new ResponseTime(240, true);
    assertThat(response.respondBy(at("2026-11-27T20:00"), CALENDAR))
        .isEqualTo(at("2026-11-28T00:00"));
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-24T09:30, 90",
    "2026-11-24T11:00, 0",
    "2026-11-24T11:30, -30",
    "2026-11-25T08:30, -390",
    "2026-11-24T11:00:20, -1"
  })
  void time_left_is_counted_as_the_response_is_and_goes_below_nothing_when_late(
      String now, int left) {
    var response = new ResponseTime(60, false);
    assertThat(response.minutesLeft(at(now), at("2026-11-24T11:00"), CALENDAR)).isEqualTo(left);
  }
}
