package app.pragmata.core.jobs;

import app.pragmata.core.Coded;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;

/**
 * A person's labour, driving or break on a day, for a visit or none, from one moment to another.
 *
 * @param day the day worked, by the company's time zone; rates are those in force on it
 * @param minutes whole minutes
 * @param miles driven; nothing but for a drive
 * @param approved what it cost when the office checked it; null until then
 */
public record TimeEntry(
    long id,
    long personId,
    Kind kind,
    RateClass rateClass,
    LocalDate day,
    int minutes,
    BigDecimal miles,
    @Nullable Cost approved) {

  /** Driving and labour are separate clocks, and so is a break, which is of no visit. */
  public enum Kind implements Coded {
    LABOUR,
    DRIVE,
    BREAK
  }

  /** What a time entry costs: its minutes and, for a drive, its distance. */
  public record Cost(Money time, Money distance) {
    public Money total() {
      return time.plus(distance);
    }
  }

  /** The same as if the office had not checked it yet. */
  public TimeEntry unapproved() {
    return new TimeEntry(id, personId, kind, rateClass, day, minutes, miles, null);
  }

  private static final Duration LONGEST = Duration.ofHours(16);

  /**
   * The minutes of a clock: the difference of its two ends, each cut to the minute, so that entries
   * that adjoin add up to the whole.
   */
  public static int minutesBetween(Instant from, Instant to) {
    return Math.toIntExact(
        Duration.between(from.truncatedTo(ChronoUnit.MINUTES), to.truncatedTo(ChronoUnit.MINUTES))
            .toMinutes());
  }

  /**
   * Notes every rule that a finished clock breaks; the moments are fields {@code from} and {@code
   * to}.
   */
  public static void check(Instant from, Instant to, Instant now, Reading reading) {
    if (to.isBefore(from)) {
      reading.fault("to", Rule.ENDS_BEFORE_START, "It ends before it starts. Check both times.");
    } else if (Duration.between(from, to).compareTo(LONGEST) > 0) {
      reading.fault(
          "to",
          Rule.LONGER_THAN_SIXTEEN_HOURS,
          "This clock would run longer than 16 hours. Enter when it really ended.");
    }
    if (to.isAfter(now.plusSeconds(60))) {
      reading.fault(
          "to", Rule.IN_THE_FUTURE, "It ends in the future. Enter the time when it really ended.");
    }
  }
}
