package app.pragmata.core.billing;

import app.pragmata.core.money.VatRate;
import app.pragmata.core.quoting.DriveCharge;
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

  public ChargeTerms {
    if (stepMinutes < 1 || minimumMinutes < 0 || otherMarkupShare.signum() < 0) {
      throw new IllegalArgumentException(
          "Charge terms need a step of a minute or more and nothing negative");
    }
  }
}
