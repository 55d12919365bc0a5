package app.pragmata.server.quoting;

import app.pragmata.core.money.Minutes;
import app.pragmata.core.quoting.QuoteLine;
import java.math.BigDecimal;
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
      @Nullable String vat) {

    /** A stored line as it would be typed. */
    static TypedLine of(QuoteLine line) {
      return of(line, true);
    }

    /** A stored line without its price, so that the one in force is taken. */
    static TypedLine atTodaysPrice(QuoteLine line) {
      return of(line, false);
    }

    /** Labour in normal hours at the price in force. */
    static TypedLine labour(String description, String time) {
      return new TypedLine(
          "labour", description, time, "normal", null, null, null, null, null, null);
    }

    /** A drive at the price in force. */
    static TypedLine drive(String description, String time, String miles) {
      return new TypedLine("drive", description, time, null, miles, null, null, null, null, null);
    }

    private static TypedLine of(QuoteLine line, boolean priced) {
      String vat = line.vatRate().code();
      String category = line.category().label();
      String price = priced ? line.unitPrice().toString() : null;
      return switch (line) {
        case QuoteLine.Labour l ->
            new TypedLine(
                category,
                l.description(),
                Minutes.text(l.minutes()),
                l.rateClass().label(),
                null,
                null,
                null,
                null,
                price,
                vat);
        case QuoteLine.Drive d ->
            new TypedLine(
                category,
                d.description(),
                Minutes.text(d.minutes()),
                null,
                plain(d.miles()),
                null,
                null,
                null,
                price,
                vat);
        case QuoteLine.Part p ->
            new TypedLine(
                category,
                p.description(),
                null,
                null,
                null,
                p.partId(),
                plain(p.quantity()),
                null,
                price,
                vat);
        case QuoteLine.Other o ->
            new TypedLine(
                category,
                o.description(),
                null,
                null,
                null,
                null,
                plain(o.quantity()),
                o.unitCost().toString(),
                price == null ? o.unitPrice().toString() : price,
                vat);
      };
    }

    private static String plain(BigDecimal number) {
      return number.stripTrailingZeros().toPlainString();
    }
  }
}
