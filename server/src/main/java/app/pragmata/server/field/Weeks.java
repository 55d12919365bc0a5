package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.WEEK_SIGN_OFF;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.field.ForgottenClock;
import app.pragmata.core.field.HoursWorked;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.people.Role;
import app.pragmata.server.generated.tables.records.WeekSignOffRecord;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.people.PersonEvent;
import app.pragmata.server.planning.PersonHours;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What people did in a week, from Monday on (ISO 8601), and that they have signed it off. */
@Component
public class Weeks {
  /**
   * An own time.
   *
   * @param to null while the clock runs
   * @param toDaysLater on how many days after the day it ends
   * @param what the customer of its visit, or what other paid time was for; empty for a drive to no
   *     visit and a break
   * @param measuredFrom when its clock was started; null for time that was written down, as is to
   *     when it was stopped
   * @param inDoubt whether the next clock set its end, so that somebody is to say when it was
   * @param checked whether the office has checked it; what is on no visit is not
   * @param forgotten whether it has run past the hours of its person
   */
  record WeekEntry(
      long id,
      int version,
      long personId,
      LocalDate day,
      TimeEntry.Kind kind,
      RateClass rateClass,
      LocalTime from,
      @Nullable LocalTime to,
      int toDaysLater,
      int minutes,
      BigDecimal miles,
      @Nullable Long visitId,
      @Nullable Long jobNumber,
      String what,
      @Nullable LocalTime measuredFrom,
      @Nullable LocalTime measuredTo,
      boolean inDoubt,
      boolean checked,
      boolean forgotten) {

    boolean runs() {
      return to == null;
    }

    HoursWorked.Worked worked() {
      return new HoursWorked.Worked(kind, visitId != null, rateClass, minutes);
    }
  }

  /**
   * That a week is signed off.
   *
   * @param at by the company's clock
   * @param changedSince whether its hours are others by now, so that it is to be signed again
   */
  record SignedOff(LocalDateTime at, boolean changedSince) {}

  /**
   * The hours of a week together.
   *
   * @param paid labour, other work and drive together
   * @param waitingForCheck minutes on visits that the office has not checked yet
   */
  record WeekHours(HoursWorked worked, int paid, int waitingForCheck) {}

  /** Which week, by its Monday. */
  record WeekForm(@Nullable LocalDate monday) {}

  private final DSLContext database;
  private final PersonHours hours;
  private final Events events;

  Weeks(DSLContext database, PersonHours hours, Events events) {
    this.database = database;
    this.hours = hours;
    this.events = events;
  }

  /** Refuses what is no Monday. */
  static void requireMonday(LocalDate monday) {
    if (monday.getDayOfWeek() != DayOfWeek.MONDAY || monday.getYear() > 9_000) {
      throw new Refused(
          Rule.NOT_FOUND, "A week is known by its Monday. Choose one like 2026-11-23.");
    }
  }

  /** Whoever works in the field, or did in the week from a Monday on, by name. */
  List<Colleague> listPeople(LocalDate monday) {
    return database
        .select(PERSON.ID, PERSON.NAME)
        .from(PERSON)
        .where(PERSON.ROLE.eq(Role.TECHNICIAN).and(PERSON.ACTIVE))
        .or(
            PERSON.ID.in(
                select(TIME_ENTRY.PERSON_ID)
                    .from(TIME_ENTRY)
                    .where(TIME_ENTRY.DAY.between(monday, monday.plusDays(6)))
                    .and(TIME_ENTRY.REMOVED_AT.isNull())))
        .orderBy(PERSON.NAME)
        .fetch(Records.mapping(Colleague::new));
  }

  /** The times of these people of a week, of each in the order of the clock. */
  List<WeekEntry> list(Act act, Collection<Long> personIds, LocalDate monday) {
    return list(act, personIds, monday, monday.plusDays(6));
  }

  /** The same from a day to another. */
  List<WeekEntry> list(Act act, Collection<Long> personIds, LocalDate first, LocalDate last) {
    return list(act, TIME_ENTRY.PERSON_ID.in(personIds).and(TIME_ENTRY.DAY.between(first, last)));
  }

  /** The clock of a person that runs, and times whose end is in doubt, of whatever day. */
  List<WeekEntry> listOpen(Act act, long personId) {
    return list(
        act,
        TIME_ENTRY
            .PERSON_ID
            .eq(personId)
            .and(TIME_ENTRY.ENDED_AT.isNull().or(TIME_ENTRY.END_IN_DOUBT)));
  }

