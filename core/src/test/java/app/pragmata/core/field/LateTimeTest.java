package app.pragmata.core.field;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.TimeEntry.Kind;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Size;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class LateTimeTest {
  private static final Instant MORNING = Instant.parse("2026-11-24T08:00:00Z");

  private static Instant at(int minutes) {
    return MORNING.plus(Duration.ofMinutes(minutes));
  }

  private static LateTap tap(long id, PocketStep step, int minutes) {
    Kind starts =
        switch (step) {
          case DRIVE -> Kind.DRIVE;
          case START_WORK -> Kind.LABOUR;
          case START_CLOCK -> Kind.BREAK;
          default -> null;
        };
    return new LateTap(
        id,
        step.isOffVisit() ? null : 7L,
        step,
        starts,
        "",
        at(minutes),
        null,
        step == PocketStep.ARRIVE ? new BigDecimal("12.5") : BigDecimal.ZERO);
  }

  private static @Nullable Instant nothingElse(Instant moment) {
    return null;
  }

  private static List<String> shown(List<LateTime> times) {
    return times.stream()
        .map(
            time ->
                "%s %d-%s %s"
                    .formatted(
                        time.kind(),
                        Duration.between(MORNING, time.from()).toMinutes(),
                        time.to() == null ? "" : Duration.between(MORNING, time.to()).toMinutes(),
                        time.miles()))
        .toList();
  }

  @Test
  void a_drive_ends_with_its_miles_on_arrival_and_work_when_the_visit_is_finished() {
    assertThat(
            shown(
                LateTime.of(
                    List.of(
                        tap(1, PocketStep.DRIVE, 0),
                        tap(2, PocketStep.ARRIVE, 40),
                        tap(3, PocketStep.START_WORK, 42),
                        tap(4, PocketStep.USE_PART, 60),
                        tap(5, PocketStep.FINISH, 130)),
                    LateTimeTest::nothingElse)))
        .containsExactly("DRIVE 0-40 12.5", "LABOUR 42-130 0");
  }

  @Test
  void what_is_started_ends_what_ran_before_and_a_second_tap_of_the_same_does_nothing() {
    assertThat(
            shown(
                LateTime.of(
                    List.of(
                        tap(1, PocketStep.START_WORK, 0),
                        tap(2, PocketStep.START_WORK, 10),
                        tap(3, PocketStep.START_CLOCK, 60),
                        tap(4, PocketStep.START_WORK, 90),
                        tap(5, PocketStep.PAUSE, 120)),
                    LateTimeTest::nothingElse)))
        .containsExactly("LABOUR 0-60 0", "BREAK 60-90 0", "LABOUR 90-120 0");
  }

  @Test
  void a_clock_that_was_taken_elsewhere_ends_the_stretch_before_it() {
    assertThat(
            shown(
                LateTime.of(
                    List.of(tap(1, PocketStep.START_WORK, 0), tap(2, PocketStep.PAUSE, 90)),
                    moment -> at(50))))
        .containsExactly("LABOUR 0-50 0");
  }

  @Test
  void what_no_tap_ends_has_no_end() {
    assertThat(
            shown(
                LateTime.of(List.of(tap(1, PocketStep.START_WORK, 0)), LateTimeTest::nothingElse)))
        .containsExactly("LABOUR 0- 0");
  }

  @Test
  void when_somebody_says_when_it_really_ended_that_is_its_end() {
    LateTap finish = tap(2, PocketStep.FINISH, 300);
    var said =
        new LateTap(
            finish.id(), 7L, finish.step(), null, "", finish.at(), at(100), BigDecimal.ZERO);
    assertThat(
            shown(
                LateTime.of(
                    List.of(tap(1, PocketStep.START_WORK, 0), said), LateTimeTest::nothingElse)))
        .containsExactly("LABOUR 0-100 0");
  }

  @Test
  void a_stretch_of_no_time_and_no_miles_is_none() {
    assertThat(
            LateTime.of(
                List.of(tap(1, PocketStep.START_WORK, 5), tap(2, PocketStep.PAUSE, 5)),
                LateTimeTest::nothingElse))
        .isEmpty();
  }

  @Property
  void stretches_of_one_person_never_overlap_and_only_the_last_has_no_end(
      @ForAll @Size(max = 40) List<PocketStep> steps) {
    var taps = new ArrayList<LateTap>();
    for (int i = 0; i < steps.size(); i++) {
      taps.add(tap(i, steps.get(i), i * 7));
    }
    List<LateTime> times = LateTime.of(taps, LateTimeTest::nothingElse);
    for (int i = 0; i + 1 < times.size(); i++) {
      assertThat(times.get(i).to())
          .isNotNull()
          .isAfter(times.get(i).from())
          .isBeforeOrEqualTo(times.get(i + 1).from());
    }
  }
}
