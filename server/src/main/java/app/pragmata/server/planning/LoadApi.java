package app.pragmata.server.planning;

import app.pragmata.core.Reading;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.AbsenceKind;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Stretch;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.planning.PlannerStore.Absence;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.records.Act;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** How full the days of a week or a month are, technician by technician. */
@RestController
class LoadApi {
  /** Some days in a row, each technician's with as many loads as there are days. */
  record Loads(LocalDate from, LocalDate to, List<TechnicianLoads> technicians) {}

  record TechnicianLoads(long personId, String name, List<Load> days) {}

  /**
   * How full a day is.
   *
   * @param workMinutes of all visits
   * @param atWorkMinutes for how long they are there, absences taken off
   * @param percent of that time that visits and drives take, rounded to the nearest; null where
   *     they are not there at all
   * @param clashing how many visits have something that speaks against them
   * @param visits in order; empty in a month, which only counts
   */
  record Load(
      LocalDate day,
      int count,
      int workMinutes,
      int drivingMinutes,
      int atWorkMinutes,
      @Nullable Integer percent,
      @Nullable AbsenceKind away,
      int clashing,
      List<BriefVisit> visits) {}

  /** A visit in few words. */
  record BriefVisit(
      long visitId, String customer, String title, VisitState.Code state, Stretch at) {}

  private static final int DAYS_OF_A_WEEK = 7;
  private static final int PERCENT = 100;

  private final PlannerStore store;
  private final PlanCheck check;
  private final RoadMap roads;

  LoadApi(PlannerStore store, PlanCheck check, RoadMap roads) {
    this.check = check;
    this.store = store;
    this.roads = roads;
  }

  /** The week, from Monday on, in which a day lies. */
  @GetMapping("/api/planner/weeks/{day}")
  Loads getPlannerWeek(Act act, @PathVariable LocalDate day) {
    LocalDate monday = checked(act, day).with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
    return loads(act, monday, monday.plusDays(DAYS_OF_A_WEEK - 1L), true);
  }

  /** The month in which a day lies. */
  @GetMapping("/api/planner/months/{day}")
  Loads getPlannerMonth(Act act, @PathVariable LocalDate day) {
    LocalDate first = checked(act, day).withDayOfMonth(1);
    return loads(act, first, first.with(TemporalAdjusters.lastDayOfMonth()), false);
  }

  private static LocalDate checked(Act act, LocalDate day) {
    var reading = new Reading();
    VisitPlan.checkDay("day", day, act.today(), reading);
    reading.refuseIfFaulty();
    return day;
  }

  private Loads loads(Act act, LocalDate from, LocalDate to, boolean named) {
    Days days = store.days(from, to, act.at());
    Map<Long, PlannedVisit> visits =
        days.visits().stream().collect(Collectors.toMap(PlannedVisit::id, Function.identity()));
    Map<Long, List<PersonDay>> byPerson =
        days.days().stream().collect(Collectors.groupingBy(PersonDay::personId));
    return new Loads(
        from,
        to,
        days.people().stream()
            .map(person -> loads(person, byPerson, days, visits, named))
            .toList());
  }

  private TechnicianLoads loads(
      Colleague person,
      Map<Long, List<PersonDay>> byPerson,
      Days days,
      Map<Long, PlannedVisit> visits,
      boolean named) {
    return new TechnicianLoads(
        person.id(),
        person.name(),
        byPerson.getOrDefault(person.id(), List.of()).stream()
            .map(day -> load(day, days, visits, named))
            .toList());
  }

  private Load load(PersonDay day, Days days, Map<Long, PlannedVisit> visits, boolean named) {
    List<PlannedVisit> planned =
        day.stops().stream()
            .map(stop -> Objects.requireNonNull(visits.get(stop.visitId())))
            .toList();
    int work = planned.stream().mapToInt(PlannedVisit::expectedMinutes).sum();
    int driving = day.legs(roads).stream().mapToInt(leg -> leg.way().minutes()).sum();
    int atWork = day.atWork().stream().mapToInt(Stretch::minutes).sum();
    return new Load(
        day.day(),
        planned.size(),
        work,
        driving,
        atWork,
        atWork == 0 ? null : (PERCENT * (work + driving) + atWork / 2) / atWork,
        days.absences().stream()
            .filter(absence -> absence.personId() == day.personId() && absence.isOn(day.day()))
            .map(Absence::kind)
            .findFirst()
            .orElse(null),
        Math.toIntExact(
            planned.stream()
                .filter(
                    visit ->
                        check.clashes(visit, days).values().stream()
                            .anyMatch(who -> who.contains(day.personId())))
                .count()),
        named
            ? planned.stream()
                .map(
                    visit ->
                        new BriefVisit(
                            visit.id(), visit.customer(), visit.title(), visit.state(), visit.at()))
                .toList()
            : List.of());
  }
}