  private List<WeekEntry> list(Act act, Condition which) {
    return database
        .select(TIME_ENTRY.fields())
        .select(JOB.NUMBER, CUSTOMER.NAME)
        .from(TIME_ENTRY)
        .leftJoin(VISIT)
        .on(VISIT.ID.eq(TIME_ENTRY.VISIT_ID))
        .leftJoin(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .leftJoin(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .where(which)
        .and(TIME_ENTRY.REMOVED_AT.isNull())
        .orderBy(TIME_ENTRY.STARTED_AT, TIME_ENTRY.ID)
        .fetch(row -> entry(row, act));
  }

  private WeekEntry entry(Record row, Act act) {
    var entry = row.into(TIME_ENTRY);
    ZoneId zone = act.zone();
    Instant ended = entry.getEndedAt();
    return new WeekEntry(
        entry.getId(),
        entry.getVersion(),
        entry.getPersonId(),
        entry.getDay(),
        entry.getKind(),
        entry.getRateClass(),
        timeOf(entry.getStartedAt(), zone),
        ended == null ? null : timeOf(ended, zone),
        ended == null
            ? 0
            : (int) ChronoUnit.DAYS.between(entry.getDay(), ended.atZone(zone).toLocalDate()),
        ended == null ? 0 : TimeEntry.minutesBetween(entry.getStartedAt(), ended),
        entry.getMiles(),
        entry.getVisitId(),
        row.get(JOB.NUMBER),
        Objects.requireNonNullElse(row.get(CUSTOMER.NAME), entry.getDescription()),
        entry.getMeasuredFrom() == null ? null : timeOf(entry.getMeasuredFrom(), zone),
        entry.getMeasuredTo() == null ? null : timeOf(entry.getMeasuredTo(), zone),
        entry.getEndInDoubt(),
        entry.getVisitId() != null && entry.getTimeCostMinor() != null,
        ended == null
            && new ForgottenClock(
                    entry.getKind(),
                    entry.getVisitId(),
                    entry.getStartedAt(),
                    hours.endOf(entry.getPersonId(), entry.getDay()))
                .isPastHours(act.at()));
  }

  private static LocalTime timeOf(Instant moment, ZoneId zone) {
    return moment.atZone(zone).toLocalTime().truncatedTo(ChronoUnit.MINUTES);
  }

  /** The hours of these entries, without what is still on the clock. */
  static WeekHours sum(List<WeekEntry> entries) {
    List<WeekEntry> ended = entries.stream().filter(entry -> !entry.runs()).toList();
    HoursWorked worked = HoursWorked.of(ended.stream().map(WeekEntry::worked).toList());
    return new WeekHours(
        worked,
        worked.paid(),
        ended.stream()
            .filter(entry -> entry.visitId() != null && !entry.checked())
            .mapToInt(WeekEntry::minutes)
            .sum());
  }

  /** Who of these people has signed the week off; the entries are those of all. */
  Map<Long, SignedOff> listSignedOff(
      Act act, Collection<Long> personIds, LocalDate monday, List<WeekEntry> entries) {
    return database
        .selectFrom(WEEK_SIGN_OFF)
        .where(WEEK_SIGN_OFF.PERSON_ID.in(personIds).and(WEEK_SIGN_OFF.MONDAY.eq(monday)))
        .fetchMap(
            WEEK_SIGN_OFF.PERSON_ID,
            row -> {
              List<WeekEntry> own =
                  entries.stream().filter(entry -> entry.personId() == row.getPersonId()).toList();
              return new SignedOff(
                  LocalDateTime.ofInstant(row.getSignedAt(), act.zone()),
                  own.stream().anyMatch(WeekEntry::runs) || !isAsSigned(row, sum(own).worked()));
            });
  }

  private static boolean isAsSigned(WeekSignOffRecord signed, HoursWorked now) {
    return signed.getLabourMinutes() == now.labour()
        && signed.getOtherWorkMinutes() == now.otherWork()
        && signed.getDriveMinutes() == now.drive()
        && signed.getBreakMinutes() == now.breaks();
  }

  /**
   * Signs one's own week off as it stands, also again.
   *
   * @throws Refused for a week that is to come, and while a clock of it runs or an end is in doubt
   */
  @Transactional
  public void signOff(Act act, LocalDate monday) {
    requireMonday(monday);
    if (monday.isAfter(act.today())) {
      throw new Refused(Rule.WEEK_TO_COME, "This week is to come. Sign it off when it is worked.");
    }
    List<WeekEntry> entries = list(act, List.of(act.personId()), monday);
    if (entries.stream().anyMatch(WeekEntry::runs)) {
      throw new Refused(Rule.CLOCK_RUNNING, "A clock still runs in this week. Stop it first.");
    }
    if (entries.stream().anyMatch(WeekEntry::inDoubt)) {
      throw new Refused(
          Rule.CLOCK_IN_DOUBT, "It is still to be said when a clock of this week ended.");
    }
    HoursWorked worked = sum(entries).worked();
    var row = database.newRecord(WEEK_SIGN_OFF);
    row.setPersonId(act.personId());
    row.setMonday(monday);
    row.setSignedAt(act.at());
    row.setLabourMinutes(worked.labour());
    row.setOtherWorkMinutes(worked.otherWork());
    row.setDriveMinutes(worked.drive());
    row.setBreakMinutes(worked.breaks());
    database
        .insertInto(WEEK_SIGN_OFF)
        .set(row)
        .onConflict(WEEK_SIGN_OFF.PERSON_ID, WEEK_SIGN_OFF.MONDAY)
        .doUpdate()
        .setAllToExcluded()
        .execute();
    events.tell(
        act,
        PersonEvent.WEEK_SIGNED_OFF,
        act.personId(),
        About.NOTHING.with(Map.of(), Map.of("monday", monday, "minutes", worked.paid())));
  }
}
