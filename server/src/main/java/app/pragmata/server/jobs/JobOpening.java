package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static org.jooq.impl.DSL.inline;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Priority;
import app.pragmata.core.company.ResponseTime;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.ExtraWork;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.PromisedStage;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.KindOfJobRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Opens jobs, each with a first visit that waits for a time. */
@Repository
public class JobOpening {
  /**
   * A job as it is promised.
   *
   * @param promised what an accepted quote promises; null for a job straight from a call, which is
   *     charged by time and parts
   * @param notes what is wrong, in the caller's words; may be empty
   * @param priority null when nobody has to be there by a certain time
   * @param faultCode null while nobody knows what is wrong
   * @param expectedMinutes the length of the first visit; null takes the kind of job's
   * @param notBefore the first day on which somebody may come; null for any
   * @param agreedPrice all that it is to cost without VAT, where that was agreed beforehand
   * @param charges what is charged besides the work
   */
  public record NewJob(
      long customerId,
      long siteId,
      @Nullable Long equipmentId,
      @Nullable NewPromise promised,
      long kindOfJobId,
      String title,
      String notes,
      @Nullable Priority priority,
      @Nullable String faultCode,
      @Nullable Integer expectedMinutes,
      @Nullable LocalDate notBefore,
      @Nullable Money agreedPrice,
      List<JobCharges.NewCharge> charges) {
    public NewJob {
      charges = List.copyOf(charges);
    }
  }

  /** What an accepted quote promises. */
  public record NewPromise(
      PromiseStore.Accepted quote, List<QuoteLine> lines, List<PromisedStage> stages) {}

  private final DSLContext database;
  private final PromiseStore promises;
  private final JobCharges charges;
  private final VisitStore visits;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final Events events;

  JobOpening(
      DSLContext database,
      PromiseStore promises,
      JobCharges charges,
      VisitStore visits,
      CompanyStore companies,
      NumberSeries numbers,
      Events events) {
    this.database = database;
    this.promises = promises;
    this.charges = charges;
    this.visits = visits;
    this.companies = companies;
    this.numbers = numbers;
    this.events = events;
  }

  /** Opens the job inside the caller's transaction; gives its id. */
  public long open(Act act, NewJob job) {
    KindOfJobRecord kind = getKind(job.kindOfJobId());
    var row = database.newRecord(JOB);
    row.setNumber(numbers.next(NumberSeries.Series.JOB));
    row.setCustomerId(job.customerId());
    row.setSiteId(job.siteId());
    row.setEquipmentId(job.equipmentId());
    row.setKindOfJobId(job.kindOfJobId());
    row.setCostCentre(kind.getCostCentre());
    row.setTitle(job.title());
    row.setNotes(job.notes());
    row.setBillingBasis(basis(job));
    if (job.agreedPrice() != null) {
      row.setToldMinor(job.agreedPrice().minor());
      row.setToldWithVat(false);
    }
    row.setFaultCode(job.faultCode());
    row.setState(JobState.Code.OPEN);
    row.setStateSince(act.at());
    row.setCreatedAt(act.at());
    if (job.priority() != null) {
      ResponseTime response = getResponseTime(act, job.customerId(), job.priority());
      row.setPriority(job.priority());
      row.setRespondBy(respondBy(act.at(), response));
      row.setRespondAroundTheClock(response.aroundTheClock());
    }
    events.store(act, job.promised() == null ? JobEvent.OPENED : JobEvent.MADE_FROM_QUOTE, row);
    if (job.promised() != null) {
      promises.add(
          row.getId(), job.promised().quote(), job.promised().lines(), job.promised().stages());
    }
    job.charges().forEach(charge -> charges.insert(act, row.getId(), charge));
    visits.want(
        act,
        row.getId(),
        job.expectedMinutes() == null ? kind.getDefaultMinutes() : job.expectedMinutes(),
        job.notBefore());
    return row.getId();
  }

  private static BillingBasis.Code basis(NewJob job) {
    if (job.promised() != null) {
      return job.promised().quote().promise().basis();
    }
    return job.agreedPrice() == null
        ? BillingBasis.Code.TIME_AND_PARTS
        : BillingBasis.Code.PROMISED_ON_SITE;
  }

  /**
   * Adds a further accepted quote to a running job's promise, inside the caller's transaction. A
   * job on which nobody is to come any more gets a visit for it.
   *
   * @param siteId where the further work is
   * @param expectedMinutes the length of that visit; null takes the kind of job's
   */
  public void extend(
      Act act, long jobId, long siteId, NewPromise extra, @Nullable Integer expectedMinutes) {
    LockedJob job = visits.lockJob(jobId);
    job.requireUnbilled();
    PromiseKind promised = database.select(PromiseStore.kind(inline(jobId))).fetchSingle().value1();
    ExtraWork.check(job.number(), promised, extra.quote().promise(), job.siteId() == siteId);
    promises.add(jobId, extra.quote(), extra.lines(), extra.stages());
    events.tell(
        act,
        JobEvent.EXTRA_WORK_PROMISED,
        jobId,
        About.NOTHING.with(Map.of(), Map.of("quote", extra.quote().number())));
    if (!visits.anybodyToCome(jobId)) {
      visits.want(
          act,
          jobId,
          expectedMinutes == null
              ? getKind(job.kindOfJobId()).getDefaultMinutes()
              : expectedMinutes,
          null);
    }
    visits.follow(act, job);
  }

  private KindOfJobRecord getKind(long id) {
    return database.selectFrom(KIND_OF_JOB).where(KIND_OF_JOB.ID.eq(id)).fetchSingle();
  }

  /** By when somebody would have to be there if the customer called now. */
  public Instant respondBy(Act act, long customerId, Priority priority) {
    return respondBy(act.at(), getResponseTime(act, customerId, priority));
  }

  private Instant respondBy(Instant called, ResponseTime response) {
    return response.respondBy(
        called.truncatedTo(ChronoUnit.MINUTES), companies.getCompany().calendar());
  }

  /** What the customer's own terms promise today, or the usual ones. */
  private ResponseTime getResponseTime(Act act, long customerId, Priority priority) {
    var customer =
        database
            .select(CUSTOMER.RESPONSE_TERMS_ID)
            .from(CUSTOMER)
            .where(CUSTOMER.ID.eq(customerId))
            .fetchOptional()
            .orElseThrow(
                () ->
                    new Refused(
                        Rule.NOT_FOUND,
                        "This customer does not exist. Find the right one with / and the name."));
    return companies.getCompany().promises().on(customer.value1(), priority, act.today());
  }
}
