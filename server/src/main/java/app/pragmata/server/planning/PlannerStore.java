package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.ABSENCE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB_SKILL;
import static app.pragmata.server.generated.Tables.PERSON_SKILL;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.SKILL;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static app.pragmata.server.generated.Tables.WORKING_PATTERN;
import static app.pragmata.server.generated.Tables.WORKING_PATTERN_DAY;
import static app.pragmata.server.generated.Tables.WORK_BASE;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.company.WorkingHours;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.AbsenceKind;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Place;
import app.pragmata.core.planning.Stretch;
import app.pragmata.core.planning.Wanted;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.Job;
import app.pragmata.server.generated.tables.Visit;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.planning.HoldStore.HeldTime;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Record1;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads what the planner plans with: people, their days, and the visits that want a time. */
@Repository
class PlannerStore {
  /**
   * A visit as the planner shows it.
   *
   * @param phone the customer's; may be empty
   * @param day null while it waits for one
   * @param overruled what spoke against its time when it was planned
   * @param finished by the company's clock; null until then
   * @param notBefore before which what it waits for is not there; null for nothing
   * @param respondBy by the company's clock; null where nobody was promised
   * @param located null where nobody knows where the site is
   */
  record PlannedVisit(
      long id,
      int version,
      long jobId,
      long jobNumber,
      String title,
      long customerId,
      String customer,
      String phone,
      String site,
      String area,
      String kindOfJob,
      VisitState.Code state,
      @Nullable Long technicianId,
      List<Long> companionIds,
      @Nullable LocalDate day,
      @Nullable LocalTime start,
      int expectedMinutes,
      Set<Clash> overruled,
      @Nullable LocalDateTime finished,
      @Nullable LocalDateTime notBefore,
      @Nullable LocalDateTime respondBy,
      RoadMap.@Nullable Located located,
      Set<Long> skillIds) {

    @Nullable Place place() {
      return located == null ? null : located.place();
    }

    /** When it is; what was done sooner than expected ends when it was done. */
    Stretch at() {
      LocalTime from = Objects.requireNonNull(start);
      boolean soonDone =
          finished != null
              && finished.toLocalDate().equals(day)
              && finished.isAfter(day.atTime(from))
              && finished.isBefore(day.atTime(from).plusMinutes(expectedMinutes));
      return soonDone
          ? Stretch.between(from, finished.toLocalTime())
          : Stretch.of(from, expectedMinutes);
    }

    boolean isOf(long personId) {
      return crewIds().contains(personId);
    }

    /** Who comes, whoever is responsible first; only of a visit that has its time. */
    List<Long> crewIds() {
      return Stream.concat(Stream.of(Objects.requireNonNull(technicianId)), companionIds.stream())
          .toList();
    }

    Wanted wanted(int minutes) {
      return new Wanted(id, place(), minutes, skillIds, notBefore, respondBy);
    }
  }

  /** That somebody is not at work. */
  record Absence(
      long id,
      long personId,
      AbsenceKind kind,
      LocalDate firstDay,
      LocalDate lastDay,
      @Nullable LocalTime starts,
      @Nullable LocalTime ends,
      String note) {
    boolean isOn(LocalDate day) {
      return !day.isBefore(firstDay) && !day.isAfter(lastDay);
    }

    Stretch stretch() {
      return starts == null || ends == null
          ? new Stretch(0, Stretch.DAY)
          : Stretch.between(starts, ends);
    }
  }

  /**
   * All that is known of some days.
   *
   * @param days of each person and day, by person in the order of their names
   */
  record Days(
      List<Colleague> people,
      List<PlannedVisit> visits,
      List<Absence> absences,
      List<HeldTime> held,
      List<PersonDay> days) {
    PersonDay of(long personId, LocalDate day) {
      return days.stream()
          .filter(each -> each.personId() == personId && each.day().equals(day))
          .findFirst()
          .orElseThrow(
              () ->
                  new Refused(
                      Rule.NOT_FOUND, "This technician does not exist. Choose one from the list."));
    }
  }

  /** A week from a day on, by the number of the weekday (Monday is 1). */
  record Pattern(LocalDate fromDay, Map<Integer, Stretch> week) {}

  private record HeldSkill(long skillId, @Nullable LocalDate until) {}

  private static final Field<List<Long>> COMPANION_IDS =
      multiset(
              select(VISIT_COMPANION.PERSON_ID)
                  .from(VISIT_COMPANION)
                  .where(VISIT_COMPANION.VISIT_ID.eq(VISIT.ID)))
          .as("companion_ids")
          .convertFrom(rows -> rows.map(Record1::value1));

