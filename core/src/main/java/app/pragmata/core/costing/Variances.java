package app.pragmata.core.costing;

import app.pragmata.core.Category;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.math.MathContext;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Why a job cost other than quoted (the textbooks' quantity and price variances). The parts of a
 * category add up to its variance to the penny: all but the last are rounded half up, the last is
 * the rest. Positive is dearer.
 */
public record Variances(Labour labour, Drive drive, Parts parts, Money other) {
  /** Of labour: by more or fewer hours at the quoted rate, and by the rate. */
  public record Labour(Money hours, Money rate) {}

  /** Of the drive: by minutes and by miles at the quoted rates, and by the rates. */
  public record Drive(Money minutes, Money miles, Money rate) {}

  /** Of parts: by what was fitted more or less, at the quoted cost, and by what it cost. */
  public record Parts(Money quantity, Money price) {}

  /**
   * What was quoted of one thing.
   *
   * @param cost the sum of quantity x exact rate, unrounded
   */
  private record Quoted(BigDecimal quantity, BigDecimal cost) {
    static <T> Quoted of(
        List<T> lines, Function<T, BigDecimal> quantity, Function<T, BigDecimal> rate) {
      return new Quoted(
          lines.stream().map(quantity).reduce(BigDecimal.ZERO, BigDecimal::add),
          lines.stream()
              .map(line -> quantity.apply(line).multiply(rate.apply(line)))
              .reduce(BigDecimal.ZERO, BigDecimal::add));
    }

    /**
     * What the difference to the actual quantity comes to at the quoted rate, unrounded: divided
     * once, so that half a penny stays half a penny.
     *
     * @param spent what the actual quantity cost, all of which it is where nothing was quoted
     * @param per for how many the rate is
     */
    BigDecimal difference(BigDecimal actual, Money spent, int per) {
      return quantity.signum() == 0
          ? spent.major()
          : actual
              .subtract(quantity)
              .multiply(cost)
              .divide(quantity.multiply(BigDecimal.valueOf(per)), MathContext.DECIMAL128);
    }
  }

  /**
   * Of a job.
   *
   * @param sheet with its rungs and quantities
   * @param driveTime what the minutes driven cost
   * @param driveDistance what the miles driven cost
   */
  static Variances of(JobFacts job, CostSheet sheet, Money driveTime, Money driveDistance) {
    return new Variances(
        labour(job.promise(), sheet),
        drive(job.promise(), sheet, driveTime, driveDistance),
        parts(job, sheet.rung(Category.PARTS).variance()),
        sheet.rung(Category.OTHER).variance());
  }

  private static Labour labour(List<QuoteLine> promise, CostSheet sheet) {
    CostSheet.Rung rung = sheet.rung(Category.LABOUR);
    Quoted quoted =
        Quoted.of(
            lines(promise, QuoteLine.Labour.class),
            line -> BigDecimal.valueOf(line.minutes()),
            QuoteLine.Labour::costPerHour);
    Money hours =
        Money.rounded(
            quoted.difference(
                BigDecimal.valueOf(sheet.actual().labourMinutes()), rung.variance(), 60));
    return new Labour(hours, rung.variance().minus(hours));
  }

  private static Drive drive(
      List<QuoteLine> promise, CostSheet sheet, Money driveTime, Money driveDistance) {
    List<QuoteLine.Drive> lines = lines(promise, QuoteLine.Drive.class);
    Money minutes =
        Money.rounded(
            Quoted.of(
                    lines, line -> BigDecimal.valueOf(line.minutes()), QuoteLine.Drive::costPerHour)
                .difference(BigDecimal.valueOf(sheet.actual().driveMinutes()), driveTime, 60));
    Money miles =
        Money.rounded(
            Quoted.of(lines, QuoteLine.Drive::miles, QuoteLine.Drive::costPerMile)
                .difference(sheet.actual().miles(), driveDistance, 1));
    Money whole = sheet.rung(Category.DRIVE).variance();
    return new Drive(minutes, miles, whole.minus(minutes).minus(miles));
  }

  private static Parts parts(JobFacts job, Money whole) {
    Map<Long, List<QuoteLine.Part>> quoted =
        lines(job.promise(), QuoteLine.Part.class).stream()
            .collect(Collectors.groupingBy(QuoteLine.Part::partId));
    Map<Long, List<PartUse>> used = job.parts().collect(Collectors.groupingBy(PartUse::partId));
    var ids = new HashMap<Long, List<PartUse>>(used);
    quoted.keySet().forEach(id -> ids.putIfAbsent(id, List.of()));
    BigDecimal differences = BigDecimal.ZERO;
    for (Map.Entry<Long, List<PartUse>> part : ids.entrySet()) {
      differences =
          differences.add(
              Quoted.of(
                      quoted.getOrDefault(part.getKey(), List.of()),
                      QuoteLine.Part::quantity,
                      QuoteLine.Part::unitCost)
                  .difference(
                      part.getValue().stream()
                          .map(PartUse::quantity)
                          .reduce(BigDecimal.ZERO, BigDecimal::add),
                      part.getValue().stream().map(PartUse::cost).collect(Money.sum()),
                      1));
    }
    Money quantity = Money.rounded(differences);
    return new Parts(quantity, whole.minus(quantity));
  }

  private static <T extends QuoteLine> List<T> lines(List<QuoteLine> promise, Class<T> kind) {
    return promise.stream().filter(kind::isInstance).map(kind::cast).toList();
  }
}
