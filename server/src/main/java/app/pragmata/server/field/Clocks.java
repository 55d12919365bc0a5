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
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
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

  /** The entry as it stands; refused when there is none or it was taken off. */
  TimeEntryRecord get(long id) {
    TimeEntryRecord entry =
        database
            .selectFrom(TIME_ENTRY)
            .where(TIME_ENTRY.ID.eq(id).and(TIME_ENTRY.REMOVED_AT.isNull()))
            .fetchOne();
    if (entry == null) {
      throw new Refused(Rule.NOT_FOUND, "This entry is not there any more. Reload the sheet.");
    }
    return entry;
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
    TimeEntryRecord clock = newEntry(locked.visit().getId(), act.personId(), kind);
    start(act, clock, moment, hours, About.partOf(locked.job().getId()));
  }

  /** Starts a clock that is not stored yet. */
  void start(Act act, TimeEntryRecord clock, Instant moment, WorkingCalendar hours, About about) {
    Instant now = second(moment);
    clock.setDay(now.atZone(hours.zone()).toLocalDate());
    clock.setStartedAt(now);
    clock.setRateClass(hours.at(now));
    try {
      events.store(act, FieldEvent.TIME_STARTED, clock, about);
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
      TimeEntryRecord clock,
      Instant endedAt,
      BigDecimal miles,
      WorkingCalendar hours,
      About about) {
    var reading = new Reading();
    TimeEntry.check(clock.getStartedAt(), endedAt, act.at(), reading);
    reading.refuseIfFaulty();
    List<WorkingCalendar.Span> spans = hours.split(clock.getStartedAt(), endedAt);
    boolean empty = TimeEntry.minutesBetween(clock.getStartedAt(), endedAt) == 0;
    if (empty && miles.signum() == 0) {
      events.delete(act, FieldEvent.TIME_STOPPED, clock, about);
      return false;
    }
    clock.setMiles(miles);
    store(
        act,
        FieldEvent.TIME_STOPPED,
        clock,
        spans.isEmpty() ? List.of(empty(clock, hours)) : spans,
        hours.zone(),
        about);
    return true;
  }

  /** A drive round the corner: no minute, but miles. */
  private static WorkingCalendar.Span empty(TimeEntryRecord clock, WorkingCalendar hours) {
    Instant at = clock.getStartedAt();
    return new WorkingCalendar.Span(hours.at(at), at, at);
  }

  /**
   * An entry that is not stored yet; it has no times and no rate class.
   *
   * @param visitId null for time on no visit
   */
  TimeEntryRecord newEntry(@Nullable Long visitId, long personId, TimeEntry.Kind kind) {
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
      ZoneId zone,
      About about) {
    TimeEntryRecord part = entry;
    for (WorkingCalendar.Span span : spans) {
      part.setDay(span.from().atZone(zone).toLocalDate());
      part.setStartedAt(span.from());
      part.setEndedAt(span.to());
      part.setRateClass(span.rateClass());
      events.store(act, event, part, about);
      part = entry.copy();
      part.setMiles(BigDecimal.ZERO);
      part.setVersion(1);
    }
  }

  /** The clock of this person that runs on no visit; empty when none does. */
  Optional<TimeEntryRecord> findOnNoVisit(long personId) {
    return database
        .selectFrom(TIME_ENTRY)
        .where(TIME_ENTRY.PERSON_ID.eq(personId).and(TIME_ENTRY.VISIT_ID.isNull()))
        .and(TIME_ENTRY.ENDED_AT.isNull())
        .fetchOptional();
  }

  /** One tap's end is the next tap's start, and no seconds are lost between them. */
  static Instant second(Instant moment) {
    return moment.truncatedTo(ChronoUnit.SECONDS);
  }
}
