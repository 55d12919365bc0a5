package app.pragmata.core;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.planning.VisitPlan;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DayTest {
  private static final LocalDate TUESDAY = LocalDate.of(2026, 11, 24);

  @ParameterizedTest
  @CsvSource({
    "today,2026-11-24",
    "tomorrow,2026-11-25",
    "tue,2026-11-24",
    "monday,2026-11-30",
    "+3,2026-11-27",
    "24 nov,2026-11-24",
    "3 jan,2027-01-03",
    "24/11,2026-11-24",
    "1.12.26,2026-12-01",
    "2026-12-24,2026-12-24",
    "30 days,2026-12-24",
    "1 day,2026-11-25",
    "2 weeks,2026-12-08",
    "+10d,2026-12-04",
    "25 Dec 2026,2026-12-25",
    "wed 25 nov,2026-11-25"
  })
  void days_are_read_the_way_people_type_them(String typed, LocalDate expected) {
    assertThat(Day.parse(typed, TUESDAY)).isEqualTo(expected);
  }

  @ParameterizedTest
  @ValueSource(strings = {"31 feb", "someday", "45", "2026-13-01"})
  void what_is_no_day_is_refused_with_examples(String typed) {
    assertThatThrownBy(() -> Day.parse(typed, TUESDAY))
        .isInstanceOf(Unreadable.class)
        .hasMessageContaining("24 nov");
  }

  @ParameterizedTest
  @CsvSource({"8,08:00", "8:30,08:30", "0830,08:30", "17.35,17:35", "2pm,14:00", "1430,14:30"})
  void times_of_day_are_read_the_way_people_type_them(String typed, LocalTime expected) {
    assertThat(Day.parseTime(typed)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"12am,00:00", "12pm,12:00", "12:30am,00:30", "1am,01:00", "11.45 pm,23:45"})
  void noon_and_midnight_are_told_apart(String typed, LocalTime expected) {
    assertThat(Day.parseTime(typed)).isEqualTo(expected);
  }

  @ParameterizedTest
  @ValueSource(strings = {"24", "25:00", "8:60", "13pm", "0am", "noon", "-1", "8:5"})
  void what_is_no_time_of_day_is_refused_with_examples(String typed) {
    assertThatThrownBy(() -> Day.parseTime(typed))
        .isInstanceOf(Unreadable.class)
        .hasMessageContaining("8:30");
  }

  @ParameterizedTest
  @CsvSource({
    "today,2026-11-24",
    "yesterday,2026-11-23",
    "fri,2026-11-20",
    "tue,2026-11-24",
    "20 nov,2026-11-20",
    "24 dec,2025-12-24",
    "2026-11-02,2026-11-02",
    "24 dec 2026,2026-12-24",
    "tomorrow,2026-11-25"
  })
  void a_day_that_has_come_is_looked_for_behind_us(String typed, LocalDate expected) {
    assertThat(Day.parsePast(typed, TUESDAY)).isEqualTo(expected);
  }

  @Property
  void a_day_that_is_written_out_whole_reads_back_the_same(
      @ForAll @IntRange(min = 0, max = 40_000) int day) {
    LocalDate written = LocalDate.of(1990, 1, 1).plusDays(day);
    assertThat(Day.parse(written.toString(), TUESDAY)).isEqualTo(written);
    assertThat(Day.parsePast(written.toString(), TUESDAY)).isEqualTo(written);
  }

  @ParameterizedTest
  @CsvSource({
    "2025-11-23,60,TOO_LARGE",
    "2028-11-25,60,TOO_LARGE",
    "2026-11-24,4,EXCEEDS_LIMIT",
    "2026-11-24,961,EXCEEDS_LIMIT"
  })
  void a_plan_that_cannot_be_is_refused_by_its_rule(LocalDate day, int minutes, Rule rule) {
    assertThat(planFaults(day, minutes)).extracting(Fault::rule).containsExactly(rule);
  }

  @ParameterizedTest
  @CsvSource({"2026-11-24,5", "2026-11-24,960", "2026-11-17,60", "2025-11-24,60", "2028-11-24,60"})
  void a_plan_at_the_edge_of_what_can_be_is_taken(LocalDate day, int minutes) {
    assertThat(planFaults(day, minutes)).isEmpty();
  }

  private static List<Fault> planFaults(LocalDate day, int minutes) {
    var reading = new Reading();
    VisitPlan.check(day, minutes, TUESDAY, reading);
    return reading.faults();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "2026-03-29T01:30|The clocks go forward from 01:00 to 02:00 that day: 01:30 is skipped. Enter a time before 01:00 or from 02:00 on.",
        "2026-10-25T01:30|The clocks go back from 02:00 to 01:00 that day: 01:30 comes twice. Enter a time before 01:00 or from 02:00 on."
      })
  void a_time_that_the_clocks_skip_or_show_twice_is_refused_and_told_which_to_give(
      LocalDateTime local, String told) {
    assertThatThrownBy(() -> Day.momentOf(local, ZoneId.of("Europe/London")))
        .isInstanceOf(Unreadable.class)
        .hasMessage(told);
  }

  @Test
  void any_other_time_is_the_moment_that_it_says() {
    assertThat(Day.momentOf(LocalDateTime.parse("2026-07-01T08:00"), ZoneId.of("Europe/London")))
        .isEqualTo(Instant.parse("2026-07-01T07:00:00Z"));
  }
}
