package app.pragmata.server.company;

import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.InForce;
import app.pragmata.core.company.PayClass;
import app.pragmata.core.company.PayTerms;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Rates;
import app.pragmata.core.company.Terms;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The terms as the office enters and reads them, of each kind the latest first: prices in major
 * units, shares as percentages. Each holds from its day until the next of its kind.
 *
 * @param version of the company, with which a change is sent
 */
record EnteredTerms(
    int version,
    List<Hours> workingHours,
    List<Pay> pay,
    List<RatesOfDay> rates,
    List<Charges> charges,
    List<Costs> costs,
    List<MarkupBands> markup) {
  /** Something that is entered with the day from which it holds. */
  interface Entered {
    LocalDate fromDay();
  }

  /**
   * When an hour is normal or night; what is neither is overtime.
   *
   * @param normalDays by ISO 8601: Monday is 1
   * @param onHolidays what the hours of a holiday are that are not night
   */
  record Hours(
      LocalDate fromDay,
      List<Integer> normalDays,
      LocalTime normalFrom,
      LocalTime normalTo,
      LocalTime nightFrom,
      LocalTime nightTo,
      RateClass onHolidays)
      implements Entered {}

  /**
   * How time is paid.
   *
   * @param dailyMinutes of normal time past which a day is overtime; null for however many
   * @param weeklyMinutes of normal time past which a week is overtime; null for however many
   * @param weekend days by ISO 8601: Monday is 1
   * @param roundingMinutes the paid time of a day is rounded to whole steps of so many
   * @param overtimePercent of the wage, as are the others
   */
  record Pay(
      LocalDate fromDay,
      @Nullable Integer dailyMinutes,
      @Nullable Integer weeklyMinutes,
      List<Integer> weekend,
      boolean breaksPaid,
      int roundingMinutes,
      BigDecimal overtimePercent,
      BigDecimal nightPercent,
      BigDecimal weekendPercent,
      BigDecimal holidayPercent)
      implements Entered {
    static Pay of(PayTerms terms) {
      return new Pay(
          terms.fromDay(),
          terms.dailyMinutes(),
          terms.weeklyMinutes(),
          terms.weekend().stream().map(DayOfWeek::getValue).sorted().toList(),
          terms.breaksPaid(),
          terms.roundingMinutes(),
          percent(terms.factor(PayClass.OVERTIME)),
          percent(terms.factor(PayClass.NIGHT)),
          percent(terms.factor(PayClass.WEEKEND)),
          percent(terms.factor(PayClass.HOLIDAY)));
    }
  }

  /** What hours are charged at, and how their class multiplies what they cost. */
  record RatesOfDay(LocalDate fromDay, List<ClassRate> classes) implements Entered {}

  /**
   * The rate of one class.
   *
   * @param costPercent of the wage with its on-costs
   */
  record ClassRate(RateClass rateClass, BigDecimal chargePerHour, BigDecimal costPercent) {}

  /**
   * How time, driving and suppliers' bills are charged, and when customers pay.
   *
   * @param stepMinutes labour is rounded up to whole steps, for each visit and class
   * @param driveChargePrice per call-out, hour or mile, as the rule says
   */
  record Charges(
      LocalDate fromDay,
      int stepMinutes,
      int minimumMinutes,
      DriveCharge.Rule driveCharge,
      BigDecimal driveChargePrice,
      BigDecimal otherMarkupPercent,
      int paymentDays)
      implements Entered {}

  /** What an hour costs whoever works it, and a mile whoever drives. */
  record Costs(
      LocalDate fromDay,
      BigDecimal standardCostPerHour,
      BigDecimal overheadPerHour,
      BigDecimal costPerMile)
      implements Entered {}

  /** By how much parts without a price of their own are marked up; the cheapest first. */
  record MarkupBands(LocalDate fromDay, List<MarkupBand> bands) implements Entered {}

  /** Parts that cost at most so much; the last band takes all that cost more, too. */
  record MarkupBand(BigDecimal upToCost, BigDecimal markupPercent) {}

  static EnteredTerms of(Company company, int version) {
    Terms terms = company.terms();
    return new EnteredTerms(
        version,
        company.calendar().hours().terms().stream()
            .map(
                hours ->
                    new Hours(
                        hours.fromDay(),
                        hours.normalDays().stream().map(day -> day.getValue()).sorted().toList(),
                        hours.normalFrom(),
                        hours.normalTo(),
                        hours.nightFrom(),
                        hours.nightTo(),
                        hours.onHolidays()))
            .toList(),
        company.pay().terms().stream().map(Pay::of).toList(),
        everyDay(terms.rates().termsByClass().values().stream(), day -> rates(terms.rates(), day)),
        terms.charge().terms().stream()
            .map(
                charge ->
                    new Charges(
                        charge.fromDay(),
                        charge.stepMinutes(),
                        charge.minimumMinutes(),
                        charge.drive().rule(),
                        charge.drive().rate().major(),
                        percent(charge.otherMarkupShare()),
                        charge.paymentDays()))
            .toList(),
        everyDay(
            Stream.of(terms.cost(), terms.rates().vehicle()),
            day ->
                new Costs(
                    day,
                    plain(terms.cost().on(day).standardCostPerHour()),
                    plain(terms.cost().on(day).overheadPerHour()),
                    plain(terms.rates().costPerMile(day)))),
        terms.markup().terms().stream()
            .map(
                markup ->
                    new MarkupBands(
                        markup.fromDay(),
                        markup.bands().stream()
                            .map(
                                band ->
                                    new MarkupBand(
                                        plain(band.upToCost().major()),
                                        percent(band.markupShare())))
                            .toList()))
            .toList());
  }

  /** The terms of a kind that hold on a day. */
  static <T extends Entered> T on(LocalDate day, List<T> latestFirst) {
    return latestFirst.stream()
        .filter(terms -> !terms.fromDay().isAfter(day))
        .findFirst()
        .orElseGet(latestFirst::getLast);
  }

  private static RatesOfDay rates(Rates rates, LocalDate day) {
    return new RatesOfDay(
        day,
        Arrays.stream(RateClass.values())
            .map(
                rateClass ->
                    new ClassRate(
                        rateClass,
                        rates.chargePerHour(rateClass, day).major(),
                        percent(rates.costFactor(rateClass, day))))
            .toList());
  }

  /** What is entered as one and kept apart: a row for each day on which any of it changes. */
  private static <T> List<T> everyDay(
      Stream<? extends InForce<?>> kept, Function<LocalDate, T> entered) {
    return kept.flatMap(each -> each.terms().stream().map(InForce.Dated::fromDay))
        .distinct()
        .sorted(Comparator.reverseOrder())
        .map(entered)
        .toList();
  }

  private static BigDecimal percent(BigDecimal share) {
    return plain(share.movePointRight(2));
  }

  private static BigDecimal plain(BigDecimal number) {
    return number.signum() == 0 ? BigDecimal.ZERO : number.stripTrailingZeros();
  }
}
