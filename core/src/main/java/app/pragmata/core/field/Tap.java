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

  /** The way through the network takes so long; less than this is no waiting. */
  static final Duration AT_ONCE = Duration.ofSeconds(5);

  private Tap() {}

  /**
   * The moment that counts, by our clock.
   *
   * @param tapped as the phone says it; null is now
   * @param sent when the phone sent it, by the same clock: how far that clock is off then does not
   *     matter; null takes the phone's clock to be right
   * @param now when it reached us
   * @throws Refused when it lies ahead, or when it waited too long to be believed
   */
  public static Instant moment(@Nullable Instant tapped, @Nullable Instant sent, Instant now) {
    if (tapped == null) {
      return now;
    }
    Duration waited = Duration.between(tapped, sent == null ? now : sent);
    if (waited.compareTo(TOLERANCE.negated()) < 0) {
      throw new Refused(
          Rule.TAPPED_IN_THE_FUTURE,
          "The clock of this phone is ahead. Set it to the network's time, then tap again.");
    }
    if (waited.compareTo(LONGEST_WAIT) > 0) {
      throw new Refused(
          Rule.TAPPED_TOO_LONG_AGO,
          "This was tapped more than two days ago. Ask the office to write the time down.");
    }
    return waited.compareTo(AT_ONCE) < 0 ? now : now.minus(waited);
  }

  /**
   * The moment by our clock of what is taken however long it waited: never one that lies ahead.
   *
   * @param tapped as the phone says it
   * @param sent when the phone sent it, by the same clock
   * @param now when it reached us
   */
  public static Instant corrected(Instant tapped, Instant sent, Instant now) {
    Duration waited = Duration.between(tapped, sent);
    return waited.isNegative() ? now : now.minus(waited);
  }

  /**
   * By how many whole minutes the clock of a phone is ahead, or behind where it is less than
   * nothing; none while nobody would mind.
   *
   * @param sent when the phone sent something, by its clock
   * @param now when that reached us
   */
  public static int minutesAhead(Instant sent, Instant now) {
    Duration ahead = Duration.between(now, sent);
    return ahead.abs().compareTo(TOLERANCE) <= 0 ? 0 : Math.toIntExact(ahead.toMinutes());
  }
}
