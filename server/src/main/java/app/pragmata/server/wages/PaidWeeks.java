package app.pragmata.server.wages;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.LATE_ACT;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.WAGES_LINE;
import static java.time.temporal.TemporalAdjusters.previousOrSame;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.mapping;
import static java.util.stream.Collectors.toList;
import static org.jooq.impl.DSL.condition;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.company.PayClass;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.field.LateActState;
import app.pragmata.core.field.PocketStep;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.people.Role;
import app.pragmata.core.wages.PaidWeek;
import app.pragmata.core.wages.PaidWeek.PaidTime;
import app.pragmata.core.wages.PaidWeek.Worked;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Predicate;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads clocks and cuts them into what is paid, by whole weeks. */
@Repository
class PaidWeeks {
  /**
   * What a person is paid for in some days.
   *
   * @param running whether a clock of theirs runs that began in these days
   * @param inDoubt of how many times it is to be said when they ended
   * @param waitingForCheck minutes on visits that the office has not checked
   * @param cameInLate whether time of theirs came in late and waits for the office
   * @param times by day
   */
  record PersonsWages(
      long personId,
      String person,
      boolean running,
      int inDoubt,
      int waitingForCheck,
      boolean cameInLate,
      List<PaidTime> times) {
    /** Whether nothing of it can change any more but by a correction. */
    boolean closed() {
      return !running && inDoubt == 0 && waitingForCheck == 0 && !cameInLate;
    }

    Map<PayClass, Integer> minutesByClass() {
      return PaidWeek.minutesByClass(times);
    }
  }

  /**
   * Somebody's clock.
   *
   * @param endedAt null while it runs
   * @param waitsForCheck whether it is of a visit that the office has not checked
   * @param jobNumber null for time on no visit
   */
  private record Clock(
      LocalDate day,
      Instant startedAt,
      @Nullable Instant endedAt,
      TimeEntry.Kind kind,
      RateClass rateClass,
      String description,
      boolean inDoubt,
      boolean waitsForCheck,
      @Nullable Long jobNumber) {
    int minutes() {
      return endedAt == null ? 0 : TimeEntry.minutesBetween(startedAt, endedAt);
    }
  }

  /** A person with what they clocked in the weeks that touch the days. */
  private record Person(long id, String name, boolean cameInLate, List<Clock> clocks) {}

  private static final List<PocketStep> OF_TIME =
      Arrays.stream(PocketStep.values()).filter(PocketStep::isOfTime).toList();

  /** Whether a tap counts for somebody who came along. */
  private static final Condition IN_THE_CREW =
      condition("{0}::jsonb -> 'crewIds' @> to_jsonb({1})", LATE_ACT.FORM, PERSON.ID);

  private final DSLContext database;
  private final CompanyStore companies;

