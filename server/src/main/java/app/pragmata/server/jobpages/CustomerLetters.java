package app.pragmata.server.jobpages;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.company.Phrase;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.customers.SiteService;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.mail.MailQueue;
import app.pragmata.server.mail.MailQueue.AttachedReport;
import app.pragmata.server.mail.MailQueue.Letter;
import app.pragmata.server.records.Act;
import app.pragmata.server.telling.TextMessages;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Writes to the customers of jobs: by mail, and where they have none by text message. */
@Component
class CustomerLetters {
  /** Whom a job is for, and where they are written to; addresses are empty where there are none. */
  record Reader(
      long jobId,
      long number,
      String title,
      long customerId,
      String name,
      String mail,
      String phone) {
    /** Where they are written to; empty for nowhere. */
    String address() {
      return mail.isEmpty() ? phone : mail;
    }

    /** The same at another mail address. */
    Reader at(String address) {
      return new Reader(jobId, number, title, customerId, name, address, phone);
    }
  }

  private final DSLContext database;
  private final CompanyStore companies;
  private final MailQueue mail;
  private final TextMessages texts;

  CustomerLetters(DSLContext database, CompanyStore companies, MailQueue mail, TextMessages texts) {
    this.database = database;
    this.companies = companies;
    this.mail = mail;
    this.texts = texts;
  }

  /** Whom a job is for; refused when there is no such job. */
  Reader reader(long jobId) {
    Field<String> address = SiteService.mailAddress();
    return database
        .select(JOB.ID, JOB.NUMBER, JOB.TITLE, CUSTOMER.ID, CUSTOMER.NAME, address, CUSTOMER.PHONE)
        .from(JOB)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .where(JOB.ID.eq(jobId))
        .fetchOptional(Records.mapping(Reader::new))
        .orElseThrow(VisitStore::unknownJob);
  }

  /**
   * Sends what is said to them, with the caller's transaction.
   *
   * @param says with the address of their page in it
   * @param report to go with mail; a text message only says where it is
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void send(
      Act act, Reader reader, String subject, String says, @Nullable AttachedReport report) {
    if (reader.mail().isEmpty()) {
      if (!reader.phone().isEmpty()) {
        texts.queue(act, reader.phone(), subject + ". " + says);
      }
      return;
    }
    Company company = companies.getCompany();
    String closing = company.quoting().letterWords().closing();
    Letter letter =
        Letter.of(
            reader.mail(),
            subject,
            "%s\n\n%s\n\n%s\n"
                .formatted(
                    company.wording().say(Phrase.MAIL_GREETING, reader.name()),
                    says,
                    closing.isEmpty() ? company.identity().name() : closing),
            reader.customerId());
    mail.queue(act, report == null ? letter : letter.with(report));
  }
}
