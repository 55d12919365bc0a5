package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB_SKILL;
import static app.pragmata.server.generated.Tables.PERSON_DISTRICT;
import static app.pragmata.server.generated.Tables.PERSON_SKILL;
import static app.pragmata.server.generated.Tables.SKILL;
import static app.pragmata.server.generated.Tables.WORKING_PATTERN;
import static app.pragmata.server.generated.Tables.WORKING_PATTERN_DAY;
import static app.pragmata.server.generated.Tables.WORK_BASE;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.planning.Stretch;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.company.SettingsChanges;
import app.pragmata.server.generated.tables.records.SkillRecord;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.planning.PlannerStore.Absence;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.InUse;
import app.pragmata.server.records.References;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What technicians know and when they work, and what kinds of job ask for. */
@RestController
class AvailabilityApi {
  /** All of it, with the version that a change is sent with. */
  record Availability(int version, List<Skill> skills, List<Technician> technicians) {}

  /**
   * Something to know or to be certified for.
   *
   * @param kindOfJobIds which kinds ask for it
   */
  record Skill(long id, String name, List<Long> kindOfJobIds) {}

  /**
   * A technician as the planner knows them.
   *
   * @param districts to which they go; empty for everywhere
   * @param base the district in which their day begins and ends; empty for at the first stop and at
   *     the last
   * @param weeks the one in force and those to come, the earliest first; empty while they work the
   *     company's hours
   * @param absences of today and later
   */
  record Technician(
      long personId,
      String name,
      List<HeldSkill> skills,
      List<String> districts,
      String base,
      List<Week> weeks,
      List<Absence> absences) {}

  /**
   * A skill that somebody has.
   *
   * @param until the last day of a certificate; null for what does not run out
   */
  record HeldSkill(long skillId, @Nullable LocalDate until) {}

  /** A week from a day on; weekdays that are not named are free. */
  record Week(LocalDate fromDay, Map<DayOfWeek, Stretch> days) {}

  record SkillForm(int version, @Nullable String name, @Nullable List<Long> kindOfJobIds) {}

  record SkillsForm(int version, List<HeldSkillForm> skills) {}

  /** A skill with the last day of its certificate as typed; empty for what does not run out. */
  record HeldSkillForm(long skillId, @Nullable String until) {}

  /**
   * A week as it is typed, each day like "8:00 to 17:30"; empty for a free day.
   *
   * @param fromDay today or later; the same day again replaces what was entered for it
   */
  record WeekForm(
      int version,
      @Nullable String fromDay,
      @Nullable String monday,
      @Nullable String tuesday,
      @Nullable String wednesday,
      @Nullable String thursday,
      @Nullable String friday,
      @Nullable String saturday,
      @Nullable String sunday) {}

  private final DSLContext database;
  private final PlannerStore store;
  private final SettingsChanges settings;
  private final PeopleStore people;
  private final References references;

  AvailabilityApi(
      DSLContext database,
      PlannerStore store,
      SettingsChanges settings,
      PeopleStore people,
      References references) {
    this.database = database;
    this.store = store;
    this.settings = settings;
    this.people = people;
    this.references = references;
  }

  @GetMapping("/api/settings/availability")
  Availability getAvailability(Act act) {
    Map<Long, List<Long>> kinds =
        database
            .selectFrom(KIND_OF_JOB_SKILL)
            .orderBy(KIND_OF_JOB_SKILL.KIND_OF_JOB_ID)
            .fetchGroups(KIND_OF_JOB_SKILL.SKILL_ID, KIND_OF_JOB_SKILL.KIND_OF_JOB_ID);
    List<Skill> skills =
        store.skillNames().entrySet().stream()
            .map(
                skill ->
                    new Skill(
                        skill.getKey(),
                        skill.getValue(),
                        kinds.getOrDefault(skill.getKey(), List.of())))
            .toList();
    Map<Long, List<HeldSkill>> held =
        database
            .selectFrom(PERSON_SKILL)
            .orderBy(PERSON_SKILL.SKILL_ID)
            .fetchGroups(
                PERSON_SKILL.PERSON_ID, row -> new HeldSkill(row.getSkillId(), row.getUntil()));
    Map<Long, List<String>> districts =
        database
            .selectFrom(PERSON_DISTRICT)
            .orderBy(PERSON_DISTRICT.DISTRICT)
            .fetchGroups(PERSON_DISTRICT.PERSON_ID, PERSON_DISTRICT.DISTRICT);
    Map<Long, String> bases =
        database.selectFrom(WORK_BASE).fetchMap(WORK_BASE.PERSON_ID, WORK_BASE.DISTRICT);
    Map<Long, List<PlannerStore.Pattern>> patterns = store.patterns(act.today().plusYears(3));
    List<Absence> absences = store.absences(act.today(), act.today().plusYears(3));
    return new Availability(
        settings.version(),
        skills,
        people.listTechnicians().stream()
            .map(
                person ->
                    new Technician(
                        person.id(),
                        person.name(),
                        held.getOrDefault(person.id(), List.of()),
                        districts.getOrDefault(person.id(), List.of()),
                        bases.getOrDefault(person.id(), ""),
                        weeks(patterns.getOrDefault(person.id(), List.of()), act.today()),
                        absences.stream()
                            .filter(absence -> absence.personId() == person.id())
                            .toList()))
            .toList());
  }

