package app.pragmata.core.checkdesk;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.checkdesk.WorkedVisit.DayAround;
import app.pragmata.core.jobs.TimeEntry.Kind;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class WorkedDayTest {
  private static final long VISIT = 7;
  private static final WorkedDay.Road NOBODY_KNOWS = before -> null;

  private static Instant at(String time) {
    return Instant.parse("2026-11-30T" + time + ":00Z");
  }

  private static WorkedClock clock(
      @Nullable Long visitId, Kind kind, String from, @Nullable String to) {
    return new WorkedClock(1, visitId, kind, at(from), to == null ? null : at(to), false, false);
  }

  private static final List<WorkedClock> ON_VISIT =
      List.of(
          clock(VISIT, Kind.DRIVE, "09:40", "10:00"), clock(VISIT, Kind.LABOUR, "10:00", "11:30"));

  /** The visit among these, of a day on which eight hours are worked. */
  private static DayAround around(WorkedDay.Road road, WorkedClock... others) {
    return new WorkedDay(Stream.concat(ON_VISIT.stream(), Stream.of(others)).toList(), 480)
        .around(VISIT, ON_VISIT, road);
  }

  @Test
  void a_day_with_one_visit_is_as_long_as_its_clocks() {
    assertThat(around(NOBODY_KNOWS)).isEqualTo(new DayAround(20, null, 0, 110, 480));
  }

  @Test
  void the_gap_is_from_the_end_of_what_was_before_to_the_first_clock_of_the_visit() {
    WorkedClock before = clock(3L, Kind.LABOUR, "08:00", "09:10");
    WorkedClock longBefore = clock(null, Kind.LABOUR, "07:00", "08:00");
    DayAround day = around(clock -> before.equals(clock) ? 12 : null, longBefore, before);
    assertThat(day.gapMinutes()).isEqualTo(30);
    assertThat(day.roadMinutes()).isEqualTo(12);
  }

  @Test
  void without_anything_before_it_the_road_begins_where_the_day_does() {
    DayAround day =
        around(before -> before == null ? 25 : null, clock(3L, Kind.LABOUR, "12:00", "13:00"));
    assertThat(day.gapMinutes()).isZero();
    assertThat(day.roadMinutes()).isEqualTo(25);
  }

  @Test
  void a_clock_before_it_that_still_runs_or_ended_later_leaves_no_gap() {
    assertThat(around(NOBODY_KNOWS, clock(3L, Kind.LABOUR, "08:00", null)).gapMinutes()).isZero();
    assertThat(around(NOBODY_KNOWS, clock(3L, Kind.LABOUR, "08:00", "09:50")).gapMinutes())
        .isZero();
  }

  @Test
  void how_long_the_day_was_is_told_on_its_last_visit_and_without_breaks() {
    WorkedClock lunch = clock(null, Kind.BREAK, "11:30", "12:00");
    WorkedClock yard = clock(null, Kind.LABOUR, "13:00", "14:00");
    assertThat(around(NOBODY_KNOWS, lunch, yard).dayMinutes()).isEqualTo(170);
    assertThat(around(NOBODY_KNOWS, clock(3L, Kind.LABOUR, "13:00", "14:00")).dayMinutes())
        .isZero();
  }

  @Test
  void of_a_visit_without_clocks_of_its_technician_nothing_is_told() {
    DayAround day = new WorkedDay(ON_VISIT, 480).around(8, List.of(), NOBODY_KNOWS);
    assertThat(day).isEqualTo(new DayAround(0, null, 0, 0, 480));
  }

  @Property
  void over_all_visits_of_a_day_its_length_is_told_once(
      @ForAll @IntRange(min = 1, max = 6) int visits) {
    List<WorkedClock> clocks =
        Stream.iterate(1, visit -> visit <= visits, visit -> visit + 1)
            .map(
                visit -> clock((long) visit, Kind.LABOUR, "0" + visit + ":00", "0" + visit + ":40"))
            .toList();
    var day = new WorkedDay(clocks, 480);
    int told =
        clocks.stream()
            .mapToInt(
                clock ->
                    day.around(
                            clock.visitId() == null ? 0 : clock.visitId(),
                            List.of(clock),
                            NOBODY_KNOWS)
                        .dayMinutes())
            .sum();
    assertThat(told).isEqualTo(visits * 40);
  }
}
