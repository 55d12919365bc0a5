package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Repository;

/**
 * People's time, to the second: clocks that run, and what was written down or put right. Where a
 * visit is asked for, null is time on none.
 */
@Repository
public class TimeEntries {
  /** The minutes of the selected clock; null while it runs. */
  public static Field<Integer> clockMinutes() {
    return field(
        "clock_minutes({0}, {1})", Integer.class, TIME_ENTRY.STARTED_AT, TIME_ENTRY.ENDED_AT);
  }

  /** The minutes of all selected clocks that have ended; nothing of none. */
  static Field<Integer> minutes() {
    return coalesce(sum(clockMinutes()), inline(BigDecimal.ZERO)).cast(Integer.class);
  }

  /** Labour of everybody on all visits of the selected job that happened. */
  public static Field<Integer> labourOfJob() {
    return field(
        select(minutes())
            .from(TIME_ENTRY)
            .join(VISIT)
            .on(VISIT.ID.eq(TIME_ENTRY.VISIT_ID))
            .where(VISIT.JOB_ID.eq(JOB.ID))
            .and(VISIT.STATE.notIn(VisitState.Code.DROPPED))
            .and(TIME_ENTRY.KIND.eq(TimeEntry.Kind.LABOUR))
            .and(TIME_ENTRY.REMOVED_AT.isNull()));
  }

  private final DSLContext database;
  private final CompanyStore companies;
  private final Events events;

  TimeEntries(DSLContext database, CompanyStore companies, Events events) {
    this.database = database;
    this.companies = companies;
    this.events = events;
  }

  /** The entry as it stands; refused when there is none or it was taken off. */
  public Clock get(long id) {
    return database
        .selectFrom(TIME_ENTRY)
        .where(TIME_ENTRY.ID.eq(id).and(TIME_ENTRY.REMOVED_AT.isNull()))
        .fetchOptional(Clock::new)
        .orElseThrow(
            () ->
                new Refused(Rule.NOT_FOUND, "This entry is not there any more. Reload the sheet."));
  }

  /** The clocks of these people that run, at most one of each. */
  public Map<Long, Clock> listRunning(Collection<Long> personIds) {
    return database
        .selectFrom(TIME_ENTRY)
        .where(TIME_ENTRY.PERSON_ID.in(personIds).and(TIME_ENTRY.ENDED_AT.isNull()))
        .and(TIME_ENTRY.REMOVED_AT.isNull())
        .fetchMap(TIME_ENTRY.PERSON_ID, Clock::new);
  }

  /** Starts a clock; the database refuses it while another one of the same person runs. */
  public void start(
      Act act, @Nullable LockedVisit visit, long personId, ClockedWork work, Instant moment) {
    WorkingCalendar hours = hours();
    Instant now = second(moment);
    TimeEntryRecord clock = newEntry(visit, personId, work.kind());
    clock.setDescription(work.description());
    clock.setPromisedLineId(work.lineId());
    clock.setMeasuredFrom(now);
    clock.setDay(now.atZone(hours.zone()).toLocalDate());
    clock.setStartedAt(now);
    clock.setRateClass(hours.at(now));
    try {
      events.store(act, JobEvent.TIME_STARTED, clock, partOf(visit));
    } catch (DataIntegrityViolationException overlapping) {
      throw new Refused(
          Rule.OVERLAPPING_CLOCKS,
          "Another clock was started at the same moment. Look which one runs, then tap again.");
    }
  }

  /**
   * Stops a clock, cutting it where the day or the rate class changes. A clock without a minute on
   * it is dropped, unless it has miles; gives whether it was kept.
   *
   * @param end when it really ended, and when it was stopped
   */
  public boolean stop(
      Act act, Clock clock, @Nullable LockedVisit visit, End end, BigDecimal miles) {
    Instant endedAt = end.endedAt();
    var reading = new Reading();
    TimeEntry.check(clock.startedAt(), endedAt, act.at(), reading);
    reading.refuseIfFaulty();
    TimeEntryRecord row = clock.row();
    boolean empty = TimeEntry.minutesBetween(clock.startedAt(), endedAt) == 0;
    if (empty && miles.signum() == 0) {
      events.delete(act, JobEvent.TIME_STOPPED, row, partOf(visit));
      return false;
    }
    row.setMiles(miles);
    row.setEndInDoubt(end.inDoubt());
    List<WorkingCalendar.Span> spans = hours().split(clock.startedAt(), endedAt);
    store(
        act,
        JobEvent.TIME_STOPPED,
        row,
        spans.isEmpty() ? List.of(empty(clock.startedAt())) : spans,
        end.stoppedAt(),
        partOf(visit));
    return true;
  }

