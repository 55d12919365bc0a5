package app.pragmata.server.receipts;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.RECEIPT;

import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.mail.MailQueue;
import app.pragmata.server.records.Act;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Receipts that customers get by mail for money that they paid on site. */
@Component
public class ReceiptLetters {
  private final DSLContext database;
  private final CompanyStore companies;
  private final MailQueue mail;

  ReceiptLetters(DSLContext database, CompanyStore companies, MailQueue mail) {
    this.database = database;
    this.companies = companies;
    this.mail = mail;
  }

  /**
   * Sends a receipt for a job to an address, with the caller's transaction.
   *
   * @param to empty sends none
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void send(Act act, long receiptId, String to) {
    if (to.isEmpty()) {
      return;
    }
    Company company = companies.getCompany();
    Wording wording = company.wording();
    var row =
        database
            .select(
                RECEIPT.NUMBER,
                RECEIPT.AMOUNT_MINOR,
                RECEIPT.RECEIVED_ON,
                RECEIPT.METHOD,
                JOB.NUMBER,
                JOB.TITLE,
                CUSTOMER.ID,
                CUSTOMER.NAME)
            .from(RECEIPT)
            .join(JOB)
            .on(JOB.ID.eq(RECEIPT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(RECEIPT.CUSTOMER_ID))
            .where(RECEIPT.ID.eq(receiptId))
            .fetchSingle();
    String amount = wording.money(Money.ofMinor(row.value2()), company.currency());
    String closing = company.quoting().letterWords().closing();
    mail.queue(
        act,
        MailQueue.Letter.of(
            to,
            wording.say(Phrase.MAIL_RECEIPT, String.valueOf(row.value1()), amount),
            "%s\n\n%s\n\n%s\n"
                .formatted(
                    wording.say(Phrase.MAIL_GREETING, row.value8()),
                    wording.say(
                        Phrase.MAIL_RECEIPT_SAYS,
                        amount,
                        wording.day(row.value3()),
                        wording.say(phrase(row.value4())),
                        String.valueOf(row.value5()),
                        row.value6()),
                    closing.isEmpty() ? company.identity().name() : closing),
            row.value7()));
  }

  private static Phrase phrase(PaymentMethod method) {
    return switch (method) {
      case CARD -> Phrase.MAIL_RECEIPT_BY_CARD;
      case CASH -> Phrase.MAIL_RECEIPT_IN_CASH;
      case CHEQUE -> Phrase.MAIL_RECEIPT_BY_CHEQUE;
      case BANK_TRANSFER -> Phrase.MAIL_RECEIPT_BY_TRANSFER;
    };
  }
}
