package app.pragmata.server.jobpages;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SENT_REPORT;
import static app.pragmata.server.generated.Tables.SIGNATURE_ASKED;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.field.ReportCopy;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.jobpages.CustomerLetters.Reader;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.mail.MailQueue.AttachedReport;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.LaterWork;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.WhatHappened;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Sends reports of visits to their customers: by itself some minutes after a visit is over, so that
 * its photos have come in, to whoever wants one or is to sign it; and whenever the office says so.
 */
@Service
@Transactional
public class SentReports {
  /**
   * A report to be sent.
   *
   * @param to a mail address; empty for the customer's own
   */
  public record ReportForm(@Nullable String to, boolean withPrices) {}

  /** A report that was sent, by the company's clock. */
  public record SentReport(
      long visitId, String toAddress, boolean withPrices, LocalDateTime sentAt, String sentBy) {}

  private static final TaskDescriptor<Long> TASK = TaskDescriptor.of("report-of-visit", Long.class);

  private final DSLContext database;
  private final CompanyStore companies;
  private final CustomerLetters letters;
  private final JobPageLinks links;
  private final RepeatableRequests repeats;
  private final LaterWork later;
  private final Clock clock;
  private final Duration sentAfter;

  SentReports(
      DSLContext database,
      CompanyStore companies,
      CustomerLetters letters,
      JobPageLinks links,
      RepeatableRequests repeats,
      LaterWork later,
      Clock clock,
      @Value("${pragmata.reports-sent-after:10m}") Duration sentAfter) {
    this.database = database;
    this.companies = companies;
    this.letters = letters;
    this.links = links;
    this.repeats = repeats;
    this.later = later;
    this.clock = clock;
    this.sentAfter = sentAfter;
  }

  @Bean
  static Task<Long> reportOfVisitTask(SentReports reports) {
    return Tasks.oneTime(TASK).execute((work, context) -> reports.sendByItself(work.getData()));
  }

  /** Has reports sent of visits that are over. */
  @EventListener
  public void follow(WhatHappened what) {
    Set<Long> finished = what.records(each -> each.event() == JobEvent.VISIT_FINISHED);
    if (finished.isEmpty()) {
      return;
    }
    Instant now = Instant.now();
    for (long visit :
        database
            .select(VISIT.ID)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .where(VISIT.ID.in(finished).and(isWanted()))
            .fetch(VISIT.ID)) {
      later.at(now.plus(sentAfter), TASK.instance(visit + " " + now).data(visit).build());
    }
  }

  /** Of the visit and the customer that are selected. */
  private static Condition isWanted() {
    return CUSTOMER
        .REPORT_COPY
        .ne(ReportCopy.NONE)
        .or(exists(selectOne().from(SIGNATURE_ASKED).where(SIGNATURE_ASKED.VISIT_ID.eq(VISIT.ID))));
  }

  /** Sends one to whoever wants it, once for each visit, and not when it goes on after all. */
  public void sendByItself(long visitId) {
    var visit =
        database
            .select(VISIT.JOB_ID, VISIT.DAY, CUSTOMER.REPORT_COPY)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .where(VISIT.ID.eq(visitId).and(isWanted()))
            .and(VISIT.STATE.in(VisitState.Code.FINISHED, VisitState.Code.CHECKED))
            .and(notExists(selectOne().from(SENT_REPORT).where(SENT_REPORT.VISIT_ID.eq(VISIT.ID))))
            .forUpdate()
            .of(VISIT)
            .fetchOne();
    if (visit == null) {
      return;
    }
    Reader reader = letters.reader(visit.value1());
    if (!reader.address().isEmpty()) {
      Act act = Act.ofProgram(clock.instant(), companies.getZone());
      boolean withPrices = visit.value3() == ReportCopy.WITH_PRICES;
      send(act, reader, visitId, visit.value2(), withPrices);
    }
  }

  /** Sends one now, whether one was sent before or not. */
  public void send(Act act, @Nullable String key, long visitId, ReportForm form) {
    var reading = new Reading();
    String to = reading.optional("to", form.to(), MailAddress::parse);
    reading.refuseIfFaulty();
    repeats.once(
        act,
        key,
        "send report",
        visitId + " " + form,
        () -> {
          var visit =
              database
                  .select(VISIT.JOB_ID, VISIT.DAY, VISIT.STATE)
                  .from(VISIT)
                  .where(VISIT.ID.eq(visitId))
                  .forUpdate()
                  .fetchOne();
          if (visit == null || !visit.value3().isOver()) {
            throw new Refused(
                Rule.VISIT_NOT_FINISHED, "There is nothing to report before the visit is over.");
          }
          Reader reader = letters.reader(visit.value1());
          if (to != null) {
            reader = reader.at(to);
          }
          if (reader.address().isEmpty()) {
            reading.fault(
                "to", Rule.MISSING, "Nobody knows where to write to them. Type a mail address.");
            reading.refuseIfFaulty();
          }
          send(act, reader, visitId, visit.value2(), form.withPrices());
          return visitId;
        });
  }

  private void send(Act act, Reader reader, long visitId, LocalDate day, boolean withPrices) {
    Wording wording = companies.getCompany().wording();
    String page = links.open(reader.jobId(), act.at());
    letters.send(
        act,
        reader,
        wording.say(Phrase.MAIL_REPORT, wording.day(day), reader.title()),
        wording.say(
            reader.mail().isEmpty() ? Phrase.TEXT_REPORT_SAYS : Phrase.MAIL_REPORT_SAYS, page),
        new AttachedReport(visitId, withPrices));
    database
        .insertInto(SENT_REPORT)
        .set(SENT_REPORT.VISIT_ID, visitId)
        .set(SENT_REPORT.TO_ADDRESS, reader.address())
        .set(SENT_REPORT.WITH_PRICES, withPrices)
        .set(SENT_REPORT.SENT_AT, act.at())
        .set(SENT_REPORT.SENT_BY, act.personId())
        .execute();
  }

  /** Those of a job's visits, the newest first. */
  @Transactional(readOnly = true)
  List<SentReport> list(long jobId, ZoneId zone) {
    return database
        .select(
            SENT_REPORT.VISIT_ID,
            SENT_REPORT.TO_ADDRESS,
            SENT_REPORT.WITH_PRICES,
            SENT_REPORT.SENT_AT,
            PERSON.NAME)
        .from(SENT_REPORT)
        .join(VISIT)
        .on(VISIT.ID.eq(SENT_REPORT.VISIT_ID))
        .join(PERSON)
        .on(PERSON.ID.eq(SENT_REPORT.SENT_BY))
        .where(VISIT.JOB_ID.eq(jobId))
        .orderBy(SENT_REPORT.ID.desc())
        .fetch(
            row ->
                new SentReport(
                    row.value1(),
                    row.value2(),
                    row.value3(),
                    LocalDateTime.ofInstant(row.value4(), zone),
                    row.value5()));
  }
}
