package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.QUOTE_LINE;
import static app.pragmata.server.generated.Tables.VAT_RATE;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Category;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatRate;
import app.pragmata.core.people.RateClass;
import app.pragmata.core.quoting.QuoteLine;
import app.pragmata.server.generated.tables.records.QuoteLineRecord;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.springframework.stereotype.Repository;

/** Quotes and their lines as the database keeps them. */
@Repository
public class QuoteStore {
  private final DSLContext database;

  QuoteStore(DSLContext database) {
    this.database = database;
  }

  /** The quote, locked until the transaction ends; refused when there is none. */
  QuoteRecord lock(long id) {
    QuoteRecord quote = database.selectFrom(QUOTE).where(QUOTE.ID.eq(id)).forUpdate().fetchOne();
    if (quote == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This quote does not exist. Find the right one with / and its number.");
    }
    return quote;
  }

  /** The lines in their order. */
  List<QuoteLine> listLines(long quoteId) {
    return database.select(lines(org.jooq.impl.DSL.val(quoteId))).fetchSingle().value1();
  }

  /** The lines of a quote, nested into another query. */
  public static Field<List<QuoteLine>> lines(Field<Long> quoteId) {
    return multiset(
            select(
                    QUOTE_LINE.CATEGORY,
                    QUOTE_LINE.DESCRIPTION,
                    QUOTE_LINE.MINUTES,
                    QUOTE_LINE.RATE_CLASS,
                    QUOTE_LINE.MILES,
                    QUOTE_LINE.PART_ID,
                    QUOTE_LINE.QUANTITY,
                    QUOTE_LINE.UNIT_COST,
                    QUOTE_LINE.COST_PER_MILE,
                    QUOTE_LINE.UNIT_PRICE_MINOR,
                    VAT_RATE.CODE,
                    VAT_RATE.CATEGORY,
                    VAT_RATE.PERCENT)
                .from(QUOTE_LINE)
                .join(VAT_RATE)
                .on(VAT_RATE.CODE.eq(QUOTE_LINE.VAT_CODE))
                .where(QUOTE_LINE.QUOTE_ID.eq(quoteId))
                .orderBy(QUOTE_LINE.POSITION))
        .as("quote_lines")
        .convertFrom(rows -> rows.map(QuoteStore::line));
  }

  private static QuoteLine line(Record row) {
    String description = row.get(QUOTE_LINE.DESCRIPTION);
    Money price = Money.ofMinor(row.get(QUOTE_LINE.UNIT_PRICE_MINOR));
    BigDecimal cost = row.get(QUOTE_LINE.UNIT_COST);
    VatRate vatRate =
        new VatRate(row.get(VAT_RATE.CODE), row.get(VAT_RATE.CATEGORY), row.get(VAT_RATE.PERCENT));
    return switch (Category.valueOf(row.get(QUOTE_LINE.CATEGORY).toUpperCase(Locale.ROOT))) {
      case LABOUR ->
          new QuoteLine.Labour(
              description,
              row.get(QUOTE_LINE.MINUTES),
              RateClass.valueOf(row.get(QUOTE_LINE.RATE_CLASS).toUpperCase(Locale.ROOT)),
              cost,
              price,
              vatRate);
      case DRIVE ->
          new QuoteLine.Drive(
              description,
              row.get(QUOTE_LINE.MINUTES),
              row.get(QUOTE_LINE.MILES),
              cost,
              row.get(QUOTE_LINE.COST_PER_MILE),
              price,
              vatRate);
      case PARTS ->
          new QuoteLine.Part(
              row.get(QUOTE_LINE.PART_ID),
              description,
              row.get(QUOTE_LINE.QUANTITY),
              cost,
              price,
              vatRate);
      case OTHER ->
          new QuoteLine.Other(
              description, row.get(QUOTE_LINE.QUANTITY), Money.rounded(cost), price, vatRate);
    };
  }

  /** Puts these lines in place of those that were there; only a draft's lines are ever replaced. */
  void replaceLines(long quoteId, List<QuoteLine> lines) {
    database.deleteFrom(QUOTE_LINE).where(QUOTE_LINE.QUOTE_ID.eq(quoteId)).execute();
    var records = new ArrayList<QuoteLineRecord>();
    for (QuoteLine line : lines) {
      QuoteLineRecord row = row(line);
      row.setQuoteId(quoteId);
      row.setPosition((short) (records.size() + 1));
      row.setCategory(line.category().label());
      row.setDescription(line.description());
      row.setVatCode(line.vatRate().code());
      records.add(row);
    }
    if (!records.isEmpty()) {
      database.insertInto(QUOTE_LINE).set(records).execute();
    }
  }

  private static QuoteLineRecord row(QuoteLine line) {
    var row = new QuoteLineRecord();
    switch (line) {
      case QuoteLine.Labour labour -> {
        row.setMinutes(labour.minutes());
        row.setRateClass(labour.rateClass().label());
        row.setUnitCost(labour.costPerHour());
        row.setUnitPriceMinor(labour.chargePerHour().minor());
      }
      case QuoteLine.Drive drive -> {
        row.setMinutes(drive.minutes());
        row.setMiles(drive.miles());
        row.setUnitCost(drive.costPerHour());
        row.setCostPerMile(drive.costPerMile());
        row.setUnitPriceMinor(drive.price().minor());
      }
      case QuoteLine.Part part -> {
        row.setPartId(part.partId());
        row.setQuantity(part.quantity());
        row.setUnitCost(part.unitCost());
        row.setUnitPriceMinor(part.unitPrice().minor());
      }
      case QuoteLine.Other other -> {
        row.setQuantity(other.quantity());
        row.setUnitCost(other.unitCost().major());
        row.setUnitPriceMinor(other.unitPrice().minor());
      }
    }
    return row;
  }
}
