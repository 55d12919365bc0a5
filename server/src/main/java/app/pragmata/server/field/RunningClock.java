package app.pragmata.server.field;

import app.pragmata.core.field.ForgottenClock;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.planning.PersonHours;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import org.jspecify.annotations.Nullable;

/**
 * A clock that runs.
 *
 * @param work of other paid time; empty for everything else
 * @param since when it was started, by the company's clock
 * @param forgotten whether it has run past the hours of its person
 */
record RunningClock(
    TimeEntry.Kind kind,
    @Nullable Long visitId,
    String work,
    Instant startedAt,
    LocalDateTime since,
    boolean forgotten) {
  /** A person's clock that runs, with the day that it began on. */
  record Clocked(
      TimeEntry.Kind kind, @Nullable Long visitId, String work, Instant startedAt, LocalDate day) {}

  /**
   * As its person sees it.
   *
   * @param hours past which it counts as forgotten
   */
  static RunningClock of(Act act, Clocked clock, PersonHours hours) {
    return new RunningClock(
        clock.kind(),
        clock.visitId(),
        clock.work(),
        clock.startedAt(),
        LocalDateTime.ofInstant(clock.startedAt(), act.zone()),
        new ForgottenClock(
                clock.kind(),
                clock.visitId(),
                clock.startedAt(),
                hours.endOf(act.personId(), clock.day()))
            .isPastHours(act.at()));
  }
}
