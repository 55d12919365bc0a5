package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Fault;
import app.pragmata.core.Refused;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.Crew;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Holds visits that have just been planned against the days of whoever comes to them. */
@Component
class PlanCheck {
  private final PlannerStore store;
  private final PlannedVisits planned;
  private final RoadMap roads;
  private final DSLContext database;

  PlanCheck(PlannerStore store, PlannedVisits planned, RoadMap roads, DSLContext database) {
    this.planned = planned;
    this.store = store;
    this.roads = roads;
    this.database = database;
  }

  /**
   * Refuses what speaks against one of these visits and is not put up with; what is stays marked on
   * it.
   *
   * @param overruled what each visit may clash with
   */
  void check(Act act, Map<Long, Set<Clash>> overruled) {
    var days = new HashMap<LocalDate, Days>();
    List<PlannedVisit> visits = planned.visits(overruled.keySet());
    for (PlannedVisit visit : visits) {
      LocalDate day = Objects.requireNonNull(visit.day());
      Days known = days.computeIfAbsent(day, on -> store.days(on, on, act.at()));
      Map<Clash, Set<Long>> clashes = clashes(visit, visit.at(), visit.crewIds(), day, known);
      if (day.isBefore(act.today())) {
        clashes.keySet().retainAll(Crew.ofThePast(clashes.keySet()));
      }
      refuse(clashes, Objects.requireNonNull(overruled.get(visit.id())), known);
      mark(visit, clashes.keySet());
    }
  }

  /** What speaks against a visit as it is planned; nothing any more against what has begun. */
  Map<Clash, Set<Long>> clashes(PlannedVisit visit, Days days) {
    return visit.state() == VisitState.Code.PLANNED
        ? clashes(visit, visit.at(), visit.crewIds(), Objects.requireNonNull(visit.day()), days)
        : Map.of();
  }

  /** What speaks against a visit at a time, with whose days speak against it. */
  Map<Clash, Set<Long>> clashes(
      PlannedVisit visit, Stretch at, List<Long> crewIds, LocalDate day, Days days) {
    return visit
        .crew(crewIds, at, id -> days.of(id, day))
        .clashes(visit.wanted(at.minutes()), roads);
  }

  private static void refuse(Map<Clash, Set<Long>> clashes, Set<Clash> overruled, Days days) {
    Map<Long, String> names =
        days.people().stream().collect(Collectors.toMap(Colleague::id, Colleague::name));
    var faults = new ArrayList<Fault>();
    clashes.forEach(
        (clash, who) -> {
          if (!overruled.contains(clash)) {
            faults.add(clash.fault(who.stream().map(names::get).toList()));
          }
        });
    if (!faults.isEmpty()) {
      throw new Refused(faults);
    }
  }

  private void mark(PlannedVisit visit, Set<Clash> clashes) {
    String[] codes = clashes.stream().sorted().map(Clash::code).toArray(String[]::new);
    if (!Set.of(codes).equals(codes(visit.overruled()))) {
      database.update(VISIT).set(VISIT.OVERRULED, codes).where(VISIT.ID.eq(visit.id())).execute();
    }
  }

  private static Set<String> codes(Set<Clash> clashes) {
    return clashes.stream().map(Clash::code).collect(Collectors.toSet());
  }
}
