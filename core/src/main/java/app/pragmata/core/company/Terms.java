package app.pragmata.core.company;

import java.math.BigDecimal;
import java.time.LocalDate;

/**
 * All that prices or costs, each from a day on: the day of the work or of the document decides what
 * holds.
 */
public record Terms(
    Rates rates,
    InForce<ChargeTerms> charge,
    InForce<CostTerms> cost,
    InForce<Markup> markup,
    VatTreatments vat) {

  /** What an hour of a class is reckoned to cost before anybody is chosen for it, unrounded. */
  public BigDecimal standardCostPerHour(RateClass rateClass, LocalDate day) {
    return cost.on(day).standardCostPerHour().multiply(rates.costFactor(rateClass, day));
  }
}