  /**
   * The end of a clock.
   *
   * @param endedAt when it really ended
   * @param stoppedAt when it was stopped
   * @param inDoubt whether its person is to be asked
   */
  public record End(Instant endedAt, Instant stoppedAt, boolean inDoubt) {
    /** Stopped when it ended. */
    public static End at(Instant moment) {
      return new End(second(moment), second(moment), false);
    }

    /** The same, of which its person is to be asked. */
    public static End inDoubtAt(Instant moment) {
      return new End(second(moment), second(moment), true);
    }
  }

  /** A drive round the corner: no minute, but miles. */
  private WorkingCalendar.Span empty(Instant at) {
    return new WorkingCalendar.Span(hours().at(at), at, at);
  }

  /** Time that nobody clocked; gives the id of its first entry. */
  public long add(
      Act act, @Nullable LockedVisit visit, long personId, TimeEntry.Kind kind, WrittenTime time) {
    TimeEntryRecord row = newEntry(visit, personId, kind);
    write(act, JobEvent.TIME_ADDED, row, visit, time);
    return row.getId();
  }

  /** Puts an entry right; what it takes beyond its first span are further entries beside it. */
  public void correct(Act act, Clock entry, @Nullable LockedVisit visit, WrittenTime time) {
    write(act, JobEvent.TIME_CORRECTED, entry.row(), visit, time);
  }

  /** The same for an entry of a visit, of whoever it really was. */
  public void correct(Act act, Clock entry, LockedVisit visit, long personId, WrittenTime time) {
    entry.row().setPersonId(personId);
    correct(act, entry, visit, time);
  }

  private void write(
      Act act, JobEvent event, TimeEntryRecord row, @Nullable LockedVisit visit, WrittenTime time) {
    row.setMiles(time.miles());
    row.setDescription(time.description());
    row.setEndInDoubt(false);
    store(act, event, row, time.spans(), null, partOf(visit).why(time.reason()));
  }

  /** Its end was right. */
  public void confirm(Act act, Clock entry, @Nullable LockedVisit visit) {
    entry.row().setEndInDoubt(false);
    events.store(act, JobEvent.TIME_CONFIRMED, entry.row(), partOf(visit));
  }

  /** Takes an entry off; what the trail points at is never deleted. */
  public void remove(Act act, Clock entry, @Nullable LockedVisit visit, String reason) {
    entry.row().setRemovedAt(act.at());
    events.store(act, JobEvent.TIME_REMOVED, entry.row(), partOf(visit).why(reason));
  }

  /**
   * Keeps what the time on visits that nobody approved yet costs at the rates in force; gives the
   * event for the books of each, in their order.
   */
  public List<BooksEvent.TimeApproved> approve(Act act, List<LockedVisit> visits) {
    var costing = new Costing(companies.getCompany().terms());
    Map<Long, List<TimeEntryRecord>> byVisit =
        list(visits.stream().map(LockedVisit::id).toList(), TIME_ENTRY.TIME_COST_MINOR.isNull())
            .stream()
            .collect(Collectors.groupingBy(TimeEntryRecord::getVisitId));
    var approved = new ArrayList<BooksEvent.TimeApproved>();
    var rows = new ArrayList<TimeEntryRecord>();
    var abouts = new ArrayList<About>();
    for (LockedVisit visit : visits) {
      List<TimeEntryRecord> ofVisit = byVisit.getOrDefault(visit.id(), List.of());
      for (TimeEntryRecord row : ofVisit) {
        TimeEntry.Cost cost = costing.cost(fact(row));
        row.setTimeCostMinor(cost.time().minor());
        row.setDistanceCostMinor(cost.distance().minor());
        row.setCostReleaseId(visit.job().costReleaseId());
        rows.add(row);
        abouts.add(partOf(visit));
      }
      approved.add(approved(visit.job(), ofVisit));
    }
    events.updateAll(act, JobEvent.TIME_COSTED, rows, abouts);
    return approved;
  }

  /** Forgets what the time on a visit cost; gives the event that is to be undone in the books. */
  public BooksEvent.TimeApproved disapprove(Act act, LockedVisit visit) {
    return disapprove(act, visit, list(List.of(visit.id()), noCondition()));
  }

