package app.pragmata.core.people;

import java.time.Duration;

/**
 * How long whoever guesses at passwords has to wait: nothing for the first few wrong ones, then a
 * second, doubled with each further one up to a longest wait (NIST SP 800-63B, rate limiting). It
 * is never for good, so that nobody can shut somebody else out by guessing.
 */
public enum SignInWait {
  /** By wrong passwords for one name, wherever they come from. */
  OF_A_NAME(5, Duration.ofMinutes(1)),
  /** By wrong passwords from one address, for whatever names: an office may share one. */
  OF_AN_ADDRESS(20, Duration.ofMinutes(5));

  /** Wrong passwords count for so long. */
  public static final Duration COUNTED = Duration.ofMinutes(15);

  private final int free;
  private final Duration longest;

  SignInWait(int free, Duration longest) {
    this.free = free;
    this.longest = longest;
  }

  /**
   * The wait after the last of so many wrong passwords.
   *
   * @param refused how many there were within {@link #COUNTED}, at least none
   */
  public Duration after(int refused) {
    int beyond = refused - free;
    if (beyond < 0) {
      return Duration.ZERO;
    }
    // Doubled 20 times it is longer than any longest wait.
    Duration doubled = Duration.ofSeconds(1L << Math.min(beyond, 20));
    return doubled.compareTo(longest) < 0 ? doubled : longest;
  }
}
