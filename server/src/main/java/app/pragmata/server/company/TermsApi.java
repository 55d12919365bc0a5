package app.pragmata.server.company;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.company.ChargeTerms;
import app.pragmata.core.company.CostTerms;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Rates;
import app.pragmata.core.company.Terms;
import app.pragmata.core.money.VatCategory;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** By which terms and rates a day's work is costed and charged. */
@RestController
class TermsApi {
  /** What an hour of a class is charged at, and how it multiplies what the hour costs. */
  record ClassRate(
      RateClass rateClass, BigDecimal costFactor, BigDecimal chargePerHour, LocalDate since) {}

  /** What an hour of a person costs: the wage x (1 + the share of on-costs), unrounded. */
  record WageRate(
      long personId,
      BigDecimal wagePerHour,
      BigDecimal onCostShare,
      BigDecimal costPerHour,
      LocalDate since) {}

  /**
   * Parts that cost at most so much are charged at cost x (1 + share), unless they have a price.
   */
  record MarkupBand(long upToCostMinor, BigDecimal markupShare) {}

  /**
   * A treatment of VAT.
   *
   * @param reason why there is no tax; empty where none is needed
   */
  record VatTerms(
      String code, VatCategory category, BigDecimal percent, String reason, boolean usual) {}

  /**
   * All that is in force on a day; prices in major units, shares of one.
   *
   * @param driveChargePrice per call-out, hour or mile, as the rule says
   * @param otherMarkupShare a supplier's bill is charged at its cost x (1 + this)
   */
  record TermsOfDay(
      LocalDate day,
      int stepMinutes,
      int minimumMinutes,
      DriveCharge.Rule driveCharge,
      BigDecimal driveChargePrice,
      BigDecimal otherMarkupShare,
      BigDecimal costPerMile,
      BigDecimal standardCostPerHour,
      BigDecimal overheadPerHour,
      List<MarkupBand> markup,
      List<ClassRate> rateClasses,
      List<WageRate> wages,
      List<VatTerms> vat) {}

  private final CompanyStore companies;

  TermsApi(CompanyStore companies) {
    this.companies = companies;
  }

  /** The terms of a day, today's where none is named. */
  @GetMapping("/api/terms")
  TermsOfDay getTerms(Act act, @RequestParam(defaultValue = "") String on) {
    var reading = new Reading();
    LocalDate asked = reading.optional("on", on, typed -> Day.parsePast(typed, act.today()));
    reading.refuseIfFaulty();
    LocalDate day = asked == null ? act.today() : asked;
    Terms terms = companies.getCompany().terms();
    ChargeTerms charge = terms.charge().on(day);
    CostTerms cost = terms.cost().on(day);
    return new TermsOfDay(
        day,
        charge.stepMinutes(),
        charge.minimumMinutes(),
        charge.drive().rule(),
        charge.drive().rate().major(),
        charge.otherMarkupShare(),
        terms.rates().costPerMile(day),
        cost.standardCostPerHour(),
        cost.overheadPerHour(),
        terms.markup().on(day).bands().stream()
            .map(band -> new MarkupBand(band.upToCost().minor(), band.markupShare()))
            .toList(),
        classes(terms.rates(), day),
        wages(terms.rates(), day),
        terms.vat().listOn(day).stream().map(each -> vat(each, terms.vat().usualCode())).toList());
  }

  private static List<ClassRate> classes(Rates rates, LocalDate day) {
    return Arrays.stream(RateClass.values())
        .filter(rates.termsByClass()::containsKey)
        .map(
            rateClass -> {
              Rates.ClassTerms terms = rates.termsByClass().get(rateClass).on(day);
              return new ClassRate(
                  rateClass, terms.costFactor(), terms.chargePerHour().major(), terms.fromDay());
            })
        .toList();
  }

  /** Of everybody who had a wage on that day. */
  private static List<WageRate> wages(Rates rates, LocalDate day) {
    return rates.wageByPerson().entrySet().stream()
        .filter(person -> person.getValue().isSetOn(day))
        .sorted(Map.Entry.comparingByKey(Comparator.naturalOrder()))
        .map(
            person -> {
              Rates.Wage wage = person.getValue().on(day);
              return new WageRate(
                  person.getKey(),
                  wage.wagePerHour(),
                  wage.onCostShare(),
                  wage.costPerHour(),
                  wage.fromDay());
            })
        .toList();
  }

  private static VatTerms vat(VatTreatment treatment, String usual) {
    return new VatTerms(
        treatment.code(),
        treatment.group().category(),
        treatment.group().percent(),
        treatment.group().reason(),
        treatment.code().equals(usual));
  }
}
