package app.pragmata.core.company;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
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

class WorkingHoursTest {
  private static final WorkingHours WINTER = hours(LocalDate.EPOCH, 7, 30, RateClass.OVERTIME);
  private static final WorkingHours LATER_DAYS =
      hours(LocalDate.of(2027, 3, 1), 9, 0, RateClass.NIGHT);
  private static final LocalDate BOXING_DAY = LocalDate.of(2026, 12, 28);
  private static final WorkingCalendar HOURS =
      new WorkingCalendar(
          ZoneId.of("Europe/London"),
          new InForce<>("working hours", List.of(WINTER, LATER_DAYS)),
          Set.of(BOXING_DAY, LocalDate.of(2027, 3, 29)));

  private static WorkingHours hours(LocalDate fromDay, int hour, int minute, RateClass onHolidays) {
    return new WorkingHours(
        fromDay,
        EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
        LocalTime.of(hour, minute),
        LocalTime.of(17, 30),
        LocalTime.of(22, 0),
        LocalTime.of(6, 0),
        onHolidays);
  }

  private static final Instant MONDAY_15_00 = Instant.parse("2026-11-23T15:00:00Z");

  @Test
  void a_clock_past_the_end_of_the_day_is_cut_into_normal_and_overtime() {
    assertThat(HOURS.split(MONDAY_15_00, MONDAY_15_00.plus(Duration.ofMinutes(200))))
        .containsExactly(
            new WorkingCalendar.Span(
                RateClass.NORMAL, MONDAY_15_00, Instant.parse("2026-11-23T17:30:00Z")),
            new WorkingCalendar.Span(
                RateClass.OVERTIME,
                Instant.parse("2026-11-23T17:30:00Z"),
                Instant.parse("2026-11-23T18:20:00Z")));
  }

  @Test
  void saturday_is_overtime() {
    assertThat(HOURS.at(Instant.parse("2026-11-21T10:00:00Z"))).isEqualTo(RateClass.OVERTIME);
  }

  @Test
  void after_ten_at_night_is_night_in_the_companys_own_time() {
    assertThat(HOURS.at(Instant.parse("2026-07-01T21:00:00Z"))).isEqualTo(RateClass.NIGHT);
  }

  @Property
  void cutting_a_clock_neither_loses_nor_makes_a_minute(
      @ForAll @IntRange(min = 0, max = 527_040) int startMinute,
      @ForAll @IntRange(min = 1, max = 960) int length) {
    Instant from = Instant.parse("2026-01-01T00:00:00Z").plus(Duration.ofMinutes(startMinute));
    Instant to = from.plus(Duration.ofMinutes(length));
    List<WorkingCalendar.Span> spans = HOURS.split(from, to);
    assertThat(spans.stream().mapToLong(s -> Duration.between(s.from(), s.to()).toMinutes()).sum())
        .isEqualTo(length);
    assertThat(spans.getFirst().from()).isEqualTo(from);
    assertThat(spans.getLast().to()).isEqualTo(to);
  }

  @Property
  void every_minute_of_a_cut_clock_is_of_the_class_of_its_span(
      @ForAll @IntRange(min = 0, max = 527_040) int startMinute,
      @ForAll @IntRange(min = 1, max = 960) int length) {
    Instant from = Instant.parse("2026-01-01T00:00:00Z").plus(Duration.ofMinutes(startMinute));
    for (WorkingCalendar.Span span : HOURS.split(from, from.plus(Duration.ofMinutes(length)))) {
      for (Instant at = span.from(); at.isBefore(span.to()); at = at.plusSeconds(60)) {
        assertThat(HOURS.at(at)).isEqualTo(span.rateClass());
      }
    }
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-23T07:29:00Z,OVERTIME",
    "2026-11-23T07:30:00Z,NORMAL",
    "2026-11-23T17:29:00Z,NORMAL",
    "2026-11-23T17:30:00Z,OVERTIME",
    "2026-11-23T21:59:00Z,OVERTIME",
    "2026-11-23T22:00:00Z,NIGHT",
    "2026-11-24T05:59:00Z,NIGHT",
    "2026-11-24T06:00:00Z,OVERTIME"
  })
  void a_class_begins_on_its_minute_and_ends_before_the_next_ones(
      Instant moment, RateClass expected) {
    assertThat(HOURS.at(moment)).isEqualTo(expected);
  }

  @Test
  void a_clock_over_midnight_is_cut_there_for_wages_may_change_with_the_day() {
    Instant evening = Instant.parse("2026-11-23T23:00:00Z");
    assertThat(HOURS.split(evening, evening.plus(Duration.ofHours(2))))
        .containsExactly(
            new WorkingCalendar.Span(
                RateClass.NIGHT, evening, Instant.parse("2026-11-24T00:00:00Z")),
            new WorkingCalendar.Span(
                RateClass.NIGHT,
                Instant.parse("2026-11-24T00:00:00Z"),
                Instant.parse("2026-11-24T01:00:00Z")));
  }

  @ParameterizedTest
  @CsvSource({
    "2026-12-28T10:00:00Z,OVERTIME",
    "2026-12-28T23:00:00Z,NIGHT",
    "2026-12-29T10:00:00Z,NORMAL",
    "2027-03-29T10:00:00Z,NIGHT"
  })
  void hours_of_a_holiday_have_the_class_that_the_companys_rule_gives_them(
      Instant moment, RateClass expected) {
    assertThat(HOURS.at(moment)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"2027-02-26T08:00:00Z,NORMAL", "2027-03-01T08:00:00Z,OVERTIME"})
  void hours_that_change_hold_from_their_day(Instant moment, RateClass expected) {
    assertThat(HOURS.at(moment)).isEqualTo(expected);
  }

  private static long nightMinutes(String from, String to) {
    return HOURS.split(Instant.parse(from), Instant.parse(to)).stream()
        .filter(span -> span.rateClass() == RateClass.NIGHT)
        .mapToLong(span -> Duration.between(span.from(), span.to()).toMinutes())
        .sum();
  }

  @Test
  void the_night_when_the_clocks_go_back_has_an_hour_more() {
    assertThat(nightMinutes("2026-10-24T21:00:00Z", "2026-10-25T07:00:00Z")).isEqualTo(9 * 60);
  }

  @Test
  void the_night_when_the_clocks_go_forward_has_an_hour_less() {
    assertThat(nightMinutes("2026-03-28T22:00:00Z", "2026-03-29T08:00:00Z")).isEqualTo(7 * 60);
  }

  @Test
  void an_empty_clock_gives_no_span() {
    assertThat(HOURS.split(MONDAY_15_00, MONDAY_15_00)).isEmpty();
  }

  @Test
  void hours_that_overlap_the_night_cannot_be_set() {
    assertThatThrownBy(
            () ->
                new WorkingHours(
                    LocalDate.EPOCH,
                    EnumSet.allOf(DayOfWeek.class),
                    LocalTime.of(5, 0),
                    LocalTime.of(17, 0),
                    LocalTime.of(22, 0),
                    LocalTime.of(6, 0),
                    RateClass.OVERTIME))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
