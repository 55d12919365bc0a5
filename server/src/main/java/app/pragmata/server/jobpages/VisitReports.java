package app.pragmata.server.jobpages;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_PART;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.billing.BillingService;
import app.pragmata.server.checklists.AskedChecklist;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.VisitPhotos;
import app.pragmata.server.field.VisitSignatures;
import app.pragmata.server.jobpages.VisitReport.ReportPart;
import app.pragmata.server.jobpages.VisitReport.ReportTime;
import app.pragmata.server.mail.Attachments;
import app.pragmata.server.mail.MailQueue.Letter;
import app.pragmata.server.printing.PdfPrinter;
import app.pragmata.server.records.Act;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Records;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Makes the reports of visits, and prints them. */
@Service
class VisitReports implements Attachments {
  private record Clocked(String person, TimeEntry.Kind kind, Instant from, Instant to) {}

  private record Whose(String person, TimeEntry.Kind kind) {}

  private final DSLContext database;
  private final VisitSignatures signatures;
  private final VisitPhotos photos;
  private final BillingService billing;
  private final CompanyStore companies;
  private final PdfPrinter printer;
  private final Clock clock;

  VisitReports(
      DSLContext database,
      VisitSignatures signatures,
      VisitPhotos photos,
      BillingService billing,
      CompanyStore companies,
      PdfPrinter printer,
      Clock clock) {
    this.database = database;
    this.signatures = signatures;
    this.photos = photos;
    this.billing = billing;
    this.companies = companies;
    this.printer = printer;
    this.clock = clock;
  }

  /** A visit's report as a PDF under its file name. */
  Attachment print(Act act, long visitId, boolean withPrices) {
    Wording wording = companies.getCompany().wording();
    VisitReport report = get(act, visitId, withPrices);
    return new Attachment(
        wording.say(Phrase.FILE_REPORT, report.jobNumber()),
        new ByteArrayResource(printer.print(report.xhtml(wording, act.zone()))));
  }

  @Override
  public Optional<Attachment> print(Letter letter) {
    Act act = Act.ofProgram(clock.instant(), companies.getZone());
    return Optional.ofNullable(letter.report())
        .map(report -> print(act, report.visitId(), report.withPrices()));
  }

  /**
   * What was done on a visit that has a day.
   *
   * @param withPrices whether it says what the job comes to
   */
  @Transactional(readOnly = true)
  VisitReport get(Act act, long visitId, boolean withPrices) {
    Field<List<AskedChecklist>> checklists = AskedChecklist.ofVisit(act.zone());
    var row =
        database
            .select(
                VISIT.JOB_ID,
                VISIT.DAY,
                VISIT.NOTE,
                JOB.NUMBER,
                JOB.TITLE,
                CUSTOMER.NAME,
                SITE.NAME,
                SITE.ADDRESS,
                checklists)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .where(VISIT.ID.eq(visitId).and(VISIT.DAY.isNotNull()))
            .fetchOptional()
            .orElseThrow(
                () ->
                    new Refused(
                        Rule.NOT_FOUND,
                        "There is no such visit that has a day. Open its job and look at its visits."));
    return new VisitReport(
        row.value4(),
        row.value5(),
        row.value6(),
        row.value7(),
        row.value8(),
        row.value2(),
        row.value3(),
        times(visitId),
        database
            .select(VISIT_PART.QUANTITY, PART.UNIT, PART.NAME)
            .from(VISIT_PART)
            .join(PART)
            .on(PART.ID.eq(VISIT_PART.PART_ID))
            .where(VISIT_PART.VISIT_ID.eq(visitId).and(VISIT_PART.REMOVED_AT.isNull()))
            .orderBy(VISIT_PART.ID)
            .fetch(Records.mapping(ReportPart::new)),
        row.value9().stream().filter(VisitReports::isAnswered).toList(),
        photos.listForReport(visitId),
        signatures.find(row.value1(), visitId).orElse(null),
        withPrices ? billing.charges(act, row.value1()) : null);
  }

  private static boolean isAnswered(AskedChecklist checklist) {
    return checklist.items().stream().anyMatch(item -> item.given() != null);
  }

  /** Minutes by person and kind, in the order in which they began. */
  private List<ReportTime> times(long visitId) {
    var minutes = new LinkedHashMap<Whose, Integer>();
    for (Clocked clocked :
        database
            .select(PERSON.NAME, TIME_ENTRY.KIND, TIME_ENTRY.STARTED_AT, TIME_ENTRY.ENDED_AT)
            .from(TIME_ENTRY)
            .join(PERSON)
            .on(PERSON.ID.eq(TIME_ENTRY.PERSON_ID))
            .where(TIME_ENTRY.VISIT_ID.eq(visitId))
            .and(TIME_ENTRY.REMOVED_AT.isNull().and(TIME_ENTRY.ENDED_AT.isNotNull()))
            .orderBy(TIME_ENTRY.STARTED_AT, TIME_ENTRY.ID)
            .fetch(Records.mapping(Clocked::new))) {
      minutes.merge(
          new Whose(clocked.person(), clocked.kind()),
          TimeEntry.minutesBetween(clocked.from(), clocked.to()),
          Integer::sum);
    }
    var times = new ArrayList<ReportTime>();
    for (Map.Entry<Whose, Integer> one : minutes.entrySet()) {
      times.add(new ReportTime(one.getKey().person(), one.getKey().kind(), one.getValue()));
    }
    return times;
  }
}
