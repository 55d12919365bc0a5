package app.pragmata.core.costing;

import static app.pragmata.core.jobs.TimeEntry.Kind.BREAK;
import static app.pragmata.core.jobs.TimeEntry.Kind.DRIVE;
import static app.pragmata.core.jobs.TimeEntry.Kind.LABOUR;

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
import java.util.EnumMap;
import java.util.List;
import java.util.stream.Stream;

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

  /** The whole ladder of a job, at whatever point its work has reached. */
  public CostSheet cost(JobFacts job) {
    var rungs = new EnumMap<Category, Rung>(Category.class);
    for (Category category : Category.values()) {
      rungs.put(category, new Rung(quotedCost(job.promise(), category), actualCost(job, category)));
    }
    return new CostSheet(
        rungs,
        quotedQuantities(job.promise()),
        actualQuantities(job),
        job.promise().stream().map(QuoteLine::net).collect(Money.sum()),
        overhead(job));
  }

  private static Money quotedCost(List<QuoteLine> promise, Category category) {
    return promise.stream()
        .filter(line -> line.category() == category)
        .map(QuoteLine::cost)
        .collect(Money.sum());
  }

  private Money actualCost(JobFacts job, Category category) {
    Stream<Money> costs =
        switch (category) {
          case LABOUR -> job.times(LABOUR).map(entry -> cost(entry).total());
          case DRIVE -> job.times(DRIVE).map(entry -> cost(entry).total());
          case PARTS -> job.parts().map(PartUse::cost);
          case OTHER -> job.otherCosts().stream().map(JobFacts.OtherCost::cost);
        };
    return costs.collect(Money.sum());
  }

  /** Each hour absorbs the overhead of its own day; rounded half up once. */
  private Money overhead(JobFacts job) {
    return Money.rounded(
        job.times(LABOUR)
            .map(
                entry ->
                    terms
                        .cost()
                        .on(entry.day())
                        .overheadPerHour()
                        .multiply(BigDecimal.valueOf(entry.minutes())))
            .reduce(BigDecimal.ZERO, BigDecimal::add)
            .divide(MINUTES_PER_HOUR, 2, RoundingMode.HALF_UP));
  }

  private static Quantities quotedQuantities(List<QuoteLine> promise) {
    int labour = 0;
    int drive = 0;
    BigDecimal miles = BigDecimal.ZERO;
    for (QuoteLine line : promise) {
      switch (line) {
        case QuoteLine.Labour hours -> labour += hours.minutes();
        case QuoteLine.Drive leg -> {
          drive += leg.minutes();
          miles = miles.add(leg.miles());
        }
        case QuoteLine.Part part -> {}
        case QuoteLine.Other other -> {}
      }
    }
    return new Quantities(labour, drive, miles);
  }

  private static Quantities actualQuantities(JobFacts job) {
    return new Quantities(
        job.times(LABOUR).mapToInt(TimeEntry::minutes).sum(),
        job.times(DRIVE).mapToInt(TimeEntry::minutes).sum(),
        job.times(DRIVE).map(TimeEntry::miles).reduce(BigDecimal.ZERO, BigDecimal::add));
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
