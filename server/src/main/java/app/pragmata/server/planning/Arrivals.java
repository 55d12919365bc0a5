package app.pragmata.server.planning;

import app.pragmata.core.planning.PersonDay;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** When somebody arrives who has just set off. */
@Component
public class Arrivals {
  /** Nobody promises 10:03. */
  private static final int STEP = 5;

  private final PlannerStore store;
  private final PlannedVisits visits;
  private final RoadMap roads;

  Arrivals(PlannerStore store, PlannedVisits visits, RoadMap roads) {
    this.visits = visits;
    this.store = store;
    this.roads = roads;
  }

  /**
   * The time at which the technician of a visit should arrive who sets off now, rounded up to five
   * minutes; as it is planned where nobody knows how long the drive takes.
   */
  public LocalTime expected(Act act, long visitId) {
    PlannedVisit visit = visits.visit(visitId);
    LocalDate day = Objects.requireNonNull(visit.day());
    PersonDay known =
        store.days(day, day, act.at()).of(Objects.requireNonNull(visit.technicianId()), day);
    return known.legs(roads).stream()
        .filter(leg -> Objects.equals(leg.toVisitId(), visitId))
        .findFirst()
        .map(leg -> rounded(LocalTime.ofInstant(act.at(), act.zone()), leg.way().minutes()))
        .orElse(Objects.requireNonNull(visit.start()));
  }

  private static LocalTime rounded(LocalTime now, int minutes) {
    int minute = now.getHour() * 60 + now.getMinute() + minutes;
    int up = (minute + STEP - 1) / STEP * STEP;
    return LocalTime.ofSecondOfDay(up % (24 * 60) * 60L);
  }
}
