package app.pragmata.server.quoting;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A quote as it is typed; null and empty mean not entered. */
public record QuoteForm(
    int version,
    @Nullable Long siteId,
    @Nullable Long equipmentId,
    @Nullable Long kindOfJobId,
    @Nullable String title,
    @Nullable String validUntil,
    @Nullable String notes,
    List<TypedLine> lines) {

  /**
   * A line as it is typed. What a category does not use stays empty.
   *
   * @param time labour or driving, such as 2:30
   * @param cost per unit, for other lines only: labour, drive and parts know their cost
   * @param price per hour, per unit, or for the drive as a whole; empty takes the current one
   */
  public record TypedLine(
      String category,
      @Nullable String description,
      @Nullable String time,
      @Nullable String rateClass,
      @Nullable String miles,
      @Nullable Long partId,
      @Nullable String quantity,
      @Nullable String cost,
      @Nullable String price,
      @Nullable String vat) {}
}
