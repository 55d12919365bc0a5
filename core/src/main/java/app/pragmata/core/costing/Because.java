package app.pragmata.core.costing;

import app.pragmata.core.Category;
import app.pragmata.core.Coded;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.PromisedParts;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/** Why a category cost other than quoted. */
public final class Because {
  /** What a reason is about. */
  public enum Kind implements Coded {
    /** More or fewer hours, with what they come to at the quoted rate. */
    HOURS,
    /** A dearer or cheaper rate. */
    RATE,
    DRIVE_MINUTES,
    MILES,
    /** A part beyond the promise, or left out of it. */
    PART,
    /** So many further parts. */
    FURTHER_PARTS
  }

  /**
   * One reason; what it does not have is nothing.
   *
   * @param minutes more than quoted, or fewer below nothing
   * @param amount more than quoted, or less below nothing
   * @param quantity of miles or of a part more than quoted, or fewer below nothing; of further
   *     parts how many
   * @param part what it is; empty unless the reason is a part
   */
  public record Reason(Kind kind, int minutes, Money amount, BigDecimal quantity, String part) {
    private static Reason of(Kind kind, int minutes, Money amount) {
      return new Reason(kind, minutes, amount, BigDecimal.ZERO, "");
    }

    private static Reason of(Kind kind, BigDecimal quantity, String part) {
      return new Reason(kind, 0, Money.ZERO, quantity.stripTrailingZeros(), part);
    }
  }

  private static final int MOST_PARTS = 2;

  private Because() {}

  /** Empty when there is nothing to say; the sheet and variances are the job's. */
  public static List<Reason> of(
      JobFacts job, CostSheet sheet, Variances variances, Category category) {
    return switch (category) {
      case LABOUR -> labour(variances.labour(), sheet);
      case DRIVE -> drive(sheet);
      case PARTS -> parts(job);
      case OTHER -> List.of();
    };
  }

  private static List<Reason> labour(Variances.Labour variance, CostSheet sheet) {
    var reasons = new ArrayList<Reason>();
    int minutes = sheet.actual().labourMinutes() - sheet.quoted().labourMinutes();
    if (minutes != 0) {
      reasons.add(Reason.of(Kind.HOURS, minutes, variance.hours()));
    }
    if (!variance.rate().isZero()) {
      reasons.add(Reason.of(Kind.RATE, 0, variance.rate()));
    }
    return reasons;
  }

  private static List<Reason> drive(CostSheet sheet) {
    var reasons = new ArrayList<Reason>();
    int minutes = sheet.actual().driveMinutes() - sheet.quoted().driveMinutes();
    BigDecimal miles = sheet.actual().miles().subtract(sheet.quoted().miles());
    if (minutes != 0) {
      reasons.add(Reason.of(Kind.DRIVE_MINUTES, minutes, Money.ZERO));
    }
    if (miles.signum() != 0) {
      reasons.add(Reason.of(Kind.MILES, miles, ""));
    }
    return reasons;
  }

  /** What was fitted beyond the promise, then what was left out of it; the first two by name. */
  private static List<Reason> parts(JobFacts job) {
    var parts = new PromisedParts(job.promise());
    job.parts().forEach(use -> parts.use(use.partId(), use.description(), use.quantity()));
    var reasons = new ArrayList<Reason>();
    parts
        .beyond()
        .forEach(more -> reasons.add(Reason.of(Kind.PART, more.quantity(), more.description())));
    parts
        .toFit()
        .forEach(
            less ->
                reasons.add(Reason.of(Kind.PART, less.quantity().negate(), less.description())));
    if (reasons.size() <= MOST_PARTS) {
      return reasons;
    }
    var named = new ArrayList<>(reasons.subList(0, MOST_PARTS));
    named.add(Reason.of(Kind.FURTHER_PARTS, BigDecimal.valueOf(reasons.size() - MOST_PARTS), ""));
    return named;
  }
}
