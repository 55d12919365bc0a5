package app.pragmata.server.workorders;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.WORK_ORDER;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.jobs.WorkOrderState;
import app.pragmata.core.money.Money;
import app.pragmata.server.billing.BillingService;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.WorkOrderRecord;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.mail.MailQueue;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import app.pragmata.server.workorders.WorkOrdersApi.WorkOrderBillForm;
import app.pragmata.server.workorders.WorkOrdersApi.WorkOrderForm;
import java.time.LocalDate;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Orders work from subcontractors for a job, by mail where they have an address. Their bill is
 * awaited: it counts in the forecast, the office has a to-do, and only a bill or a reason ends it.
 */
@Service
@Transactional
class WorkOrders {
  private static final int LONGEST_NAME = 120;
  private static final int LONGEST_WORDS = 300;

  /** So many working days after the work is wanted somebody asks for the bill. */
  private static final int PATIENCE_DAYS = 10;

  private final DSLContext database;
  private final VisitStore visits;
  private final BillingService billing;
  private final ToDoService toDos;
  private final MailQueue mail;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;
  private final Events events;

  WorkOrders(
      DSLContext database,
      VisitStore visits,
      BillingService billing,
      ToDoService toDos,
      MailQueue mail,
      CompanyStore companies,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.visits = visits;
    this.billing = billing;
    this.toDos = toDos;
    this.mail = mail;
    this.companies = companies;
    this.repeats = repeats;
    this.events = events;
  }

  /** Writes an order down and mails it; gives its id. */
  long order(Act act, @Nullable String key, long jobId, WorkOrderForm form) {
    return repeats.once(
        act,
        key,
        "order work",
        jobId + " " + form,
        () -> {
          var reading = new Reading();
          String supplier = reading.text("supplier", form.supplier(), LONGEST_NAME);
          String email = reading.optional("email", form.email(), MailAddress::parse);
          String what = reading.text("what", form.what(), LONGEST_WORDS);
          Money expected =
              reading.optional("expected", form.expected(), companies.getCompany().typed()::money);
          if (expected != null && !expected.isPositive()) {
            reading.fault("expected", Rule.MISSING, "Enter what it is to cost, or leave it empty.");
          }
          LocalDate wanted =
              reading.optional("wantedOn", form.wantedOn(), typed -> Day.parse(typed, act.today()));
          reading.refuseIfFaulty();
          LockedJob job = visits.lockJob(jobId);
          job.requireUnbilled();
          WorkOrderRecord row = database.newRecord(WORK_ORDER);
          row.setJobId(jobId);
          row.setSupplier(Objects.requireNonNull(supplier));
          row.setEmail(Objects.requireNonNullElse(email, ""));
          row.setWhat(Objects.requireNonNull(what));
          row.setExpectedMinor(expected == null ? null : expected.minor());
          row.setWantedOn(wanted);
          row.setState(WorkOrderState.ORDERED);
          row.setOrderedOn(act.today());
          row.setReason("");
          row.setToDoId(remind(act, job, row));
          events.store(act, WorkOrderEvent.WORK_ORDERED, row);
          if (!row.getEmail().isEmpty()) {
            tell(act, row);
          }
          visits.follow(act, job);
          return row.getId();
        });
  }

  private long remind(Act act, LockedJob job, WorkOrderRecord row) {
    LocalDate from = Objects.requireNonNullElse(row.getWantedOn(), act.today());
    return toDos.insertForOffice(
        act,
        act.personId(),
        ToDoForm.ofJob(
            "Bill of %s for %s".formatted(row.getSupplier(), row.getWhat()),
            companies.getCompany().calendar().workdaysAfter(from, PATIENCE_DAYS),
            job.customerId(),
            job.id()));
  }

