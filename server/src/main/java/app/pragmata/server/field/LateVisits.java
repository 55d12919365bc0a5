package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.field.PocketStep;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.field.LateWork.OfPerson;
import app.pragmata.server.generated.tables.records.LateActRecord;
import app.pragmata.server.planning.PlanningService;
import app.pragmata.server.planning.PlanningService.PlanForm;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Finds the visits on which what came in late is written down. */
@Component
class LateVisits {
  private static final int SHORTEST_VISIT = 15;
  private static final int LONGEST_VISIT = 16 * 60;

  private final DSLContext database;
  private final CheckService check;
  private final PlanningService planning;

  LateVisits(DSLContext database, CheckService check, PlanningService planning) {
    this.database = database;
    this.check = check;
    this.planning = planning;
  }

  /**
   * The visit that was tapped on, where that is still whoever's it was; else one more of the same
   * job, which is planned here.
   *
   * @param rows of one person on one visit
   * @param times that came with them
   * @return null where the visit is not theirs any more and no time came
   */
  @Nullable Long of(Act act, List<LateActRecord> rows, List<OfPerson> times) {
    LateActRecord first = rows.getFirst();
    if (isOwn(act, first) || openChecked(act, rows, times)) {
      return first.getVisitId();
    }
    return times.isEmpty() ? null : add(act, first, times);
  }

  /** Whether nothing is recorded on it yet. */
  boolean isPlanned(long visitId) {
    return database.fetchExists(
        VISIT, VISIT.ID.eq(visitId).and(VISIT.STATE.eq(VisitState.Code.PLANNED)));
  }

  /** Whether the visit is still this person's and takes records. */
  private boolean isOwn(Act act, LateActRecord tapped) {
    return database
        .select(VISIT.STATE, VISIT.DAY)
        .from(VISIT)
        .where(VISIT.ID.eq(tapped.getVisitId()))
        .and(OwnVisit.ofCrew(VISIT, tapped.getPersonId()))
        .fetchOptional(row -> row.value1().takesRecords(row.value2(), act.today()))
        .orElse(false);
  }

  /**
   * Whether the visit was theirs and is checked: what came in belongs to that work, and on a visit
   * of its own would be charged a minimum and a call-out once more. Where time or parts come onto
   * it its check is taken back, unless it is billed; then they are late costs.
   */
  private boolean openChecked(Act act, List<LateActRecord> rows, List<OfPerson> times) {
    LateActRecord first = rows.getFirst();
    boolean checked =
        database.fetchExists(
            VISIT,
            VISIT
                .ID
                .eq(first.getVisitId())
                .and(VISIT.STATE.eq(VisitState.Code.CHECKED))
                .and(OwnVisit.ofCrew(VISIT, first.getPersonId())));
    if (checked
        && (!times.isEmpty()
            || rows.stream().map(LateActRecord::getStep).anyMatch(LateVisits::isPart))) {
      check.openAgain(act, first.getVisitId());
    }
    return checked;
  }

  private static boolean isPart(PocketStep step) {
    return step == PocketStep.USE_PART || step == PocketStep.NOTE_UNLISTED_PART;
  }

  private long add(Act act, LateActRecord first, List<OfPerson> times) {
    Instant from =
        times.stream().map(one -> one.time().from()).min(Instant::compareTo).orElseThrow();
    long minutes =
        times.stream()
            .filter(one -> one.personId() == first.getPersonId())
            .filter(one -> one.time().kind() == TimeEntry.Kind.LABOUR)
            .mapToLong(
                one ->
                    TimeEntry.minutesBetween(
                        one.time().from(), Objects.requireNonNull(one.time().to())))
            .sum();
    long jobId =
        Objects.requireNonNull(database.fetchValue(VISIT.JOB_ID, VISIT.ID.eq(first.getVisitId())));
    return planning.add(
        act,
        "late act " + first.getId(),
        jobId,
        PlanForm.anyway(
            0,
            first.getPersonId(),
            act.dayOf(from),
            from.atZone(act.zone()).toLocalTime().truncatedTo(ChronoUnit.MINUTES),
            Math.clamp(minutes, SHORTEST_VISIT, LONGEST_VISIT)));
  }
}
