package app.pragmata.core.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class TimeEntryTest {
  private static final Instant THREE = Instant.parse("2026-11-23T15:00:00Z");
  private static final Instant NOW = THREE.plus(Duration.ofDays(2));

  @Test
  void an_entry_that_ends_before_it_starts_is_refused() {
    assertThat(faults(THREE, THREE.minusSeconds(60))).containsExactly(Rule.ENDS_BEFORE_START);
  }

  @Test
  void an_entry_that_ends_when_it_starts_is_taken_as_nothing_worked() {
    assertThat(faults(THREE, THREE)).isEmpty();
  }

  @Test
  void a_clock_of_exactly_sixteen_hours_is_taken() {
    assertThat(faults(THREE, THREE.plus(Duration.ofHours(16)))).isEmpty();
  }

  @Test
  void a_clock_longer_than_sixteen_hours_is_refused() {
    assertThat(faults(THREE, THREE.plus(Duration.ofMinutes(961))))
        .containsExactly(Rule.LONGER_THAN_SIXTEEN_HOURS);
  }

  @Test
  void work_that_ends_in_the_future_is_refused() {
    assertThat(faults(NOW.minusSeconds(600), NOW.plusSeconds(120)))
        .containsExactly(Rule.IN_THE_FUTURE);
  }

  @Test
  void a_phone_whose_clock_runs_a_minute_fast_is_forgiven() {
    assertThat(faults(NOW.minusSeconds(600), NOW.plusSeconds(60))).isEmpty();
  }

  @Test
  void two_broken_rules_are_told_together() {
    assertThat(faults(NOW, NOW.plus(Duration.ofHours(17))))
        .containsExactly(Rule.LONGER_THAN_SIXTEEN_HOURS, Rule.IN_THE_FUTURE);
  }

  private static List<Rule> faults(Instant from, Instant to) {
    var reading = new Reading();
    TimeEntry.check(from, to, NOW, reading);
    return reading.faults().stream().map(Fault::rule).toList();
  }

  @Property
  void entries_that_adjoin_add_up_to_the_whole_to_the_minute(
      @ForAll @IntRange(max = 86_400) int start,
      @ForAll @IntRange(max = 20_000) int first,
      @ForAll @IntRange(max = 20_000) int second) {
    Instant from = NOW.plusSeconds(start);
    Instant middle = from.plusSeconds(first);
    Instant to = middle.plusSeconds(second);
    assertThat(TimeEntry.minutesBetween(from, middle) + TimeEntry.minutesBetween(middle, to))
        .isEqualTo(TimeEntry.minutesBetween(from, to));
  }
}
