package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.people.Role;
import app.pragmata.server.records.Act;
import java.time.Clock;
import java.time.ZoneId;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.context.ConfigurableApplicationContext;

/** The checked jobs of a company that a list of closings can close by an invoice each. */
public final class CheckedJobs {
  private CheckedJobs() {}

  /** Those that need no reason for what they charge, the longest known first. */
  public static List<InvoiceService.JobAtVersion> list(DSLContext database) {
    return database
        .select(JOB.ID, JOB.VERSION)
        .from(JOB)
        .where(JOB.STATE.eq(JobState.Code.CHECKED))
        .and(JOB.BILLING_BASIS.ne(BillingBasis.Code.NOT_CHARGED))
        .and(
            """
            not exists (select from cost_release r where r.job_id = job.id and r.closes)
              and not exists (select from accepted_quote a where a.job_id = job.id and a.promise = 'estimate')
            """)
        .orderBy(JOB.ID)
        .fetch(row -> new InvoiceService.JobAtVersion(row.value1(), row.value2()));
  }

  /** Closes these by an invoice each, as the office. */
  public static void close(
      ConfigurableApplicationContext program, List<InvoiceService.JobAtVersion> jobs) {
    var act =
        new Act(
            program
                .getBean(DSLContext.class)
                .fetchSingle(PERSON, PERSON.USERNAME.eq("hester"))
                .getId(),
            Role.OFFICE,
            program.getBean(Clock.class).instant(),
            ZoneId.of("Europe/London"));
    program.getBean(InvoiceService.class).close(act, "closing-" + jobs.getFirst().jobId(), jobs);
  }
}
