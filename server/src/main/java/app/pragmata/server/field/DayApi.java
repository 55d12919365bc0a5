package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** All time of a person's day, on visits and on none. */
@RestController
class DayApi {
  record PersonsDay(
      long personId,
      String person,
      LocalDate day,
      LocalDate dayBefore,
      LocalDate dayAfter,
      List<DayEntry> entries,
      int labourMinutes,
      int driveMinutes,
      int breakMinutes) {}

  /**
   * A time entry; the end is null while the clock runs, the visit and its job for time on none.
   *
   * @param toDaysLater on how many days after the day it ends
   * @param costMinor in minor units, as approved or else at the rates of the day
   * @param measuredFrom when its clock was started; null for time that was written down, as is to
   *     when it was stopped
   * @param inDoubt whether its end was set by the next clock and its person is still to say when it
   *     was
   * @param approved whether its cost is in the books; a drive home is once its day's visits bear it
   */
  record DayEntry(
      long id,
      int version,
      TimeEntry.Kind kind,
      RateClass rateClass,
      LocalTime from,
      @Nullable LocalTime to,
      int toDaysLater,
      boolean byTheClock,
      int minutes,
      BigDecimal miles,
      String description,
      @Nullable LocalTime measuredFrom,
      @Nullable LocalTime measuredTo,
      boolean inDoubt,
      long costMinor,
      boolean approved,
      @Nullable Long visitId,
      @Nullable Long jobNumber,
      @Nullable String jobTitle) {}

  record Added(long id) {}

  private static final LocalDate FIRST = LocalDate.of(1900, 1, 1);
  private static final LocalDate LAST = LocalDate.of(9999, 12, 30);

  private final DSLContext database;
  private final DaysTime daysTime;
  private final CompanyStore companies;

  DayApi(DSLContext database, DaysTime daysTime, CompanyStore companies) {
    this.database = database;
    this.daysTime = daysTime;
    this.companies = companies;
  }

  @GetMapping("/api/people/{id}/days/{day}")
  PersonsDay getPersonsDay(@PathVariable long id, @PathVariable LocalDate day) {
    requireDayOfWork(day);
    String person =
        database
            .select(PERSON.NAME)
            .from(PERSON)
            .where(PERSON.ID.eq(id))
            .fetchOptional(PERSON.NAME)
            .orElseThrow(
                () ->
                    new Refused(
                        Rule.NOT_FOUND,
                        "This technician does not exist. Choose one from the list."));
    List<DayEntry> entries =
        database
            .select(TIME_ENTRY.fields())
            .select(JOB.NUMBER, JOB.TITLE)
            .from(TIME_ENTRY)
            .leftJoin(VISIT)
            .on(VISIT.ID.eq(TIME_ENTRY.VISIT_ID))
            .leftJoin(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .where(TIME_ENTRY.PERSON_ID.eq(id).and(TIME_ENTRY.DAY.eq(day)))
            .and(TIME_ENTRY.REMOVED_AT.isNull())
            .orderBy(TIME_ENTRY.STARTED_AT, TIME_ENTRY.ID)
            .fetch(this::entry);
    return new PersonsDay(
        id,
        person,
        day,
        day.minusDays(1),
        day.plusDays(1),
        entries,
        minutes(entries, TimeEntry.Kind.LABOUR),
        minutes(entries, TimeEntry.Kind.DRIVE),
        minutes(entries, TimeEntry.Kind.BREAK));
  }

  private static int minutes(List<DayEntry> entries, TimeEntry.Kind kind) {
    return entries.stream().filter(entry -> entry.kind() == kind).mapToInt(DayEntry::minutes).sum();
  }

  private DayEntry entry(Record row) {
    TimeEntryRecord entry = row.into(TIME_ENTRY);
    WorkingCalendar hours = companies.getCompany().calendar();
    boolean ended = entry.getEndedAt() != null;
    var from = entry.getStartedAt().atZone(hours.zone());
    var to = ended ? entry.getEndedAt().atZone(hours.zone()) : null;
    return new DayEntry(
        entry.getId(),
        entry.getVersion(),
        entry.getKind(),
        entry.getRateClass(),
        from.toLocalTime(),
        to == null ? null : to.toLocalTime(),
        to == null ? 0 : (int) ChronoUnit.DAYS.between(entry.getDay(), to.toLocalDate()),
        !ended
            || hours.split(entry.getStartedAt(), entry.getEndedAt()).stream()
                .allMatch(span -> span.rateClass() == entry.getRateClass()),
        ended ? TimeEntry.minutesBetween(entry.getStartedAt(), entry.getEndedAt()) : 0,
        entry.getMiles(),
        entry.getDescription(),
        timeOf(entry.getMeasuredFrom(), hours),
        timeOf(entry.getMeasuredTo(), hours),
        entry.getEndInDoubt(),
        ended ? costMinor(entry) : 0,
        entry.getTimeCostMinor() != null,
        entry.getVisitId(),
        row.get(JOB.NUMBER),
        row.get(JOB.TITLE));
  }

  private static @Nullable LocalTime timeOf(@Nullable Instant moment, WorkingCalendar hours) {
    return moment == null ? null : moment.atZone(hours.zone()).toLocalTime();
  }

  private long costMinor(TimeEntryRecord entry) {
    return entry.getTimeCostMinor() == null
        ? new Costing(companies.getCompany().terms()).cost(fact(entry)).total().minor()
        : entry.getTimeCostMinor() + entry.getDistanceCostMinor();
  }

  private static TimeEntry fact(TimeEntryRecord entry) {
    return new TimeEntry(
        entry.getId(),
        entry.getPersonId(),
        entry.getKind(),
        entry.getRateClass(),
        entry.getDay(),
        TimeEntry.minutesBetween(entry.getStartedAt(), entry.getEndedAt()),
        entry.getMiles(),
        null);
  }

  /** Time on no visit that nobody clocked. */
  @PostMapping("/api/people/{id}/days/{day}/time-entries")
  Added addTimeOnNoVisit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @PathVariable LocalDate day,
      @RequestBody CheckService.TimeForm form) {
    requireDayOfWork(day);
    return new Added(daysTime.add(act, key, id, day, form));
  }

  /** The database knows no days of any year. */
  static void requireDayOfWork(LocalDate day) {
    if (day.isBefore(FIRST) || day.isAfter(LAST)) {
      throw new Refused(Rule.NOT_FOUND, "Nobody works on this day. Choose one like 2026-11-24.");
    }
  }
}
