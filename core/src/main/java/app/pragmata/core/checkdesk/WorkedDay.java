package app.pragmata.core.checkdesk;

import app.pragmata.core.checkdesk.WorkedVisit.DayAround;
import app.pragmata.core.jobs.TimeEntry;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * All that a person clocked on one day, on visits or none.
 *
 * @param patternMinutes that their pattern has on that day
 */
public record WorkedDay(List<WorkedClock> clocks, int patternMinutes) {
  /** How long the road takes from where somebody was before. */
  public interface Road {
    /**
     * In whole minutes.
     *
     * @param before what they clocked there; null for from where their day starts
     * @return null where nobody knows
     */
    @Nullable Integer minutes(@Nullable WorkedClock before);
  }

  public WorkedDay {
    clocks = List.copyOf(clocks);
  }

  /**
   * The day around one of its visits. How long it was is told on the visit that was clocked last,
   * and 0 minutes on the others.
   *
   * @param own the person's clocks on the visit; without any, nothing was before it
   */
  public DayAround around(long visitId, List<WorkedClock> own, Road road) {
    Instant first = null;
    Instant last = null;
    for (WorkedClock clock : own) {
      first = first == null || clock.from().isBefore(first) ? clock.from() : first;
      last = last == null || clock.from().isAfter(last) ? clock.from() : last;
    }
    WorkedClock before = first == null ? null : before(visitId, first);
    return new DayAround(
        WorkedVisit.minutes(own, TimeEntry.Kind.DRIVE),
        road.minutes(before),
        before == null || before.to() == null
            ? 0
            : Math.max(0, TimeEntry.minutesBetween(before.to(), Objects.requireNonNull(first))),
        last != null && nothingBeginsAfter(last) ? minutes() : 0,
        patternMinutes);
  }

  private @Nullable WorkedClock before(long visitId, Instant at) {
    WorkedClock before = null;
    for (WorkedClock clock : clocks) {
      if (clock.from().isBefore(at)
          && (clock.visitId() == null || clock.visitId() != visitId)
          && (before == null || clock.from().isAfter(before.from()))) {
        before = clock;
      }
    }
    return before;
  }

  /** Whether no clock of a visit begins later. */
  private boolean nothingBeginsAfter(Instant moment) {
    for (WorkedClock clock : clocks) {
      if (clock.visitId() != null && clock.from().isAfter(moment)) {
        return false;
      }
    }
    return true;
  }

  private int minutes() {
    int minutes = 0;
    for (WorkedClock clock : clocks) {
      if (clock.kind() != TimeEntry.Kind.BREAK) {
        minutes += clock.minutes();
      }
    }
    return minutes;
  }
}
