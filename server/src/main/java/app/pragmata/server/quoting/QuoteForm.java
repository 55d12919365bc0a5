package app.pragmata.server.quoting;

import app.pragmata.core.money.Minutes;
import app.pragmata.core.quoting.Choice;
import app.pragmata.core.quoting.OfferLine;
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
    @Nullable String ownNotes,
    @Nullable String discount,
    @Nullable String deposit,
    @Nullable String depositDueDays,
    @Nullable List<TypedStage> stages,
    List<TypedLine> lines) {

  /** An offer without discount, deposit, stages or notes of our own. */
  public static QuoteForm plain(
      long siteId,
      @Nullable Long equipmentId,
      long kindOfJobId,
      String title,
      List<TypedLine> lines) {
    return new QuoteForm(
        0,
        siteId,
        equipmentId,
        kindOfJobId,
        title,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        lines);
  }

  /** A stage as it is typed: when it falls due, and its share or amount. */
  public record TypedStage(@Nullable String name, @Nullable String part) {}

  /**
   * A line as it is typed. What a category does not use stays empty.
   *
   * @param time labour or driving, such as 2:30
   * @param cost per unit, for other lines only: labour, drive and parts know their cost
   * @param price per hour, per unit, or for the drive as a whole; empty takes the current one
   * @param discount an amount or a share, such as 10%
   * @param choice included, option or alternative; empty is included
   * @param group what the alternatives that exclude each other have in common
   * @param taken whether an option or alternative counts as things stand
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
      @Nullable String vat,
      @Nullable String discount,
      @Nullable String choice,
      @Nullable String group,
      @Nullable Boolean taken) {

    /** A line that belongs to the offer in any case, at its full price. */
    public TypedLine(
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
      this(
          category,
          description,
          time,
          rateClass,
          miles,
          partId,
          quantity,
          cost,
          price,
          vat,
          null,
          null,
          null,
          null);
    }

    /** The same line, for which the price in force is taken. */
    TypedLine withoutPrice() {
      String kept = category.equals("other") ? price : null;
      return new TypedLine(
          category,
          description,
          time,
          rateClass,
          miles,
          partId,
          quantity,
          cost,
          kept,
          vat,
          discount,
          choice,
          group,
          taken);
    }

    /** A stored line as it would be typed. */
    static TypedLine of(OfferLine line) {
      return of(line, true);
    }

    /** A stored line without its price, so that the one in force is taken. */
    static TypedLine atTodaysPrice(OfferLine line) {
      return of(line, false);
    }

    private static TypedLine of(OfferLine line, boolean priced) {
      return switch (line) {
        case OfferLine.Words words ->
            new TypedLine(
                words.heading() ? "heading" : "text",
                words.text(),
                null,
                null,
                null,
                null,
                null,
                null,
                null,
                null);
        case OfferLine.Priced offered ->
            of(offered.line(), priced).offered(offered.discount().text(), offered.choice());
      };
    }

    private TypedLine offered(String off, Choice how) {
      String kind =
          switch (how) {
            case Choice.Included included -> "included";
            case Choice.Option option -> "option";
            case Choice.Alternative alternative -> "alternative";
          };
      String named = how instanceof Choice.Alternative alternative ? alternative.group() : "";
      return new TypedLine(
          category,
          description,
          time,
          rateClass,
          miles,
          partId,
          quantity,
          cost,
          price,
          vat,
          off,
          kind,
          named,
          how.counts());
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
