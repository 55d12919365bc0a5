package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.COST_RELEASE;
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

import app.pragmata.core.Category;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.core.planning.Stretch;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.generated.tables.records.JobRecord;
import app.pragmata.server.generated.tables.records.VisitRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RecordKind;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Record1;
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
   * What a visit needs before it can be planned.
   *
   * @param notBefore the day before which what it waits for is not there; null for nothing, or
   *     where nobody knows when its part arrives
   * @param part the part that it waits for; empty for none
   * @param followsId the visit of its job that must be over before; null for none
   */
  public record Needs(
      int expectedMinutes, @Nullable LocalDate notBefore, String part, @Nullable Long followsId) {
    private void setOn(VisitRecord visit) {
      visit.setExpectedMinutes(expectedMinutes);
      visit.setNotBefore(notBefore);
      if (!part.equals(visit.getAwaitedPart())) {
        visit.setAwaitedPart(part);
        visit.setPartArrivedOn(null);
      }
      visit.setFollowsId(followsId);
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
          .convertFrom(rows -> rows.map(Record1::value1));

  private static final Field<List<Long>> COMPANION_IDS =
      multiset(
              select(VISIT_COMPANION.PERSON_ID)
                  .from(VISIT_COMPANION)
                  .where(VISIT_COMPANION.VISIT_ID.eq(VISIT.ID)))
          .as("companion_ids")
          .convertFrom(rows -> rows.map(Record1::value1));

  private static final Field<List<Long>> RECORDED_IDS = recordedIds();

  private static Field<List<Long>> recordedIds() {
    var recorded = TIME_ENTRY.as("recorded");
    return multiset(
            selectDistinct(recorded.PERSON_ID)
                .from(recorded)
                .where(recorded.VISIT_ID.eq(VISIT.ID).and(recorded.REMOVED_AT.isNull())))
        .as("recorded_ids")
        .convertFrom(rows -> rows.map(Record1::value1));
  }

  private static final Field<Boolean> WORKED = worked();
  private static final Field<Boolean> BILLED = billed();

  private static Field<Boolean> billed() {
    var time = TIME_ENTRY.as("billed_time");
    return field(
            exists(
                    selectOne()
                        .from(time)
                        .where(time.VISIT_ID.eq(VISIT.ID).and(time.COST_RELEASE_ID.isNotNull())))
                .or(
                    exists(
                        selectOne()
                            .from(VISIT_PART)
                            .where(VISIT_PART.VISIT_ID.eq(VISIT.ID))
                            .and(VISIT_PART.COST_RELEASE_ID.isNotNull()))))
        .as("billed");
  }

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
  private final CostReleases costs;
  private final Events events;

  VisitStore(DSLContext database, CostReleases costs, Events events) {
    this.database = database;
    this.costs = costs;
    this.events = events;
  }

  /** The visit and its job; refused when there is no such visit. */
  public LockedVisit lock(long visitId) {
    return lockAll(List.of(visitId)).getFirst();
  }

  /**
   * These visits in this order, with their jobs, locked in one order; visits of the same job share
   * it. Refused when one of them is not there.
   */
  public List<LockedVisit> lockAll(List<Long> visitIds) {
    List<? extends Record> rows = fetchLocked(visitIds);
    // Whoever waited for the lock has read what stands beside it before the wait.
    if (rows.stream().anyMatch(row -> !row.get(JOB.VERSION).equals(row.get(VERSION_READ)))) {
      rows = fetchLocked(visitIds);
    }
    Map<Long, List<Record>> byVisit =
        rows.stream().collect(Collectors.groupingBy(row -> row.get(VISIT.ID)));
    var jobs = new HashMap<Long, LockedJob>();
    return visitIds.stream()
        .map(
            id -> {
              List<Record> found = byVisit.get(id);
              if (found == null) {
                throw new Refused(Rule.NOT_FOUND, "This visit does not exist. Reload the page.");
              }
              return locked(found, jobs);
            })
        .toList();
  }

  /** The version of each of these visits, by their ids; without those that there are not. */
  public Map<Long, Integer> versions(Collection<Long> visitIds) {
    return database
        .select(VISIT.ID, VISIT.VERSION)
        .from(VISIT)
        .where(VISIT.ID.in(visitIds))
        .fetchMap(VISIT.ID, VISIT.VERSION);
  }

  private static LockedVisit locked(List<Record> rows, Map<Long, LockedJob> jobs) {
    Record row = rows.getFirst();
    return new LockedVisit(
        row.into(VISIT),
        jobs.computeIfAbsent(
            row.get(JOB.ID),
            id ->
                new LockedJob(
                    row.into(JOB),
                    row.get(JOB.COST_CENTRE),
                    row.get(COST_RELEASE.KIND),
                    row.get(COST_RELEASE.ID),
                    row.get(COST_RELEASE.INVOICE_NUMBER))),
        new LockedVisit.Beside(
            row.get(OTHER_STATES),
            row.get(COMPANION_IDS),
            row.get(RECORDED_IDS),
            rows.stream()
                .filter(each -> each.get(TIME_ENTRY.ID) != null)
                .map(each -> new Clock(each.into(TIME_ENTRY)))
                .toList(),
            row.get(WORKED),
            row.get(BILLED)));
  }

  /** One row for each clock that runs, or one without, of each visit that there is. */
  private List<? extends Record> fetchLocked(List<Long> visitIds) {
    return database
        .select(JOB.fields())
        .select(VISIT.fields())
        .select(TIME_ENTRY.fields())
        .select(JOB.COST_CENTRE, COST_RELEASE.KIND, COST_RELEASE.ID, COST_RELEASE.INVOICE_NUMBER)
        .select(VERSION_READ, OTHER_STATES, COMPANION_IDS, RECORDED_IDS, WORKED, BILLED)
        .from(JOB)
        .join(VISIT)
        .on(VISIT.JOB_ID.eq(JOB.ID))
        .join(KIND_OF_JOB)
        .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
        .leftJoin(COST_RELEASE)
        .on(COST_RELEASE.JOB_ID.eq(JOB.ID).and(COST_RELEASE.CLOSES))
        .leftJoin(TIME_ENTRY)
        .on(TIME_ENTRY.VISIT_ID.eq(VISIT.ID).and(TIME_ENTRY.ENDED_AT.isNull()))
        .and(TIME_ENTRY.REMOVED_AT.isNull())
        .where(VISIT.ID.in(visitIds))
        .orderBy(JOB.ID, VISIT.ID)
        .forUpdate()
        .of(JOB, VISIT)
        .fetch();
  }

  /** The job; refused when there is no such job. */
  public LockedJob lockJob(long jobId) {
    LockedJob job = lockJobs(List.of(jobId)).get(jobId);
    if (job == null) {
      throw unknownJob();
    }
    return job;
  }

  /** There is no such job. */
  public static Refused unknownJob() {
    return new Refused(
        Rule.NOT_FOUND, "This job does not exist. Find the right one with / and its number.");
  }

  /**
   * These jobs by id, locked in one order, so that nobody waits for somebody who waits for them.
   */
  public Map<Long, LockedJob> lockJobs(Collection<Long> jobIds) {
    List<JobRecord> rows =
        database.selectFrom(JOB).where(JOB.ID.in(jobIds)).orderBy(JOB.ID).forUpdate().fetch();
    // Read after the wait for the lock: what the same statement reads beside it may be too old.
    var beside =
        database
            .select(
                JOB.ID,
                JOB.COST_CENTRE,
                COST_RELEASE.KIND,
                COST_RELEASE.ID,
                COST_RELEASE.INVOICE_NUMBER)
            .from(JOB)
            .join(KIND_OF_JOB)
            .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
            .leftJoin(COST_RELEASE)
            .on(COST_RELEASE.JOB_ID.eq(JOB.ID).and(COST_RELEASE.CLOSES))
            .where(JOB.ID.in(jobIds))
            .fetchMap(JOB.ID);
    return rows.stream()
        .collect(
            Collectors.toMap(
                JobRecord::getId,
                row ->
                    new LockedJob(
                        row,
                        beside.get(row.getId()).get(JOB.COST_CENTRE),
                        beside.get(row.getId()).get(COST_RELEASE.KIND),
                        beside.get(row.getId()).get(COST_RELEASE.ID),
                        beside.get(row.getId()).get(COST_RELEASE.INVOICE_NUMBER))));
  }

  /**
   * Lets documents take the cost of jobs out of work in progress that none has taken yet; those
   * that take all that is left close their job.
   *
   * @param takings at most one for a job
   * @return what that cost is, by job and category; what has none is left out
   */
  public Map<Long, Map<Category, Money>> take(Act act, List<CostTaking> takings) {
    Map<Long, Map<Category, Money>> taken = costs.take(takings);
    var closings =
        takings.stream()
            .filter(CostTaking::closes)
            .collect(Collectors.groupingBy(each -> each.document().kind()));
    closings.forEach(
        (kind, of) ->
            events.updateAll(
                act,
                switch (kind) {
                  case INVOICE -> JobEvent.BILLED;
                  case NOT_CHARGED -> JobEvent.CLOSED_WITHOUT_CHARGE;
                  case CALLED_OFF -> JobEvent.CALLED_OFF;
                },
                of.stream().map(each -> each.job().row()).toList(),
                of.stream().map(each -> About.because(each.reason())).toList()));
    touchJobs(act, takings.stream().filter(each -> !each.closes()).map(CostTaking::job).toList());
    return taken;
  }

  /**
   * Puts cost that an invoice took back into work in progress, where the next one takes it; if the
   * invoice closed the job, the job is open again. Gives the cost by category.
   *
   * @param some of what it took; null for all
   */
  public Map<Category, Money> giveCostBack(
      Act act, LockedJob job, long invoiceNumber, CostTaking.@Nullable Some some, String reason) {
    Map<Category, Money> given = costs.giveBack(job.id(), invoiceNumber, some);
    storeJob(act, JobEvent.WORK_TAKEN_BACK, job, reason);
    return given;
  }

  /**
   * A visit that waits for a technician and a time, which is not before a day where one is given.
   */
  public void want(Act act, long jobId, int expectedMinutes, @Nullable LocalDate notBefore) {
    want(act, newVisit(jobId, new Needs(expectedMinutes, notBefore, "", null)));
  }

  private VisitRecord newVisit(long jobId, Needs needs) {
    VisitRecord visit = database.newRecord(VISIT);
    visit.setJobId(jobId);
    visit.setState(VisitState.Code.UNPLANNED);
    needs.setOn(visit);
    return visit;
  }

  private long want(Act act, VisitRecord visit) {
    events.store(act, JobEvent.VISIT_WANTED, visit);
    return visit.getId();
  }

  /** One more visit for a job that waits for a technician and a time; gives its id. */
  public long want(Act act, LockedJob job, Needs needs) {
    long id = want(act, newVisit(job.id(), needs));
    follow(act, job);
    return id;
  }

  /**
   * A visit in the place of one that did not happen: it waits for what that one waited for, and
   * what was to follow that one follows it.
   */
  public void wantAgain(Act act, LockedVisit dropped) {
    VisitRecord before = dropped.row();
    VisitRecord visit =
        newVisit(
            dropped.job().id(),
            new Needs(
                before.getExpectedMinutes(),
                before.getNotBefore(),
                before.getAwaitedPart(),
                before.getFollowsId()));
    visit.setReplacesId(before.getId());
    visit.setPartArrivedOn(before.getPartArrivedOn());
    long id = want(act, visit);
    database
        .selectFrom(VISIT)
        .where(VISIT.JOB_ID.eq(before.getJobId()).and(VISIT.FOLLOWS_ID.eq(before.getId())))
        .and(VISIT.STATE.in(VisitState.Code.UNPLANNED, VisitState.Code.PLANNED))
        .forUpdate()
        .fetch()
        .forEach(
            following -> {
              following.setFollowsId(id);
              events.store(act, JobEvent.VISIT_NEEDS_CHANGED, following);
            });
  }

  /** Changes what a visit needs. */
  public void need(Act act, LockedVisit visit, Needs needs) {
    needs.setOn(visit.row());
    store(act, JobEvent.VISIT_NEEDS_CHANGED, visit, visit.state(), About.NOTHING);
  }

  /**
   * Notes that the part that a visit waits for is there, or that it is not after all.
   *
   * @param day on which it arrived; null for not yet
   */
  public void noteArrival(Act act, LockedVisit visit, @Nullable LocalDate day) {
    visit.row().setPartArrivedOn(day);
    store(
        act,
        day == null ? JobEvent.PART_NOT_ARRIVED : JobEvent.PART_ARRIVED,
        visit,
        visit.state(),
        About.NOTHING);
  }

  /**
   * It waits for these parts of its job.
   *
   * @param parts empty for none any more
   * @param expected from when on they may be there; null where nobody knows
   * @param arrivedOn when the last of them came; null while one is missing
   */
  public void await(
      Act act,
      LockedVisit visit,
      String parts,
      @Nullable LocalDate expected,
      @Nullable LocalDate arrivedOn) {
    VisitRecord row = visit.row();
    boolean wasThere = row.getPartArrivedOn() != null;
    row.setAwaitedPart(parts);
    row.setNotBefore(expected);
    row.setPartArrivedOn(arrivedOn);
    if (row.touched()) {
      JobEvent came = wasThere ? JobEvent.PART_NOT_ARRIVED : JobEvent.PART_ARRIVED;
      boolean sameArrival = wasThere == (arrivedOn != null) || parts.isEmpty();
      store(
          act,
          sameArrival ? JobEvent.VISIT_NEEDS_CHANGED : came,
          visit,
          visit.state(),
          About.NOTHING);
    }
  }

  /** The visits that a visit must wait for, each with the one that it waits for in turn. */
  public List<Long> followed(long visitId) {
    var followed = new ArrayList<Long>();
    Long next = visitId;
    while (next != null && !followed.contains(next)) {
      followed.add(next);
      next =
          database
              .select(VISIT.FOLLOWS_ID)
              .from(VISIT)
              .where(VISIT.ID.eq(next))
              .fetchOne(VISIT.FOLLOWS_ID);
    }
    return followed;
  }

  /** The jobs of these visits, by visit; a visit that there is not has none. */
  Map<Long, Long> jobsOfVisits(Collection<Long> visitIds) {
    return database
        .select(VISIT.ID, VISIT.JOB_ID)
        .from(VISIT)
        .where(VISIT.ID.in(visitIds))
        .fetchMap(VISIT.ID, VISIT.JOB_ID);
  }

  /** Says who comes to a visit besides its technician. */
  private void setCompanions(long visitId, Collection<Long> personIds) {
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

  /** Gives a visit its plan, or another one; who comes along is what the plan says. */
  public void plan(Act act, LockedVisit visit, VisitState.Planned state, VisitPlan plan) {
    visit.plan(plan);
    store(act, JobEvent.VISIT_PLANNED, visit, state, told(visit.companionIds(), plan));
    setCompanions(visit.id(), plan.companionIds());
    cutHours(visit.id(), plan.expectedMinutes());
  }

  /**
   * Says for which part of a visit somebody comes along.
   *
   * @param hours by the company's clock, within the visit; null for all of it
   */
  public void comeFor(
      Act act,
      LockedVisit visit,
      VisitState.Planned state,
      long personId,
      @Nullable Stretch hours) {
    int start = Stretch.minuteOf(Objects.requireNonNull(visit.start()));
    database
        .update(VISIT_COMPANION)
        .set(VISIT_COMPANION.STARTS_AFTER, hours == null ? null : (short) (hours.from() - start))
        .set(VISIT_COMPANION.MINUTES, hours == null ? null : (short) hours.minutes())
        .where(VISIT_COMPANION.VISIT_ID.eq(visit.id()))
        .and(VISIT_COMPANION.PERSON_ID.eq(personId))
        .execute();
    String said = hours == null ? "" : hours.start() + " to " + hours.end();
    store(
        act,
        JobEvent.VISIT_CREW_CHANGED,
        visit,
        state,
        About.NOTHING.with(Map.of(), Map.of("personId", personId, "hours", said)));
  }

  /** Nobody comes along for longer than the visit lasts; who would come after it comes for all. */
  private void cutHours(long visitId, int minutes) {
    Field<Short> left = VISIT_COMPANION.STARTS_AFTER.neg().plus(minutes);
    database
        .update(VISIT_COMPANION)
        .setNull(VISIT_COMPANION.STARTS_AFTER)
        .setNull(VISIT_COMPANION.MINUTES)
        .where(VISIT_COMPANION.VISIT_ID.eq(visitId).and(left.le((short) 0)))
        .execute();
    database
        .update(VISIT_COMPANION)
        .set(VISIT_COMPANION.MINUTES, left)
        .where(VISIT_COMPANION.VISIT_ID.eq(visitId).and(VISIT_COMPANION.MINUTES.gt(left)))
        .execute();
  }

  /** Takes a visit's person and time away; it waits for others. */
  public void unplan(Act act, LockedVisit visit, VisitState.Unplanned state) {
    visit.unplan();
    store(act, JobEvent.VISIT_UNPLANNED, visit, state, About.NOTHING);
    setCompanions(visit.id(), List.of());
  }

  /** One more visit for a job, planned at once; gives its id. */
  public long add(Act act, LockedJob job, VisitPlan plan) {
    VisitRecord visit = database.newRecord(VISIT);
    visit.setJobId(job.id());
    LockedVisit.plan(visit, plan);
    visit.setState(VisitState.Code.PLANNED);
    events.store(act, JobEvent.VISIT_PLANNED, visit, told(List.of(), plan));
    setCompanions(visit.getId(), plan.companionIds());
    follow(act, job);
    return visit.getId();
  }

  private static About told(List<Long> companionIds, VisitPlan plan) {
    return Set.copyOf(companionIds).equals(Set.copyOf(plan.companionIds()))
        ? About.NOTHING
        : About.NOTHING.with(
            Map.of("companionIds", companionIds), Map.of("companionIds", plan.companionIds()));
  }

  /**
   * Calls off a job that is open, with all visits of it that are still to come; gives what it has
   * cost all the same.
   */
  public Money callOff(Act act, LockedJob job, JobState.Open open, String reason) {
    for (VisitRecord visit :
        database
            .selectFrom(VISIT)
            .where(VISIT.JOB_ID.eq(job.id()))
            .and(VISIT.STATE.in(VisitState.Code.UNPLANNED, VisitState.Code.PLANNED))
            .fetch()) {
      visit.setState(VisitState.Code.CALLED_OFF);
      visit.setReason(reason);
      events.store(act, JobEvent.VISIT_CALLED_OFF, visit);
    }
    job.setState(open.callOff(), act.at());
    var closing = new Closing(Closing.Kind.CALLED_OFF, null, act.at());
    return take(act, List.of(new CostTaking(job, closing, null, reason)))
        .getOrDefault(job.id(), Map.of())
        .values()
        .stream()
        .collect(Money.sum());
  }

  /** Whether none of its visits happened, and none is to. */
  public boolean isDropped(LockedJob job) {
    return states(job.id()).stream().allMatch(VisitState.Code::isDropped);
  }

  /** Whether anybody was on the way to the job or on site. */
  public boolean isBegun(LockedJob job) {
    return states(job.id()).stream()
        .anyMatch(
            state ->
                state == VisitState.Code.DRIVING
                    || state == VisitState.Code.ON_SITE
                    || state.isOver());
  }

  /**
   * Stores a visit's new state and values as what happened to it, and lets its job follow; the
   * reason may be empty.
   */
  public void store(Act act, JobEvent event, LockedVisit visit, VisitState state, String reason) {
    store(act, event, visit, state, About.because(reason));
  }

  /** The same for many in a few statements; their states are set already. */
  public void storeAll(Act act, JobEvent event, List<LockedVisit> changed) {
    events.updateAll(act, event, changed.stream().map(LockedVisit::row).toList());
    Map<Long, LockedJob> jobs =
        changed.stream()
            .map(LockedVisit::job)
            .collect(Collectors.toMap(LockedJob::id, job -> job, (one, same) -> one));
    Map<Long, List<VisitState.Code>> states =
        database
            .select(VISIT.JOB_ID, VISIT.STATE)
            .from(VISIT)
            .where(VISIT.JOB_ID.in(jobs.keySet()))
            .fetchGroups(VISIT.JOB_ID, VISIT.STATE);
    jobs.forEach((id, job) -> job.follow(states.getOrDefault(id, List.of()), act.at()));
    touchJobs(act, jobs.values());
  }

  private void store(Act act, JobEvent event, LockedVisit visit, VisitState state, About about) {
    visit.setState(state);
    events.store(act, event, visit.row(), about);
    follow(act, visit.job(), visit.statesOfJob());
  }

  /** Stores a visit of which something else was recorded, and lets its job follow. */
  public void touch(Act act, LockedVisit visit, VisitState state) {
    visit.setState(state);
    events.touch(act, JobEvent.VISIT_RECORDED, visit.row());
    if (state.code() == VisitState.Code.ON_SITE || state.code() == VisitState.Code.FINISHED) {
      noteResponse(act, visit.job());
    }
    follow(act, visit.job(), visit.statesOfJob());
  }

  /** The first work on site is the response, also when it was written down afterwards. */
  private void noteResponse(Act act, LockedJob job) {
    if (job.awaitsResponse()) {
      Instant begun =
          database
              .select(min(TIME_ENTRY.STARTED_AT))
              .from(TIME_ENTRY)
              .join(VISIT)
              .on(VISIT.ID.eq(TIME_ENTRY.VISIT_ID))
              .where(VISIT.JOB_ID.eq(job.id()))
              .and(TIME_ENTRY.KIND.eq(TimeEntry.Kind.LABOUR).and(TIME_ENTRY.REMOVED_AT.isNull()))
              .fetchSingle()
              .value1();
      job.noteResponse(begun == null ? act.at() : begun);
    }
  }

  /** Brings a job's state in line with its visits, and marks that its sheet has changed. */
  public void follow(Act act, LockedJob job) {
    follow(act, job, states(job.id()));
  }

  private void follow(Act act, LockedJob job, List<VisitState.Code> states) {
    job.follow(states, act.at());
    touchJob(act, job);
  }

  /** Marks that something happened to a job beside its work. */
  public void touchJob(Act act, LockedJob job) {
    events.touch(act, JobEvent.MOVED_ON, job.row());
  }

  /** The same for many, in a few statements. */
  public void touchJobs(Act act, Collection<LockedJob> jobs) {
    events.touchAll(act, JobEvent.MOVED_ON, jobs.stream().map(LockedJob::row).toList());
  }

  /** Stores a job's values as what happened to it; the reason may be empty. */
  public void storeJob(Act act, JobEvent event, LockedJob job, String reason) {
    events.store(act, event, job.row(), About.because(reason));
  }

  /** The source of an entry that a job's visit or fact gives rise to. */
  public static BooksStore.Source source(RecordKind kind, long id, String what, LockedJob job) {
    return new BooksStore.Source(kind, id, null, "J %d: %s".formatted(job.number(), what));
  }

  private List<VisitState.Code> states(long jobId) {
    return database
        .select(VISIT.STATE)
        .from(VISIT)
        .where(VISIT.JOB_ID.eq(jobId))
        .fetch(VISIT.STATE);
  }
}
