package app.pragmata.core.field;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** When a technician tapped, as the phone says it; a phone may be offline or have a wrong clock. */
public final class Tap {
  /** Phones' clocks differ by so much without anybody minding. */
  static final Duration TOLERANCE = Duration.ofMinutes(2);

  /** What is tapped without a network waits at most so long. */
  static final Duration LONGEST_WAIT = Duration.ofDays(2);

  private Tap() {}

  /**
   * The moment that counts.
   *
   * @param tapped as the phone says it; null is now
   * @param now when it reached us
   * @throws Refused when the phone's clock is ahead, or when it waited too long to be believed
   */
  public static Instant moment(@Nullable Instant tapped, Instant now) {
    if (tapped == null) {
      return now;
    }
    if (tapped.isAfter(now.plus(TOLERANCE))) {
      throw new Refused(
          Rule.TAPPED_IN_THE_FUTURE,
          "The clock of this phone is ahead. Set it to the network's time, then tap again.");
    }
    if (tapped.isBefore(now.minus(LONGEST_WAIT))) {
      throw new Refused(
          Rule.TAPPED_TOO_LONG_AGO,
          "This was tapped more than two days ago. Ask the office to write the time down.");
    }
    return tapped.isAfter(now) ? now : tapped;
  }
}
