package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.COST_FACT;
import static app.pragmata.server.generated.Tables.COST_RELEASE;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Category;
import app.pragmata.core.money.Money;
import app.pragmata.server.generated.tables.records.CostReleaseRecord;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Notes with each cost of a job which document took it out of work in progress. */
@Repository
class CostReleases {
  /**
   * Whatever was posted and no document has taken; {0} are the documents, {1} the visits and {2}
   * the suppliers' bills of those that do not close their job.
   */
  private static final String[] TAKE = {
    """
    update time_entry t set cost_release_id = r.id
      from cost_release r join visit v on v.job_id = r.job_id
      where r.id = any({0}) and (r.closes or v.id = any({1})) and t.visit_id = v.id and t.cost_release_id is null
        and t.time_cost_minor is not null and t.removed_at is null
    """,
    """
    update drive_home_share s set cost_release_id = r.id
      from cost_release r join visit v on v.job_id = r.job_id
      where r.id = any({0}) and (r.closes or v.id = any({1})) and s.visit_id = v.id and s.cost_release_id is null
    """,
    """
    update visit_part p set cost_release_id = r.id
      from cost_release r join visit v on v.job_id = r.job_id
      where r.id = any({0}) and (r.closes or v.id = any({1})) and p.visit_id = v.id and p.cost_release_id is null
        and p.removed_at is null
    """,
    """
    update other_cost o set cost_release_id = r.id
      from cost_release r
      where r.id = any({0}) and o.job_id = r.job_id and (r.closes or o.id = any({2})) and o.cost_release_id is null
    """
  };

  /** What a document took; {0} is the document, {1} its visits and {2} its suppliers' bills. */
  private static final String[] GIVE_BACK = {
    "update time_entry set cost_release_id = null where cost_release_id = {0} and visit_id = any({1})",
    "update drive_home_share set cost_release_id = null where cost_release_id = {0} and visit_id = any({1})",
    "update visit_part set cost_release_id = null where cost_release_id = {0} and visit_id = any({1})",
    "update other_cost set cost_release_id = null where cost_release_id = {0} and id = any({2})"
  };

  private final DSLContext database;

  CostReleases(DSLContext database) {
    this.database = database;
  }

  /**
   * Lets documents take the cost of their jobs, one of each job; gives it by job and category.
   * Categories without any are left out, and so are jobs.
   */
  Map<Long, Map<Category, Money>> take(List<CostTaking> takings) {
    if (takings.isEmpty()) {
      return Map.of();
    }
    List<CostReleaseRecord> rows = takings.stream().map(CostReleases::row).toList();
    Long[] ids =
        database
            .insertInto(COST_RELEASE)
            .set(rows)
            .returning(COST_RELEASE.ID)
            .fetch(COST_RELEASE.ID)
            .toArray(Long[]::new);
    Long[] visits = some(takings.stream().flatMap(each -> visitIds(each).stream()));
    Long[] others = some(takings.stream().flatMap(each -> otherCostIds(each).stream()));
    for (String taking : TAKE) {
      database.query(taking, DSL.val(ids), DSL.val(visits), DSL.val(others)).execute();
    }
    return costs(COST_FACT.COST_RELEASE_ID.in(ids));
  }

  private static CostReleaseRecord row(CostTaking taking) {
    var row = new CostReleaseRecord();
    row.setJobId(taking.job().id());
    row.setKind(taking.document().kind());
    row.setInvoiceNumber(taking.document().invoiceNumber());
    row.setCloses(taking.closes());
    row.setReleasedAt(taking.document().at());
    return row;
  }

  private static Set<Long> visitIds(CostTaking taking) {
    return taking.some() == null ? Set.of() : taking.some().visitIds();
  }

  private static Set<Long> otherCostIds(CostTaking taking) {
    return taking.some() == null ? Set.of() : taking.some().otherCostIds();
  }

  private static Long[] some(Stream<Long> ids) {
    return ids.toArray(Long[]::new);
  }

  /**
   * Puts cost that an invoice took back into work in progress; if the invoice closed the job, it
   * does so no more. Gives the cost by category.
   *
   * @param some of what it took; null for all
   */
  Map<Category, Money> giveBack(long jobId, long invoiceNumber, CostTaking.@Nullable Some some) {
    long id =
        database
            .select(COST_RELEASE.ID)
            .from(COST_RELEASE)
            .where(COST_RELEASE.JOB_ID.eq(jobId))
            .and(COST_RELEASE.INVOICE_NUMBER.eq(invoiceNumber))
            .fetchSingle(COST_RELEASE.ID);
    Condition which =
        some == null
            ? noCondition()
            : COST_FACT
                .VISIT_ID
                .in(some.visitIds())
                .or(COST_FACT.OTHER_COST_ID.in(some.otherCostIds()));
    var facts =
        database
            .selectDistinct(COST_FACT.VISIT_ID, COST_FACT.OTHER_COST_ID)
            .from(COST_FACT)
            .where(COST_FACT.COST_RELEASE_ID.eq(id).and(which))
            .fetch();
    Map<Category, Money> costs =
        costs(COST_FACT.COST_RELEASE_ID.eq(id).and(which)).getOrDefault(jobId, Map.of());
    Long[] visits = some(facts.stream().map(row -> row.value1()).filter(Objects::nonNull));
    Long[] others = some(facts.stream().map(row -> row.value2()).filter(Objects::nonNull));
    for (String giving : GIVE_BACK) {
      database.query(giving, DSL.val(id), DSL.val(visits), DSL.val(others)).execute();
    }
    database
        .update(COST_RELEASE)
        .set(COST_RELEASE.CLOSES, false)
        .where(COST_RELEASE.ID.eq(id).and(COST_RELEASE.CLOSES))
        .execute();
    return costs;
  }

  private Map<Long, Map<Category, Money>> costs(Condition which) {
    var costs = new HashMap<Long, Map<Category, Money>>();
    database
        .select(COST_FACT.JOB_ID, COST_FACT.CATEGORY, sum(COST_FACT.COST_MINOR).cast(Long.class))
        .from(COST_FACT)
        .where(which)
        .groupBy(COST_FACT.JOB_ID, COST_FACT.CATEGORY)
        .forEach(
            row ->
                costs
                    .computeIfAbsent(row.value1(), job -> new EnumMap<>(Category.class))
                    .put(row.value2(), Money.ofMinor(row.value3())));
    return costs;
  }
}
