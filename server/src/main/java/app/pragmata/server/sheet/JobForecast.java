package app.pragmata.server.sheet;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Forecast;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.costing.Because;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.costing.Variances;
import app.pragmata.core.costing.WorkAhead;
import app.pragmata.core.costing.WorkAhead.Item;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.company.Company;
import app.pragmata.server.jobs.WholeJob;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What a job comes to at its end: spent so far and all that is to come. Money is in minor units.
 *
 * @param marginPercent of the net; null where nothing is charged
 * @param floorPercent what the company wants to keep
 * @param belowFloor whether less is kept than that, of a job that is charged
 * @param reasons why it is below; empty where it is not
 * @param remedy what can still be done about it; empty where it is not below
 * @param overheadMinor of all labour, done and to come; below the margin
 */
public record JobForecast(
    List<ForecastRung> rungs,
    int labourMinutes,
    int promisedLabourMinutes,
    long costMinor,
    long netMinor,
    long marginMinor,
    @Nullable BigDecimal marginPercent,
    BigDecimal floorPercent,
    boolean belowFloor,
    List<String> reasons,
    String remedy,
    long overheadMinor,
    List<ToCome> ahead) {

  /**
   * Of one category.
   *
   * @param costMinor spent and to come
   * @param overMinor more than quoted, or less below nothing
   * @param because why
   */
  public record ForecastRung(
      Category category, long costMinor, long overMinor, List<JobSheet.Reason> because) {}

  /**
   * Something that is to come.
   *
   * @param visitId of the visit that it is for; null for none yet
   * @param person who is planned for it; empty for nobody
   * @param day of which its rates are; null of a part
   * @param rateClass of time; null of anything else
   * @param description as it was promised; empty of what is planned
   * @param quantity of a part; nothing of anything else
   */
  public record ToCome(
      WorkAhead.Kind kind,
      Category category,
      @Nullable Long visitId,
      String person,
      @Nullable LocalDate day,
      @Nullable RateClass rateClass,
      String description,
      int minutes,
      BigDecimal miles,
      BigDecimal quantity,
      long costMinor) {}

  static JobForecast of(Forecast forecast, WholeJob job, Company company) {
    BigDecimal floorPercent = company.quoting().floorMarginPercent();
    JobFacts atTheEnd = forecast.ahead().addedTo(job.facts(company.zone()));
    CostSheet sheet = forecast.sheet();
    Variances variances = new Costing(company.terms()).variances(atTheEnd, sheet);
    Map<Long, String> names =
        job.visits().stream()
            .flatMap(
                visit ->
                    Stream.concat(
                        visit.technicianId() == null
                            ? Stream.of()
                            : Stream.of(Map.entry(visit.technicianId(), "" + visit.technician())),
                        visit.companions().stream()
                            .map(companion -> Map.entry(companion.id(), companion.name()))))
            .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue, (one, same) -> one));
    boolean below = forecast.isBelow(floorPercent);
    return new JobForecast(
        Arrays.stream(Category.values())
            .map(
                category ->
                    new ForecastRung(
                        category,
                        sheet.rung(category).actual().minor(),
                        sheet.rung(category).variance().minor(),
                        Because.of(atTheEnd, sheet, variances, category).stream()
                            .map(JobSheet.Reason::of)
                            .toList()))
            .toList(),
        sheet.actual().labourMinutes(),
        sheet.quoted().labourMinutes(),
        sheet.actualCost().minor(),
        forecast.net().minor(),
        forecast.margin().amount().minor(),
        forecast.margin().percent(),
        floorPercent,
        below,
        forecast.reasons(floorPercent),
        below ? forecast.remedy() : "",
        sheet.overhead().minor(),
        forecast.ahead().items().stream().map(item -> toCome(item, names::get)).toList());
  }

  private static ToCome toCome(Item item, Function<Long, @Nullable String> names) {
    TimeEntry time = item instanceof Item.Time timed ? timed.entry() : null;
    String person = time == null ? null : names.apply(time.personId());
    return new ToCome(
        item.kind(),
        item.category(),
        item.visitId() == 0 ? null : Long.valueOf(item.visitId()),
        person == null ? "" : person,
        time == null ? null : time.day(),
        time == null ? null : time.rateClass(),
        item.description(),
        time == null ? 0 : time.minutes(),
        time == null ? BigDecimal.ZERO : time.miles(),
        item instanceof Item.Part part ? part.use().quantity() : BigDecimal.ZERO,
        item.cost().minor());
  }
}
