package app.pragmata.core.company;

import java.math.BigDecimal;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

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

  /**
   * What an hour of somebody in a class is reckoned to cost on a day to come, unrounded: by their
   * own wage, or the standard cost where nobody is chosen or no wage is set for them.
   */
  public BigDecimal costPerHour(@Nullable Long personId, RateClass rateClass, LocalDate day) {
    return personId == null || !rates.hasWage(personId, day)
        ? standardCostPerHour(rateClass, day)
        : rates.costPerHour(personId, rateClass, day);
  }

  /** What an hour of a class is reckoned to cost before anybody is chosen for it, unrounded. */
  public BigDecimal standardCostPerHour(RateClass rateClass, LocalDate day) {
    return cost.on(day).standardCostPerHour().multiply(rates.costFactor(rateClass, day));
  }
}
