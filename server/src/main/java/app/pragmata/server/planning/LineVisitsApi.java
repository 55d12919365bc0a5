package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.LINE_DONE;
import static app.pragmata.server.generated.Tables.LINE_VISIT;
import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.Records.mapping;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.planning.LineVisit;
import app.pragmata.core.planning.LineVisit.JobVisit;
import app.pragmata.core.planning.LineVisit.Standing;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.LinesDone;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Which visit does what was promised, over HTTP. */
@RestController
class LineVisitsApi {
  /**
   * What a job promised, line by line, with the visits that there are for it.
   *
   * @param version of the job
   * @param missing how many lines still need a visit
   */
  record PromisedVisits(
      int version, int missing, List<PromisedWork> lines, List<JobVisit> visits) {}

  /**
   * A promised line.
   *
   * @param chosenId the visit that was chosen for it; null for whichever comes next
   * @param visitId the visit that does it; null while none is to
   * @param day of that visit; null while it waits
   * @param ticked whether a technician ticked it off as done
   * @param promisedMinutes how long it may take; null for what is not promised by time
   * @param workedMinutes how long was worked on it, by clocks that say so
   */
  record PromisedWork(
      long lineId,
      long quoteNumber,
      String description,
      Standing standing,
      @Nullable Long chosenId,
      @Nullable Long visitId,
      @Nullable LocalDate day,
      boolean ticked,
      @Nullable Integer promisedMinutes,
      int workedMinutes) {}

  /**
   * Which visit does a line.
   *
   * @param version of the job
   * @param needed false for a line that needs none, such as what is only delivered
   * @param visitId a visit of the job; null for whichever comes next
   */
  record LineVisitForm(int version, boolean needed, @Nullable Long visitId) {}

  private final DSLContext database;
  private final VisitStore visits;
  private final VersionStore versions;

  LineVisitsApi(DSLContext database, VisitStore visits, VersionStore versions) {
    this.database = database;
    this.visits = visits;
    this.versions = versions;
  }

  @GetMapping("/api/jobs/{id}/line-visits")
  PromisedVisits listLineVisits(@PathVariable long id) {
    int version =
        database
            .select(JOB.VERSION)
            .from(JOB)
            .where(JOB.ID.eq(id))
            .fetchOptional(JOB.VERSION)
            .orElseThrow(VisitStore::unknownJob);
    List<JobVisit> ofJob =
        database
            .select(VISIT.ID, VISIT.STATE, VISIT.DAY, VISIT.FINISHED_AT)
            .from(VISIT)
            .where(VISIT.JOB_ID.eq(id))
            .orderBy(VISIT.DAY.asc().nullsLast(), VISIT.ID)
            .fetch(mapping(JobVisit::new));
    Field<Integer> worked = LinesDone.workedMinutes();
    List<PromisedWork> lines =
        database
            .select(PROMISED_LINE.ID, PROMISED_LINE.DESCRIPTION, PROMISED_LINE.MINUTES, worked)
            .select(ACCEPTED_QUOTE.NUMBER, ACCEPTED_QUOTE.ACCEPTED_AT)
            .select(LINE_VISIT.PROMISED_LINE_ID, LINE_VISIT.VISIT_ID, LINE_DONE.VISIT_ID)
            .from(PROMISED_LINE)
            .join(ACCEPTED_QUOTE)
            .on(ACCEPTED_QUOTE.QUOTE_ID.eq(PROMISED_LINE.QUOTE_ID))
            .leftJoin(LINE_VISIT)
            .on(LINE_VISIT.PROMISED_LINE_ID.eq(PROMISED_LINE.ID))
            .leftJoin(LINE_DONE)
            .on(LINE_DONE.PROMISED_LINE_ID.eq(PROMISED_LINE.ID))
            .where(ACCEPTED_QUOTE.JOB_ID.eq(id))
            .orderBy(ACCEPTED_QUOTE.ACCEPTED_AT, PROMISED_LINE.QUOTE_ID, PROMISED_LINE.POSITION)
            .fetch(row -> line(row, row.get(worked), ofJob));
    return new PromisedVisits(
        version,
        Math.toIntExact(lines.stream().filter(line -> line.standing() == Standing.MISSING).count()),
        lines,
        ofJob);
  }

  private static PromisedWork line(Record row, int workedMinutes, List<JobVisit> ofJob) {
    Long chosen = row.get(LINE_VISIT.VISIT_ID);
    boolean none = row.get(LINE_VISIT.PROMISED_LINE_ID) != null && chosen == null;
    Long doneOn = row.get(LINE_DONE.VISIT_ID);
    LineVisit visit =
        none && doneOn == null
            ? LineVisit.NOT_NEEDED
            : LineVisit.of(row.get(ACCEPTED_QUOTE.ACCEPTED_AT), chosen, doneOn, ofJob);
    JobVisit doing = visit.visit();
    return new PromisedWork(
        row.get(PROMISED_LINE.ID),
        row.get(ACCEPTED_QUOTE.NUMBER),
        row.get(PROMISED_LINE.DESCRIPTION),
        visit.standing(),
        chosen,
        doing == null ? null : doing.id(),
        doing == null ? null : doing.day(),
        doneOn != null,
        row.get(PROMISED_LINE.MINUTES),
        workedMinutes);
  }

  /** Says which visit does a promised line, or that it needs none. */
  @PutMapping("/api/jobs/{id}/line-visits/{lineId}")
  @Transactional
  public Changed changeLineVisit(
      Act act, @PathVariable long id, @PathVariable long lineId, @RequestBody LineVisitForm form) {
    LockedJob job = visits.lockJob(id);
    Versions.require(form.version(), job.version());
    job.requireUnbilled();
    boolean known =
        database.fetchExists(
            database
                .selectOne()
                .from(PROMISED_LINE)
                .join(ACCEPTED_QUOTE)
                .on(ACCEPTED_QUOTE.QUOTE_ID.eq(PROMISED_LINE.QUOTE_ID))
                .where(PROMISED_LINE.ID.eq(lineId).and(ACCEPTED_QUOTE.JOB_ID.eq(id))));
    if (!known) {
      throw new Refused(Rule.NOT_FOUND, "This job promised no such line. Reload the page.");
    }
    if (form.visitId() != null
        && !database.fetchExists(VISIT, VISIT.ID.eq(form.visitId()).and(VISIT.JOB_ID.eq(id)))) {
      throw new Refused(Rule.NOT_FOUND, "This is no visit of the job. Choose one of it.");
    }
    database.deleteFrom(LINE_VISIT).where(LINE_VISIT.PROMISED_LINE_ID.eq(lineId)).execute();
    if (!form.needed() || form.visitId() != null) {
      database
          .insertInto(LINE_VISIT)
          .values(lineId, form.needed() ? form.visitId() : null)
          .execute();
    }
    visits.storeJob(act, JobEvent.NEEDS_CHANGED, job, "");
    return versions.changed(JOB.ID, id);
  }
}
