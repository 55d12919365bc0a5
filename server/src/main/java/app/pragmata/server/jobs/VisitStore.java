package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.min;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.generated.tables.records.JobRecord;
import app.pragmata.server.generated.tables.records.VisitRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/**
 * Visits and the job that they belong to. A job's row is locked first, so that everything about one
 * job happens in turn.
 */
@Repository
public class VisitStore {
  /** A visit with its job, both locked until the transaction ends. */
  public record Locked(VisitRecord visit, JobRecord job) {
    public VisitState state() {
      return VisitState.of(visit.getState());
    }
  }

  private final DSLContext database;
  private final Events events;

  VisitStore(DSLContext database, Events events) {
    this.database = database;
    this.events = events;
  }

  /** The visit and its job; refused when there is no such visit. */
  public Locked lock(long visitId) {
    Long jobId =
        database
            .select(VISIT.JOB_ID)
            .from(VISIT)
            .where(VISIT.ID.eq(visitId))
            .fetchOne(VISIT.JOB_ID);
    if (jobId == null) {
      throw new Refused(Rule.NOT_FOUND, "This visit does not exist. Reload the page.");
    }
    JobRecord job = lockJob(jobId);
    return new Locked(database.selectFrom(VISIT).where(VISIT.ID.eq(visitId)).fetchSingle(), job);
  }

  /** The job; refused when there is no such job. */
  public JobRecord lockJob(long jobId) {
    JobRecord job = database.selectFrom(JOB).where(JOB.ID.eq(jobId)).forUpdate().fetchOne();
    if (job == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This job does not exist. Find the right one with / and its number.");
    }
    return job;
  }

  /**
   * Stores a visit's new state and values as what happened to it, and lets its job follow; the
   * reason may be empty.
   */
  public void store(Act act, JobEvent event, Locked locked, VisitState state, String reason) {
    VisitRecord visit = locked.visit();
    visit.setState(state.code());
    events.store(act, event, visit, About.because(reason));
    noteWork(act, locked, state);
  }

  /** Stores a visit of which something else was recorded, and lets its job follow. */
  public void touch(Act act, Locked locked, VisitState state) {
    locked.visit().setState(state.code());
    events.touch(act, JobEvent.VISIT_RECORDED, locked.visit());
    noteWork(act, locked, state);
  }

  private void noteWork(Act act, Locked locked, VisitState state) {
    if (state instanceof VisitState.OnSite || state instanceof VisitState.Finished) {
      noteResponse(act, locked.job());
    }
    follow(act, locked.job());
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

  /**
   * Brings an unbilled job's state in line with its visits, and marks that its sheet has changed.
   */
  public void follow(Act act, JobRecord job) {
    JobState after =
        switch (state(job)) {
          case JobState.Unbilled unbilled -> unbilled.after(states(job.getId()));
          case JobState billed -> billed;
        };
    touchJob(act, job, after);
  }

  /** Stores where a job came to by what else happened. */
  public void touchJob(Act act, JobRecord job, JobState state) {
    setState(act, job, state);
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

  /** The job's state; refused when the job is billed, settled or called off. */
  public static JobState.Unbilled requireUnbilled(JobRecord job) {
    if (state(job) instanceof JobState.Unbilled unbilled) {
      return unbilled;
    }
    throw new Refused(
        Rule.WRONG_STATE,
        "Job %d is %s; nothing on it can be changed any more."
            .formatted(job.getNumber(), words(job.getState())));
  }

  private static String words(Coded state) {
    return state.code().replace('_', ' ');
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

  private List<VisitState> states(long jobId) {
    return database
        .select(VISIT.STATE)
        .from(VISIT)
        .where(VISIT.JOB_ID.eq(jobId))
        .fetch(row -> VisitState.of(row.value1()));
  }

  /** The job's state with its moves. */
  public static JobState state(JobRecord job) {
    return JobState.of(job.getState());
  }
}
