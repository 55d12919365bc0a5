package app.pragmata.server.mail;

import static app.pragmata.server.generated.Tables.MAIL;

import app.pragmata.server.people.Act;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Where mail waits inside the transaction that writes it, so that none goes out for nothing. */
@Repository
public class MailQueue {
  /** A message in plain text, and the quote that it is about. */
  public record Letter(String toAddress, String subject, String body, @Nullable Long quoteId) {}

  private final DSLContext database;

  MailQueue(DSLContext database) {
    this.database = database;
  }

  /** Queues a message; gives its id. */
  public long queue(Act act, Letter letter) {
    return insert(act, letter, null, null);
  }

  /** Queues a message with a PDF; gives its id. */
  public long queue(Act act, Letter letter, String pdfName, byte[] pdf) {
    return insert(act, letter, pdfName, pdf);
  }

  private long insert(Act act, Letter letter, @Nullable String pdfName, byte @Nullable [] pdf) {
    return database
        .insertInto(MAIL)
        .set(MAIL.TO_ADDRESS, letter.toAddress())
        .set(MAIL.SUBJECT, letter.subject())
        .set(MAIL.BODY, letter.body())
        .set(MAIL.ATTACHMENT_NAME, pdfName)
        .set(MAIL.ATTACHMENT, pdf)
        .set(MAIL.QUOTE_ID, letter.quoteId())
        .set(MAIL.STATE, "waiting")
        .set(MAIL.QUEUED_AT, act.at())
        .set(MAIL.QUEUED_BY, act.personId())
        .set(MAIL.NEXT_ATTEMPT_AT, act.at())
        .returning(MAIL.ID)
        .fetchSingle(MAIL.ID);
  }
}
