package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.MAIL;

import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.mail.Attachments;
import app.pragmata.server.mail.MailQueue;
import app.pragmata.server.people.Act;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.stereotype.Component;

/**
 * The mail about a quote: to whoever decides at the customer, else to the customer's own address.
 */
@Component
class QuoteLetters implements Attachments {
  /** What became of a message about a quote. */
  record SentLetter(
      String toAddress, String subject, String state, @Nullable Instant sentAt, String lastFault) {}

  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMMM", Locale.UK);

  private final DSLContext database;
  private final MailQueue mail;
  private final EditionStore editions;
  private final QuotePdf pdf;

  QuoteLetters(DSLContext database, MailQueue mail, EditionStore editions, QuotePdf pdf) {
    this.database = database;
    this.mail = mail;
    this.editions = editions;
    this.pdf = pdf;
  }

  /** Sends the quote with its link; nothing where the customer has no address. */
  void send(Act act, QuoteRecord quote, OfferDocument document, String link) {
    String edition = document.edition() > 1 ? ", changed" : "";
    findAddress(quote.getCustomerId())
        .ifPresent(
            address ->
                mail.queue(
                    act,
                    new MailQueue.Letter(
                        address,
                        "Quote %d%s: %s".formatted(document.number(), edition, document.title()),
                        """
                        Dear customer,

                        here is our quote %d for “%s”%s. It is valid until %s.

                        Read it, choose, ask or accept it here:
                        %s

                        It is attached as a PDF too.

                        %s
                        """
                            .formatted(
                                document.number(),
                                document.title(),
                                document.edition() > 1
                                    ? ", edition %d, in place of the one before"
                                        .formatted(document.edition())
                                    : "",
                                day(document.validUntil()),
                                link,
                                document.company()),
                        quote.getId(),
                        document.edition())));
  }

  @Override
  public Attachment print(long quoteId, int edition) {
    OfferDocument document = editions.get(quoteId, edition);
    return new Attachment(
        "quote-%d.pdf".formatted(document.number()), new ByteArrayResource(pdf.print(document)));
  }

  /** Sends an answer to what was asked about the quote. */
  void answer(Act act, QuoteRecord quote, String question, String answer, String link) {
    findAddress(quote.getCustomerId())
        .ifPresent(
            address ->
                mail.queue(
                    act,
                    new MailQueue.Letter(
                        address,
                        "Your question about quote %d".formatted(quote.getNumber()),
                        "You asked:\n%s\n\nOur answer:\n%s\n\nThe quote is here:\n%s\n"
                            .formatted(question, answer, link),
                        quote.getId(),
                        null)));
  }

  /** All mail about a quote, the newest first. */
  List<SentLetter> list(long quoteId) {
    return database
        .select(MAIL.TO_ADDRESS, MAIL.SUBJECT, MAIL.STATE, MAIL.SENT_AT, MAIL.LAST_FAULT)
        .from(MAIL)
        .where(MAIL.QUOTE_ID.eq(quoteId))
        .orderBy(MAIL.ID.desc())
        .fetch(Records.mapping(SentLetter::new));
  }

  private Optional<String> findAddress(long customerId) {
    return database
        .select(CONTACT.EMAIL)
        .from(CONTACT)
        .where(CONTACT.CUSTOMER_ID.eq(customerId))
        .and(CONTACT.DECIDES)
        .and(CONTACT.EMAIL.ne(""))
        .orderBy(CONTACT.ID)
        .limit(1)
        .fetchOptional(CONTACT.EMAIL)
        .or(
            () ->
                database
                    .select(CUSTOMER.EMAIL)
                    .from(CUSTOMER)
                    .where(CUSTOMER.ID.eq(customerId).and(CUSTOMER.EMAIL.ne("")))
                    .fetchOptional(CUSTOMER.EMAIL));
  }

  private static String day(LocalDate day) {
    return DAY.format(day);
  }
}
