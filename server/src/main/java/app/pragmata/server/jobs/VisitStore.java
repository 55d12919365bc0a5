package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.CLOSING_DOCUMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectDistinct;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.CostPlace;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.generated.tables.records.JobRecord;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.generated.tables.records.VisitRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/**
 * Visits and the job that they belong to. A job's row is locked first, so that everything about one
 * job happens in turn.
 */
@Repository
public class VisitStore {
  /**
   * A visit with its job, both locked until the transaction ends.
   *
   * @param otherStates of the job's other visits
   * @param companionIds who comes besides the visit's technician
   * @param recordedIds who has any time on the visit
   * @param running the clocks that run on the visit, of different people
   * @param worked whether labour that has ended or a part is recorded on the visit
   */
  public record Locked(
      VisitRecord visit,
      LockedJob lockedJob,
      List<VisitState.Code> otherStates,
      List<Long> companionIds,
      List<Long> recordedIds,
      List<TimeEntryRecord> running,
      boolean worked) {
    public VisitState state() {
      return VisitState.of(visit.getState());
    }

    public JobRecord job() {
      return lockedJob.row();
    }

    /** The clock of this person that runs on the visit; null when none does. */
    public @Nullable TimeEntryRecord running(long personId) {
      return running.stream()
          .filter(clock -> clock.getPersonId() == personId)
          .findFirst()
          .orElse(null);
    }

    /** Whether the person is the visit's technician. */
    public boolean isResponsible(long personId) {
      return Objects.equals(visit.getTechnicianId(), personId);
    }

    /** Whether the person comes to the visit. */
    public boolean isOfCrew(long personId) {
      return isResponsible(personId) || companionIds.contains(personId);
    }
  }

  /**
   * A job, locked until the transaction ends.
   *
   * @param closedBy its closing document; null while none stands
   */
  public record LockedJob(JobRecord row, Closing.@Nullable Kind closedBy) {
    public boolean closed() {
      return closedBy != null;
    }

    /** Where its cost stands in the books. */
    public CostPlace costPlace() {
      return closedBy == null ? CostPlace.WORK_IN_PROGRESS : closedBy.costPlace();
    }

    /** The state of the work; refused when the job is closed or called off. */
    public JobState.Wanted requireUnbilled() {
      if (!closed() && JobState.of(row.getState()) instanceof JobState.Wanted wanted) {
        return wanted;
      }
      throw new Refused(
          Rule.JOB_CLOSED,
          "Job %d is %s; nothing on it can be changed any more."
              .formatted(row.getNumber(), closed() ? "billed" : "called off"));
    }
  }

  private static final app.pragmata.server.generated.tables.Job READ = JOB.as("read");
  private static final app.pragmata.server.generated.tables.Visit OTHER = VISIT.as("other");

  private static final Field<Integer> VERSION_READ =
      field(select(READ.VERSION).from(READ).where(READ.ID.eq(JOB.ID))).as("version_read");

  private static final Field<List<VisitState.Code>> OTHER_STATES =
      multiset(
              select(OTHER.STATE)
                  .from(OTHER)
                  .where(OTHER.JOB_ID.eq(JOB.ID).and(OTHER.ID.ne(VISIT.ID))))
          .as("other_states")
          .convertFrom(rows -> rows.map(org.jooq.Record1::value1));

  private static final Field<List<Long>> COMPANION_IDS =
      multiset(
              select(VISIT_COMPANION.PERSON_ID)
                  .from(VISIT_COMPANION)
                  .where(VISIT_COMPANION.VISIT_ID.eq(VISIT.ID)))
          .as("companion_ids")
          .convertFrom(rows -> rows.map(org.jooq.Record1::value1));

  private static final Field<List<Long>> RECORDED_IDS = recordedIds();

  private static Field<List<Long>> recordedIds() {
    var recorded = TIME_ENTRY.as("recorded");
    return multiset(
            selectDistinct(recorded.PERSON_ID)
                .from(recorded)
                .where(recorded.VISIT_ID.eq(VISIT.ID).and(recorded.REMOVED_AT.isNull())))
        .as("recorded_ids")
        .convertFrom(rows -> rows.map(org.jooq.Record1::value1));
  }

  private static final Field<Boolean> WORKED = worked();

  private static Field<Boolean> worked() {
    var labour = TIME_ENTRY.as("labour");
    return field(
            exists(
                    selectOne()
                        .from(labour)
                        .where(labour.VISIT_ID.eq(VISIT.ID).and(labour.REMOVED_AT.isNull()))
                        .and(labour.KIND.eq(TimeEntry.Kind.LABOUR))
                        .and(labour.ENDED_AT.isNotNull()))
                .or(
                    exists(
                        selectOne()
                            .from(VISIT_PART)
                            .where(VISIT_PART.VISIT_ID.eq(VISIT.ID))
                            .and(VISIT_PART.REMOVED_AT.isNull()))))
        .as("worked");
  }

  private final DSLContext database;
  private final Events events;

