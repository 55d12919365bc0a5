package app.pragmata.server.telling;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_MESSAGE;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.ReportCopy;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.ArrivalWindow;
import app.pragmata.core.planning.TellBy;
import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.generated.tables.records.CustomerRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What customers are told of visits, over HTTP. */
@RestController
class TellingApi {
  /**
   * How a customer is told of plans, and that somebody is on the way; what they get when a visit is
   * over.
   */
  record ToldByForm(
      @Nullable TellBy plan, @Nullable TellBy coming, @Nullable ReportCopy reportCopy) {}

  /** How a customer is told, and the visits that are to come, the next first. */
  record CustomersVisits(TellBy plan, TellBy coming, ReportCopy reportCopy, List<NextVisit> next) {}

  /** A visit that is to come. */
  record NextVisit(
      long visitId,
      long jobNumber,
      String title,
      LocalDate day,
      LocalTime start,
      ArrivalWindow window,
      String technician) {}

  /** What was told of a visit, the newest first. */
  record ToldOfVisit(List<ToldMessage> messages) {}

  /** One message by the company's clock, with the plan that it told of. */
  record ToldMessage(
      ToldKind kind,
      TellBy toldBy,
      String address,
      LocalDateTime toldAt,
      LocalDate day,
      ArrivalWindow window) {}

  /** What was told now; null when the customer knows it already, or when its time has passed. */
  record ToldNow(@Nullable ToldKind told) {}

  /** Text messages, the newest first. */
  record SentTexts(List<SentText> texts) {}

  /** A text message; it has not gone out while it has no moment of that. */
  record SentText(
      long id,
      String toNumber,
      String body,
      LocalDateTime queuedAt,
      @Nullable LocalDateTime sentAt) {}

  private static final int MOST_NEXT = 5;

  private final DSLContext database;
  private final VisitNews news;
  private final TextMessages texts;
  private final Events events;

  TellingApi(DSLContext database, VisitNews news, TextMessages texts, Events events) {
    this.database = database;
    this.news = news;
    this.texts = texts;
    this.events = events;
  }

  @GetMapping("/api/customers/{id}/visits")
  CustomersVisits listCustomersVisits(Act act, @PathVariable long id) {
    CustomerRecord customer = customer(id, false);
    return new CustomersVisits(
        customer.getPlanToldBy(),
        customer.getComingToldBy(),
        customer.getReportCopy(),
        database
            .select(VISIT.ID, JOB.NUMBER, JOB.TITLE, VISIT.DAY, VISIT.START_TIME, PERSON.NAME)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(PERSON)
            .on(PERSON.ID.eq(VISIT.TECHNICIAN_ID))
            .where(JOB.CUSTOMER_ID.eq(id))
            .and(VISIT.STATE.in(VisitState.Code.PLANNED, VisitState.Code.DRIVING))
            .and(VISIT.DAY.ge(act.today()))
            .orderBy(VISIT.DAY, VISIT.START_TIME, VISIT.ID)
            .limit(MOST_NEXT)
            .fetch(
                row ->
                    new NextVisit(
                        row.value1(),
                        row.value2(),
                        row.value3(),
                        row.value4(),
                        row.value5(),
                        ArrivalWindow.of(row.value5()),
                        row.value6())));
  }

  private CustomerRecord customer(long id, boolean locked) {
    var select = database.selectFrom(CUSTOMER).where(CUSTOMER.ID.eq(id));
    CustomerRecord customer = locked ? select.forUpdate().fetchOne() : select.fetchOne();
    if (customer == null) {
      throw new Refused(
          Rule.NOT_FOUND,
          "This customer does not exist. Find the right one with / and their name.");
    }
    return customer;
  }

  /** Says how a customer is told from now on. */
  @PutMapping("/api/customers/{id}/told-by")
  @Transactional
  public void changeToldBy(Act act, @PathVariable long id, @RequestBody ToldByForm form) {
    var reading = new Reading();
    if (form.plan() == null) {
      reading.fault("plan", Rule.MISSING, "Choose how, or nobody.");
    }
    if (form.coming() == null) {
      reading.fault("coming", Rule.MISSING, "Choose how, or nobody.");
    }
    if (form.reportCopy() == null) {
      reading.fault("reportCopy", Rule.MISSING, "Choose with prices, without, or none.");
    }
    reading.refuseIfFaulty();
    CustomerRecord customer = customer(id, true);
    customer.setPlanToldBy(form.plan());
    customer.setComingToldBy(form.coming());
    customer.setReportCopy(form.reportCopy());
    events.store(act, CustomerEvent.CHANGED, customer);
  }

  @GetMapping("/api/visits/{id}/messages")
  ToldOfVisit listVisitMessages(Act act, @PathVariable long id) {
    return new ToldOfVisit(
        database
            .selectFrom(VISIT_MESSAGE)
            .where(VISIT_MESSAGE.VISIT_ID.eq(id))
            .orderBy(VISIT_MESSAGE.ID.desc())
            .fetch(
                row ->
                    new ToldMessage(
                        row.getKind(),
                        row.getToldBy(),
                        row.getAddress(),
                        LocalDateTime.ofInstant(row.getToldAt(), act.zone()),
                        row.getDay(),
                        ArrivalWindow.of(row.getStartTime()))));
  }

  /** Tells the customer of a visit now; what they know already is not told again. */
  @PostMapping("/api/visits/{id}/messages")
  @Transactional
  public ToldNow tellOfVisit(Act act, @PathVariable long id) {
    database.selectFrom(VISIT).where(VISIT.ID.eq(id)).forUpdate().execute();
    return new ToldNow(news.tell(act, id));
  }

  /** The 200 newest text messages. */
  @GetMapping("/api/texts")
  SentTexts listTexts(Act act) {
    return new SentTexts(
        texts.list().stream()
            .map(
                row ->
                    new SentText(
                        row.getId(),
                        row.getToNumber(),
                        row.getBody(),
                        LocalDateTime.ofInstant(row.getQueuedAt(), act.zone()),
                        row.getSentAt() == null
                            ? null
                            : LocalDateTime.ofInstant(row.getSentAt(), act.zone())))
            .toList());
  }
}
