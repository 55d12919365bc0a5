package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.TIME_ENTRY;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Repository;

/** The running clocks of technicians, to the second. */
@Repository
class Clocks {
  private final DSLContext database;
  private final Events events;

  Clocks(DSLContext database, Events events) {
    this.database = database;
    this.events = events;
  }

  /** All time on a visit, without what was taken off. */
  List<TimeEntryRecord> list(long visitId) {
    return database
        .selectFrom(TIME_ENTRY)
        .where(TIME_ENTRY.VISIT_ID.eq(visitId).and(TIME_ENTRY.REMOVED_AT.isNull()))
        .orderBy(TIME_ENTRY.ID)
        .fetch();
  }

  /** Starts a clock; the database refuses it while another one of the same person runs. */
  void start(
      Act act,
      VisitStore.Locked locked,
      TimeEntry.Kind kind,
      Instant moment,
      WorkingCalendar hours) {
    Instant now = second(moment);
    TimeEntryRecord clock = newEntry(locked.visit().getId(), act.personId(), kind);
    clock.setStartedAt(now);
    clock.setRateClass(hours.at(now));
    try {
      events.store(act, FieldEvent.TIME_STARTED, clock, About.partOf(locked.job().getId()));
    } catch (DataIntegrityViolationException overlapping) {
      throw new Refused(
          Rule.OVERLAPPING_CLOCKS,
          "Another of your clocks is still running. Pause or finish that visit first.");
    }
  }

  /**
   * Stops a clock, cutting it where the day or the rate class changes. A clock without a minute on
   * it is dropped, unless it has miles; gives whether it was kept.
   *
   * @param endedAt when it really ended
   */
  boolean stop(
      Act act,
      VisitStore.Locked locked,
      TimeEntryRecord clock,
      Instant endedAt,
      BigDecimal miles,
      WorkingCalendar hours) {
    var reading = new Reading();
    TimeEntry.check(clock.getStartedAt(), endedAt, act.at(), reading);
    reading.refuseIfFaulty();
    List<WorkingCalendar.Span> spans = hours.split(clock.getStartedAt(), endedAt);
    boolean empty = TimeEntry.minutesBetween(clock.getStartedAt(), endedAt) == 0;
    if (empty && miles.signum() == 0) {
      events.delete(act, FieldEvent.TIME_STOPPED, clock, About.partOf(locked.job().getId()));
      return false;
    }
    clock.setMiles(miles);
    store(
        act,
        FieldEvent.TIME_STOPPED,
        clock,
        spans.isEmpty() ? List.of(empty(clock, hours)) : spans,
        About.partOf(locked.job().getId()));
    return true;
  }

  /** A drive round the corner: no minute, but miles. */
  private static WorkingCalendar.Span empty(TimeEntryRecord clock, WorkingCalendar hours) {
    Instant at = clock.getStartedAt();
    return new WorkingCalendar.Span(hours.at(at), at, at);
  }

  /** An entry that is not stored yet; it has no times and no rate class. */
  TimeEntryRecord newEntry(long visitId, long personId, TimeEntry.Kind kind) {
    TimeEntryRecord entry = database.newRecord(TIME_ENTRY);
    entry.setVisitId(visitId);
    entry.setPersonId(personId);
    entry.setKind(kind);
    return entry;
  }

  /**
   * Stores an entry over at least one span: the first is the entry itself, each further one a new
   * entry beside it that has no miles.
   */
  void store(
      Act act,
      FieldEvent event,
      TimeEntryRecord entry,
      List<WorkingCalendar.Span> spans,
      About about) {
    TimeEntryRecord part = entry;
    for (WorkingCalendar.Span span : spans) {
      part.setStartedAt(span.from());
      part.setEndedAt(span.to());
      part.setRateClass(span.rateClass());
      events.store(act, event, part, about);
      part = entry.copy();
      part.setMiles(BigDecimal.ZERO);
      part.setVersion(1);
    }
  }

  /** One tap's end is the next tap's start, and no seconds are lost between them. */
  static Instant second(Instant moment) {
    return moment.truncatedTo(ChronoUnit.SECONDS);
  }
}