  VisitStore(DSLContext database, Events events) {
    this.database = database;
    this.events = events;
  }

  /** The visit and its job; refused when there is no such visit. */
  public Locked lock(long visitId) {
    List<? extends Record> rows = fetchLocked(visitId);
    if (rows.isEmpty()) {
      throw new Refused(Rule.NOT_FOUND, "This visit does not exist. Reload the page.");
    }
    // Whoever waited for the lock has read what stands beside it before the wait.
    Record row = rows.getFirst();
    if (!row.get(JOB.VERSION).equals(row.get(VERSION_READ))) {
      rows = fetchLocked(visitId);
      row = rows.getFirst();
    }
    return new Locked(
        row.into(VISIT),
        new LockedJob(row.into(JOB), row.get(CLOSING_DOCUMENT.KIND)),
        row.get(OTHER_STATES),
        row.get(COMPANION_IDS),
        row.get(RECORDED_IDS),
        rows.stream()
            .filter(each -> each.get(TIME_ENTRY.ID) != null)
            .map(each -> each.into(TIME_ENTRY))
            .toList(),
        row.get(WORKED));
  }

  /** One row for each clock that runs, or one without; empty when there is no such visit. */
  private List<? extends Record> fetchLocked(long visitId) {
    return database
        .select(JOB.fields())
        .select(VISIT.fields())
        .select(TIME_ENTRY.fields())
        .select(CLOSING_DOCUMENT.KIND)
        .select(VERSION_READ, OTHER_STATES, COMPANION_IDS, RECORDED_IDS, WORKED)
        .from(JOB)
        .join(VISIT)
        .on(VISIT.JOB_ID.eq(JOB.ID))
        .leftJoin(CLOSING_DOCUMENT)
        .on(CLOSING_DOCUMENT.JOB_ID.eq(JOB.ID))
        .leftJoin(TIME_ENTRY)
        .on(TIME_ENTRY.VISIT_ID.eq(VISIT.ID).and(TIME_ENTRY.ENDED_AT.isNull()))
        .where(VISIT.ID.eq(visitId))
        .forUpdate()
        .of(JOB, VISIT)
        .fetch();
  }

  /** The job; refused when there is no such job. */
  public LockedJob lockJob(long jobId) {
    JobRecord job = database.selectFrom(JOB).where(JOB.ID.eq(jobId)).forUpdate().fetchOne();
    if (job == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This job does not exist. Find the right one with / and its number.");
    }
    return new LockedJob(job, closedBy(List.of(jobId)).get(jobId));
  }

  /**
   * These jobs by id, locked in one order, so that nobody waits for somebody who waits for them.
   */
  public Map<Long, LockedJob> lockJobs(Collection<Long> jobIds) {
    List<JobRecord> rows =
        database.selectFrom(JOB).where(JOB.ID.in(jobIds)).orderBy(JOB.ID).forUpdate().fetch();
    Map<Long, Closing.Kind> closed = closedBy(jobIds);
    return rows.stream()
        .collect(
            Collectors.toMap(JobRecord::getId, row -> new LockedJob(row, closed.get(row.getId()))));
  }

  /** Read after the wait for the lock: what the same statement reads beside it may be too old. */
  private Map<Long, Closing.Kind> closedBy(Collection<Long> jobIds) {
    return database
        .select(CLOSING_DOCUMENT.JOB_ID, CLOSING_DOCUMENT.KIND)
        .from(CLOSING_DOCUMENT)
        .where(CLOSING_DOCUMENT.JOB_ID.in(jobIds))
        .fetchMap(CLOSING_DOCUMENT.JOB_ID, CLOSING_DOCUMENT.KIND);
  }

  /**
   * Closes a job whose work is checked.
   *
   * @param reason why it is not charged; may be empty
   */
  public void close(Act act, JobEvent event, JobRecord job, Closing closing, String reason) {
    database
        .insertInto(CLOSING_DOCUMENT)
        .set(CLOSING_DOCUMENT.JOB_ID, job.getId())
        .set(CLOSING_DOCUMENT.KIND, closing.kind())
        .set(CLOSING_DOCUMENT.INVOICE_NUMBER, closing.invoiceNumber())
        .set(CLOSING_DOCUMENT.CLOSED_AT, closing.at())
        .execute();
    storeJob(act, event, job, JobState.of(job.getState()), reason);
  }

  /**
   * A visit that waits for a technician and a time.
   *
   * @param replacesId the visit that did not happen and of which it takes the place; null for none
   */
  public void want(Act act, long jobId, @Nullable Long replacesId, int expectedMinutes) {
    VisitRecord visit = database.newRecord(VISIT);
    visit.setJobId(jobId);
    visit.setReplacesId(replacesId);
    visit.setState(VisitState.Code.UNPLANNED);
    visit.setExpectedMinutes(expectedMinutes);
    events.store(act, JobEvent.VISIT_WANTED, visit);
  }

