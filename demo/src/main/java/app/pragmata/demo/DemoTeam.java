package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.ABSENCE;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB_SKILL;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.PERSON_SKILL;
import static app.pragmata.server.generated.Tables.SKILL;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.WORKING_PATTERN;
import static app.pragmata.server.generated.Tables.WORKING_PATTERN_DAY;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.people.Role;
import app.pragmata.core.planning.AbsenceKind;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What the technicians know, when they work, and when they do not. */
@Component
class DemoTeam {
  private static final LocalTime HOME_TIME = LocalTime.of(17, 0);
  private static final Map<DayOfWeek, LocalTime> AS_USUAL =
      Map.of(
          DayOfWeek.MONDAY, HOME_TIME,
          DayOfWeek.TUESDAY, HOME_TIME,
          DayOfWeek.WEDNESDAY, HOME_TIME,
          DayOfWeek.THURSDAY, HOME_TIME,
          DayOfWeek.FRIDAY, HOME_TIME);

  private final DSLContext database;

  DemoTeam(DSLContext database) {
    this.database = database;
  }

  /** Everybody may sign off electrical work but Piet Osei, whose certificate has run out. */
  void train(LocalDate today) {
    long gates = skill("Gate certificate");
    long electrical = skill("Electrical sign-off");
    database
        .insertInto(PERSON_SKILL)
        .select(
            select(PERSON.ID, val(electrical), val(today.plusDays(200)))
                .from(PERSON)
                .where(PERSON.ROLE.eq(Role.TECHNICIAN)))
        .execute();
    database
        .update(PERSON_SKILL)
        .set(PERSON_SKILL.UNTIL, today.minusDays(9))
        .where(PERSON_SKILL.PERSON_ID.eq(person("piet")))
        .execute();
    for (String username : new String[] {"imre", "dilys", "tobias"}) {
      database
          .insertInto(PERSON_SKILL)
          .set(PERSON_SKILL.PERSON_ID, person(username))
          .set(PERSON_SKILL.SKILL_ID, gates)
          .execute();
    }
    database
        .insertInto(KIND_OF_JOB_SKILL)
        .select(
            select(KIND_OF_JOB.ID, val(electrical))
                .from(KIND_OF_JOB)
                .where(KIND_OF_JOB.NAME.eq("Installation")))
        .execute();
    database
        .update(KIND_OF_JOB)
        .set(KIND_OF_JOB.CLOCK_PER_LINE, true)
        .where(KIND_OF_JOB.NAME.eq("Installation"))
        .execute();
    leavesEarlyOnFridays("tobias", today.minusDays(300));
    // Whatever day the demo is started on, everybody works on it.
    if (isWeekend(today)) {
      List<Long> everybody =
          database
              .select(PERSON.ID)
              .from(PERSON)
              .where(PERSON.ROLE.eq(Role.TECHNICIAN))
              .fetch(PERSON.ID);
      everybody.forEach(
          person -> {
            pattern(person, today, Map.of(today.getDayOfWeek(), HOME_TIME));
            pattern(person, today.plusDays(1), AS_USUAL);
          });
    }
  }

  private static boolean isWeekend(LocalDate day) {
    return day.getDayOfWeek().getValue() > DayOfWeek.FRIDAY.getValue();
  }

  private long skill(String name) {
    return database
        .insertInto(SKILL)
        .set(SKILL.NAME, name)
        .returning(SKILL.ID)
        .fetchSingle(SKILL.ID);
  }

  private long person(String username) {
    return database
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq(username))
        .fetchSingle(PERSON.ID);
  }

  /** Fetches his children on Fridays. */
  private void leavesEarlyOnFridays(String username, LocalDate from) {
    var week = new EnumMap<DayOfWeek, LocalTime>(AS_USUAL);
    week.put(DayOfWeek.FRIDAY, LocalTime.of(14, 0));
    pattern(person(username), from, week);
  }

  /** From eight on each of these weekdays until then. */
  private void pattern(long person, LocalDate from, Map<DayOfWeek, LocalTime> ends) {
    long pattern =
        database
            .insertInto(WORKING_PATTERN)
            .set(WORKING_PATTERN.PERSON_ID, person)
            .set(WORKING_PATTERN.FROM_DAY, from)
            .returning(WORKING_PATTERN.ID)
            .fetchSingle(WORKING_PATTERN.ID);
    ends.forEach(
        (weekday, end) ->
            database
                .insertInto(WORKING_PATTERN_DAY)
                .values(pattern, (short) weekday.getValue(), LocalTime.of(8, 0), end)
                .execute());
  }

  /** Somebody is on a course this afternoon, and somebody has a day off soon. */
  void sendAway(LocalDate today) {
    database
        .select(PERSON.ID, max(VISIT.START_TIME))
        .from(PERSON)
        .join(VISIT)
        .on(VISIT.TECHNICIAN_ID.eq(PERSON.ID).and(VISIT.DAY.eq(today)))
        .where(PERSON.ROLE.eq(Role.TECHNICIAN))
        .groupBy(PERSON.ID)
        .orderBy(max(VISIT.START_TIME), PERSON.ID)
        .limit(1)
        .forEach(
            row -> away(row.value1(), today, AbsenceKind.TRAINING, HOME_TIME.minusMinutes(45)));
    for (LocalDate day = today.plusDays(1);
        day.isBefore(today.plusDays(15));
        day = day.plusDays(1)) {
      Long free = isWeekend(day) ? null : findFree(day);
      if (free != null) {
        away(free, day, AbsenceKind.HOLIDAY, null);
        return;
      }
    }
  }

  private @Nullable Long findFree(LocalDate day) {
    return database
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.ROLE.eq(Role.TECHNICIAN))
        .and(
            notExists(
                selectOne()
                    .from(VISIT)
                    .where(VISIT.TECHNICIAN_ID.eq(PERSON.ID).and(VISIT.DAY.eq(day)))))
        .orderBy(PERSON.ID)
        .limit(1)
        .fetchOne(PERSON.ID);
  }

  private void away(long person, LocalDate day, AbsenceKind kind, @Nullable LocalTime from) {
    database
        .insertInto(ABSENCE)
        .set(ABSENCE.PERSON_ID, person)
        .set(ABSENCE.KIND, kind)
        .set(ABSENCE.FIRST_DAY, day)
        .set(ABSENCE.LAST_DAY, day)
        .set(ABSENCE.STARTS, from)
        .set(ABSENCE.ENDS, from == null ? null : HOME_TIME)
        .execute();
  }
}
