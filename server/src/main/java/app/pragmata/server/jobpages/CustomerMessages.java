package app.pragmata.server.jobpages;

import static app.pragmata.server.generated.Tables.JOB_MESSAGE;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.field.TalkSide;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.FieldEvent;
import app.pragmata.server.generated.tables.records.JobMessageRecord;
import app.pragmata.server.jobpages.CustomerLetters.Reader;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.WhatHappened;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Takes to customers what is said to them about a job, with the link to answer it. */
@Component
class CustomerMessages {
  private final DSLContext database;
  private final CompanyStore companies;
  private final CustomerLetters letters;
  private final JobPageLinks links;

  CustomerMessages(
      DSLContext database, CompanyStore companies, CustomerLetters letters, JobPageLinks links) {
    this.database = database;
    this.companies = companies;
    this.letters = letters;
    this.links = links;
  }

  /** Sends each message to a customer in the transaction that says it. */
  @EventListener
  public void follow(WhatHappened what) {
    Set<Long> sent = what.records(each -> each.event() == FieldEvent.MESSAGE_SENT);
    if (sent.isEmpty()) {
      return;
    }
    database
        .select(JOB_MESSAGE.fields())
        .select(PERSON.NAME)
        .from(JOB_MESSAGE)
        .join(PERSON)
        .on(PERSON.ID.eq(JOB_MESSAGE.SENT_BY))
        .where(JOB_MESSAGE.ID.in(sent).and(JOB_MESSAGE.TO_SIDE.eq(TalkSide.CUSTOMER)))
        .orderBy(JOB_MESSAGE.ID)
        .forEach(row -> send(row.into(JOB_MESSAGE), row.get(PERSON.NAME)));
  }

  private void send(JobMessageRecord message, String sender) {
    Wording wording = companies.getCompany().wording();
    Reader reader = letters.reader(message.getJobId());
    // Queued as of the program, for what comes back is not for a technician to mend.
    Act act = Act.ofProgram(message.getSentAt(), companies.getZone());
    letters.send(
        act,
        reader,
        wording.say(Phrase.MAIL_MESSAGE, reader.title()),
        wording.say(
            Phrase.MAIL_MESSAGE_SAYS,
            sender,
            message.getText(),
            links.open(reader.jobId(), message.getSentAt())),
        null);
  }
}
