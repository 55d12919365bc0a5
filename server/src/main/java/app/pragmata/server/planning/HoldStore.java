package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.BOOKING;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.generated.tables.records.BookingRecord;
import app.pragmata.server.records.Act;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Record2;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Times that are kept free for a customer who is still choosing, for a few minutes. */
@Repository
class HoldStore {
  /**
   * A time that is held.
   *
   * @param personId whose time it is
   * @param heldBy who holds it
   * @param by their name
   * @param until when it is free again by itself
   */
  record HeldTime(
      long id, long personId, LocalDate day, Stretch at, long heldBy, String by, Instant until) {}

  private static final Duration LASTS = Duration.ofMinutes(5);
  private static final int MOST_OF_ONE = 10;

  private final DSLContext database;

  HoldStore(DSLContext database) {
    this.database = database;
  }

  /** Holds a time of somebody's day; gives its id. Refused when somebody holds ten already. */
  long hold(Act act, long personId, LocalDate day, Stretch at) {
    expire(act.at());
    int held = database.fetchCount(BOOKING, BOOKING.HELD_BY.eq(act.personId()));
    if (held >= MOST_OF_ONE) {
      throw new Refused(
          Rule.EXCEEDS_LIMIT, "You hold ten times already. Give one back, or plan a visit in it.");
    }
    BookingRecord row = database.newRecord(BOOKING);
    row.setPersonId(personId);
    row.setHeldBy(act.personId());
    row.setHeldUntil(act.at().plus(LASTS));
    row.setStarts(day.atStartOfDay().plusMinutes(at.from()));
    row.setEnds(day.atStartOfDay().plusMinutes(at.to()));
    row.store();
    return row.getId();
  }

  /**
   * Ends those of these that whoever asks holds, and all whose time is over; one that is not there
   * has ended already.
   */
  void end(Act act, Collection<Long> ids) {
    expire(act.at());
    if (!ids.isEmpty()) {
      database
          .deleteFrom(BOOKING)
          .where(BOOKING.ID.in(ids).and(BOOKING.HELD_BY.eq(act.personId())))
          .execute();
    }
  }

  private void expire(Instant now) {
    database.deleteFrom(BOOKING).where(BOOKING.HELD_UNTIL.le(now)).execute();
  }

  /** What is held of these days at this moment, the earliest first. */
  List<HeldTime> held(LocalDate first, LocalDate last, Instant now) {
    return database
        .select(BOOKING, PERSON.NAME)
        .from(BOOKING)
        .join(PERSON)
        .on(PERSON.ID.eq(BOOKING.HELD_BY))
        .where(BOOKING.HELD_UNTIL.gt(now))
        .and(BOOKING.STARTS.ge(first.atStartOfDay()))
        .and(BOOKING.STARTS.lt(last.plusDays(1).atStartOfDay()))
        .orderBy(BOOKING.STARTS, BOOKING.ID)
        .fetch(HoldStore::heldTime);
  }

  /** What whoever asks holds at this moment, the earliest first. */
  List<HeldTime> heldBy(Act act) {
    return database
        .select(BOOKING, PERSON.NAME)
        .from(BOOKING)
        .join(PERSON)
        .on(PERSON.ID.eq(BOOKING.HELD_BY))
        .where(BOOKING.HELD_BY.eq(act.personId()).and(BOOKING.HELD_UNTIL.gt(act.at())))
        .orderBy(BOOKING.STARTS, BOOKING.ID)
        .fetch(HoldStore::heldTime);
  }

  /** Holds one that whoever asks still holds for as long again; whether they did. */
  boolean prolong(Act act, long id) {
    return database
            .update(BOOKING)
            .set(BOOKING.HELD_UNTIL, act.at().plus(LASTS))
            .where(BOOKING.ID.eq(id).and(BOOKING.HELD_BY.eq(act.personId())))
            .and(BOOKING.HELD_UNTIL.gt(act.at()))
            .execute()
        == 1;
  }

  /** One that is held at this moment; null when its time is over. */
  @Nullable HeldTime find(long id, Instant now) {
    return database
        .select(BOOKING, PERSON.NAME)
        .from(BOOKING)
        .join(PERSON)
        .on(PERSON.ID.eq(BOOKING.HELD_BY))
        .where(BOOKING.ID.eq(id).and(BOOKING.HELD_UNTIL.gt(now)))
        .fetchOne(HoldStore::heldTime);
  }

  private static HeldTime heldTime(Record2<BookingRecord, String> row) {
    BookingRecord booking = row.value1();
    LocalDate day = booking.getStarts().toLocalDate();
    int from = Stretch.minuteOf(booking.getStarts().toLocalTime());
    int minutes = (int) Duration.between(booking.getStarts(), booking.getEnds()).toMinutes();
    return new HeldTime(
        booking.getId(),
        booking.getPersonId(),
        day,
        new Stretch(from, from + minutes),
        booking.getHeldBy(),
        row.value2(),
        Objects.requireNonNull(booking.getHeldUntil()));
  }
}
