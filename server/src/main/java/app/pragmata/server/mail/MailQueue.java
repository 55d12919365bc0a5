package app.pragmata.server.mail;

import static app.pragmata.server.generated.Tables.MAIL;

import java.time.Instant;
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
  public long queue(Instant at, Letter letter) {
    return insert(at, letter, null, null);
  }

  /** Queues a message with a PDF; gives its id. */
  public long queue(Instant at, Letter letter, String pdfName, byte[] pdf) {
    return insert(at, letter, pdfName, pdf);
  }

  private long insert(Instant at, Letter letter, @Nullable String pdfName, byte @Nullable [] pdf) {
    return database
        .insertInto(MAIL)
        .set(MAIL.TO_ADDRESS, letter.toAddress())
        .set(MAIL.SUBJECT, letter.subject())
        .set(MAIL.BODY, letter.body())
        .set(MAIL.ATTACHMENT_NAME, pdfName)
        .set(MAIL.ATTACHMENT, pdf)
        .set(MAIL.QUOTE_ID, letter.quoteId())
        .set(MAIL.STATE, "waiting")
        .set(MAIL.QUEUED_AT, at)
        .set(MAIL.NEXT_ATTEMPT_AT, at)
        .returning(MAIL.ID)
        .fetchSingle(MAIL.ID);
  }
}
