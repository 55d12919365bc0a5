package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;

import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.people.Role;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.Weeks;
import app.pragmata.server.http.AskedSpan;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.jobs.WrittenTime;
import app.pragmata.server.records.Act;
import app.pragmata.server.wages.WagesRuns;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * What the demo's technicians do beside their visits: the yard before the first one and a break in
 * the first gap about noon. Most have signed last week off, and what was certain of a week went out
 * for the wages.
 */
@Component
class DemoHours {
  private static final int DAYS = 12;
  private static final int WEEKS = 4;
  private static final int EARLIEST_HOUR = 6;
  private static final int YARD_MINUTES = 20;
  private static final int BREAK_MINUTES = 25;

  private record Taken(long personId, LocalDate day, Instant from, Instant to) {}

  private final DSLContext database;
  private final TimeEntries times;
  private final Weeks weeks;
  private final WagesRuns wages;
  private final CompanyStore companies;

  DemoHours(
      DSLContext database,
      TimeEntries times,
      Weeks weeks,
      WagesRuns wages,
      CompanyStore companies) {
    this.database = database;
    this.times = times;
    this.weeks = weeks;
    this.wages = wages;
    this.companies = companies;
  }

  void fill(Act act) {
    Map<Long, Map<LocalDate, List<Taken>>> days =
        database
            .selectFrom(TIME_ENTRY)
            .where(TIME_ENTRY.DAY.gt(act.today().minusDays(DAYS)))
            .and(TIME_ENTRY.ENDED_AT.isNotNull().and(TIME_ENTRY.REMOVED_AT.isNull()))
            .orderBy(TIME_ENTRY.STARTED_AT)
            .fetch(
                row ->
                    new Taken(
                        row.getPersonId(), row.getDay(), row.getStartedAt(), row.getEndedAt()))
            .stream()
            .collect(Collectors.groupingBy(Taken::personId, Collectors.groupingBy(Taken::day)));
    days.forEach((person, ofPerson) -> ofPerson.forEach((day, taken) -> fill(act, person, taken)));
    database
        .update(TIME_ENTRY)
        .set(TIME_ENTRY.MEASURED_FROM, TIME_ENTRY.STARTED_AT)
        .set(TIME_ENTRY.MEASURED_TO, TIME_ENTRY.ENDED_AT)
        .where(TIME_ENTRY.MEASURED_FROM.isNull().and(TIME_ENTRY.VISIT_ID.isNull()))
        .execute();
    LocalDate monday =
        act.today().with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY)).minusWeeks(1);
    signOff(act, monday);
    sendWages(act, monday);
  }

  /** Of the last week in which somebody's hours are certain: nobody works over Christmas. */
  private void sendWages(Act act, LocalDate monday) {
    IntStream.range(0, WEEKS)
        .mapToObj(monday::minusWeeks)
        .map(first -> new AskedSpan(first, first.plusDays(6)))
        .filter(wages::isDue)
        .findFirst()
        .ifPresent(week -> wages.send(act, "wages of " + week.first(), week));
  }

  private void fill(Act act, long personId, List<Taken> taken) {
    Instant first = taken.getFirst().from();
    // Whoever was called out by night was in no yard before, and may come from the day before.
    if (first.atZone(act.zone()).getHour() >= EARLIEST_HOUR) {
      add(
          act,
          personId,
          TimeEntry.Kind.LABOUR,
          "Yard",
          first.minus(YARD_MINUTES, ChronoUnit.MINUTES),
          YARD_MINUTES);
    }
    for (int i = 0; i + 1 < taken.size(); i++) {
      Instant gap = taken.get(i).to();
      int hour = gap.atZone(act.zone()).getHour();
      boolean longEnough = gap.until(taken.get(i + 1).from(), ChronoUnit.MINUTES) > BREAK_MINUTES;
      if (hour >= 11 && hour < 15 && longEnough) {
        add(act, personId, TimeEntry.Kind.BREAK, "", gap, BREAK_MINUTES);
        return;
      }
    }
  }

  private void add(
      Act act, long personId, TimeEntry.Kind kind, String what, Instant from, int minutes) {
    WorkingCalendar hours = companies.getCompany().calendar();
    times.add(
        new Act(personId, Role.TECHNICIAN, act.at(), act.zone()),
        null,
        personId,
        kind,
        new WrittenTime(
            hours.split(from, from.plus(minutes, ChronoUnit.MINUTES)),
            BigDecimal.ZERO,
            what,
            "demo"));
  }

  /** Everybody who worked but the last by name, on Friday afternoon. */
  private void signOff(Act act, LocalDate monday) {
    Instant friday = monday.plusDays(4).atTime(16, 30).atZone(act.zone()).toInstant();
    List<Long> technicians =
        database
            .selectDistinct(PERSON.ID, PERSON.NAME)
            .from(PERSON)
            .join(TIME_ENTRY)
            .on(TIME_ENTRY.PERSON_ID.eq(PERSON.ID))
            .where(TIME_ENTRY.DAY.between(monday, monday.plusDays(4)))
            .orderBy(PERSON.NAME)
            .fetch(PERSON.ID);
    for (long person : technicians.subList(0, Math.max(0, technicians.size() - 1))) {
      weeks.signOff(new Act(person, Role.TECHNICIAN, friday, act.zone()), monday);
    }
  }
}