  private static final Field<List<Long>> SKILL_IDS =
      multiset(
              select(KIND_OF_JOB_SKILL.SKILL_ID)
                  .from(KIND_OF_JOB_SKILL)
                  .where(KIND_OF_JOB_SKILL.KIND_OF_JOB_ID.eq(JOB.KIND_OF_JOB_ID)))
          .as("skill_ids")
          .convertFrom(rows -> rows.map(Record1::value1));

  private static final int MOST_WAITING = 200;
  private static final Visit FOLLOWED = VISIT.as("followed");

  /** Nobody knows when a visit is over that waits itself. */
  private static final LocalDateTime NOT_YET = LocalDate.of(2999, 12, 31).atStartOfDay();

  private final DSLContext database;
  private final CompanyStore companies;
  private final PeopleStore people;
  private final RoadMap roads;
  private final HoldStore holds;

  PlannerStore(
      DSLContext database,
      CompanyStore companies,
      PeopleStore people,
      RoadMap roads,
      HoldStore holds) {
    this.holds = holds;
    this.database = database;
    this.companies = companies;
    this.people = people;
    this.roads = roads;
  }

  /** Every technician's days from the first to the last, as they are at this moment. */
  Days days(LocalDate first, LocalDate last, Instant now) {
    List<Colleague> technicians = people.listTechnicians();
    List<PlannedVisit> visits =
        fetchVisits(
            VISIT
                .DAY
                .between(first, last)
                .and(
                    VISIT.STATE.notIn(
                        VisitState.Code.NOT_THIS_TIME,
                        VisitState.Code.CALLED_OFF,
                        VisitState.Code.UNPLANNED)));
    List<Absence> absences = absences(first, last);
    List<HeldTime> held = holds.held(first, last, now);
    Map<Long, List<Pattern>> patterns = patterns(last);
    Map<Long, List<HeldSkill>> skills =
        database
            .selectFrom(PERSON_SKILL)
            .fetchGroups(
                PERSON_SKILL.PERSON_ID, row -> new HeldSkill(row.getSkillId(), row.getUntil()));
    Map<Long, Place> bases =
        database
            .selectFrom(WORK_BASE)
            .fetchMap(
                WORK_BASE.PERSON_ID, row -> RoadMap.place(row.getLatitude(), row.getLongitude()));
    WorkingCalendar calendar = companies.getCompany().calendar();
    Map<LocalDate, List<PlannedVisit>> byDay =
        visits.stream()
            .collect(Collectors.groupingBy(visit -> Objects.requireNonNull(visit.day())));
    var days = new ArrayList<PersonDay>();
    for (Colleague person : technicians) {
      for (LocalDate day = first; !day.isAfter(last); day = day.plusDays(1)) {
        LocalDate on = day;
        days.add(
            new PersonDay(
                person.id(),
                day,
                bases.get(person.id()),
                working(patterns.getOrDefault(person.id(), List.of()), calendar, day),
                absences.stream()
                    .filter(absence -> absence.personId() == person.id() && absence.isOn(on))
                    .map(Absence::stretch)
                    .toList(),
                held.stream()
                    .filter(time -> time.personId() == person.id() && time.day().equals(on))
                    .map(HeldTime::at)
                    .toList(),
                skills.getOrDefault(person.id(), List.of()).stream()
                    .filter(skill -> skill.until() == null || !skill.until().isBefore(on))
                    .map(HeldSkill::skillId)
                    .collect(Collectors.toSet()),
                byDay.getOrDefault(day, List.of()).stream()
                    .filter(visit -> visit.isOf(person.id()))
                    .map(visit -> new PersonDay.Stop(visit.id(), visit.place(), visit.at()))
                    .toList()));
      }
    }
    return new Days(technicians, visits, absences, held, days);
  }

  private static List<Stretch> working(
      List<Pattern> patterns, WorkingCalendar calendar, LocalDate day) {
    if (calendar.holidays().contains(day)) {
      return List.of();
    }
    int weekday = day.getDayOfWeek().getValue();
    for (Pattern pattern : patterns) {
      if (!pattern.fromDay().isAfter(day)) {
        return Stream.ofNullable(pattern.week().get(weekday)).toList();
      }
    }
    WorkingHours hours = calendar.hours().on(day);
    return hours.normalDays().contains(day.getDayOfWeek())
        ? List.of(Stretch.between(hours.normalFrom(), hours.normalTo()))
        : List.of();
  }