  /** Of the newest first, the one that holds and those before it in the list. */
  private static List<Week> weeks(List<PlannerStore.Pattern> patterns, LocalDate today) {
    var weeks = new ArrayList<Week>();
    for (PlannerStore.Pattern pattern : patterns) {
      var days = new EnumMap<DayOfWeek, Stretch>(DayOfWeek.class);
      pattern.week().forEach((weekday, stretch) -> days.put(DayOfWeek.of(weekday), stretch));
      weeks.addFirst(new Week(pattern.fromDay(), days));
      if (!pattern.fromDay().isAfter(today)) {
        break;
      }
    }
    return weeks;
  }

  @PostMapping("/api/settings/skills")
  @Transactional
  public Availability addSkill(Act act, @RequestBody SkillForm form) {
    store(act, database.newRecord(SKILL), form);
    return getAvailability(act);
  }

  @PutMapping("/api/settings/skills/{id}")
  @Transactional
  public Availability changeSkill(Act act, @PathVariable long id, @RequestBody SkillForm form) {
    store(act, getSkill(id), form);
    return getAvailability(act);
  }

  private SkillRecord getSkill(long id) {
    return database
        .selectFrom(SKILL)
        .where(SKILL.ID.eq(id))
        .fetchOptional()
        .orElseThrow(() -> new Refused(Rule.NOT_FOUND, "Somebody deleted this skill meanwhile."));
  }

