package app.pragmata.core.billing;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatRate;
import java.math.BigDecimal;

/**
 * The rules by which time and parts are charged.
 *
 * @param stepMinutes labour is rounded up to whole steps, per visit and rate class
 * @param minimumMinutes of labour per visit on which anybody worked
 * @param otherMarkupShare other costs are charged at cost x (1 + this share)
 * @param vatRate for labour, drive and other costs; parts bring their own
 */
public record ChargeTerms(
    int stepMinutes,
    int minimumMinutes,
    DriveCharge drive,
    BigDecimal otherMarkupShare,
    VatRate vatRate) {

  /** How driving is charged, per visit. */
  public sealed interface DriveCharge {
    /** Driving minutes at a rate, not rounded up. */
    record PerHour(Money rate) implements DriveCharge {}

    record PerMile(Money rate) implements DriveCharge {}

    /** One amount for a visit that was driven or worked; driving is otherwise free. */
    record PerCallOut(Money amount) implements DriveCharge {}

    record None() implements DriveCharge {}

    /** What a drive comes to, rounded half up; for quoting one before it is driven. */
    default Money amountFor(int minutes, BigDecimal miles) {
      return switch (this) {
        case PerHour perHour -> Money.forMinutes(minutes, perHour.rate().major());
        case PerMile perMile -> perMile.rate().times(miles);
        case PerCallOut callOut -> callOut.amount();
        case None none -> Money.ZERO;
      };
    }
  }

  public ChargeTerms {
    if (stepMinutes < 1 || minimumMinutes < 0 || otherMarkupShare.signum() < 0) {
      throw new IllegalArgumentException(
          "Charge terms need a step of a minute or more and nothing negative");
    }
  }
}
