package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.QUOTE_LINE;
import static app.pragmata.server.generated.Tables.QUOTE_STAGE;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.core.quoting.Choice;
import app.pragmata.core.quoting.LineKind;
import app.pragmata.core.quoting.LineWarranty;
import app.pragmata.core.quoting.Offer;
import app.pragmata.core.quoting.OfferLine;
import app.pragmata.core.quoting.Stage;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.QuoteLineRecord;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.generated.tables.records.QuoteStageRecord;
import app.pragmata.server.jobs.LineColumns;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Select;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Quotes and their lines as the database keeps them. */
@Repository
public class QuoteStore {
  private static final List<LineKind> WORDS = List.of(LineKind.HEADING, LineKind.TEXT);

  private static final LineColumns COLUMNS = LineColumns.of(QUOTE_LINE);

  private final DSLContext database;
  private final CompanyStore companies;

  QuoteStore(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** The quote; refused when there is none. */
  QuoteRecord get(long id) {
    return found(database.selectFrom(QUOTE).where(QUOTE.ID.eq(id)).fetchOne());
  }

  /** The quote, locked until the transaction ends; refused when there is none. */
  QuoteRecord lock(long id) {
    return found(database.selectFrom(QUOTE).where(QUOTE.ID.eq(id)).forUpdate().fetchOne());
  }

  private static QuoteRecord found(@Nullable QuoteRecord quote) {
    if (quote == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This quote does not exist. Find the right one with / and its number.");
    }
    return quote;
  }

  /** The offer that a quote makes: with the VAT of the day it was sent, or today's in a draft. */
  Offer getOffer(QuoteRecord quote, LocalDate today) {
    Company company = companies.getCompany();
    VatTreatments vat = company.terms().vat();
    LocalDate taxDay =
        quote.getSentAt() == null ? today : quote.getSentAt().atZone(company.zone()).toLocalDate();
    List<OfferLine> lines =
        database
            .fetch(lineRows(QUOTE_LINE.QUOTE_ID.eq(quote.getId())))
            .map(row -> offerLine(row, code -> vat.on(code, taxDay)));
    List<Stage> stages =
        database
            .select(QUOTE_STAGE.NAME, QUOTE_STAGE.PART_MINOR, QUOTE_STAGE.PART_SHARE)
            .from(QUOTE_STAGE)
            .where(QUOTE_STAGE.QUOTE_ID.eq(quote.getId()))
            .orderBy(QUOTE_STAGE.POSITION)
            .fetch(row -> new Stage(row.value1(), AmountOrShare.of(row.value2(), row.value3())));
    return new Offer(
        lines,
        AmountOrShare.of(quote.getDiscountMinor(), quote.getDiscountShare()),
        AmountOrShare.of(quote.getDepositMinor(), quote.getDepositShare()),
        stages);
  }

  /** The lines of a quote that count, as on a tax day, nested into another query. */
  public Field<List<QuoteLine>> lines(Field<Long> quoteId, LocalDate taxDay) {
    VatTreatments vat = companies.getCompany().terms().vat();
    return multiset(
            lineRows(
                QUOTE_LINE
                    .QUOTE_ID
                    .eq(quoteId)
                    .and(QUOTE_LINE.TAKEN)
                    .and(QUOTE_LINE.CATEGORY.notIn(WORDS))))
        .as("quote_lines")
        .convertFrom(rows -> rows.map(row -> line(row, code -> vat.on(code, taxDay))));
  }

  private static Select<Record> lineRows(Condition which) {
    var fields = new ArrayList<Field<?>>(COLUMNS.all());
    fields.addAll(
        List.of(
            QUOTE_LINE.CATEGORY,
            QUOTE_LINE.CHOICE,
            QUOTE_LINE.CHOICE_GROUP,
            QUOTE_LINE.TAKEN,
            QUOTE_LINE.AGREED_DISCOUNT_MINOR,
            QUOTE_LINE.AGREED_DISCOUNT_SHARE));
    return select(fields).from(QUOTE_LINE).where(which).orderBy(QUOTE_LINE.POSITION);
  }

  private static OfferLine offerLine(Record row, Function<String, VatTreatment> vatTreatments) {
    LineKind kind = row.get(QUOTE_LINE.CATEGORY);
    if (kind.isWords()) {
      return new OfferLine.Words(row.get(QUOTE_LINE.DESCRIPTION), kind == LineKind.HEADING);
    }
    return new OfferLine.Priced(
        line(row, vatTreatments).reducedBy(Reductions.NONE),
        AmountOrShare.of(
            row.get(QUOTE_LINE.AGREED_DISCOUNT_MINOR), row.get(QUOTE_LINE.AGREED_DISCOUNT_SHARE)),
        new LineWarranty(
            new Share(row.get(QUOTE_LINE.WARRANTY_SHARE)),
            Objects.requireNonNullElse(row.get(QUOTE_LINE.WARRANTY_EXCLUSION), "")),
        choice(row));
  }

  private static Choice choice(Record row) {
    return switch (row.get(QUOTE_LINE.CHOICE)) {
      case INCLUDED -> new Choice.Included();
      case OPTION -> new Choice.Option(row.get(QUOTE_LINE.TAKEN));
      case ALTERNATIVE ->
          new Choice.Alternative(row.get(QUOTE_LINE.CHOICE_GROUP), row.get(QUOTE_LINE.TAKEN));
    };
  }

  private static QuoteLine line(Record row, Function<String, VatTreatment> vatTreatments) {
    return COLUMNS.read(row, row.get(QUOTE_LINE.CATEGORY).category(), vatTreatments);
  }

  /** Puts this offer in place of what was there; only a draft's offer is ever replaced. */
  void replaceOffer(long quoteId, Offer offer) {
    database.deleteFrom(QUOTE_LINE).where(QUOTE_LINE.QUOTE_ID.eq(quoteId)).execute();
    database.deleteFrom(QUOTE_STAGE).where(QUOTE_STAGE.QUOTE_ID.eq(quoteId)).execute();
    insertLines(quoteId, offer);
    var stages = new ArrayList<QuoteStageRecord>();
    for (Stage stage : offer.stages()) {
      stages.add(
          new QuoteStageRecord(
              quoteId,
              (short) (stages.size() + 1),
              stage.name(),
              stage.part().minor(),
              stage.part().fraction()));
    }
    if (!stages.isEmpty()) {
      database.insertInto(QUOTE_STAGE).set(stages).execute();
    }
  }

  /** Notes which lines the customer chose, and what then comes off each. */
  void storeChoice(long quoteId, Offer chosen) {
    database.deleteFrom(QUOTE_LINE).where(QUOTE_LINE.QUOTE_ID.eq(quoteId)).execute();
    insertLines(quoteId, chosen);
  }

  private void insertLines(long quoteId, Offer offer) {
    String usualVat = companies.getCompany().terms().vat().usualCode();
    var shown = new ArrayList<>(offer.shown());
    var records = new ArrayList<QuoteLineRecord>();
    for (OfferLine line : offer.lines()) {
      QuoteLineRecord row =
          switch (line) {
            case OfferLine.Words words -> wordsRow(words, usualVat);
            case OfferLine.Priced priced -> pricedRow(priced, shown.removeFirst());
          };
      row.setQuoteId(quoteId);
      row.setPosition((short) (records.size() + 1));
      records.add(row);
    }
    if (!records.isEmpty()) {
      database.insertInto(QUOTE_LINE).set(records).execute();
    }
  }

  private static QuoteLineRecord wordsRow(OfferLine.Words words, String usualVat) {
    var row = new QuoteLineRecord();
    row.setCategory(words.heading() ? LineKind.HEADING : LineKind.TEXT);
    row.setDescription(words.text());
    row.setUnitCost(BigDecimal.ZERO);
    row.setUnitPrice(UnitPrice.ZERO);
    row.setVatCode(usualVat);
    row.setChoice(Choice.Code.INCLUDED);
    row.setChoiceGroup("");
    row.setTaken(true);
    row.setWarrantyShare(BigDecimal.ZERO);
    row.setDiscountMinor(0L);
    row.setWarrantyReductionMinor(0L);
    row.setDiscountOfWholeMinor(0L);
    return row;
  }

  private static QuoteLineRecord pricedRow(OfferLine.Priced priced, QuoteLine shown) {
    var row = new QuoteLineRecord();
    row.setCategory(LineKind.of(shown.category()));
    COLUMNS.write(row, shown);
    row.setAgreedDiscountMinor(priced.discount().minor());
    row.setAgreedDiscountShare(priced.discount().fraction());
    // What it covers stays known of a line that is not under it.
    row.setWarrantyShare(priced.warranty().covered().fraction());
    row.setWarrantyExclusion(
        priced.warranty().exclusion().isEmpty() ? null : priced.warranty().exclusion());
    row.setTaken(priced.choice().counts());
    row.setChoice(priced.choice().code());
    row.setChoiceGroup(priced.choice().groupName());
    return row;
  }
}