  /** Everybody's patterns up to a day, the newest first. */
  Map<Long, List<Pattern>> patterns(LocalDate last) {
    var patterns = new HashMap<Long, List<Pattern>>();
    database
        .select(WORKING_PATTERN.ID, WORKING_PATTERN.PERSON_ID, WORKING_PATTERN.FROM_DAY)
        .select(WORKING_PATTERN_DAY.WEEKDAY, WORKING_PATTERN_DAY.STARTS, WORKING_PATTERN_DAY.ENDS)
        .from(WORKING_PATTERN)
        .leftJoin(WORKING_PATTERN_DAY)
        .on(WORKING_PATTERN_DAY.WORKING_PATTERN_ID.eq(WORKING_PATTERN.ID))
        .where(WORKING_PATTERN.FROM_DAY.le(last))
        .orderBy(WORKING_PATTERN.FROM_DAY.desc())
        .fetchGroups(WORKING_PATTERN.ID)
        .values()
        .forEach(
            rows -> {
              var week = new HashMap<Integer, Stretch>();
              rows.stream()
                  .filter(row -> row.get(WORKING_PATTERN_DAY.WEEKDAY) != null)
                  .forEach(
                      row ->
                          week.put(
                              row.get(WORKING_PATTERN_DAY.WEEKDAY).intValue(),
                              Stretch.between(
                                  row.get(WORKING_PATTERN_DAY.STARTS),
                                  row.get(WORKING_PATTERN_DAY.ENDS))));
              Record first = rows.getFirst();
              patterns
                  .computeIfAbsent(first.get(WORKING_PATTERN.PERSON_ID), id -> new ArrayList<>())
                  .add(new Pattern(first.get(WORKING_PATTERN.FROM_DAY), week));
            });
    return patterns;
  }

  /** All that touch these days, the earliest first. */
  List<Absence> absences(LocalDate first, LocalDate last) {
    return database
        .selectFrom(ABSENCE)
        .where(ABSENCE.REMOVED_AT.isNull())
        .and(ABSENCE.FIRST_DAY.le(last))
        .and(ABSENCE.LAST_DAY.ge(first))
        .orderBy(ABSENCE.FIRST_DAY, ABSENCE.STARTS, ABSENCE.ID)
        .fetch(
            row ->
                new Absence(
                    row.getId(),
                    row.getPersonId(),
                    row.getKind(),
                    row.getFirstDay(),
                    row.getLastDay(),
                    row.getStarts(),
                    row.getEnds(),
                    row.getNote()));
  }

  /**
   * The visits that wait for a time, whoever was promised first before the others; the first of
   * many.
   */
  List<PlannedVisit> waiting() {
    return fetchVisits(VISIT.STATE.eq(VisitState.Code.UNPLANNED), MOST_WAITING);
  }

  /** How many visits wait for a time. */
  int countWaiting() {
    return database.fetchCount(VISIT, VISIT.STATE.eq(VisitState.Code.UNPLANNED));
  }

  /** One visit; refused when there is no such visit. */
  PlannedVisit visit(long id) {
    return fetchVisits(VISIT.ID.eq(id)).stream()
        .findFirst()
        .orElseThrow(
            () -> new Refused(Rule.NOT_FOUND, "This visit does not exist. Reload the page."));
  }

  /** These visits by their ids; one that is not there is left out. */
  List<PlannedVisit> visits(Collection<Long> ids) {
    return fetchVisits(VISIT.ID.in(ids));
  }

  /** Who was there last at the site of each of these visits; none where nobody was. */
  Map<Long, Long> lastThere(Collection<Long> visitIds) {
    Visit past = VISIT.as("past");
    Job pastJob = JOB.as("past_job");
    return database
        .select(
            VISIT.ID,
            field(
                select(past.TECHNICIAN_ID)
                    .from(past)
                    .join(pastJob)
                    .on(pastJob.ID.eq(past.JOB_ID))
                    .where(pastJob.SITE_ID.eq(JOB.SITE_ID))
                    .and(past.STATE.in(VisitState.Code.FINISHED, VisitState.Code.CHECKED))
                    .orderBy(past.DAY.desc(), past.ID.desc())
                    .limit(1)))
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(VISIT.ID.in(visitIds))
        .fetch()
        .stream()
        .filter(row -> row.value2() != null)
        .collect(Collectors.toMap(row -> row.value1(), row -> row.value2()));
  }

