package app.pragmata.server.planning;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.Crew;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.planning.PlannerStore.WhoseDay;
import app.pragmata.server.planning.PlanningService.PlanForm;
import app.pragmata.server.planning.ProposalsApi.LeftVisit;
import app.pragmata.server.planning.RelayApi.MovedVisit;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Takes over a plan that was proposed, as far as nobody has changed what it is made of. */
@Component
class PlanTaking {
  private final PlannerStore store;
  private final PlannedVisits planned;
  private final VisitStore visits;
  private final PlanningService planning;
  private final RoadMap roads;

  PlanTaking(
      PlannerStore store,
      PlannedVisits planned,
      VisitStore visits,
      PlanningService planning,
      RoadMap roads) {
    this.planned = planned;
    this.store = store;
    this.visits = visits;
    this.planning = planning;
    this.roads = roads;
  }

  /** Plans these visits; gives those that were left alone, with why. */
  List<LeftVisit> take(Act act, List<MovedVisit> moves) {
    Map<Long, MovedVisit> byVisit = new HashMap<>();
    for (MovedVisit move : moves) {
      if (byVisit.put(move.visitId(), move) != null) {
        throw new Refused(Rule.REPEATED, "A visit is planned once. Name each of them once.");
      }
    }
    visits.lockAll(byVisit.keySet().stream().sorted().toList());
    Map<Long, PlannedVisit> found =
        planned.visits(byVisit.keySet()).stream()
            .collect(Collectors.toMap(PlannedVisit::id, Function.identity()));
    var left = new ArrayList<LeftVisit>();
    var taken = new ArrayList<MovedVisit>();
    for (MovedVisit move : moves) {
      PlannedVisit visit = Objects.requireNonNull(found.get(move.visitId()));
      if (visit.version() == move.version() && isToCome(visit)) {
        taken.add(move);
      } else {
        left.add(left(visit, "somebody changed it meanwhile"));
      }
    }
    var days = new HashMap<LocalDate, Days>();
    for (Optional<LeftVisit> out = clashing(act, taken, found, days); out.isPresent(); ) {
      LeftVisit leaving = out.get();
      left.add(leaving);
      taken.removeIf(move -> move.visitId() == leaving.visitId());
      out = clashing(act, taken, found, days);
    }
    planning.planAll(act, forms(taken));
    return left;
  }

  private static boolean isToCome(PlannedVisit visit) {
    return visit.state() == VisitState.Code.UNPLANNED || visit.state() == VisitState.Code.PLANNED;
  }

  private static LeftVisit left(PlannedVisit visit, String reason) {
    return new LeftVisit(visit.id(), visit.jobNumber(), visit.customer(), reason);
  }

  /** The first of the moves that clashes with what is there by now or with another of them. */
  private Optional<LeftVisit> clashing(
      Act act, List<MovedVisit> moves, Map<Long, PlannedVisit> found, Map<LocalDate, Days> known) {
    var days = new HashMap<WhoseDay, PersonDay>();
    for (MovedVisit move : moves) {
      Days day = known.computeIfAbsent(move.day(), on -> store.days(on, on, act.at()));
      days.putAll(day.byPerson());
    }
    for (MovedVisit move : moves) {
      days.replaceAll((of, day) -> day.without(move.visitId()));
    }
    for (MovedVisit move : moves) {
      PlannedVisit visit = Objects.requireNonNull(found.get(move.visitId()));
      Stretch at = Stretch.of(move.start(), move.minutes());
      Crew crew =
          visit.crew(
              move.crewIds(),
              at,
              person -> {
                PersonDay there = days.get(new WhoseDay(person, move.day()));
                if (there == null) {
                  throw new Refused(
                      Rule.NOT_FOUND, "This technician does not exist. Choose one from the list.");
                }
                return there;
              });
      Set<Clash> clashes = EnumSet.complementOf(EnumSet.of(Clash.AFTER_RESPOND_BY));
      clashes.retainAll(crew.clashes(visit.wanted(move.minutes()), roads).keySet());
      if (!clashes.isEmpty()) {
        return Optional.of(left(visit, "its time was given away or closed meanwhile"));
      }
      crew.members()
          .forEach(
              member ->
                  days.put(
                      new WhoseDay(member.day().personId(), move.day()),
                      member
                          .day()
                          .with(new PersonDay.Stop(visit.id(), visit.place(), member.at()))));
    }
    return Optional.empty();
  }

  private static Map<Long, PlanForm> forms(List<MovedVisit> moves) {
    return moves.stream()
        .collect(
            Collectors.toMap(
                MovedVisit::visitId, move -> form(move, List.of(Clash.AFTER_RESPOND_BY))));
  }

  /**
   * The plan of a move.
   *
   * @param overruled what it may clash with
   */
  static PlanForm form(MovedVisit move, List<Clash> overruled) {
    return new PlanForm(
        move.version(),
        move.technicianId(),
        move.companionIds(),
        move.day().toString(),
        move.start().toString(),
        Minutes.text(move.minutes()),
        overruled,
        null);
  }
}