  private void tell(Act act, WorkOrderRecord row) {
    Company company = companies.getCompany();
    Wording wording = company.wording();
    var place =
        database
            .select(JOB.NUMBER, SITE.NAME, SITE.ADDRESS, SITE.POSTCODE, SITE.ACCESS_NOTES)
            .from(JOB)
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .where(JOB.ID.eq(row.getJobId()))
            .fetchSingle();
    String number = String.valueOf(place.value1());
    var says = new StringBuilder(wording.say(Phrase.MAIL_WORK_ORDER_SAYS, number, row.getWhat()));
    says.append("\n\n").append(place.value2()).append(", ").append(place.value3());
    says.append(' ').append(place.value4());
    if (!place.value5().isEmpty()) {
      says.append("\n").append(place.value5());
    }
    if (row.getWantedOn() != null) {
      says.append("\n\n")
          .append(wording.say(Phrase.MAIL_WORK_ORDER_BY, wording.day(row.getWantedOn())));
    }
    if (row.getExpectedMinor() != null) {
      Money expected = Money.ofMinor(row.getExpectedMinor());
      says.append("\n\n")
          .append(
              wording.say(
                  Phrase.MAIL_WORK_ORDER_PRICE, wording.money(expected, company.currency())));
    }
    mail(act, row, company, wording.say(Phrase.MAIL_WORK_ORDER, number, name(company)), says);
  }

  private void tellDropped(Act act, WorkOrderRecord row, LockedJob job) {
    Company company = companies.getCompany();
    Wording wording = company.wording();
    String number = String.valueOf(job.number());
    mail(
        act,
        row,
        company,
        wording.say(Phrase.MAIL_WORK_ORDER_OFF, number, name(company)),
        wording.say(Phrase.MAIL_WORK_ORDER_OFF_SAYS, number, row.getWhat()));
  }

  private static String name(Company company) {
    return company.identity().name();
  }

  private void mail(
      Act act, WorkOrderRecord row, Company company, String subject, CharSequence says) {
    String closing = company.quoting().letterWords().closing();
    mail.queue(
        act,
        MailQueue.Letter.of(
            row.getEmail(),
            subject,
            "%s\n\n%s\n\n%s\n"
                .formatted(
                    company.wording().say(Phrase.MAIL_GREETING, row.getSupplier()),
                    says,
                    closing.isEmpty() ? name(company) : closing),
            null));
  }

  /** Their bill has come: it joins the job's costs. Gives the order's id. */
  long bill(Act act, @Nullable String key, long id, WorkOrderBillForm form) {
    return repeats.once(
        act,
        key,
        "bill of work order",
        id + " " + form,
        () -> {
          WorkOrderRecord row = lock(id, form.version());
          row.setState(row.getState().become(WorkOrderState.BILLED));
          row.setClosedOn(act.today());
          row.setOtherCostId(
              billing.addOtherCost(
                  act,
                  row.getJobId(),
                  new BillingService.OtherCostForm(
                      row.getSupplier(), row.getWhat(), form.cost(), form.vat(), form.passedOn())));
          events.store(act, WorkOrderEvent.WORK_BILLED, row);
          toDos.settle(act, row.getToDoId(), "The bill has come");
          visits.follow(act, visits.lockJob(row.getJobId()));
          return id;
        });
  }

  /** Nobody waits for it any more; who was asked by mail is told by mail. */
  void drop(Act act, long id, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.text("reason", reason, LONGEST_WORDS);
    reading.refuseIfFaulty();
    WorkOrderRecord row = lock(id, version);
    row.setState(row.getState().become(WorkOrderState.DROPPED));
    row.setClosedOn(act.today());
    row.setReason(Objects.requireNonNull(why));
    events.store(act, WorkOrderEvent.WORK_ORDER_DROPPED, row, About.because(why));
    toDos.settle(act, row.getToDoId(), "Dropped");
    LockedJob job = visits.lockJob(row.getJobId());
    if (!row.getEmail().isEmpty()) {
      tellDropped(act, row, job);
    }
    visits.follow(act, job);
  }

  /** The job is locked first, so that all about it happens in turn. */
  private WorkOrderRecord lock(long id, int version) {
    Long jobId =
        database
            .select(WORK_ORDER.JOB_ID)
            .from(WORK_ORDER)
            .where(WORK_ORDER.ID.eq(id))
            .fetchOne(WORK_ORDER.JOB_ID);
    if (jobId == null) {
      throw new Refused(Rule.NOT_FOUND, "There is no such work order. Reload the page.");
    }
    visits.lockJob(jobId);
    WorkOrderRecord row =
        database.selectFrom(WORK_ORDER).where(WORK_ORDER.ID.eq(id)).forUpdate().fetchSingle();
    Versions.require(version, row.getVersion());
    return row;
  }
}