  /** The names of everybody who may be planned. */
  Map<Long, String> names() {
    return people.listTechnicians().stream()
        .collect(Collectors.toMap(Colleague::id, Colleague::name));
  }

  Map<Long, String> skillNames() {
    return database.selectFrom(SKILL).orderBy(SKILL.NAME).fetchMap(SKILL.ID, SKILL.NAME);
  }

  /** The later of the day that it waits for and of the end of the visit that it follows. */
  private static @Nullable LocalDateTime notBefore(Record row) {
    LocalDate day = row.get(VISIT.NOT_BEFORE);
    LocalDateTime start = day == null ? null : day.atStartOfDay();
    if (row.get(FOLLOWED.ID) == null || row.get(FOLLOWED.STATE).isDropped()) {
      return start;
    }
    LocalDateTime end =
        row.get(FOLLOWED.DAY) == null || row.get(FOLLOWED.START_TIME) == null
            ? NOT_YET
            : row.get(FOLLOWED.DAY)
                .atTime(row.get(FOLLOWED.START_TIME))
                .plusMinutes(row.get(FOLLOWED.EXPECTED_MINUTES));
    return start == null || end.isAfter(start) ? end : start;
  }

  private List<PlannedVisit> fetchVisits(Condition which) {
    return fetchVisits(which, Integer.MAX_VALUE);
  }

  private List<PlannedVisit> fetchVisits(Condition which, int most) {
    ZoneId zone = companies.getZone();
    return database
        .select(VISIT.ID, VISIT.VERSION, VISIT.STATE, VISIT.TECHNICIAN_ID)
        .select(VISIT.DAY, VISIT.START_TIME, VISIT.EXPECTED_MINUTES)
        .select(VISIT.OVERRULED, VISIT.FINISHED_AT, VISIT.NOT_BEFORE)
        .select(
            FOLLOWED.ID,
            FOLLOWED.STATE,
            FOLLOWED.DAY,
            FOLLOWED.START_TIME,
            FOLLOWED.EXPECTED_MINUTES)
        .select(JOB.ID, JOB.NUMBER, JOB.TITLE, JOB.RESPOND_BY, JOB.RESPONDED_AT)
        .select(
            CUSTOMER.ID,
            CUSTOMER.NAME,
            CUSTOMER.PHONE,
            SITE.NAME,
            SITE.AREA,
            KIND_OF_JOB.NAME,
            SITE.POSTCODE,
            SITE.LATITUDE,
            SITE.LONGITUDE)
        .select(COMPANION_IDS, SKILL_IDS)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .join(KIND_OF_JOB)
        .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
        .leftJoin(FOLLOWED)
        .on(FOLLOWED.ID.eq(VISIT.FOLLOWS_ID))
        .where(which)
        .orderBy(JOB.RESPOND_BY.asc().nullsLast(), VISIT.ID)
        .limit(most)
        .fetch(
            row ->
                new PlannedVisit(
                    row.get(VISIT.ID),
                    row.get(VISIT.VERSION),
                    row.get(JOB.ID),
                    row.get(JOB.NUMBER),
                    row.get(JOB.TITLE),
                    row.get(CUSTOMER.ID),
                    row.get(CUSTOMER.NAME),
                    row.get(CUSTOMER.PHONE),
                    row.get(SITE.NAME),
                    row.get(SITE.AREA),
                    row.get(KIND_OF_JOB.NAME),
                    row.get(VISIT.STATE),
                    row.get(VISIT.TECHNICIAN_ID),
                    row.get(COMPANION_IDS),
                    row.get(VISIT.DAY),
                    row.get(VISIT.START_TIME),
                    row.get(VISIT.EXPECTED_MINUTES),
                    Arrays.stream(row.get(VISIT.OVERRULED))
                        .map(code -> Coded.get(Clash.class, code))
                        .collect(Collectors.toSet()),
                    row.get(VISIT.FINISHED_AT) == null
                        ? null
                        : LocalDateTime.ofInstant(row.get(VISIT.FINISHED_AT), zone),
                    notBefore(row),
                    row.get(JOB.RESPOND_BY) == null || row.get(JOB.RESPONDED_AT) != null
                        ? null
                        : LocalDateTime.ofInstant(row.get(JOB.RESPOND_BY), zone),
                    roads.locate(
                        row.get(SITE.LATITUDE), row.get(SITE.LONGITUDE), row.get(SITE.POSTCODE)),
                    new HashSet<>(row.get(SKILL_IDS))));
  }
}