  /** The same for one entry of a visit. */
  public BooksEvent.TimeApproved disapprove(Act act, LockedVisit visit, Clock entry) {
    visit.requireOpen(entry.row().getCostReleaseId());
    return disapprove(act, visit, List.of(entry.row()));
  }

  private BooksEvent.TimeApproved disapprove(
      Act act, LockedVisit visit, List<TimeEntryRecord> rows) {
    BooksEvent.TimeApproved approved = approved(visit.job(), rows);
    for (TimeEntryRecord row : rows) {
      row.setTimeCostMinor(null);
      row.setDistanceCostMinor(null);
      row.setCostReleaseId(null);
      events.store(act, JobEvent.TIME_COSTED, row, partOf(visit));
    }
    return approved;
  }

  private static BooksEvent.TimeApproved approved(LockedJob job, List<TimeEntryRecord> rows) {
    return new BooksEvent.TimeApproved(
        job.costObject(),
        job.costPlace(),
        timeCost(rows, TimeEntry.Kind.LABOUR),
        timeCost(rows, TimeEntry.Kind.DRIVE),
        rows.stream().map(row -> Money.ofMinor(row.getDistanceCostMinor())).collect(Money.sum()));
  }

  private static Money timeCost(List<TimeEntryRecord> rows, TimeEntry.Kind kind) {
    return rows.stream()
        .filter(row -> row.getKind() == kind)
        .map(row -> Money.ofMinor(row.getTimeCostMinor()))
        .collect(Money.sum());
  }

  private List<TimeEntryRecord> list(List<Long> visitIds, Condition which) {
    return database
        .selectFrom(TIME_ENTRY)
        .where(TIME_ENTRY.VISIT_ID.in(visitIds).and(TIME_ENTRY.REMOVED_AT.isNull()))
        .and(which)
        .orderBy(TIME_ENTRY.ID)
        .fetch();
  }

  private TimeEntryRecord newEntry(
      @Nullable LockedVisit visit, long personId, TimeEntry.Kind kind) {
    TimeEntryRecord row = database.newRecord(TIME_ENTRY);
    row.setVisitId(visit == null ? null : visit.id());
    row.setPersonId(personId);
    row.setKind(kind);
    return row;
  }

  /**
   * Stores an entry over at least one span: the first is the entry itself, each further one a new
   * entry beside it that has no miles.
   *
   * @param stoppedAt when its clock was stopped; null for time that was written down or put right,
   *     of which only the entry itself keeps what was measured
   */
  private void store(
      Act act,
      JobEvent event,
      TimeEntryRecord entry,
      List<WorkingCalendar.Span> spans,
      @Nullable Instant stoppedAt,
      About about) {
    ZoneId zone = hours().zone();
    boolean inDoubt = entry.getEndInDoubt();
    TimeEntryRecord part = entry;
    for (WorkingCalendar.Span span : spans) {
      part.setDay(span.from().atZone(zone).toLocalDate());
      part.setStartedAt(span.from());
      part.setEndedAt(span.to());
      part.setRateClass(span.rateClass());
      if (stoppedAt != null) {
        part.setMeasuredTo(span.equals(spans.getLast()) ? stoppedAt : span.to());
        part.setEndInDoubt(inDoubt && span.equals(spans.getLast()));
      }
      events.store(act, event, part, about);
      part = entry.copy();
      part.setMeasuredFrom(stoppedAt == null ? null : span.to());
      part.setMeasuredTo(null);
      part.setMiles(BigDecimal.ZERO);
      part.setVersion(1);
    }
  }

  /** An entry that has ended, for the core; what it cost is not approved yet. */
  static TimeEntry fact(TimeEntryRecord row) {
    return new TimeEntry(
        row.getId(),
        row.getPersonId(),
        row.getKind(),
        row.getRateClass(),
        row.getDay(),
        TimeEntry.minutesBetween(row.getStartedAt(), row.getEndedAt()),
        row.getMiles(),
        null);
  }

  private static About partOf(@Nullable LockedVisit visit) {
    return visit == null ? About.NOTHING : About.partOf(visit.job().id());
  }

  private WorkingCalendar hours() {
    return companies.getCompany().calendar();
  }

  /** One tap's end is the next tap's start, and no seconds are lost between them. */
  public static Instant second(Instant moment) {
    return moment.truncatedTo(ChronoUnit.SECONDS);
  }
}
