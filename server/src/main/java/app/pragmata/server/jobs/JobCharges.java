package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.JOB_CHARGE;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.server.generated.tables.records.JobChargeRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What jobs are charged by time and parts besides the work. */
@Component
public class JobCharges {
  /**
   * A charge as it is added.
   *
   * @param vatCode null for as the job is treated
   */
  public record NewCharge(
      String description, BigDecimal quantity, UnitPrice unitPrice, @Nullable String vatCode) {}

  private final DSLContext database;
  private final VisitStore visits;
  private final Events events;

  JobCharges(DSLContext database, VisitStore visits, Events events) {
    this.database = database;
    this.visits = visits;
    this.events = events;
  }

  /** Adds one to a job that is not closed; gives its id. */
  public long add(Act act, LockedJob job, NewCharge charge) {
    job.requireUnbilled();
    long id = insert(act, job.id(), charge);
    visits.follow(act, job);
    return id;
  }

  /** Adds one to a job that is just being opened. */
  long insert(Act act, long jobId, NewCharge charge) {
    JobChargeRecord row = database.newRecord(JOB_CHARGE);
    row.setJobId(jobId);
    row.setDescription(charge.description());
    row.setQuantity(charge.quantity());
    row.setUnitPrice(charge.unitPrice());
    row.setVatCode(charge.vatCode());
    events.store(act, JobEvent.CHARGE_ADDED, row);
    return row.getId();
  }

  /** Charges it no more. */
  public void remove(Act act, long id, int version) {
    change(act, JobEvent.CHARGE_REMOVED, id, version, act.at());
  }

  /** Charges it again. */
  public void putBack(Act act, long id, int version) {
    change(act, JobEvent.CHARGE_PUT_BACK, id, version, null);
  }

  private void change(Act act, JobEvent event, long id, int version, @Nullable Instant removedAt) {
    long jobId =
        database
            .select(JOB_CHARGE.JOB_ID)
            .from(JOB_CHARGE)
            .where(JOB_CHARGE.ID.eq(id))
            .fetchOptional(JOB_CHARGE.JOB_ID)
            .orElseThrow(
                () -> new Refused(Rule.NOT_FOUND, "This charge does not exist. Reload the sheet."));
    LockedJob job = visits.lockJob(jobId);
    job.requireUnbilled();
    JobChargeRecord row =
        database.selectFrom(JOB_CHARGE).where(JOB_CHARGE.ID.eq(id)).forUpdate().fetchSingle();
    Versions.require(version, row.getVersion());
    row.setRemovedAt(removedAt);
    events.store(act, event, row);
    visits.follow(act, job);
  }

  /** Those of a job that stand, as a column of a statement on jobs. */
  static Field<List<Charged>> charges(
      Field<Long> jobId, Function<String, VatTreatment> vatTreatments) {
    return multiset(
            select(
                    JOB_CHARGE.ID,
                    JOB_CHARGE.VERSION,
                    JOB_CHARGE.DESCRIPTION,
                    JOB_CHARGE.QUANTITY,
                    JOB_CHARGE.UNIT_PRICE,
                    JOB_CHARGE.VAT_CODE)
                .from(JOB_CHARGE)
                .where(JOB_CHARGE.JOB_ID.eq(jobId).and(JOB_CHARGE.REMOVED_AT.isNull()))
                .orderBy(JOB_CHARGE.ID))
        .as("charges")
        .convertFrom(
            rows ->
                rows.map(
                    row ->
                        new Charged(
                            row.value2(),
                            new JobFacts.Charge(
                                row.value1(),
                                row.value3(),
                                row.value4(),
                                row.value5(),
                                row.value6() == null ? null : vatTreatments.apply(row.value6())))));
  }

  /** A charge of a job as it stands. */
  public record Charged(int version, JobFacts.Charge charge) {}
}
