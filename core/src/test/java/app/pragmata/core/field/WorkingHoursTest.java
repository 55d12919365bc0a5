package app.pragmata.core.field;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.people.RateClass;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class WorkingHoursTest {
  private static final WorkingHours HOURS =
      new WorkingHours(
          ZoneId.of("Europe/London"),
          EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
          LocalTime.of(7, 30),
          LocalTime.of(17, 30),
          LocalTime.of(22, 0),
          LocalTime.of(6, 0));
  private static final Instant MONDAY_15_00 = Instant.parse("2026-11-23T15:00:00Z");

  @Test
  void a_clock_past_the_end_of_the_day_is_cut_into_normal_and_overtime() {
    assertThat(HOURS.split(MONDAY_15_00, MONDAY_15_00.plus(Duration.ofMinutes(200))))
        .containsExactly(
            new WorkingHours.Span(
                RateClass.NORMAL, MONDAY_15_00, Instant.parse("2026-11-23T17:30:00Z")),
            new WorkingHours.Span(
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
    List<WorkingHours.Span> spans = HOURS.split(from, to);
    assertThat(spans.stream().mapToLong(s -> Duration.between(s.from(), s.to()).toMinutes()).sum())
        .isEqualTo(length);
    assertThat(spans.getFirst().from()).isEqualTo(from);
    assertThat(spans.getLast().to()).isEqualTo(to);
  }

  @Test
  void an_entry_that_ends_before_it_starts_is_refused() {
    assertThat(faults(MONDAY_15_00, MONDAY_15_00.minusSeconds(60)))
        .containsExactly(Rule.ENDS_BEFORE_START);
  }

  @Test
  void a_clock_of_exactly_sixteen_hours_is_taken() {
    assertThat(faults(MONDAY_15_00, MONDAY_15_00.plus(Duration.ofHours(16)))).isEmpty();
  }

  @Test
  void a_clock_longer_than_sixteen_hours_is_refused() {
    assertThat(faults(MONDAY_15_00, MONDAY_15_00.plus(Duration.ofMinutes(961))))
        .containsExactly(Rule.LONGER_THAN_SIXTEEN_HOURS);
  }

  private static List<Rule> faults(Instant from, Instant to) {
    var reading = new Reading();
    TimeEntry.check(from, to, MONDAY_15_00.plus(Duration.ofDays(2)), reading);
    return reading.faults().stream().map(Fault::rule).toList();
  }
}
