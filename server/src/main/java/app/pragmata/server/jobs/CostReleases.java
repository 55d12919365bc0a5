package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.COST_FACT;
import static app.pragmata.server.generated.Tables.COST_RELEASE;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Category;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.money.Money;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Notes with each cost of a job which document took it out of work in progress. */
@Repository
class CostReleases {
  /** Whatever was posted and no document has taken; {0} is the document. */
  private static final String[] TAKE_ALL = {
    """
    update time_entry t set cost_release_id = r.id
      from cost_release r join visit v on v.job_id = r.job_id
      where r.id = {0} and t.visit_id = v.id and t.cost_release_id is null
        and t.time_cost_minor is not null and t.removed_at is null
    """,
    """
    update drive_home_share s set cost_release_id = r.id
      from cost_release r join visit v on v.job_id = r.job_id
      where r.id = {0} and s.visit_id = v.id and s.cost_release_id is null
    """,
    """
    update visit_part p set cost_release_id = r.id
      from cost_release r join visit v on v.job_id = r.job_id
      where r.id = {0} and p.visit_id = v.id and p.cost_release_id is null and p.removed_at is null
    """,
    """
    update other_cost o set cost_release_id = r.id
      from cost_release r
      where r.id = {0} and o.job_id = r.job_id and o.cost_release_id is null
    """
  };

  private final DSLContext database;

  CostReleases(DSLContext database) {
    this.database = database;
  }

  /** Lets a job's closing document take all cost that is left; gives it by category. */
  Map<Category, Money> close(long jobId, Closing closing) {
    long id =
        database
            .insertInto(COST_RELEASE)
            .set(COST_RELEASE.JOB_ID, jobId)
            .set(COST_RELEASE.KIND, closing.kind())
            .set(COST_RELEASE.INVOICE_NUMBER, closing.invoiceNumber())
            .set(COST_RELEASE.CLOSES, true)
            .set(COST_RELEASE.RELEASED_AT, closing.at())
            .returning(COST_RELEASE.ID)
            .fetchSingle(COST_RELEASE.ID);
    for (String taking : TAKE_ALL) {
      database.query(taking, id).execute();
    }
    return database
        .select(COST_FACT.CATEGORY, sum(COST_FACT.COST_MINOR).cast(Long.class))
        .from(COST_FACT)
        .where(COST_FACT.COST_RELEASE_ID.eq(id))
        .groupBy(COST_FACT.CATEGORY)
        .fetchMap(row -> row.value1(), row -> Money.ofMinor(row.value2()));
  }
}
