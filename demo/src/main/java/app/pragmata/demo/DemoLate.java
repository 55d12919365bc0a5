package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.field.PocketStep;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import app.pragmata.server.field.LateActs;
import app.pragmata.server.field.LateActs.LateActForm;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * What came in late: a part that was taken in a cellar without a network. When the phone could send
 * it the office had checked the visit.
 */
@Component
class DemoLate {
  private final DSLContext database;
  private final LateActs late;

  DemoLate(DSLContext database, LateActs late) {
    this.database = database;
    this.late = late;
  }

  /** Of the visit that was checked last and is not billed; nothing where there is none. */
  void comeIn(Instant now, ZoneId zone) {
    database
        .select(VISIT.ID, VISIT.TECHNICIAN_ID, VISIT.FINISHED_AT)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(VISIT.STATE.eq(VisitState.Code.CHECKED).and(JOB.STATE.eq(JobState.Code.CHECKED)))
        .and(VISIT.FINISHED_AT.isNotNull().and(VISIT.TECHNICIAN_ID.isNotNull()))
        .orderBy(VISIT.FINISHED_AT.desc())
        .limit(1)
        .forEach(
            row ->
                late.takeAll(
                    new Act(row.value2(), Role.TECHNICIAN, now, zone),
                    List.of(taken(row.value1(), row.value3(), now))));
  }

  private LateActForm taken(long visitId, Instant finished, Instant now) {
    long keySwitch = database.fetchSingle(PART, PART.NUMBER.eq("KEY-SW")).getId();
    return new LateActForm(
        "demo-late-part-" + visitId,
        PocketStep.USE_PART,
        visitId,
        finished.minus(20, ChronoUnit.MINUTES),
        now,
        Map.of("partId", keySwitch, "quantity", "1"));
  }
}