  /** The job of a visit that is known to be there. */
  public long getJobId(long visitId) {
    return database
        .select(VISIT.JOB_ID)
        .from(VISIT)
        .where(VISIT.ID.eq(visitId))
        .fetchSingle(VISIT.JOB_ID);
  }

  /** Says who comes to a visit besides its technician. */
  public void setCompanions(long visitId, Collection<Long> personIds) {
    database
        .deleteFrom(VISIT_COMPANION)
        .where(VISIT_COMPANION.VISIT_ID.eq(visitId).and(VISIT_COMPANION.PERSON_ID.notIn(personIds)))
        .execute();
    if (!personIds.isEmpty()) {
      database
          .insertInto(VISIT_COMPANION, VISIT_COMPANION.VISIT_ID, VISIT_COMPANION.PERSON_ID)
          .valuesOfRows(personIds.stream().map(id -> DSL.row(visitId, id)).toList())
          .onConflictDoNothing()
          .execute();
    }
  }

  /** Whether a visit of the job is still to come or under way. */
  boolean anybodyToCome(long jobId) {
    return states(jobId).stream()
        .anyMatch(state -> state == VisitState.Code.UNPLANNED || state.isAhead());
  }

  /**
   * Stores a visit's new state and values as what happened to it, and lets its job follow; the
   * reason may be empty.
   */
  public void store(Act act, JobEvent event, Locked locked, VisitState state, String reason) {
    store(act, event, locked, state, About.because(reason));
  }

  /** The same with more to say. */
  public void store(Act act, JobEvent event, Locked locked, VisitState state, About about) {
    VisitRecord visit = locked.visit();
    visit.setState(state.code());
    events.store(act, event, visit, about);
    follow(act, locked);
  }

  private void follow(Act act, Locked locked) {
    var states = new ArrayList<>(locked.otherStates());
    states.add(locked.visit().getState());
    follow(act, locked.job(), states);
  }

  /** Stores a visit of which something else was recorded, and lets its job follow. */
  public void touch(Act act, Locked locked, VisitState state) {
    locked.visit().setState(state.code());
    events.touch(act, JobEvent.VISIT_RECORDED, locked.visit());
    if (state.code() == VisitState.Code.ON_SITE || state.code() == VisitState.Code.FINISHED) {
      noteResponse(act, locked.job());
    }
    follow(act, locked);
  }

  /** The first work on site is the response, also when it was written down afterwards. */
  private void noteResponse(Act act, JobRecord job) {
    if (job.getRespondedAt() == null) {
      Instant begun =
          database
              .select(min(TIME_ENTRY.STARTED_AT))
              .from(TIME_ENTRY)
              .join(VISIT)
              .on(VISIT.ID.eq(TIME_ENTRY.VISIT_ID))
              .where(
                  VISIT
                      .JOB_ID
                      .eq(job.getId())
                      .and(TIME_ENTRY.KIND.eq(TimeEntry.Kind.LABOUR))
                      .and(TIME_ENTRY.REMOVED_AT.isNull()))
              .fetchSingle()
              .value1();
      job.setRespondedAt(begun == null ? act.at() : begun);
    }
  }

  /** Brings a job's state in line with its visits, and marks that its sheet has changed. */
  public void follow(Act act, JobRecord job) {
    follow(act, job, states(job.getId()));
  }

  private void follow(Act act, JobRecord job, List<VisitState.Code> states) {
    JobState after =
        switch (JobState.of(job.getState())) {
          case JobState.Wanted wanted -> wanted.after(states.stream().map(VisitState::of).toList());
          case JobState.CalledOff calledOff -> calledOff;
        };
    setState(act, job, after);
    touchJob(act, job);
  }

  /** Marks that something happened to a job beside its work. */
  public void touchJob(Act act, JobRecord job) {
    events.touch(act, JobEvent.MOVED_ON, job);
  }

  /** Stores a job's state and values as what happened to it; the reason may be empty. */
  public void storeJob(Act act, JobEvent event, JobRecord job, JobState state, String reason) {
    setState(act, job, state);
    events.store(act, event, job, About.because(reason));
  }

  /** A change of the state is dated by the act. */
  private static void setState(Act act, JobRecord job, JobState state) {
    if (state.code() != job.getState()) {
      job.setState(state.code());
      job.setStateSince(act.at());
    }
  }

  /** The source of an entry that a job's visit or document gives rise to. */
  public BooksStore.Source source(String type, long id, String what, JobRecord job) {
    String costCentre =
        database
            .select(KIND_OF_JOB.COST_CENTRE)
            .from(KIND_OF_JOB)
            .where(KIND_OF_JOB.ID.eq(job.getKindOfJobId()))
            .fetchSingle(KIND_OF_JOB.COST_CENTRE);
    return new BooksStore.Source(
        type, id, "J %d: %s".formatted(job.getNumber(), what), job.getId(), costCentre);
  }

  private List<VisitState.Code> states(long jobId) {
    return database
        .select(VISIT.STATE)
        .from(VISIT)
        .where(VISIT.JOB_ID.eq(jobId))
        .fetch(VISIT.STATE);
  }
}
