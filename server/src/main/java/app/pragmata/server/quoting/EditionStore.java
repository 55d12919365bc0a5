package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.QUOTE_EDITION;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.quoting.Offer;
import app.pragmata.core.quoting.QuoteTotals;
import app.pragmata.server.company.Company;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.FrozenText;
import app.pragmata.server.records.NumberSeries.Series;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.springframework.stereotype.Repository;

/** Sent quotes as they were sent; nothing of one ever changes. */
@Repository
public class EditionStore {
  /** That an edition was sent; cost is ours alone. */
  public record Edition(int edition, Instant sentAt, long netMinor, long costMinor) {}

  private final DSLContext database;
  private final FrozenText texts;

  EditionStore(DSLContext database, FrozenText texts) {
    this.database = database;
    this.texts = texts;
  }

  /** The quote as the customer would read it today. */
  OfferDocument draft(Act act, QuoteRecord quote, Offer offer, Company company) {
    var place =
        database
            .select(CUSTOMER.NAME, SITE.NAME, SITE.ADDRESS, CUSTOMER.PRICES_WITH_VAT)
            .from(SITE)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(SITE.CUSTOMER_ID))
            .where(SITE.ID.eq(quote.getSiteId()))
            .fetchSingle();
    String equipment =
        quote.getEquipmentId() == null
            ? ""
            : database
                .select(EQUIPMENT.MODEL, EQUIPMENT.SERIAL_NUMBER)
                .from(EQUIPMENT)
                .where(EQUIPMENT.ID.eq(quote.getEquipmentId()))
                .fetchSingle(row -> row.value1() + ", " + row.value2());
    return new OfferDocument(
        company.identity(),
        company.locale().toLanguageTag(),
        company.currency(),
        quote.getNumber(),
        company.numbering().text(Series.QUOTE, quote.getNumber()),
        quote.getEdition(),
        quote.getTitle(),
        place.value1(),
        place.value2() + ", " + place.value3(),
        equipment,
        quote.getPromise(),
        OfferDocument.promised(quote.getPromise(), company.wording()),
        act.today(),
        quote.getValidUntil(),
        quote.getNotes(),
        place.value4(),
        OfferDocument.lines(offer, company.wording()),
        OfferDocument.Sum.of(offer, company.wording()),
        offer.discount().text(),
        offer.deposit().text(),
        quote.getDepositDueDays(),
        OfferDocument.stages(offer));
  }

  /** Keeps what is sent now, as the quote's present edition. */
  void freeze(Act act, QuoteRecord quote, Offer offer, OfferDocument document) {
    FrozenText.Frozen frozen = texts.freeze(document);
    QuoteTotals totals = offer.totals();
    database
        .insertInto(QUOTE_EDITION)
        .set(QUOTE_EDITION.QUOTE_ID, quote.getId())
        .set(QUOTE_EDITION.EDITION, quote.getEdition())
        .set(QUOTE_EDITION.SENT_AT, act.at())
        .set(QUOTE_EDITION.SENT_BY, act.personId())
        .set(QUOTE_EDITION.CONTENT, frozen.content())
        .set(QUOTE_EDITION.CONTENT_HASH, frozen.hash())
        .set(QUOTE_EDITION.NET_MINOR, totals.vat().net().minor())
        .set(QUOTE_EDITION.COST_MINOR, totals.cost().minor())
        .execute();
  }

  /** A sent edition; refused when there is none of that number. */
  public OfferDocument get(long quoteId, int edition) {
    String content =
        database
            .select(QUOTE_EDITION.CONTENT)
            .from(QUOTE_EDITION)
            .where(QUOTE_EDITION.QUOTE_ID.eq(quoteId))
            .and(QUOTE_EDITION.EDITION.eq((short) edition))
            .fetchOne(QUOTE_EDITION.CONTENT);
    if (content == null) {
      throw new Refused(
          Rule.NOT_FOUND, "Edition %d of this quote was never sent.".formatted(edition));
    }
    return texts.read(content, OfferDocument.class);
  }

  /** All that were sent, the newest first. */
  List<Edition> list(long quoteId) {
    return database
        .select(
            QUOTE_EDITION.EDITION.cast(Integer.class),
            QUOTE_EDITION.SENT_AT,
            QUOTE_EDITION.NET_MINOR,
            QUOTE_EDITION.COST_MINOR)
        .from(QUOTE_EDITION)
        .where(QUOTE_EDITION.QUOTE_ID.eq(quoteId))
        .orderBy(QUOTE_EDITION.EDITION.desc())
        .fetch(Records.mapping(Edition::new));
  }
}
