package app.pragmata.core.jobs;

import app.pragmata.core.money.Share;
import java.time.LocalDate;

/** A piece of equipment's warranty, with its dates (all inclusive). */
public record Warranty(
    LocalDate from,
    LocalDate partsUntil,
    Share partsShare,
    LocalDate labourUntil,
    Share labourShare) {

  /** What it bears of a fault that was reported on this day. */
  public Cover on(LocalDate day) {
    return new Cover(
        covers(day, partsUntil) ? partsShare : Share.NOTHING,
        covers(day, labourUntil) ? labourShare : Share.NOTHING);
  }

  private boolean covers(LocalDate day, LocalDate until) {
    return !day.isBefore(from) && !day.isAfter(until);
  }
}
