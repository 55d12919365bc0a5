package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Priority;
import app.pragmata.core.company.ResponseTime;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.PromisedLine;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.VisitRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
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
   */
  public record NewJob(
      long customerId,
      long siteId,
      @Nullable Long equipmentId,
      @Nullable Accepted promised,
      long kindOfJobId,
      String title,
      String notes,
      @Nullable Priority priority,
      @Nullable String faultCode,
      @Nullable Integer expectedMinutes) {}

  /** An accepted quote and the lines that it promises. */
  public record Accepted(long quoteId, List<PromisedLine> lines) {}

  private final DSLContext database;
  private final PromiseStore promises;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final Events events;

  JobOpening(
      DSLContext database,
      PromiseStore promises,
      CompanyStore companies,
      NumberSeries numbers,
      Events events) {
    this.database = database;
    this.promises = promises;
    this.companies = companies;
    this.numbers = numbers;
    this.events = events;
  }

  /** Opens the job inside the caller's transaction; gives its id. */
  public long open(Act act, NewJob job) {
    var kind =
        database.selectFrom(KIND_OF_JOB).where(KIND_OF_JOB.ID.eq(job.kindOfJobId())).fetchSingle();
    var row = database.newRecord(JOB);
    row.setNumber(numbers.next(NumberSeries.Series.JOB));
    row.setCustomerId(job.customerId());
    row.setSiteId(job.siteId());
    row.setEquipmentId(job.equipmentId());
    row.setQuoteId(job.promised() == null ? null : job.promised().quoteId());
    row.setKindOfJobId(job.kindOfJobId());
    row.setTitle(job.title());
    row.setNotes(job.notes());
    row.setBillingBasis(
        job.promised() == null ? BillingBasis.Code.TIME_AND_PARTS : kind.getBillingBasis());
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
      promises.add(row.getId(), job.promised().quoteId(), job.promised().lines());
    }
    VisitRecord visit = database.newRecord(VISIT);
    visit.setJobId(row.getId());
    visit.setState(VisitState.Code.UNPLANNED);
    visit.setExpectedMinutes(
        job.expectedMinutes() == null ? kind.getDefaultMinutes() : job.expectedMinutes());
    events.store(act, JobEvent.VISIT_WANTED, visit);
    return row.getId();
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
