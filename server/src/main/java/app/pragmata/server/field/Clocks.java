package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.TIME_ENTRY;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.TimeEntry;
import app.pragmata.core.field.WorkingHours;
import app.pragmata.core.people.RateClass;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.people.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** The running clocks of technicians, in whole minutes. */
@Repository
class Clocks {
  private final DSLContext database;

  Clocks(DSLContext database) {
    this.database = database;
  }

  /** The clock that runs on a visit; null when none does. */
  @Nullable TimeEntryRecord findRunning(long visitId) {
    return database
        .selectFrom(TIME_ENTRY)
        .where(TIME_ENTRY.VISIT_ID.eq(visitId).and(TIME_ENTRY.ENDED_AT.isNull()))
        .fetchOne();
  }

  /** Starts a clock now; refused while another clock of the same person runs. */
  void start(Act act, long visitId, TimeEntry.Kind kind, WorkingHours hours) {
    if (database.fetchExists(
        TIME_ENTRY, TIME_ENTRY.PERSON_ID.eq(act.personId()).and(TIME_ENTRY.ENDED_AT.isNull()))) {
      throw new Refused(
          Rule.OVERLAPPING_CLOCKS,
          "Another of your clocks is still running. Pause or finish that visit first.");
    }
    Instant now = minute(act.at());
    insert(visitId, act.personId(), kind, hours.at(now), now, null, BigDecimal.ZERO);
  }

  /**
   * Stops a clock, cutting it where the rate class changes. A clock without a minute on it is
   * dropped, unless it has miles.
   *
   * @param endedAt when it really ended
   */
  void stop(Act act, TimeEntryRecord clock, Instant endedAt, BigDecimal miles, WorkingHours hours) {
    var reading = new Reading();
    TimeEntry.check(clock.getStartedAt(), endedAt, act.at(), reading);
    reading.refuseIfFaulty();
    List<WorkingHours.Span> spans = hours.split(clock.getStartedAt(), endedAt);
    if (spans.isEmpty() && miles.signum() == 0) {
      clock.delete();
      return;
    }
    WorkingHours.Span first =
        spans.isEmpty()
            ? new WorkingHours.Span(hours.at(endedAt), clock.getStartedAt(), endedAt)
            : spans.getFirst();
    clock.setEndedAt(first.to());
    clock.setRateClass(first.rateClass().label());
    clock.setMiles(miles);
    clock.setVersion(clock.getVersion() + 1);
    clock.update();
    TimeEntry.Kind kind = TimeEntry.Kind.valueOf(clock.getKind().toUpperCase(Locale.ROOT));
    spans.stream()
        .skip(1)
        .forEach(
            span ->
                insert(
                    clock.getVisitId(),
                    clock.getPersonId(),
                    kind,
                    span.rateClass(),
                    span.from(),
                    span.to(),
                    BigDecimal.ZERO));
  }

  /** Stores an entry; gives its id. */
  long insert(
      long visitId,
      long personId,
      TimeEntry.Kind kind,
      RateClass rateClass,
      Instant from,
      @Nullable Instant to,
      BigDecimal miles) {
    return database
        .insertInto(TIME_ENTRY)
        .set(TIME_ENTRY.VISIT_ID, visitId)
        .set(TIME_ENTRY.PERSON_ID, personId)
        .set(TIME_ENTRY.KIND, kind.name().toLowerCase(Locale.ROOT))
        .set(TIME_ENTRY.RATE_CLASS, rateClass.label())
        .set(TIME_ENTRY.STARTED_AT, from)
        .set(TIME_ENTRY.ENDED_AT, to)
        .set(TIME_ENTRY.MILES, miles)
        .returning(TIME_ENTRY.ID)
        .fetchSingle(TIME_ENTRY.ID);
  }

  /**
   * Clocks count whole minutes: one tap's end is the next tap's start, and no seconds are lost
   * between them.
   */
  static Instant minute(Instant moment) {
    return moment.truncatedTo(ChronoUnit.MINUTES);
  }
}
