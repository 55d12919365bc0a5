package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART_WANTED;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import app.pragmata.server.partswanted.PartsWanted;
import app.pragmata.server.partswanted.PartsWanted.WantForm;
import app.pragmata.server.records.Act;
import java.time.Duration;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.SortField;
import org.springframework.stereotype.Component;

/**
 * What jobs of the demo wait for: a part that has come, one that is ordered, one that the office
 * should have ordered, and one that somebody wants at once.
 */
@Component
class DemoPartsWanted {
  private final DSLContext database;
  private final PartsWanted parts;

  DemoPartsWanted(DSLContext database, PartsWanted parts) {
    this.database = database;
    this.parts = parts;
  }

  void want(Act act) {
    List<Long> patient = jobs(VisitState.Code.UNPLANNED, VISIT.ID.desc());
    List<Long> planned = jobs(VisitState.Code.PLANNED, VISIT.DAY.desc());
    if (patient.size() < 2 || planned.size() < 2) {
      return;
    }
    long board = want(act, 5, patient.getFirst(), "control board", "1", false);
    parts.order(ago(act, 4), board, 1, "Harrow & Lyle", act.today().plusDays(6).toString());
    long hinges = want(act, 7, patient.getLast(), "hinge set for the left leaf", "2", false);
    parts.order(ago(act, 6), hinges, 1, "Brenner Ironworks", act.today().toString());
    parts.arrive(ago(act, 1), hinges, version(hinges));
    want(act, 4, planned.getFirst(), "the rubber under the lower rail, two metres", "1", false);
    want(act, 0, planned.getLast(), "a key switch like the one at the gate house", "1", true);
  }

  /** Of the first two visits of such a state, of one person and nobody who was promised a time. */
  private List<Long> jobs(VisitState.Code state, SortField<?> order) {
    return database
        .select(VISIT.JOB_ID)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(VISIT.STATE.eq(state))
        .and(JOB.RESPOND_BY.isNull().and(JOB.CREW_SIZE.isNull()))
        .orderBy(order, VISIT.ID)
        .limit(2)
        .fetch(VISIT.JOB_ID);
  }

  private long want(
      Act act, int daysAgo, long jobId, String words, String quantity, boolean urgent) {
    long technician =
        database
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.ROLE.eq(Role.TECHNICIAN))
            .orderBy(PERSON.ID)
            .limit(1)
            .fetchSingle(PERSON.ID);
    Act then = ago(act, daysAgo);
    return parts.want(
        new Act(technician, Role.TECHNICIAN, then.at(), then.zone()),
        "demo-part-" + jobId,
        jobId,
        new WantForm(null, null, words, quantity, urgent));
  }

  private int version(long id) {
    return database
        .select(PART_WANTED.VERSION)
        .from(PART_WANTED)
        .where(PART_WANTED.ID.eq(id))
        .fetchSingle(PART_WANTED.VERSION);
  }

  private static Act ago(Act act, int days) {
    return new Act(act.personId(), act.role(), act.at().minus(Duration.ofDays(days)), act.zone());
  }
}
