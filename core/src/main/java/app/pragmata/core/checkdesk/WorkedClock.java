package app.pragmata.core.checkdesk;

import app.pragmata.core.jobs.TimeEntry;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A clock of somebody, as far as something about it may be odd.
 *
 * @param visitId null for time on none
 * @param to null while it runs
 * @param endInDoubt whether the next clock set its end
 * @param byHand whether its times were put right or written down by hand
 */
public record WorkedClock(
    long personId,
    @Nullable Long visitId,
    TimeEntry.Kind kind,
    Instant from,
    @Nullable Instant to,
    boolean endInDoubt,
    boolean byHand) {
  /** Its whole minutes; 0 while it runs. */
  public int minutes() {
    return to == null ? 0 : TimeEntry.minutesBetween(from, to);
  }

  boolean hasNoSureEnd() {
    return to == null || endInDoubt;
  }
}
