package app.pragmata.core.billing;

import app.pragmata.core.money.Share;
import java.time.LocalDate;

/**
 * What a piece of equipment's warranty bears of the charge, inside its dates (all inclusive). Cost
 * is never reduced.
 */
public record Warranty(
    LocalDate from,
    LocalDate partsUntil,
    Share partsShare,
    LocalDate labourUntil,
    Share labourShare) {
  public static final Warranty NONE =
      new Warranty(LocalDate.MIN, LocalDate.MIN, Share.NOTHING, LocalDate.MIN, Share.NOTHING);

  public Share forParts(LocalDate day) {
    return covers(day, partsUntil) ? partsShare : Share.NOTHING;
  }

  /** For labour and drive alike. */
  public Share forLabour(LocalDate day) {
    return covers(day, labourUntil) ? labourShare : Share.NOTHING;
  }

  private boolean covers(LocalDate day, LocalDate until) {
    return !day.isBefore(from) && !day.isAfter(until);
  }
}
