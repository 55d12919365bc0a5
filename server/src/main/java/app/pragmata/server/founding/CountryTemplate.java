package app.pragmata.server.founding;

import app.pragmata.core.books.AccountKind;
import app.pragmata.core.books.PostingCategory;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.Priority;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.money.VatCategory;
import java.math.BigDecimal;
import java.time.LocalTime;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is usual for a company of a country, in its language: a file of the program, in which no
 * field may be missing or misspelt. Money is in major units of the currency, shares are fractions.
 *
 * @param name how it is called on the page that founds a company
 * @param locale how numbers, days and words are written (BCP 47)
 * @param diallingCode without a plus
 * @param postcodePattern a regular expression
 * @param onCostShare what an employer pays on top of a wage
 * @param otherWork what people are paid for beside visits
 * @param store what the store is called
 */
record CountryTemplate(
    String name,
    String locale,
    String currency,
    String timeZone,
    String diallingCode,
    String postcodePattern,
    String postcodeExample,
    short quoteValidDays,
    BigDecimal floorMarginPercent,
    List<Vat> vat,
    WorkingHours workingHours,
    PayTerms payTerms,
    ChargeTerms chargeTerms,
    CostTerms costTerms,
    List<MarkupBand> markupBands,
    List<Rate> rates,
    BigDecimal vehicleCostPerMile,
    BigDecimal onCostShare,
    List<String> otherWork,
    String store,
    List<CostCentre> costCentres,
    List<KindOfJob> kindsOfJob,
    String responseTerms,
    List<ResponseTime> responseTimes,
    List<Account> accounts) {

  /**
   * A treatment; some have a reason. Of the rated ones the usual one has a percent unless every
   * company says it itself.
   */
  record Vat(
      String code,
      VatCategory category,
      String reason,
      boolean usual,
      @Nullable BigDecimal percent) {}

  /** Days by ISO 8601: Monday is 1. */
  record WorkingHours(
      List<Short> normalDays,
      LocalTime normalFrom,
      LocalTime normalTo,
      LocalTime nightFrom,
      LocalTime nightTo,
      RateClass onHolidays) {}

  /** How time is paid; without a limit by the day or the week where it is null. */
  record PayTerms(
      @Nullable Short dailyMinutes,
      @Nullable Short weeklyMinutes,
      List<Short> weekend,
      boolean breaksPaid,
      short roundingMinutes,
      BigDecimal overtimeFactor,
      BigDecimal nightFactor,
      BigDecimal weekendFactor,
      BigDecimal holidayFactor) {}

  record ChargeTerms(
      short stepMinutes,
      short minimumMinutes,
      DriveCharge.Rule driveCharge,
      BigDecimal driveChargePrice,
      BigDecimal otherMarkupShare,
      short paymentDays) {}

  record CostTerms(BigDecimal standardCostPerHour, BigDecimal overheadPerHour) {}

  record MarkupBand(BigDecimal upToCost, BigDecimal markupShare) {}

  record Rate(RateClass rateClass, BigDecimal costFactor, BigDecimal chargePerHour) {}

  record CostCentre(String code, String name) {}

  /** A kind of job; the first one is usual for calls. */
  record KindOfJob(String name, PromiseKind promise, int defaultMinutes, String costCentre) {}

  record ResponseTime(Priority priority, int minutes, boolean aroundTheClock) {}

  /** An account, and what is posted to it. */
  record Account(String code, String name, AccountKind kind, PostingCategory postings) {}
}
