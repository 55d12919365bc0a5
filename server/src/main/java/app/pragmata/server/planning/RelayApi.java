package app.pragmata.server.planning;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Relay;
import app.pragmata.core.planning.Stretch;
import app.pragmata.core.planning.TimeSearch;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.core.planning.Wanted;
import app.pragmata.server.planning.PlannerApi.TimeFound;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.planning.PlanningService.PlanForm;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.todos.ToDoService;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Somebody is ill: their day is laid on the others. */
@RestController
class RelayApi {
  /**
   * What is proposed for each visit to which somebody was to come on these days, whoever chooses
   * first first.
   */
  record RelayProposal(long personId, LocalDate day, LocalDate lastDay, List<ProposedMove> moves) {}

  /**
   * What becomes of a visit.
   *
   * @param phone whom to ring when it does not stay at its time; may be empty
   * @param found null when nobody has room for it in a week
   * @param ring whether the customer has to be told
   */
  record ProposedMove(
      long visitId,
      int version,
      long jobNumber,
      String customer,
      String phone,
      String title,
      LocalDate day,
      LocalTime start,
      int expectedMinutes,
      @Nullable TimeFound found,
      boolean ring) {}

  /**
   * The moves that are taken.
   *
   * @param unplaced visits for which nobody has room; whoever relays rings their customers
   */
  record RelayForm(@Nullable List<MovedVisit> moves, @Nullable List<Long> unplaced) {}

  /**
   * A visit with whoever takes it over and when, as it was proposed.
   *
   * @param companionIds who comes along; empty for nobody
   */
  record MovedVisit(
      long visitId,
      int version,
      long technicianId,
      List<Long> companionIds,
      LocalDate day,
      LocalTime start,
      int minutes) {
    List<Long> crewIds() {
      return Stream.concat(Stream.of(technicianId), companionIds.stream()).toList();
    }
  }

  /** How many visits were moved, and how many calls are to be made. */
  record Relaid(int moved, long calls) {}

  private static final int SEARCHED_DAYS = 7;
  private static final int MOST_DAYS = 14;
  private static final int MOST_MOVES = 40;
  private static final int LONGEST_TO_DO = 300;

  /** A promise that is broken is rung about. */
  private static final List<Clash> PUT_UP_WITH =
      List.of(Clash.AFTER_RESPOND_BY, Clash.WINDOW_BROKEN);

  /** Nobody rings about half an hour. */
  private static final Duration UNNOTICED = Duration.ofMinutes(30);

  private static final DateTimeFormatter MOMENT =
      DateTimeFormatter.ofPattern("EEE d MMM HH:mm", Locale.UK);

  private final PlannerStore store;
  private final PlannedVisits visits;
  private final RoadMap roads;
  private final PlanningService planning;
  private final ToDoService toDos;
  private final RepeatableRequests repeats;

  RelayApi(
      PlannerStore store,
      PlannedVisits visits,
      RoadMap roads,
      PlanningService planning,
      ToDoService toDos,
      RepeatableRequests repeats) {
    this.store = store;
    this.visits = visits;
    this.roads = roads;
    this.planning = planning;
    this.toDos = toDos;
    this.repeats = repeats;
  }

  /**
   * Lays the visits to which somebody was to come on the others.
   *
   * @param until the last of the days, at most two weeks in all; nothing for one day
   */
  @GetMapping("/api/technicians/{id}/days/{day}/relay")
  RelayProposal proposeRelay(
      Act act,
      @PathVariable long id,
      @PathVariable LocalDate day,
      @RequestParam(required = false) @Nullable LocalDate until) {
    var reading = new Reading();
    VisitPlan.checkDay("day", day, act.today(), reading);
    LocalDate last = until == null ? day : until;
    if (last.isBefore(day)) {
      reading.fault("until", Rule.ENDS_BEFORE_START, "This is before the first day.");
    }
    if (last.isAfter(day.plusDays(MOST_DAYS - 1L))) {
      reading.fault("until", Rule.TOO_LARGE, "At most two weeks are laid on others at once.");
    }
    reading.refuseIfFaulty();
    LocalDateTime now = LocalDateTime.ofInstant(act.at(), act.zone());
    LocalDateTime earliest = now.isAfter(day.atStartOfDay()) ? now : day.atStartOfDay();
    Days days = store.days(day, last.plusDays(SEARCHED_DAYS - 1L), act.at());
    days.of(id, day);
    Map<Long, PlannedVisit> theirs =
        days.visits().stream()
            .filter(visit -> visit.state() == VisitState.Code.PLANNED)
            .filter(visit -> visit.isOf(id) && !planned(visit).toLocalDate().isAfter(last))
            .collect(Collectors.toMap(PlannedVisit::id, Function.identity()));
    List<PersonDay> others = days.days().stream().filter(each -> each.personId() != id).toList();
    var search = new TimeSearch(roads, earliest, new Stretch(0, Stretch.DAY));
    Map<Long, String> skills = store.skillNames();
    return new RelayProposal(
        id,
        day,
        last,
        Relay.propose(theirs.values().stream().map(RelayApi::wanted).toList(), others, search)
            .stream()
            .map(
                move -> {
                  PlannedVisit visit =
                      Objects.requireNonNull(
                          theirs.get(Objects.requireNonNull(move.visit().visitId())));
                  TimeFound found =
                      move.found() == null
                          ? null
                          : PlannerApi.timeFound(move.found(), visit, days, skills);
                  return proposed(visit, found);
                })
            .toList());
  }

