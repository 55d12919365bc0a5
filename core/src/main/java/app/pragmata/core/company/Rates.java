package app.pragmata.core.company;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What an hour and a mile cost, and what an hour is charged at, on any day. All per-hour rates are
 * exact.
 */
public record Rates(
    Map<Long, InForce<Wage>> wageByPerson,
    Map<RateClass, InForce<ClassTerms>> termsByClass,
    InForce<VehicleCost> vehicle) {

  /**
   * A person's pay from a day on; on-costs (employer's contributions, holidays) are a share of the
   * wage.
   */
  public record Wage(LocalDate fromDay, BigDecimal wagePerHour, BigDecimal onCostShare)
      implements InForce.Dated {
    /** Cost rate = wage x (1 + on-cost share), unrounded. */
    public BigDecimal costPerHour() {
      return wagePerHour.multiply(BigDecimal.ONE.add(onCostShare));
    }
  }

  /** How a rate class multiplies the cost rate, and what it is charged at. */
  public record ClassTerms(LocalDate fromDay, BigDecimal costFactor, UnitPrice chargePerHour)
      implements InForce.Dated {}

  /** The vans' running cost per mile. */
  public record VehicleCost(LocalDate fromDay, BigDecimal costPerMile) implements InForce.Dated {}

  public Rates {
    wageByPerson = Map.copyOf(wageByPerson);
    termsByClass = Map.copyOf(termsByClass);
  }

  /** What an hour of this person in this class costs on the day worked, unrounded. */
  public BigDecimal costPerHour(long personId, RateClass rateClass, LocalDate day) {
    return wage(personId, day).costPerHour().multiply(costFactor(rateClass, day));
  }

  /** The pay of a person that is in force on a day; refused when there is none. */
  public Wage wage(long personId, LocalDate day) {
    return require(wageByPerson.get(personId), "wage for this technician").on(day);
  }

  /** Whether a wage of this person is in force on the day. */
  boolean hasWage(long personId, LocalDate day) {
    InForce<Wage> wage = wageByPerson.get(personId);
    return wage != null && wage.isSetOn(day);
  }

  /** By how much the class multiplies what an hour costs. */
  public BigDecimal costFactor(RateClass rateClass, LocalDate day) {
    return terms(rateClass).on(day).costFactor();
  }

  public UnitPrice chargePerHour(RateClass rateClass, LocalDate day) {
    return terms(rateClass).on(day).chargePerHour();
  }

  public BigDecimal costPerMile(LocalDate day) {
    return vehicle.on(day).costPerMile();
  }

  private InForce<ClassTerms> terms(RateClass rateClass) {
    return require(termsByClass.get(rateClass), rateClass.code() + " rate");
  }

  private static <T> T require(@Nullable T terms, String what) {
    if (terms == null) {
      throw new Refused(Rule.NOTHING_IN_FORCE, "No " + what + " is set. Enter it first.");
    }
    return terms;
  }
}
