package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.server.customers.SiteService;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Repository;

/** Whether the customer of a job can be written to. */
@Repository
class ReachableCustomer {
  private final DSLContext database;

  ReachableCustomer(DSLContext database) {
    this.database = database;
  }

  /** Whether there is a mail address or a telephone number for a job. */
  boolean of(long jobId) {
    Field<Boolean> reachable = SiteService.isReachable().as("is_reachable");
    return database
        .select(reachable)
        .from(JOB)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .where(JOB.ID.eq(jobId))
        .fetchSingle(reachable);
  }
}
