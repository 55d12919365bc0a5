package app.pragmata.server.jobpages;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.Rating;
import app.pragmata.core.field.TalkSide;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.ArrivalWindow;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.Logo;
import app.pragmata.server.field.FieldEvent;
import app.pragmata.server.field.JobMessages;
import app.pragmata.server.field.VisitSignatures;
import app.pragmata.server.field.VisitSignatures.SignedForm;
import app.pragmata.server.field.VisitSignatures.VisitSignature;
import app.pragmata.server.jobpages.JobPageView.PageMessage;
import app.pragmata.server.jobpages.JobPageView.PageVisit;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.mail.Attachments.Attachment;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What a customer sees and does behind the link of a job: when somebody comes, what was done, their
 * signature, how they found it, and what they write to us. Nothing of it shows what anything costs
 * us. Each act is of the customer and at its moment.
 */
@Service
@Transactional
class JobPages {
  /** How a customer found a visit that they signed: from one to five, with a word on it. */
  record RatingForm(@Nullable Integer rating, @Nullable String words) {}

  private final DSLContext database;
  private final JobPageLinks links;
  private final VisitStore visits;
  private final VisitSignatures signatures;
  private final VisitReports reports;
  private final JobMessages messages;
  private final CompanyStore companies;
  private final Logo logo;
  private final Events events;

  JobPages(
      DSLContext database,
      JobPageLinks links,
      VisitStore visits,
      VisitSignatures signatures,
      VisitReports reports,
      JobMessages messages,
      CompanyStore companies,
      Logo logo,
      Events events) {
    this.database = database;
    this.links = links;
    this.visits = visits;
    this.signatures = signatures;
    this.reports = reports;
    this.messages = messages;
    this.companies = companies;
    this.logo = logo;
    this.events = events;
  }

  /** Refuses a link that opens nothing. */
  @Transactional(readOnly = true)
  void require(String token) {
    links.require(token);
  }

  /** The page; what was said to the customer is seen by that. */
  JobPageView view(Act act, String token) {
    long jobId = links.require(token);
    links.noteOpened(jobId, act.at());
    messages.seeAsCustomer(act, jobId);
    Company company = companies.getCompany();
    var job =
        database
            .select(JOB.NUMBER, JOB.TITLE, CUSTOMER.NAME, SITE.NAME, SITE.ADDRESS)
            .from(JOB)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .where(JOB.ID.eq(jobId))
            .fetchSingle();
    return new JobPageView(
        company.identity(),
        logo.find().isPresent(),
        company.locale().toLanguageTag(),
        company.currency(),
        job.value1(),
        job.value2(),
        job.value3(),
        job.value4(),
        job.value5(),
        listVisits(act, jobId),
        messages.list(act, jobId).stream()
            .filter(each -> each.from() == TalkSide.CUSTOMER || each.to() == TalkSide.CUSTOMER)
            .map(
                each ->
                    new PageMessage(
                        each.text(),
                        each.sentAt(),
                        each.from() == TalkSide.CUSTOMER ? null : each.sentBy()))
            .toList(),
        company.wording().ofPage());
  }

  private List<PageVisit> listVisits(Act act, long jobId) {
    Map<Long, VisitSignature> signed =
        signatures.list(jobId).stream()
            .collect(Collectors.toMap(VisitSignature::visitId, Function.identity()));
    return database
        .select(
            VISIT.ID,
            VISIT.STATE,
            VISIT.DAY,
            VISIT.START_TIME,
            PERSON.NAME,
            VISIT.OUTCOME,
            VISIT.NOTE)
        .from(VISIT)
        .join(PERSON)
        .on(PERSON.ID.eq(VISIT.TECHNICIAN_ID))
        .where(VISIT.JOB_ID.eq(jobId).and(VISIT.DAY.isNotNull()))
        .and(
            VISIT.STATE.notIn(
                VisitState.Code.UNPLANNED,
                VisitState.Code.NOT_THIS_TIME,
                VisitState.Code.CALLED_OFF))
        .orderBy(VISIT.DAY, VISIT.START_TIME, VISIT.ID)
        .fetch(
            row -> {
              VisitState.Code state = row.value2();
              boolean ahead = state == VisitState.Code.PLANNED || state == VisitState.Code.DRIVING;
              VisitSignature signature = signed.get(row.value1());
              return new PageVisit(
                  row.value1(),
                  state,
                  row.value3(),
                  ahead ? ArrivalWindow.of(row.value4()) : null,
                  row.value5(),
                  row.value6(),
                  state.isOver() ? row.value7() : "",
                  signature == null ? null : signature.name(),
                  signature == null ? null : act.dayOf(signature.signedAt()),
                  signature == null ? null : signature.rating(),
                  signature != null && signature.rating() == null);
            });
  }

  /** Signs a visit that is over; what was signed before stays. */
  void sign(Act act, String token, long visitId, SignedForm typed) {
    var reading = new Reading();
    SignedForm form = Objects.requireNonNull(VisitSignatures.read(reading, typed));
    reading.refuseIfFaulty();
    LockedVisit visit = lock(token, visitId);
    if (!visit.state().code().isOver()) {
      throw new Refused(
          Rule.VISIT_NOT_FINISHED, "This visit is not over. It can be signed when it is.");
    }
    if (signatures.find(visit.job().id(), visitId).isPresent()) {
      throw new Refused(Rule.VISIT_SIGNED, "This visit is signed already. Thank you.");
    }
    signatures.keep(act, visit, form, act.at());
    events.tell(act, FieldEvent.VISIT_SIGNED, visitId, About.partOf(visit.job().id()));
  }

  /** Says how they found a visit that is signed. */
  void rate(Act act, String token, long visitId, RatingForm form) {
    var reading = new Reading();
    int rating = Objects.requireNonNullElse(form.rating(), 0);
    if (rating < Rating.LEAST || rating > Rating.MOST) {
      reading.fault("rating", Rule.MISSING, "Rate it from one to five.");
    }
    String words = reading.optionalText("words", form.words(), VisitSignatures.LONGEST_WORDS);
    reading.refuseIfFaulty();
    LockedVisit visit = lock(token, visitId);
    signatures.rate(act, visit, rating, words);
    events.tell(act, FieldEvent.VISIT_RATED, visitId, About.partOf(visit.job().id()));
  }

  /** Writes to the office; the same key writes once. */
  void write(Act act, @Nullable String key, String token, @Nullable String text) {
    messages.sendFromCustomer(act, key, links.require(token), text);
  }

  /** The report of a visit as a PDF, without prices: they are in what was sent, and on invoices. */
  @Transactional(readOnly = true)
  Attachment print(Act act, String token, long visitId) {
    long jobId = links.require(token);
    boolean over =
        database.fetchExists(
            VISIT,
            VISIT
                .ID
                .eq(visitId)
                .and(VISIT.JOB_ID.eq(jobId))
                .and(VISIT.STATE.in(VisitState.Code.FINISHED, VisitState.Code.CHECKED)));
    if (!over) {
      throw noSuchVisit();
    }
    return reports.print(act, visitId, false);
  }

  private LockedVisit lock(String token, long visitId) {
    long jobId = links.require(token);
    if (!database.fetchExists(VISIT, VISIT.ID.eq(visitId).and(VISIT.JOB_ID.eq(jobId)))) {
      throw noSuchVisit();
    }
    return visits.lock(visitId);
  }

  private static Refused noSuchVisit() {
    return new Refused(Rule.NOT_FOUND, "There is no such visit on this page. Load it again.");
  }
}
