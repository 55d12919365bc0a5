package app.pragmata.core.company;

import java.math.BigDecimal;
import java.time.LocalDate;

/**
 * The rules by which time and parts are charged, from a day on.
 *
 * @param stepMinutes labour is rounded up to whole steps, per visit and rate class
 * @param minimumMinutes of labour per visit on which anybody worked
 * @param otherMarkupShare other costs are charged at cost x (1 + this share)
 * @param paymentDays within how many days a customer pays who has no terms of their own
 */
public record ChargeTerms(
    LocalDate fromDay,
    int stepMinutes,
    int minimumMinutes,
    DriveCharge drive,
    BigDecimal otherMarkupShare,
    int paymentDays)
    implements InForce.Dated {

  public ChargeTerms {
    if (stepMinutes < 1 || minimumMinutes < 0 || otherMarkupShare.signum() < 0 || paymentDays < 0) {
      throw new IllegalArgumentException(
          "Charge terms need a step of a minute or more and nothing negative");
    }
  }
}
