package app.pragmata.core.costing;

import app.pragmata.core.Category;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.costing.CostSheet.Quantities;
import app.pragmata.core.costing.CostSheet.Rung;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.Map;

/**
 * The cost sheet of the worked example's people and rates as a loop on whole numbers would have it:
 * rates are millionths, miles tenths, quantities thousandths, and nothing is looked up that is not
 * needed. What the core's costing is measured against; both give the same figures.
 */
final class CostOnLongs {
  private static final long MILLION = 1_000_000;

  /** By person and class, per hour in millionths. */
  private final long[][] perHour;

  private final long perMile;
  private final long overheadPerHour;

  CostOnLongs(Costing costing) {
    var rates = costing.terms().rates();
    perHour = new long[4][RateClass.values().length];
    for (int person = 1; person < perHour.length; person++) {
      for (RateClass rateClass : RateClass.values()) {
        perHour[person][place(rateClass)] =
            millionths(rates.costPerHour(person, rateClass, WorkedExample.DAY));
      }
    }
    perMile = millionths(rates.costPerMile(WorkedExample.DAY));
    overheadPerHour = millionths(costing.terms().cost().on(WorkedExample.DAY).overheadPerHour());
  }

  private static long millionths(BigDecimal rate) {
    return rate.movePointRight(6).longValueExact();
  }

  private static int place(RateClass rateClass) {
    return switch (rateClass) {
      case NORMAL -> 0;
      case OVERTIME -> 1;
      case NIGHT -> 2;
    };
  }

  /** Half up; the numerator is not negative. */
  private static long divided(long numerator, long denominator) {
    return (2 * numerator + denominator) / (2 * denominator);
  }

  private static long ofMinutes(long minutes, long perHour) {
    return divided(minutes * perHour * 100, 60 * MILLION);
  }

  /** Of a job whose entries are all of the example's day. */
  CostSheet cost(JobFacts job) {
    long quotedLabour = 0;
    long quotedDrive = 0;
    long quotedParts = 0;
    long quotedOther = 0;
    int quotedLabourMinutes = 0;
    int quotedDriveMinutes = 0;
    BigDecimal quotedMiles = BigDecimal.ZERO;
    long net = 0;
    for (QuoteLine line : job.promise()) {
      net += line.net().minor();
      switch (line) {
        case QuoteLine.Labour labour -> {
          quotedLabour += ofMinutes(labour.minutes(), millionths(labour.costPerHour()));
          quotedLabourMinutes += labour.minutes();
        }
        case QuoteLine.Drive drive -> {
          long tenths = drive.miles().movePointRight(1).longValueExact();
          quotedDrive +=
              ofMinutes(drive.minutes(), millionths(drive.costPerHour()))
                  + divided(tenths * millionths(drive.costPerMile()) * 10, MILLION);
          quotedDriveMinutes += drive.minutes();
          quotedMiles = quotedMiles.add(drive.miles());
        }
        case QuoteLine.Part part -> {
          long thousandths = part.quantity().movePointRight(3).longValueExact();
          quotedParts += divided(thousandths * millionths(part.unitCost()), 10 * MILLION);
        }
        case QuoteLine.Other other -> quotedOther += other.cost().minor();
      }
    }
    long labour = 0;
    long drive = 0;
    long parts = 0;
    int labourMinutes = 0;
    int driveMinutes = 0;
    BigDecimal miles = BigDecimal.ZERO;
    for (VisitFacts visit : job.visits()) {
      for (TimeEntry entry : visit.times()) {
        long time =
            ofMinutes(entry.minutes(), perHour[(int) entry.personId()][place(entry.rateClass())]);
        if (entry.kind() == TimeEntry.Kind.LABOUR) {
          labour += time;
          labourMinutes += entry.minutes();
        } else if (entry.kind() == TimeEntry.Kind.DRIVE) {
          long tenths = entry.miles().movePointRight(1).longValueExact();
          drive += time + divided(tenths * perMile * 10, MILLION);
          driveMinutes += entry.minutes();
          miles = miles.add(entry.miles());
        }
      }
      for (PartUse part : visit.parts()) {
        parts += part.cost().minor();
      }
    }
    return new CostSheet(
        Map.of(
            Category.LABOUR, rung(quotedLabour, labour),
            Category.DRIVE, rung(quotedDrive, drive),
            Category.PARTS, rung(quotedParts, parts),
            Category.OTHER, rung(quotedOther, 0)),
        new Quantities(quotedLabourMinutes, quotedDriveMinutes, quotedMiles),
        new Quantities(labourMinutes, driveMinutes, miles),
        Money.ofMinor(net),
        Money.ofMinor(ofMinutes(labourMinutes, overheadPerHour)));
  }

  private static Rung rung(long quoted, long actual) {
    return new Rung(Money.ofMinor(quoted), Money.ofMinor(actual));
  }
}
