package app.pragmata.server.quoting;

import app.pragmata.core.Coded;
import app.pragmata.core.Decimal;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.quoting.Choice;
import app.pragmata.core.quoting.Offer;
import app.pragmata.core.quoting.OfferLine;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.TaxedGroup;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A quote exactly as the customer reads it: no cost, no margin and no notes of our own. Amounts are
 * in minor units.
 *
 * @param locale how its numbers and days are written (BCP 47)
 * @param printedNumber with its prefix, as it stands on paper
 * @param pricesWithVat whether the lines' prices are to be shown with VAT
 */
public record OfferDocument(
    Company.Identity seller,
    String locale,
    String currency,
    long number,
    String printedNumber,
    int edition,
    String title,
    String customer,
    String site,
    String equipment,
    PromiseKind promise,
    String promised,
    LocalDate sentOn,
    LocalDate validUntil,
    String notes,
    boolean pricesWithVat,
    List<DocumentLine> lines,
    Sum sum,
    String discount,
    String deposit,
    int depositDueDays,
    List<DocumentStage> stages) {

  /** What a line of the document is. */
  public enum Kind implements Coded {
    HEADING,
    TEXT,
    LINE
  }

  /**
   * A line as it is read; a heading or text has no amounts.
   *
   * @param warrantyPercent the share of the equipment's warranty; "0" where it bears nothing
   * @param warrantyMinor what it bears, and the customer does not pay
   */
  public record DocumentLine(
      Kind kind,
      String description,
      String quantity,
      Choice.Code choice,
      String group,
      boolean taken,
      long fullMinor,
      String warrantyPercent,
      long warrantyMinor,
      long netMinor,
      long grossMinor) {
    public DocumentLine {
      // Editions that were sent before it was told have none.
      warrantyPercent = warrantyPercent == null ? "0" : warrantyPercent;
    }
  }

  /** What is promised of the price, in the words that the customer reads. */
  public static String promised(PromiseKind promise, Wording wording) {
    return wording.say(
        switch (promise) {
          case FIXED_PRICE -> Phrase.PROMISED_FIXED_PRICE;
          case ESTIMATE -> Phrase.PROMISED_ESTIMATE;
          case NOT_MORE_THAN -> Phrase.PROMISED_NOT_MORE_THAN;
        });
  }

  /** Its words. */
  public Wording wording() {
    return Wording.of(Locale.forLanguageTag(locale));
  }

  /**
   * What is to be paid for the lines that count.
   *
   * @param stageMinors what falls due at each stage, with VAT; empty in editions that were sent
   *     before it was told
   */
  public record Sum(
      long netMinor,
      List<TaxedGroup> vat,
      long vatMinor,
      long grossMinor,
      long depositMinor,
      List<Long> stageMinors) {
    public Sum {
      stageMinors = stageMinors == null ? List.of() : List.copyOf(stageMinors);
    }

    /** What the offer comes to as things stand. */
    public static Sum of(Offer offer, Wording wording) {
      VatBreakdown vat = offer.totals().vat();
      return new Sum(
          vat.net().minor(),
          TaxedGroup.of(vat, wording),
          vat.vat().minor(),
          vat.gross().minor(),
          offer.depositDue().minor(),
          offer.stageGross().stream().map(Money::minor).toList());
    }
  }

  public record DocumentStage(String name, String part, long amountMinor) {}

  /** All lines of the offer as they are read. */
  public static List<DocumentLine> lines(Offer offer, Wording wording) {
    var shown = new ArrayList<>(offer.shown());
    var shownGross = new ArrayList<>(offer.shownGross());
    return offer.lines().stream()
        .map(
            line ->
                switch (line) {
                  case OfferLine.Words words ->
                      new DocumentLine(
                          words.heading() ? Kind.HEADING : Kind.TEXT,
                          words.text(),
                          "",
                          Choice.Code.INCLUDED,
                          "",
                          true,
                          0,
                          "0",
                          0,
                          0,
                          0);
                  case OfferLine.Priced priced ->
                      line(priced.choice(), shown.removeFirst(), shownGross.removeFirst(), wording);
                })
        .toList();
  }

  private static DocumentLine line(Choice choice, QuoteLine line, Money gross, Wording wording) {
    return new DocumentLine(
        Kind.LINE,
        line.description(),
        quantity(line, wording),
        choice.code(),
        choice instanceof Choice.Alternative alternative ? alternative.group() : "",
        choice.counts(),
        line.full().minor(),
        line.reductions().warrantyShare().percent(),
        line.reductions().warranty().minor(),
        line.net().minor(),
        gross.minor());
  }

  private static String quantity(QuoteLine line, Wording wording) {
    return switch (line) {
      case QuoteLine.Labour labour ->
          wording.say(Phrase.QUANTITY_HOURS, Minutes.text(labour.minutes()));
      case QuoteLine.Drive drive ->
          switch (drive.charge()) {
            case DriveCharge.PerMile perMile ->
                wording.say(Phrase.QUANTITY_MILES, Decimal.text(drive.miles()));
            case DriveCharge.PerHour perHour ->
                wording.say(Phrase.QUANTITY_HOURS, Minutes.text(drive.minutes()));
            case DriveCharge.PerCallOut callOut -> "";
            case DriveCharge.None none -> "";
          };
      case QuoteLine.Part part -> Decimal.text(part.quantity());
      case QuoteLine.Other other -> Decimal.text(other.quantity());
    };
  }

  /** The stages with what each comes to, without VAT. */
  static List<DocumentStage> stages(Offer offer) {
    var stages = new ArrayList<DocumentStage>();
    List<Money> amounts = offer.stageAmounts();
    for (int i = 0; i < amounts.size(); i++) {
      stages.add(
          new DocumentStage(
              offer.stages().get(i).name(),
              offer.stages().get(i).part().text(),
              amounts.get(i).minor()));
    }
    return stages;
  }
}
