package app.pragmata.server.people;

import app.pragmata.core.billing.ChargeTerms;
import app.pragmata.core.customers.Postcode;
import app.pragmata.core.money.VatRate;
import app.pragmata.core.people.Rates;
import app.pragmata.core.people.WorkingHours;
import app.pragmata.core.planning.WorkingCalendar;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Map;

/** The company's settings and all rates, as one consistent reading. */
public record Company(
    String name,
    String currency,
    ZoneId zone,
    WorkingHours workingHours,
    WorkingCalendar calendar,
    Postcode postcode,
    String diallingCode,
    ChargeTerms chargeTerms,
    Rates rates,
    BigDecimal standardCostPerHour,
    BigDecimal overheadPerHour,
    int quoteValidDays,
    int depositDueDays,
    int followUpDays,
    BigDecimal floorMarginPercent,
    LetterWords letterWords,
    Map<String, VatRate> vatRates) {

  /** The office's own words around what a mail has to say; empty for none. */
  public record LetterWords(String opening, String closing) {}

  /** The cost per hour that quotes reckon with before anybody is chosen for the work. */
  public BigDecimal standardCostPerHour(
      app.pragmata.core.people.RateClass rateClass, LocalDate day) {
    BigDecimal factor =
        rates.termsByClass().get(rateClass) == null
            ? BigDecimal.ONE
            : rates.termsByClass().get(rateClass).on(day).costFactor();
    return standardCostPerHour.multiply(factor);
  }
}
