package app.pragmata.core.costing;

import static app.pragmata.core.jobs.TimeEntry.Kind.BREAK;
import static app.pragmata.core.jobs.TimeEntry.Kind.DRIVE;

import app.pragmata.core.Category;
import app.pragmata.core.company.Terms;
import app.pragmata.core.costing.CostSheet.Quantities;
import app.pragmata.core.costing.CostSheet.Rung;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.List;
import java.util.Map;

/**
 * Job costing at actual cost: every minute, mile and part at the rate in force when it was spent.
 */
public record Costing(Terms terms) {
  private static final BigDecimal MINUTES_PER_HOUR = BigDecimal.valueOf(60);

  /**
   * What one entry costs: as it was approved, or else at the rates in force on the day worked; a
   * break costs nothing.
   */
  public TimeEntry.Cost cost(TimeEntry entry) {
    if (entry.approved() != null) {
      return entry.approved();
    }
    if (entry.kind() == BREAK) {
      return new TimeEntry.Cost(Money.ZERO, Money.ZERO);
    }
    BigDecimal perHour =
        terms.rates().costPerHour(entry.personId(), entry.rateClass(), entry.day());
    Money distance =
        entry.miles().signum() == 0
            ? Money.ZERO
            : Money.rounded(entry.miles().multiply(terms.rates().costPerMile(entry.day())));
    return new TimeEntry.Cost(Money.forMinutes(entry.minutes(), perHour), distance);
  }

  /**
   * The rates in force on the day worked by which a time entry is costed, all exact: an hour costs
   * wage x (1 + on-cost share) x class factor.
   *
   * @param costPerMile of the distance; also of an entry without one
   */
  public record RatesOfDay(
      BigDecimal wagePerHour,
      BigDecimal onCostShare,
      BigDecimal classFactor,
      BigDecimal costPerMile) {
    /** What an hour of it costs. */
    public BigDecimal costPerHour() {
      return wagePerHour.multiply(BigDecimal.ONE.add(onCostShare)).multiply(classFactor);
    }
  }

  /** By which rates an entry is costed; those of today's settings, also where it was approved. */
  public RatesOfDay rates(TimeEntry entry) {
    var wage = terms.rates().wage(entry.personId(), entry.day());
    return new RatesOfDay(
        wage.wagePerHour(),
        wage.onCostShare(),
        terms.rates().costFactor(entry.rateClass(), entry.day()),
        terms.rates().costPerMile(entry.day()));
  }

  /** The whole ladder of a job, at whatever point its work has reached. */
  public CostSheet cost(JobFacts job) {
    Tally quoted = quoted(job.promise());
    Tally actual = actual(job);
    return new CostSheet(
        Map.of(
            Category.LABOUR, new Rung(quoted.labour, actual.labour),
            Category.DRIVE, new Rung(quoted.drive, actual.drive),
            Category.PARTS, new Rung(quoted.parts, actual.parts),
            Category.OTHER, new Rung(quoted.other, actual.other)),
        quoted.quantities(),
        actual.quantities(),
        quoted.net,
        Money.rounded(actual.overheadSixtieths.divide(MINUTES_PER_HOUR, 2, RoundingMode.HALF_UP)));
  }

  private static Tally quoted(List<QuoteLine> promise) {
    var tally = new Tally();
    for (QuoteLine line : promise) {
      tally.net = tally.net.plus(line.net());
      switch (line) {
        case QuoteLine.Labour hours -> tally.work(hours.minutes(), hours.cost());
        case QuoteLine.Drive leg -> tally.go(leg.minutes(), leg.miles(), leg.cost());
        case QuoteLine.Part part -> tally.parts = tally.parts.plus(part.cost());
        case QuoteLine.Other other -> tally.other = tally.other.plus(other.cost());
      }
    }
    return tally;
  }

  private Tally actual(JobFacts job) {
    var tally = new Tally();
    for (JobFacts.VisitFacts visit : job.visits()) {
      visit.times().forEach(entry -> add(entry, tally));
      visit.drivesHome().forEach(entry -> add(entry, tally));
      for (PartUse part : visit.parts()) {
        tally.parts = tally.parts.plus(part.cost());
      }
    }
    for (JobFacts.OtherCost other : job.otherCosts()) {
      tally.other = tally.other.plus(other.cost());
    }
    return tally;
  }

  private void add(TimeEntry entry, Tally tally) {
    switch (entry.kind()) {
      case LABOUR -> {
        tally.work(entry.minutes(), cost(entry).total());
        // Each hour absorbs the overhead of its own day.
        tally.overheadSixtieths =
            tally.overheadSixtieths.add(
                terms
                    .cost()
                    .on(entry.day())
                    .overheadPerHour()
                    .multiply(BigDecimal.valueOf(entry.minutes())));
      }
      case DRIVE -> tally.go(entry.minutes(), entry.miles(), cost(entry).total());
      case BREAK -> {}
    }
  }

  /** What a job comes to, added up in one go over its facts. */
  private static final class Tally {
    private Money labour = Money.ZERO;
    private Money drive = Money.ZERO;
    private Money parts = Money.ZERO;
    private Money other = Money.ZERO;
    private Money net = Money.ZERO;
    private int labourMinutes;
    private int driveMinutes;
    private BigDecimal miles = BigDecimal.ZERO;
    private BigDecimal overheadSixtieths = BigDecimal.ZERO;

    void work(int minutes, Money cost) {
      labourMinutes += minutes;
      labour = labour.plus(cost);
    }

    void go(int minutes, BigDecimal distance, Money cost) {
      driveMinutes += minutes;
      miles = miles.add(distance);
      drive = drive.plus(cost);
    }

    Quantities quantities() {
      return new Quantities(labourMinutes, driveMinutes, miles);
    }
  }

  /** Why the job cost other than quoted; the sheet is the job's. */
  public Variances variances(JobFacts job, CostSheet sheet) {
    return Variances.of(
        job,
        sheet,
        job.times(DRIVE).map(entry -> cost(entry).time()).collect(Money.sum()),
        job.times(DRIVE).map(entry -> cost(entry).distance()).collect(Money.sum()));
  }
}
