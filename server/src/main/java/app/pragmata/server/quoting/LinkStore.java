package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.QUOTE_LINK;

import app.pragmata.server.generated.tables.records.QuoteLinkRecord;
import app.pragmata.server.http.PublicAddress;
import app.pragmata.server.http.Unguessable;
import java.time.Instant;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** The customer's way to a quote: an address that nobody can guess and the office can withdraw. */
@Repository
public class LinkStore {
  /** What a customer's link leads to. */
  public record Link(long quoteId, boolean withdrawn) {}

  private final DSLContext database;
  private final PublicAddress publicAddress;

  LinkStore(DSLContext database, PublicAddress publicAddress) {
    this.database = database;
    this.publicAddress = publicAddress;
  }

  /** The link of a quote that is sent; a withdrawn one is given a new, other address. */
  String open(long quoteId, Instant at) {
    QuoteLinkRecord link = find(quoteId).orElse(null);
    if (link != null && link.getWithdrawnAt() == null) {
      return link.getToken();
    }
    String token = Unguessable.make();
    database
        .insertInto(QUOTE_LINK)
        .set(QUOTE_LINK.QUOTE_ID, quoteId)
        .set(QUOTE_LINK.TOKEN, token)
        .set(QUOTE_LINK.MADE_AT, at)
        .onConflict(QUOTE_LINK.QUOTE_ID)
        .doUpdate()
        .set(QUOTE_LINK.TOKEN, token)
        .set(QUOTE_LINK.MADE_AT, at)
        .setNull(QUOTE_LINK.OPENED_AT)
        .setNull(QUOTE_LINK.WITHDRAWN_AT)
        .execute();
    return token;
  }

  void withdraw(long quoteId, Instant at) {
    database
        .update(QUOTE_LINK)
        .set(QUOTE_LINK.WITHDRAWN_AT, at)
        .where(QUOTE_LINK.QUOTE_ID.eq(quoteId).and(QUOTE_LINK.WITHDRAWN_AT.isNull()))
        .execute();
  }

  Optional<QuoteLinkRecord> find(long quoteId) {
    return database.selectFrom(QUOTE_LINK).where(QUOTE_LINK.QUOTE_ID.eq(quoteId)).fetchOptional();
  }

  /** The quote that a link leads to, withdrawn or not. */
  public Optional<Link> findByToken(String token) {
    return database
        .selectFrom(QUOTE_LINK)
        .where(QUOTE_LINK.TOKEN.eq(token))
        .fetchOptional(row -> new Link(row.getQuoteId(), row.getWithdrawnAt() != null));
  }

  /** Notes that the customer has read it, the first time. */
  public void noteOpened(long quoteId, Instant at) {
    database
        .update(QUOTE_LINK)
        .set(QUOTE_LINK.OPENED_AT, at)
        .where(QUOTE_LINK.QUOTE_ID.eq(quoteId).and(QUOTE_LINK.OPENED_AT.isNull()))
        .execute();
  }

  /** The whole address, as it stands in a mail. */
  String address(String token) {
    return publicAddress.of("/offer/" + token);
  }
}
