package app.pragmata.server.mail;

import static app.pragmata.server.generated.Tables.MAIL;

import app.pragmata.server.records.Act;
import app.pragmata.server.records.Retention;
import java.time.Duration;
import java.time.Instant;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Where mail waits inside the transaction that writes it, so that none goes out for nothing. */
@Repository
public class MailQueue implements Retention.KeptForAWhile {
  /** So long it can be looked up what became of a message. */
  private static final Duration KEPT = Duration.ofDays(2 * 365);

  /**
   * A message in plain text.
   *
   * @param customerId who it is for; null for nobody on record
   * @param quoteId the quote that it is about
   * @param attachedEdition which edition of the quote goes with it as a PDF; null for none
   * @param report what was done on a visit, to go with it as a PDF; null for none
   * @param calendar what goes into the reader's calendar (RFC 5545); null for nothing
   */
  public record Letter(
      String toAddress,
      String subject,
      String body,
      @Nullable Long customerId,
      @Nullable Long quoteId,
      @Nullable Integer attachedEdition,
      @Nullable AttachedReport report,
      @Nullable String calendar) {

    /** Words alone. */
    public static Letter of(
        String toAddress, String subject, String body, @Nullable Long customerId) {
      return new Letter(toAddress, subject, body, customerId, null, null, null, null);
    }

    /** The same about a quote, with an edition of it or without. */
    public Letter about(long quote, @Nullable Integer edition) {
      return new Letter(toAddress, subject, body, customerId, quote, edition, report, calendar);
    }

    /** The same with something for the calendar; null for nothing. */
    public Letter withCalendar(@Nullable String entry) {
      return new Letter(
          toAddress, subject, body, customerId, quoteId, attachedEdition, report, entry);
    }

    /** The same with the report of a visit. */
    public Letter with(AttachedReport attached) {
      return new Letter(
          toAddress, subject, body, customerId, quoteId, attachedEdition, attached, calendar);
    }
  }

  /** The report of a visit, with prices or without. */
  public record AttachedReport(long visitId, boolean withPrices) {}

  private final DSLContext database;

  MailQueue(DSLContext database) {
    this.database = database;
  }

  @Override
  public void forget(Instant now) {
    database
        .deleteFrom(MAIL)
        .where(MAIL.STATE.in(MailState.SENT, MailState.UNDELIVERABLE))
        .and(MAIL.QUEUED_AT.lt(now.minus(KEPT)))
        .execute();
  }

  /** Queues a message; gives its id. */
  public long queue(Act act, Letter letter) {
    return database
        .insertInto(MAIL)
        .set(MAIL.TO_ADDRESS, letter.toAddress())
        .set(MAIL.SUBJECT, letter.subject())
        .set(MAIL.BODY, letter.body())
        .set(MAIL.CUSTOMER_ID, letter.customerId())
        .set(MAIL.QUOTE_ID, letter.quoteId())
        .set(
            MAIL.ATTACHED_EDITION,
            letter.attachedEdition() == null ? null : letter.attachedEdition().shortValue())
        .set(MAIL.REPORT_VISIT_ID, letter.report() == null ? null : letter.report().visitId())
        .set(MAIL.REPORT_WITH_PRICES, letter.report() != null && letter.report().withPrices())
        .set(MAIL.CALENDAR, letter.calendar())
        .set(MAIL.STATE, MailState.WAITING)
        .set(MAIL.QUEUED_AT, act.at())
        .set(MAIL.QUEUED_BY, act.personId())
        .set(MAIL.NEXT_ATTEMPT_AT, act.at())
        .returning(MAIL.ID)
        .fetchSingle(MAIL.ID);
  }
}
