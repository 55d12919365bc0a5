package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.ABSENCE;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.PERSON_DISTRICT;
import static app.pragmata.server.generated.Tables.PERSON_SKILL;
import static app.pragmata.server.generated.Tables.SKILL;
import static app.pragmata.server.generated.Tables.WORKING_PATTERN;
import static app.pragmata.server.generated.Tables.WORKING_PATTERN_DAY;
import static app.pragmata.server.generated.Tables.WORK_BASE;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.array;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.company.WorkingHours;
import app.pragmata.core.planning.AbsenceKind;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Place;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.planning.HoldStore.HeldTime;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads what the planner plans with: people, their days, and the visits that want a time. */
@Repository
class PlannerStore {
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

  /** Whose day it is, and which. */
  record WhoseDay(long personId, LocalDate day) {}

  /**
   * All that is known of some days.
   *
   * @param byPerson each person's days, in the order of their names
   */
  record Days(
      List<Colleague> people,
      List<PlannedVisit> visits,
      List<Absence> absences,
      List<HeldTime> held,
      Map<WhoseDay, PersonDay> byPerson) {
    /** Of each person and day, by person in the order of their names. */
    List<PersonDay> days() {
      return List.copyOf(byPerson.values());
    }

    /** One person's; refused where there is no such technician. */
    PersonDay of(long personId, LocalDate day) {
      PersonDay found = byPerson.get(new WhoseDay(personId, day));
      if (found == null) {
        throw new Refused(
            Rule.NOT_FOUND, "This technician does not exist. Choose one from the list.");
      }
      return found;
    }
  }

  /** A week from a day on, by the number of the weekday (Monday is 1). */
  record Pattern(LocalDate fromDay, Map<Integer, Stretch> week) {}

  private record HeldSkill(long skillId, @Nullable LocalDate until) {}

  /** A technician with where their day begins, what they know and where they go. */
  private record Known(
      Colleague person, @Nullable Place base, List<HeldSkill> skills, Set<String> districts) {
    Set<Long> skillsOn(LocalDate day) {
      return skills.stream()
          .filter(skill -> skill.until() == null || !skill.until().isBefore(day))
          .map(HeldSkill::skillId)
          .collect(Collectors.toSet());
    }
  }

  private final DSLContext database;
  private final CompanyStore companies;
  private final PeopleStore people;
  private final PlannedVisits visits;
  private final HoldStore holds;

  PlannerStore(
      DSLContext database,
      CompanyStore companies,
      PeopleStore people,
      PlannedVisits visits,
      HoldStore holds) {
    this.holds = holds;
    this.database = database;
    this.companies = companies;
    this.people = people;
    this.visits = visits;
  }

  /** Every technician's days from the first to the last, as they are at this moment. */
  Days days(LocalDate first, LocalDate last, Instant now) {
    return days(first, last, now, visits.between(first, last));
  }

  /** The same with the visits of these days, where they are read already. */
  Days days(LocalDate first, LocalDate last, Instant now, List<PlannedVisit> visits) {
    List<Known> technicians = technicians();
    List<Absence> absences = absences(first, last);
    List<HeldTime> held = holds.held(first, last, now);
    Map<Long, List<Pattern>> patterns = patterns(last);
    WorkingCalendar calendar = companies.getCompany().calendar();
    var stops = new HashMap<WhoseDay, List<PersonDay.Stop>>();
    for (PlannedVisit visit : visits) {
      for (long person : visit.crewIds()) {
        stops
            .computeIfAbsent(
                new WhoseDay(person, Objects.requireNonNull(visit.day())), of -> new ArrayList<>())
            .add(visit.stop(person));
      }
    }
    var days = new LinkedHashMap<WhoseDay, PersonDay>();
    for (Known known : technicians) {
      Colleague person = known.person();
      for (LocalDate day = first; !day.isAfter(last); day = day.plusDays(1)) {
        LocalDate on = day;
        days.put(
            new WhoseDay(person.id(), day),
            new PersonDay(
                person.id(),
                day,
                known.base(),
                working(patterns.getOrDefault(person.id(), List.of()), calendar, day),
                absences.stream()
                    .filter(absence -> absence.personId() == person.id() && absence.isOn(on))
                    .map(Absence::stretch)
                    .toList(),
                held.stream()
                    .filter(time -> time.personId() == person.id() && time.day().equals(on))
                    .map(HeldTime::at)
                    .toList(),
                known.skillsOn(on),
                known.districts(),
                stops.getOrDefault(new WhoseDay(person.id(), day), List.of())));
      }
    }
    return new Days(technicians.stream().map(Known::person).toList(), visits, absences, held, days);
  }

  /** All technicians by name; in one statement, for a day is drawn anew whenever one changes. */
  private List<Known> technicians() {
    return database
        .select(
            PERSON.ID,
            PERSON.NAME,
            WORK_BASE.LATITUDE,
            WORK_BASE.LONGITUDE,
            multiset(
                    select(PERSON_SKILL.SKILL_ID, PERSON_SKILL.UNTIL)
                        .from(PERSON_SKILL)
                        .where(PERSON_SKILL.PERSON_ID.eq(PERSON.ID)))
                .convertFrom(rows -> rows.map(mapping(HeldSkill::new))),
            array(
                select(PERSON_DISTRICT.DISTRICT)
                    .from(PERSON_DISTRICT)
                    .where(PERSON_DISTRICT.PERSON_ID.eq(PERSON.ID))))
        .from(PERSON)
        .leftJoin(WORK_BASE)
        .on(WORK_BASE.PERSON_ID.eq(PERSON.ID))
        .where(PeopleStore.isTechnician())
        .orderBy(PERSON.NAME)
        .fetch(
            row ->
                new Known(
                    new Colleague(row.value1(), row.value2()),
                    row.value3() == null ? null : RoadMap.place(row.value3(), row.value4()),
                    row.value5(),
                    Set.of(row.value6())));
  }

  /** When somebody with these patterns works on a day; empty for not at all. */
  static List<Stretch> working(List<Pattern> patterns, WorkingCalendar calendar, LocalDate day) {
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

  /** The names of everybody who may be planned. */
  Map<Long, String> names() {
    return people.listTechnicians().stream()
        .collect(Collectors.toMap(Colleague::id, Colleague::name));
  }

  Map<Long, String> skillNames() {
    return database.selectFrom(SKILL).orderBy(SKILL.NAME).fetchMap(SKILL.ID, SKILL.NAME);
  }
}
