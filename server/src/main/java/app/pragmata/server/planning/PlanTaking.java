package app.pragmata.server.planning;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.planning.PlannerStore.PlannedVisit;
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
  private final VisitStore visits;
  private final PlanningService planning;
  private final RoadMap roads;

  PlanTaking(PlannerStore store, VisitStore visits, PlanningService planning, RoadMap roads) {
    this.store = store;
    this.visits = visits;
    this.planning = planning;
    this.roads = roads;
  }

  /** Somebody's day, as a key. */
  private record Of(long personId, LocalDate day) {}

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
        store.visits(byVisit.keySet()).stream()
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
    planning.planAll(act, forms(taken, found));
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
    var days = new HashMap<Of, PersonDay>();
    for (MovedVisit move : moves) {
      Days day = known.computeIfAbsent(move.day(), on -> store.days(on, on, act.at()));
      day.days().forEach(each -> days.put(new Of(each.personId(), each.day()), each));
    }
    for (MovedVisit move : moves) {
      days.replaceAll((of, day) -> day.without(move.visitId()));
    }
    for (MovedVisit move : moves) {
      PersonDay there = days.get(new Of(move.technicianId(), move.day()));
      if (there == null) {
        throw new Refused(
            Rule.NOT_FOUND, "This technician does not exist. Choose one from the list.");
      }
      PlannedVisit visit = Objects.requireNonNull(found.get(move.visitId()));
      Stretch at = Stretch.of(move.start(), move.minutes());
      Set<Clash> clashes = EnumSet.complementOf(EnumSet.of(Clash.AFTER_RESPOND_BY));
      clashes.retainAll(there.clashes(visit.wanted(move.minutes()), at, roads));
      if (!clashes.isEmpty()) {
        return Optional.of(left(visit, "its time was given away or closed meanwhile"));
      }
      days.put(
          new Of(move.technicianId(), move.day()),
          there.with(new PersonDay.Stop(visit.id(), visit.place(), at)));
    }
    return Optional.empty();
  }

  private static Map<Long, PlanForm> forms(List<MovedVisit> moves, Map<Long, PlannedVisit> found) {
    var forms = new HashMap<Long, PlanForm>();
    for (MovedVisit move : moves) {
      forms.put(move.visitId(), form(move, Objects.requireNonNull(found.get(move.visitId()))));
    }
    return forms;
  }

  /**
   * The plan of a move; whoever came along comes along, and only a broken promise is put up with.
   */
  static PlanForm form(MovedVisit move, PlannedVisit visit) {
    return new PlanForm(
        move.version(),
        move.technicianId(),
        visit.companionIds().stream().filter(id -> id != move.technicianId()).toList(),
        move.day().toString(),
        move.start().toString(),
        Minutes.text(move.minutes()),
        List.of(Clash.AFTER_RESPOND_BY),
        null);
  }
}