  /** Nobody is visited on a day before theirs without being asked. */
  private static Wanted wanted(PlannedVisit visit) {
    return visit
        .wanted(visit.expectedMinutes())
        .forCrewOf(visit.people())
        .from(planned(visit).toLocalDate().atStartOfDay());
  }

  private static ProposedMove proposed(PlannedVisit visit, @Nullable TimeFound found) {
    return new ProposedMove(
        visit.id(),
        visit.version(),
        visit.jobNumber(),
        visit.customer(),
        visit.phone(),
        visit.title(),
        Objects.requireNonNull(visit.day()),
        Objects.requireNonNull(visit.start()),
        visit.expectedMinutes(),
        found,
        found == null || isNoticed(visit, found.day().atTime(found.start())));
  }

  private static boolean isNoticed(PlannedVisit visit, LocalDateTime then) {
    return visit.promised() == null
        ? Duration.between(planned(visit), then).abs().compareTo(UNNOTICED) > 0
        : !visit.promised().isKeptBy(then);
  }

  private static LocalDateTime planned(PlannedVisit visit) {
    return Objects.requireNonNull(visit.day()).atTime(Objects.requireNonNull(visit.start()));
  }

  /**
   * Moves these visits, all or none, and makes a to-do of each call that follows from it. Whoever
   * changed one of them meanwhile wins: nothing is moved then.
   */
  @PostMapping("/api/planner/relays")
  @Transactional
  public Relaid relayVisits(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody RelayForm form) {
    List<MovedVisit> moves = form.moves() == null ? List.of() : form.moves();
    List<Long> unplaced = form.unplaced() == null ? List.of() : form.unplaced();
    if (moves.size() + unplaced.size() > MOST_MOVES) {
      throw new Refused(Rule.EXCEEDS_LIMIT, "At most 40 visits are moved at once. Take some out.");
    }
    long calls = repeats.once(act, key, "relay", form, () -> apply(act, moves, unplaced));
    return new Relaid(moves.size(), calls);
  }

  private long apply(Act act, List<MovedVisit> moves, List<Long> unplaced) {
    long calls = 0;
    Set<Long> seen = new HashSet<>();
    var forms = new HashMap<Long, PlanForm>();
    for (MovedVisit move :
        moves.stream().sorted(Comparator.comparingLong(MovedVisit::visitId)).toList()) {
      PlannedVisit visit = visits.visit(move.visitId());
      requireOnce(seen, move.visitId());
      LocalDateTime then = move.day().atTime(move.start());
      boolean ring = visit.day() != null && visit.start() != null && isNoticed(visit, then);
      forms.put(move.visitId(), PlanTaking.form(move, PUT_UP_WITH));
      if (ring) {
        ring(
            act,
            visit,
            "moved from %s to %s".formatted(MOMENT.format(planned(visit)), MOMENT.format(then)));
        calls++;
      }
    }
    planning.planAll(act, forms);
    for (long id : unplaced) {
      PlannedVisit visit = visits.visit(id);
      requireOnce(seen, id);
      ring(act, visit, "nobody can come as planned, find another time");
      calls++;
    }
    return calls;
  }

  private static void requireOnce(Set<Long> seen, long visitId) {
    if (!seen.add(visitId)) {
      throw new Refused(Rule.REPEATED, "A visit is moved once. Name each of them once.");
    }
  }

  private void ring(Act act, PlannedVisit visit, String what) {
    String phone = visit.phone().isEmpty() ? "" : ", " + visit.phone();
    String said = "Ring %s%s: %s (%s)".formatted(visit.customer(), phone, what, visit.title());
    toDos.insert(
        act,
        new ToDoService.ToDoForm(
            0,
            said.length() > LONGEST_TO_DO ? said.substring(0, LONGEST_TO_DO - 1) + "…" : said,
            act.personId(),
            null,
            visit.customerId(),
            visit.jobId(),
            null));
  }
}