  PaidWeeks(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** Everybody who works in the field, or did in these days or was paid for them, by name. */
  List<PersonsWages> list(LocalDate first, LocalDate last) {
    Company company = companies.getCompany();
    return people(mondayOf(first), mondayOf(last).plusDays(6), company.zone()).stream()
        .map(person -> wages(person, first, last, company))
        .toList();
  }

  /**
   * Whether what waits could still change somebody's time until a Sunday: a clock that was tapped
   * until then, or ended on the Monday after, by themselves or for them by whoever they came along
   * with, and whatever was noted by hand, of whichever day.
   */
  private static Condition lateTime(LocalDate sunday, ZoneId zone) {
    return exists(
        selectOne()
            .from(LATE_ACT)
            .where(LATE_ACT.PERSON_ID.eq(PERSON.ID).or(IN_THE_CREW))
            .and(LATE_ACT.STATE.eq(LateActState.WAITING))
            .and(LATE_ACT.STEP.in(OF_TIME))
            .and(
                LATE_ACT
                    .COUNTED_AT
                    .lt(sunday.plusDays(2).atStartOfDay(zone).toInstant())
                    .or(LATE_ACT.STEP.eq(PocketStep.NOTE_TIME))));
  }

  private List<Person> people(LocalDate monday, LocalDate sunday, ZoneId zone) {
    Field<Boolean> late = field(lateTime(sunday, zone));
    Field<Boolean> waits =
        field(TIME_ENTRY.VISIT_ID.isNotNull().and(TIME_ENTRY.TIME_COST_MINOR.isNull()));
    Map<Long, Person> people = new LinkedHashMap<>();
    database
        .select(
            TIME_ENTRY.DAY,
            TIME_ENTRY.STARTED_AT,
            TIME_ENTRY.ENDED_AT,
            TIME_ENTRY.KIND,
            TIME_ENTRY.RATE_CLASS,
            TIME_ENTRY.DESCRIPTION,
            TIME_ENTRY.END_IN_DOUBT,
            waits,
            JOB.NUMBER)
        .select(PERSON.ID, PERSON.NAME, late)
        .from(PERSON)
        .leftJoin(TIME_ENTRY)
        .on(TIME_ENTRY.PERSON_ID.eq(PERSON.ID))
        .and(TIME_ENTRY.DAY.between(monday, sunday))
        .and(TIME_ENTRY.REMOVED_AT.isNull())
        .leftJoin(VISIT)
        .on(VISIT.ID.eq(TIME_ENTRY.VISIT_ID))
        .leftJoin(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(
            PERSON
                .ROLE
                .eq(Role.TECHNICIAN)
                .and(PERSON.ACTIVE)
                .or(TIME_ENTRY.ID.isNotNull())
                .or(
                    exists(
                        selectOne()
                            .from(WAGES_LINE)
                            .where(WAGES_LINE.PERSON_ID.eq(PERSON.ID))
                            .and(WAGES_LINE.DAY.between(monday, sunday)))))
        .orderBy(PERSON.NAME, PERSON.ID, TIME_ENTRY.STARTED_AT, TIME_ENTRY.ID)
        .forEach(
            row -> {
              Person person =
                  people.computeIfAbsent(
                      row.get(PERSON.ID),
                      id -> new Person(id, row.get(PERSON.NAME), row.get(late), new ArrayList<>()));
              if (row.get(TIME_ENTRY.DAY) != null) {
                person
                    .clocks()
                    .add(
                        new Clock(
                            row.get(TIME_ENTRY.DAY),
                            row.get(TIME_ENTRY.STARTED_AT),
                            row.get(TIME_ENTRY.ENDED_AT),
                            row.get(TIME_ENTRY.KIND),
                            row.get(TIME_ENTRY.RATE_CLASS),
                            row.get(TIME_ENTRY.DESCRIPTION),
                            row.get(TIME_ENTRY.END_IN_DOUBT),
                            row.get(waits),
                            row.get(JOB.NUMBER)));
              }
            });
    return List.copyOf(people.values());
  }

  private static PersonsWages wages(
      Person person, LocalDate first, LocalDate last, Company company) {
    Predicate<LocalDate> asked = day -> !day.isBefore(first) && !day.isAfter(last);
    Map<LocalDate, List<Worked>> weeks =
        person.clocks().stream()
            .filter(clock -> clock.endedAt() != null)
            .collect(
                groupingBy(
                    clock -> mondayOf(clock.day()),
                    TreeMap::new,
                    mapping(clock -> worked(clock, company), toList())));
    List<Clock> clocks = person.clocks().stream().filter(clock -> asked.test(clock.day())).toList();
    return new PersonsWages(
        person.id(),
        person.name(),
        clocks.stream().anyMatch(clock -> clock.endedAt() == null),
        (int) clocks.stream().filter(Clock::inDoubt).count(),
        clocks.stream().filter(Clock::waitsForCheck).mapToInt(Clock::minutes).sum(),
        person.cameInLate(),
        weeks.values().stream()
            .map(week -> PaidWeek.of(week, company.pay(), company.calendar().holidays()))
            .flatMap(week -> week.times().stream())
            .filter(time -> asked.test(time.day()))
            .toList());
  }

  private static Worked worked(Clock clock, Company company) {
    return new Worked(
        clock.day(),
        clock.startedAt(),
        clock.kind(),
        clock.rateClass(),
        company.calendar().at(clock.startedAt()) != clock.rateClass(),
        clock.jobNumber(),
        clock.jobNumber() == null ? clock.description() : "",
        clock.minutes());
  }

  static LocalDate mondayOf(LocalDate day) {
    return day.with(previousOrSame(DayOfWeek.MONDAY));
  }
}
