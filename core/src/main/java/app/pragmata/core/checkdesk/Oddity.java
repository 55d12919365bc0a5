package app.pragmata.core.checkdesk;

import app.pragmata.core.Coded;
import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

/**
 * Why a finished visit is looked at before its work is said to be correct. Some are told from a
 * limit on that the office may set.
 */
public enum Oddity implements Coded {
  /** A clock of it still runs, or its end was set by the next one. */
  NO_END,
  /** Nobody worked on it by any clock. */
  NO_LABOUR,
  /** Somebody worked on it and nobody drove to it. */
  NO_DRIVE,
  /** The drive to it took more than so many times as long as the road does. */
  LONG_DRIVE(Unit.TIMES, "2"),
  /** The job has taken more than so many times the labour that it was promised for. */
  LONG_LABOUR(Unit.TIMES, "2"),
  /** Before it its technician was on no clock for so many minutes of the day. */
  DAY_GAP(Unit.MINUTES, "30"),
  /** Its technician worked so many minutes longer that day than their pattern says. */
  LONG_DAY(Unit.MINUTES, "60"),
  /** Time of it was put right or written down by hand. */
  CORRECTED_CLOCK,
  /** A clock of it was started or stopped so many miles away from the site. */
  AWAY_FROM_SITE(Unit.MILES, "0.3"),
  /** A part of it is charged at nothing, or came out of stock at no cost. */
  FREE_PART,
  /** The job has taken more of a part than was promised. */
  MORE_PARTS,
  /** A round made it, and its agreement does not hold that day, or not for all that was used. */
  OUTSIDE_AGREEMENT,
  /** Where one of its parts was taken from, less than nothing is left. */
  BELOW_ZERO,
  /** One of its parts is on no price list and has no price yet. */
  UNPRICED_PART,
  /** The job still waits for a part. */
  PART_WANTED,
  /** Extra work was shown to the customer on it, who has not said yes or no. */
  EXTRA_WORK_OPEN,
  /** Its kind of job wants a signature, and nobody has signed. */
  NO_SIGNATURE,
  /** A question of its checklists that wants an answer has none. */
  CHECKLIST_OPEN,
  /** A reading or an answer is out of its limits. */
  OUT_OF_LIMITS,
  /** Not all that was done on it is here: a phone has more to send, or some came late and waits. */
  PHONE_BEHIND;

  /** What a limit is counted in, and between what it makes sense. */
  public enum Unit implements Coded {
    TIMES("1.1", "20"),
    MINUTES("5", "720"),
    MILES("0.3", "50");

    private final BigDecimal least;
    private final BigDecimal most;

    Unit(String least, String most) {
      this.least = new BigDecimal(least);
      this.most = new BigDecimal(most);
    }

    public BigDecimal least() {
      return least;
    }

    public BigDecimal most() {
      return most;
    }

    /** Whether a limit of this makes sense. */
    public boolean allows(BigDecimal limit) {
      return limit.compareTo(least) >= 0 && limit.compareTo(most) <= 0;
    }
  }

  private final @Nullable Unit unit;
  private final @Nullable BigDecimal usualLimit;

  Oddity() {
    this.unit = null;
    this.usualLimit = null;
  }

  Oddity(Unit unit, String usualLimit) {
    this.unit = unit;
    this.usualLimit = new BigDecimal(usualLimit);
  }

  /** What its limit is counted in; null where it has none. */
  public @Nullable Unit unit() {
    return unit;
  }

  /** From where on it is told while nobody has said otherwise; null where it has no limit. */
  public @Nullable BigDecimal usualLimit() {
    return usualLimit;
  }
}