  private void store(Act act, SkillRecord row, SkillForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), 60);
    Long id = row.getId();
    if (name != null
        && database.fetchExists(
            SKILL, SKILL.NAME.equalIgnoreCase(name).and(SKILL.ID.ne(id == null ? 0L : id)))) {
      reading.fault("name", Rule.REPEATED, "There is a skill of this name. Enter another.");
    }
    Set<Long> kinds = new HashSet<>(form.kindOfJobIds() == null ? List.of() : form.kindOfJobIds());
    if (database.fetchCount(KIND_OF_JOB, KIND_OF_JOB.ID.in(kinds)) < kinds.size()) {
      reading.fault("kindOfJobIds", Rule.NOT_FOUND, "One of these kinds of job does not exist.");
    }
    for (long kind : kinds) {
      int others =
          database.fetchCount(
              KIND_OF_JOB_SKILL,
              KIND_OF_JOB_SKILL
                  .KIND_OF_JOB_ID
                  .eq(kind)
                  .and(KIND_OF_JOB_SKILL.SKILL_ID.ne(id == null ? 0L : id)));
      VisitPlan.checkSkills("kindOfJobIds", others + 1, reading);
    }
    reading.refuseIfFaulty();
    Map<String, Object> before =
        id == null ? Map.of() : Map.of("name", row.getName(), "kinds of job", namesOfKinds(id));
    row.setName(name);
    row.store();
    database
        .deleteFrom(KIND_OF_JOB_SKILL)
        .where(KIND_OF_JOB_SKILL.SKILL_ID.eq(row.getId()))
        .execute();
    kinds.forEach(
        kind -> database.insertInto(KIND_OF_JOB_SKILL).values(kind, row.getId()).execute());
    settings.change(
        act,
        CompanyEvent.SKILLS_CHANGED,
        form.version(),
        before,
        Map.of("name", row.getName(), "kinds of job", namesOfKinds(row.getId())));
  }

  private String namesOfKinds(long skillId) {
    return String.join(
        ", ",
        database
            .select(KIND_OF_JOB.NAME)
            .from(KIND_OF_JOB)
            .join(KIND_OF_JOB_SKILL)
            .on(KIND_OF_JOB_SKILL.KIND_OF_JOB_ID.eq(KIND_OF_JOB.ID))
            .where(KIND_OF_JOB_SKILL.SKILL_ID.eq(skillId))
            .orderBy(KIND_OF_JOB.NAME)
            .fetch(KIND_OF_JOB.NAME));
  }

  /** Deletes one that nobody has and no kind of job asks for. */
  @DeleteMapping("/api/settings/skills/{id}")
  @Transactional
  public Availability deleteSkill(Act act, @PathVariable long id, @RequestParam int version) {
    SkillRecord row = getSkill(id);
    settings.change(
        act, CompanyEvent.SKILLS_CHANGED, version, Map.of("name", row.getName()), Map.of());
    InUse.refuse(row.getName(), references.count(SKILL, id, Set.of()), "Rename it instead.");
    row.delete();
    return getAvailability(act);
  }

  /** Says what a technician knows, in place of what was said before. */
  @PutMapping("/api/settings/availability/{personId}/skills")
  @Transactional
  public Availability changeSkills(
      Act act, @PathVariable long personId, @RequestBody SkillsForm form) {
    people.requireTechnician(personId);
    var reading = new Reading();
    Map<Long, String> names = store.skillNames();
    var held = new LinkedHashMap<Long, @Nullable LocalDate>();
    for (int i = 0; i < form.skills().size(); i++) {
      HeldSkillForm skill = form.skills().get(i);
      String field = "skills/%d/until".formatted(i);
      if (!names.containsKey(skill.skillId())) {
        reading.fault(field, Rule.NOT_FOUND, "This skill does not exist. Reload the page.");
      } else if (held.containsKey(skill.skillId())) {
        reading.fault(field, Rule.REPEATED, "Name each skill once.");
      }
      held.put(
          skill.skillId(),
          reading.optional(field, skill.until(), typed -> Day.parse(typed, act.today())));
    }
    reading.refuseIfFaulty();
    String what = "skills of " + people.technicianName(personId);
    Map<String, Object> before = Map.of(what, heldSkills(personId, names));
    database.deleteFrom(PERSON_SKILL).where(PERSON_SKILL.PERSON_ID.eq(personId)).execute();
    held.forEach(
        (skill, until) ->
            database.insertInto(PERSON_SKILL).values(personId, skill, until).execute());
    settings.change(
        act,
        CompanyEvent.SKILLS_CHANGED,
        form.version(),
        before,
        Map.of(what, heldSkills(personId, names)));
    return getAvailability(act);
  }

  private String heldSkills(long personId, Map<Long, String> names) {
    return String.join(
        ", ",
        database
            .selectFrom(PERSON_SKILL)
            .where(PERSON_SKILL.PERSON_ID.eq(personId))
            .orderBy(PERSON_SKILL.SKILL_ID)
            .fetch(
                row ->
                    names.get(row.getSkillId())
                        + (row.getUntil() == null ? "" : " until " + row.getUntil())));
  }

  /** Says when a technician works from a day on. */
  @PutMapping("/api/settings/availability/{personId}/week")
  @Transactional
  public Availability changeWeek(Act act, @PathVariable long personId, @RequestBody WeekForm form) {
    people.requireTechnician(personId);
    var reading = new Reading();
    LocalDate from =
        reading.required("fromDay", form.fromDay(), typed -> Day.parse(typed, act.today()));
    if (from != null && from.isBefore(act.today())) {
      reading.fault("fromDay", Rule.DAY_PASSED, "Days that have passed stay as they were worked.");
    }
    var week = new EnumMap<DayOfWeek, Stretch>(DayOfWeek.class);
    typed(form)
        .forEach(
            (weekday, text) -> {
              Stretch hours =
                  reading.optional(weekday.name().toLowerCase(Locale.ROOT), text, Stretch::parse);
              if (hours != null) {
                week.put(weekday, hours);
              }
            });
    reading.refuseIfFaulty();
    database
        .deleteFrom(WORKING_PATTERN)
        .where(WORKING_PATTERN.PERSON_ID.eq(personId))
        .and(WORKING_PATTERN.FROM_DAY.eq(from))
        .execute();
    long pattern =
        database
            .insertInto(WORKING_PATTERN)
            .set(WORKING_PATTERN.PERSON_ID, personId)
            .set(WORKING_PATTERN.FROM_DAY, from)
            .returning(WORKING_PATTERN.ID)
            .fetchSingle(WORKING_PATTERN.ID);
    var said = new LinkedHashMap<String, Object>();
    said.put("week of", people.technicianName(personId));
    said.put("from_day", Objects.requireNonNull(from));
    week.forEach(
        (weekday, hours) -> {
          database
              .insertInto(WORKING_PATTERN_DAY)
              .values(pattern, (short) weekday.getValue(), hours.start(), hours.end())
              .execute();
          said.put(
              weekday.getDisplayName(TextStyle.FULL, Locale.UK).toLowerCase(Locale.ROOT),
              hours.start() + " to " + hours.end());
        });
    settings.change(act, CompanyEvent.WORKING_WEEK_CHANGED, form.version(), Map.of(), said);
    return getAvailability(act);
  }

  private static Map<DayOfWeek, @Nullable String> typed(WeekForm form) {
    var typed = new EnumMap<DayOfWeek, @Nullable String>(DayOfWeek.class);
    typed.put(DayOfWeek.MONDAY, form.monday());
    typed.put(DayOfWeek.TUESDAY, form.tuesday());
    typed.put(DayOfWeek.WEDNESDAY, form.wednesday());
    typed.put(DayOfWeek.THURSDAY, form.thursday());
    typed.put(DayOfWeek.FRIDAY, form.friday());
    typed.put(DayOfWeek.SATURDAY, form.saturday());
    typed.put(DayOfWeek.SUNDAY, form.sunday());
    return typed;
  }
}
