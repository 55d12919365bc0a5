package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.COST_RELEASE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.noCondition;

import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.http.AskedDays;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Lists of jobs and of their visits. */
@RestController
class JobsApi {
  private static final int PAGE = 50;

  /**
   * A job in a list.
   *
   * @param closedBy the document that closes it; null while none does
   */
  record JobRow(
      long id,
      long number,
      int version,
      long customerId,
      String customer,
      long siteId,
      String site,
      String kindOfJob,
      String title,
      JobState.Code state,
      BillingBasis.Code billingBasis,
      Closing.@Nullable Kind closedBy,
      Instant createdAt) {}

  /** A page of jobs; {@code next} asks for the one after it, null on the last. */
  record JobPage(List<JobRow> rows, @Nullable String next) {}

  /** A visit in a list; technician, day and start are null while it is unplanned. */
  record VisitRow(
      long id,
      int version,
      long jobId,
      long jobNumber,
      String customer,
      VisitState.Code state,
      @Nullable Long technicianId,
      @Nullable String technician,
      @Nullable LocalDate day,
      @Nullable LocalTime start,
      int expectedMinutes) {}

  /** A page of visits; {@code next} asks for the one after it, null on the last. */
  record VisitPage(List<VisitRow> rows, @Nullable String next) {}

  private final DSLContext database;

  JobsApi(DSLContext database) {
    this.database = database;
  }

  /**
   * Jobs, the newest first; what is left out does not matter, days are those on which they were
   * made, inclusive.
   *
   * @param closed whether a document closes them
   */
  @GetMapping("/api/jobs")
  JobPage listJobs(
      Act act,
      @RequestParam(required = false) @Nullable Long customerId,
      @RequestParam(required = false) JobState.@Nullable Code state,
      @RequestParam(required = false) @Nullable Boolean closed,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "") String after) {
    AskedDays days = AskedDays.read(act, from, to);
    Condition condition = noCondition();
    if (customerId != null) {
      condition = condition.and(JOB.CUSTOMER_ID.eq(customerId));
    }
    if (state != null) {
      condition = condition.and(JOB.STATE.eq(state));
    }
    if (closed != null) {
      condition = condition.and(closed ? COST_RELEASE.ID.isNotNull() : COST_RELEASE.ID.isNull());
    }
    if (days.first() != null) {
      condition =
          condition.and(JOB.CREATED_AT.ge(days.first().atStartOfDay(act.zone()).toInstant()));
    }
    if (days.last() != null) {
      condition =
          condition.and(
              JOB.CREATED_AT.lt(days.last().plusDays(1).atStartOfDay(act.zone()).toInstant()));
    }
    if (!after.isEmpty()) {
      condition = condition.and(JOB.ID.lt(PageKey.parse(after, 1).number(0)));
    }
    List<JobRow> rows =
        database
            .select(
                JOB.ID,
                JOB.NUMBER,
                JOB.VERSION,
                CUSTOMER.ID,
                CUSTOMER.NAME,
                SITE.ID,
                SITE.NAME,
                KIND_OF_JOB.NAME,
                JOB.TITLE,
                JOB.STATE,
                JOB.BILLING_BASIS,
                COST_RELEASE.KIND,
                JOB.CREATED_AT)
            .from(JOB)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .join(KIND_OF_JOB)
            .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
            .leftJoin(COST_RELEASE)
            .on(COST_RELEASE.JOB_ID.eq(JOB.ID).and(COST_RELEASE.CLOSES))
            .where(condition)
            .orderBy(JOB.ID.desc())
            .limit(PAGE + 1)
            .fetch(Records.mapping(JobRow::new));
    return rows.size() <= PAGE
        ? new JobPage(rows, null)
        : new JobPage(rows.subList(0, PAGE), PageKey.of(rows.get(PAGE - 1).id()).text());
  }

  /**
   * Visits, the newest first; what is left out does not matter, days are those on which they are,
   * inclusive.
   */
  @GetMapping("/api/visits")
  VisitPage listVisits(
      Act act,
      @RequestParam(required = false) @Nullable Long jobId,
      @RequestParam(required = false) @Nullable Long technicianId,
      @RequestParam(required = false) VisitState.@Nullable Code state,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "") String after) {
    Condition condition = AskedDays.read(act, from, to).contain(VISIT.DAY);
    if (jobId != null) {
      condition = condition.and(VISIT.JOB_ID.eq(jobId));
    }
    if (technicianId != null) {
      condition = condition.and(VISIT.TECHNICIAN_ID.eq(technicianId));
    }
    if (state != null) {
      condition = condition.and(VISIT.STATE.eq(state));
    }
    if (!after.isEmpty()) {
      condition = condition.and(VISIT.ID.lt(PageKey.parse(after, 1).number(0)));
    }
    List<VisitRow> rows =
        database
            .select(
                VISIT.ID,
                VISIT.VERSION,
                JOB.ID,
                JOB.NUMBER,
                CUSTOMER.NAME,
                VISIT.STATE,
                VISIT.TECHNICIAN_ID,
                PERSON.NAME,
                VISIT.DAY,
                VISIT.START_TIME,
                VISIT.EXPECTED_MINUTES)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .leftJoin(PERSON)
            .on(PERSON.ID.eq(VISIT.TECHNICIAN_ID))
            .where(condition)
            .orderBy(VISIT.ID.desc())
            .limit(PAGE + 1)
            .fetch(Records.mapping(VisitRow::new));
    return rows.size() <= PAGE
        ? new VisitPage(rows, null)
        : new VisitPage(rows.subList(0, PAGE), PageKey.of(rows.get(PAGE - 1).id()).text());
  }
}
