package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.MAIL;
import static org.jooq.impl.DSL.when;

import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.mail.Attachments;
import app.pragmata.server.mail.MailQueue;
import app.pragmata.server.mail.MailQueue.Letter;
import app.pragmata.server.mail.MailState;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.util.List;
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
      String toAddress,
      String subject,
      MailState state,
      @Nullable Instant sentAt,
      String lastFault) {}

  private record Reader(String name, String address) {}

  private final DSLContext database;
  private final MailQueue mail;
  private final EditionStore editions;
  private final QuotePdf pdf;
  private final CompanyStore companies;

  QuoteLetters(
      DSLContext database,
      MailQueue mail,
      EditionStore editions,
      QuotePdf pdf,
      CompanyStore companies) {
    this.database = database;
    this.mail = mail;
    this.editions = editions;
    this.pdf = pdf;
    this.companies = companies;
  }

  /** Sends the quote with its link; nothing where the customer has no address. */
  void send(Act act, QuoteRecord quote, OfferDocument document, String link) {
    Wording wording = document.wording();
    boolean changed = document.edition() > 1;
    String number = document.printedNumber();
    queue(
        act,
        quote,
        wording.say(
            changed ? Phrase.MAIL_QUOTE_CHANGED : Phrase.MAIL_QUOTE, number, document.title()),
        wording.say(
            changed ? Phrase.MAIL_EDITION_SAYS : Phrase.MAIL_QUOTE_SAYS,
            number,
            document.title(),
            wording.day(document.validUntil()),
            link,
            String.valueOf(document.edition())),
        document.edition());
  }

  @Override
  public Optional<Attachment> print(Letter letter) {
    if (letter.quoteId() == null || letter.attachedEdition() == null) {
      return Optional.empty();
    }
    OfferDocument document = editions.get(letter.quoteId(), letter.attachedEdition());
    return Optional.of(
        new Attachment(
            document.wording().say(Phrase.FILE_QUOTE, document.number()),
            new ByteArrayResource(pdf.print(document))));
  }

  /** Sends an answer to what was asked about the quote. */
  void answer(Act act, QuoteRecord quote, String question, String answer, String link) {
    Wording wording = companies.getCompany().wording();
    queue(
        act,
        quote,
        wording.say(Phrase.MAIL_ANSWER, quote.getNumber()),
        wording.say(Phrase.MAIL_ANSWER_SAYS, question, answer, link),
        null);
  }

  /** What has to be said, between a greeting by name and the office's own words. */
  private void queue(
      Act act, QuoteRecord quote, String subject, String said, @Nullable Integer edition) {
    Company company = companies.getCompany();
    String opening = company.quoting().letterWords().opening();
    String closing = company.quoting().letterWords().closing();
    findReader(quote.getCustomerId())
        .ifPresent(
            reader ->
                mail.queue(
                    act,
                    Letter.of(
                            reader.address(),
                            subject,
                            "%s\n\n%s%s\n\n%s\n"
                                .formatted(
                                    company.wording().say(Phrase.MAIL_GREETING, reader.name()),
                                    opening.isEmpty() ? "" : opening + "\n\n",
                                    said,
                                    closing.isEmpty() ? company.identity().name() : closing),
                            quote.getCustomerId())
                        .about(quote.getId(), edition)));
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

  /** Whoever decides, at an address of their own or the customer's; else the customer. */
  private Optional<Reader> findReader(long customerId) {
    Reader customer =
        database
            .select(CUSTOMER.NAME, CUSTOMER.EMAIL)
            .from(CUSTOMER)
            .where(CUSTOMER.ID.eq(customerId))
            .fetchSingle(Records.mapping(Reader::new));
    Reader reader =
        database
            .select(
                CONTACT.NAME,
                when(CONTACT.EMAIL.ne(""), CONTACT.EMAIL).otherwise(customer.address()))
            .from(CONTACT)
            .where(CONTACT.CUSTOMER_ID.eq(customerId))
            .and(CONTACT.DECIDES)
            .orderBy(CONTACT.EMAIL.eq("").asc(), CONTACT.ID)
            .limit(1)
            .fetchOptional(Records.mapping(Reader::new))
            .orElse(customer);
    return Optional.of(reader).filter(found -> !found.address().isEmpty());
  }
}
