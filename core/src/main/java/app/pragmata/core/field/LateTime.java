package app.pragmata.core.field;

import app.pragmata.core.jobs.TimeEntry;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * A stretch of somebody's time that their late taps tell of.
 *
 * @param tapId of the tap that began it
 * @param to null where no tap says when it ended
 */
public record LateTime(
    long tapId,
    @Nullable Long visitId,
    TimeEntry.Kind kind,
    String work,
    Instant from,
    @Nullable Instant to,
    BigDecimal miles) {

  /**
   * What the taps of one person add up to: one clock runs at a time, and whatever is started ends
   * the one before. A stretch of no time and no miles is left out.
   *
   * @param taps in the order in which they were made
   * @param nextClock when the first clock after a moment was started that was taken as it was; null
   *     for none. It ends a stretch too.
   */
  public static List<LateTime> of(
      List<LateTap> taps, Function<Instant, @Nullable Instant> nextClock) {
    var times = new ArrayList<LateTime>();
    LateTap running = null;
    for (LateTap tap : taps) {
      if (running != null && tap.ends(running)) {
        Instant end = tap.endedAt() == null ? tap.at() : tap.endedAt();
        add(times, running, end, tap.miles(), nextClock);
        running = null;
      }
      if (running == null && tap.starts() != null) {
        running = tap;
      }
    }
    if (running != null) {
      add(times, running, null, BigDecimal.ZERO, nextClock);
    }
    return List.copyOf(times);
  }

  private static void add(
      List<LateTime> times,
      LateTap start,
      @Nullable Instant end,
      BigDecimal miles,
      Function<Instant, @Nullable Instant> nextClock) {
    Instant next = nextClock.apply(start.at());
    Instant to = end == null || (next != null && next.isBefore(end)) ? next : end;
    if (to != null && to.isBefore(start.at())) {
      to = start.at();
    }
    BigDecimal driven = start.starts() == TimeEntry.Kind.DRIVE ? miles : BigDecimal.ZERO;
    if (!start.at().equals(to) || driven.signum() > 0) {
      times.add(
          new LateTime(
              start.id(),
              start.visitId(),
              Objects.requireNonNull(start.starts()),
              start.work(),
              start.at(),
              to,
              driven));
    }
  }
}
