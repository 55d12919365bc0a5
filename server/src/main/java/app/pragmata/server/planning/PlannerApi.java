package app.pragmata.server.planning;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.planning.AbsenceKind;
import app.pragmata.core.planning.ArrivalWindow;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Place;
import app.pragmata.core.planning.RoadGraph;
import app.pragmata.core.planning.Stretch;
import app.pragmata.core.planning.TimeSearch;
import app.pragmata.core.planning.TimeSearch.Found;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.core.planning.Wanted;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * The Planner over HTTP: a day of everybody, and the best times for a visit. Times of a day are
 * minutes after its midnight by the company's clock.
 */
@RestController
class PlannerApi {
  /**
   * A day of all technicians.
   *
   * @param waiting the first 200 visits that wait for a time
   * @param waitingInAll how many wait
   * @param late how many visits of this day and how many that wait are later than was promised
   */
  record PlannerDay(
      LocalDate day,
      List<Ribbon> ribbons,
      List<WaitingVisit> waiting,
      int waitingInAll,
      int visits,
      int drivingMinutes,
      BigDecimal miles,
      int late) {}

  /** One technician's day. */
  record Ribbon(
      long personId,
      String name,
      List<String> skills,
      @Nullable Point base,
      List<Stretch> working,
      List<AwayFrom> away,
      List<Held> held,
      List<Block> blocks,
      List<Drive> drives,
      int drivingMinutes) {}

  /** That somebody is away, and until which day. */
  record AwayFrom(long absenceId, AbsenceKind kind, Stretch at, LocalDate lastDay, String note) {}

  /**
   * A time that is kept free for a customer.
   *
   * @param by who holds it
   * @param mine whether that is whoever asks
   * @param until when it is free again by itself, by the company's clock
   */
  record Held(long holdId, Stretch at, String by, boolean mine, LocalDateTime until) {}

  /** A place on the map; with {@code guessed}, the middle of its postcode district. */
  record Point(double latitude, double longitude, boolean guessed) {}

  /**
   * A visit of the day.
   *
   * @param responsible whether this technician is, or only comes along
   * @param respondBy until when somebody was promised, by the company's clock; null for no promise
   *     and where it was kept
   * @param clashes what speaks against it; nothing of what is over
   * @param overruled which of that was known when it was planned
   */
  record Block(
      long visitId,
      int version,
      long jobId,
      long jobNumber,
      String title,
      String customer,
      String site,
      VisitState.Code state,
      boolean responsible,
      Stretch at,
      @Nullable LocalDateTime respondBy,
      Set<Clash> clashes,
      Set<Clash> overruled,
      @Nullable Point point) {}

  /**
   * A drive between stops, as late as it may begin.
   *
   * @param guessed reckoned from the straight line or from the middle of a district
   * @param noRoad that no road is known that leads there
   * @param lateMinutes by how much it does not fit
   */
  record Drive(
      @Nullable Long toVisitId,
      int from,
      int minutes,
      BigDecimal miles,
      boolean guessed,
      boolean noRoad,
      int lateMinutes) {}

  /**
   * A visit that waits for a time.
   *
   * @param crewSize how many go to it together
   * @param notBefore before which what it waits for is not there; far in the future while the visit
   *     that it follows has no time itself, or while nobody knows when its part arrives
   * @param awaitedPart the part that it waits for, or waited for until it arrived; empty for none
   */
  record WaitingVisit(
      long visitId,
      int version,
      long jobId,
      long jobNumber,
      String title,
      String customer,
      String site,
      String area,
      String kindOfJob,
      int expectedMinutes,
      int crewSize,
      @Nullable LocalDateTime notBefore,
      String awaitedPart,
      boolean partArrived,
      @Nullable LocalDateTime respondBy,
      boolean late,
      List<String> skills,
      @Nullable Point point) {}

  /** The roads as the map draws them. */
  record TownMap(List<MapJunction> junctions, List<MapRoad> roads) {}

  record MapJunction(int id, double latitude, double longitude) {}

  record MapRoad(int from, int to) {}

  /** Good times for a visit, the best first. */
  record TimesFound(long visitId, int version, int expectedMinutes, List<TimeFound> times) {}

  /**
   * A time that is free, with why it is good.
   *
   * @param window as it is promised on the telephone
   * @param afterCustomer of the stop before it; null for from the base, or for the first stop
   * @param driveMinutes to it from there
   * @param noRoad that no road is known that leads there; the drive is reckoned in a straight line
   * @param addedMinutes by how much the day's driving grows
   * @param lateMinutes by how much it is later than was promised
   * @param notAsTold whether the customer was told another time
   * @param closes when the site closes after it; null for one that is open at all hours
   * @param skills what is needed, all of which they have
   * @param district that of the visit where whoever is responsible goes only to some; else empty
   */
  record TimeFound(
      long personId,
      String person,
      List<Colleague> companions,
      LocalDate day,
      LocalTime start,
      LocalTime end,
      ArrivalWindow window,
      @Nullable String afterCustomer,
      int driveMinutes,
      boolean guessed,
      boolean noRoad,
      int addedMinutes,
      int lateMinutes,
      boolean notAsTold,
      @Nullable LocalTime closes,
      List<String> skills,
      String district) {}

  /** What speaks against a time. */
  record Clashes(Set<Clash> clashes) {}

  private static final int MOST_FOUND = 3;
  private static final int SEARCHED_DAYS = 28;
  private static final BigDecimal METRES_OF_A_MILE = new BigDecimal("1609.344");
  private static final Map<String, Stretch> PARTS_OF_A_DAY =
      Map.of(
          "", new Stretch(0, Stretch.DAY),
          "morning", new Stretch(0, 12 * 60 + 30),
          "afternoon", new Stretch(12 * 60, Stretch.DAY));

  private final PlannerStore store;
  private final RoadMap roads;
  private final PlanCheck check;
  private final PlannedVisits visits;

  PlannerApi(PlannerStore store, PlannedVisits visits, RoadMap roads, PlanCheck check) {
    this.visits = visits;
    this.check = check;
    this.store = store;
    this.roads = roads;
  }

  /**
   * A day of everybody.
   *
   * @param typed as people type it, such as "tue" or "3 dec"
   */
  @GetMapping("/api/planner/days/{day}")
  PlannerDay getPlannerDay(Act act, @PathVariable("day") String typed) {
    var reading = new Reading();
    LocalDate asked = reading.required("day", typed, text -> Day.parse(text, act.today()));
    if (asked != null) {
      VisitPlan.checkDay("day", asked, act.today(), reading);
    }
    reading.refuseIfFaulty();
    LocalDate day = Objects.requireNonNull(asked);
    PlannedVisits.DayAndWaiting read = visits.dayAndWaiting(day);
    Days days = store.days(day, day, act.at(), read.ofDay());
    Map<Long, OnDay> onDay =
        days.visits().stream()
            .collect(
                Collectors.toMap(
                    PlannedVisit::id, visit -> new OnDay(visit, check.clashes(visit, days))));
    Map<Long, String> skills = store.skillNames();
    Map<Long, List<PersonDay.Leg>> legs =
        days.days().stream()
            .collect(Collectors.toMap(PersonDay::personId, each -> each.legs(roads)));
    List<Ribbon> ribbons =
        days.days().stream()
            .map(
                each ->
                    ribbon(
                        act,
                        each,
                        Objects.requireNonNull(legs.get(each.personId())),
                        days,
                        onDay,
                        skills))
            .toList();
    LocalDateTime now = LocalDateTime.ofInstant(act.at(), act.zone());
    List<WaitingVisit> waiting =
        read.waiting().stream().map(visit -> waiting(visit, now, skills)).toList();
    int metres =
        legs.values().stream().flatMap(List::stream).mapToInt(leg -> leg.way().metres()).sum();
    return new PlannerDay(
        day,
        ribbons,
        waiting,
        visits.countWaiting(waiting.size()),
        days.visits().size(),
        ribbons.stream().mapToInt(Ribbon::drivingMinutes).sum(),
        miles(metres),
        Math.toIntExact(
            waiting.stream().filter(WaitingVisit::late).count()
                + ribbons.stream()
                    .flatMap(ribbon -> ribbon.blocks().stream())
                    .filter(block -> block.responsible())
                    .filter(block -> block.clashes().contains(Clash.AFTER_RESPOND_BY))
                    .count()));
  }

  /** A visit of a day, and what speaks against it on whose days. */
  private record OnDay(PlannedVisit visit, Map<Clash, Set<Long>> clashes) {
    Set<Clash> of(long personId) {
      if (clashes.isEmpty()) {
        return Set.of();
      }
      var found = EnumSet.noneOf(Clash.class);
      clashes.forEach(
          (clash, who) -> {
            if (who.contains(personId)) {
              found.add(clash);
            }
          });
      return found;
    }
  }

  private static Ribbon ribbon(
      Act act,
      PersonDay day,
      List<PersonDay.Leg> legs,
      Days days,
      Map<Long, OnDay> visits,
      Map<Long, String> skills) {
    return new Ribbon(
        day.personId(),
        name(days, day.personId()),
        names(day.skillIds(), skills),
        point(day.base() == null ? null : new RoadMap.Located(day.base(), false)),
        day.working(),
        days.absences().stream()
            .filter(absence -> absence.personId() == day.personId())
            .map(
                absence ->
                    new AwayFrom(
                        absence.id(),
                        absence.kind(),
                        absence.stretch(),
                        absence.lastDay(),
                        absence.note()))
            .toList(),
        days.held().stream()
            .filter(held -> held.personId() == day.personId())
            .map(
                held ->
                    new Held(
                        held.id(),
                        held.at(),
                        held.by(),
                        held.heldBy() == act.personId(),
                        LocalDateTime.ofInstant(held.until(), act.zone())))
            .toList(),
        day.stops().stream()
            .map(stop -> block(Objects.requireNonNull(visits.get(stop.visitId())), stop, day))
            .toList(),
        legs.stream().map(leg -> drive(leg, visits)).toList(),
        legs.stream().mapToInt(leg -> leg.way().minutes()).sum());
  }

  private static Block block(OnDay onDay, PersonDay.Stop stop, PersonDay day) {
    PlannedVisit visit = onDay.visit();
    return new Block(
        visit.id(),
        visit.version(),
        visit.jobId(),
        visit.jobNumber(),
        visit.title(),
        visit.customer(),
        visit.site(),
        visit.state(),
        Objects.equals(visit.technicianId(), day.personId()),
        stop.at(),
        visit.respondBy(),
        onDay.of(day.personId()),
        visit.overruled(),
        point(visit.located()));
  }

  private static Drive drive(PersonDay.Leg leg, Map<Long, OnDay> visits) {
    return new Drive(
        leg.toVisitId(),
        leg.from(),
        leg.way().minutes(),
        miles(leg.way().metres()),
        leg.way().guessed()
            || isGuessed(leg.fromVisitId(), visits)
            || isGuessed(leg.toVisitId(), visits),
        leg.way().guessed(),
        leg.lateMinutes());
  }

  private static boolean isGuessed(@Nullable Long visitId, Map<Long, OnDay> visits) {
    OnDay onDay = visitId == null ? null : visits.get(visitId);
    return onDay != null && isGuessed(onDay.visit());
  }

  private static boolean isGuessed(PlannedVisit visit) {
    return visit.located() != null && visit.located().guessed();
  }

  private static WaitingVisit waiting(
      PlannedVisit visit, LocalDateTime now, Map<Long, String> skills) {
    return new WaitingVisit(
        visit.id(),
        visit.version(),
        visit.jobId(),
        visit.jobNumber(),
        visit.title(),
        visit.customer(),
        visit.site(),
        visit.area(),
        visit.kindOfJob(),
        visit.expectedMinutes(),
        visit.people(),
        visit.notBefore(),
        visit.awaitedPart(),
        visit.partArrived(),
        visit.respondBy(),
        visit.respondBy() != null && visit.respondBy().isBefore(now),
        names(visit.skillIds(), skills),
        point(visit.located()));
  }

  private static List<String> names(Set<Long> skillIds, Map<Long, String> skills) {
    if (skillIds.isEmpty()) {
      return List.of();
    }
    return skillIds.stream().map(skills::get).filter(Objects::nonNull).sorted().toList();
  }

  private static String name(Days days, long personId) {
    return days.people().stream()
        .filter(person -> person.id() == personId)
        .map(Colleague::name)
        .findFirst()
        .orElse("");
  }

  private static @Nullable Point point(RoadMap.@Nullable Located located) {
    if (located == null) {
      return null;
    }
    Place place = located.place();
    return new Point(place.latitude(), place.longitude(), located.guessed());
  }

  private static BigDecimal miles(int metres) {
    return BigDecimal.valueOf(metres).divide(METRES_OF_A_MILE, 1, RoundingMode.HALF_UP);
  }

  @GetMapping("/api/planner/map")
  TownMap getTownMap() {
    RoadMap.Drawn drawn = roads.drawn();
    return new TownMap(
        drawn.junctions().stream()
            .map(
                junction ->
                    new MapJunction(
                        junction.id(), junction.place().latitude(), junction.place().longitude()))
            .toList(),
        drawn.roads().stream()
            .map((RoadGraph.Road road) -> new MapRoad(road.from(), road.to()))
            .toList());
  }

  /**
   * The three best times for a visit in the four weeks from a day on.
   *
   * @param from such as "thu"; empty for today
   * @param part {@code morning}, {@code afternoon}, or empty for any time
   * @param technicianId whoever is wanted, with others where several go; nothing for anybody
   * @param crewSize how many go; nothing for as many as its job needs
   * @param expected how long it takes, such as "1:30"; empty for as it is expected already
   */
  @GetMapping("/api/visits/{id}/times")
  TimesFound findTimes(
      Act act,
      @PathVariable long id,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String part,
      @RequestParam(required = false) @Nullable Long technicianId,
      @RequestParam(required = false) @Nullable Integer crewSize,
      @RequestParam(defaultValue = "") String expected) {
    PlannedVisit visit = visits.visit(id);
    var reading = new Reading();
    LocalDate typed = reading.optional("from", from, text -> Day.parse(text, act.today()));
    Integer minutes = reading.optional("expected", expected, Minutes::parse);
    Stretch within = PARTS_OF_A_DAY.get(part);
    if (within == null) {
      reading.fault(
          "part", Rule.UNREADABLE, "Ask for the morning, the afternoon, or for any time.");
    }
    if (crewSize != null) {
      VisitPlan.checkCrewSize(crewSize, reading);
    }
    LocalDate first = typed == null || typed.isBefore(act.today()) ? act.today() : typed;
    VisitPlan.check(
        first, minutes == null ? visit.expectedMinutes() : minutes, act.today(), reading);
    reading.refuseIfFaulty();
    int length = minutes == null ? visit.expectedMinutes() : minutes;
    LocalDateTime now = LocalDateTime.ofInstant(act.at(), act.zone());
    LocalDateTime earliest = first.equals(act.today()) ? now : first.atStartOfDay();
    Days days = store.days(first, first.plusDays(SEARCHED_DAYS - 1L), act.at());
    Wanted wanted = visit.wanted(length).forCrewOf(crewSize == null ? visit.people() : crewSize);
    Map<Long, String> skills = store.skillNames();
    return new TimesFound(
        id,
        visit.version(),
        length,
        new TimeSearch(roads, earliest, Objects.requireNonNull(within), technicianId)
            .best(wanted, days.days(), MOST_FOUND).stream()
                .map(found -> timeFound(found, visit, days, skills))
                .toList());
  }

  static TimeFound timeFound(Found found, PlannedVisit visit, Days days, Map<Long, String> skills) {
    return new TimeFound(
        found.personId(),
        name(days, found.personId()),
        found.companionIds().stream().map(id -> new Colleague(id, name(days, id))).toList(),
        found.day(),
        found.at().start(),
        found.at().end(),
        ArrivalWindow.of(found.at().start()),
        days.visits().stream()
            .filter(each -> Objects.equals(each.id(), found.afterVisitId()))
            .map(PlannedVisit::customer)
            .findFirst()
            .orElse(null),
        found.drive().minutes(),
        found.drive().guessed() || isGuessed(visit),
        found.drive().guessed(),
        found.addedMinutes(),
        found.lateMinutes(),
        visit.promised() != null
            && !visit.promised().isKeptBy(found.day().atTime(found.at().start())),
        visit.siteOpen() == null ? null : visit.siteOpen().end(),
        names(visit.skillIds(), skills),
        days.of(found.personId(), found.day()).districts().contains(visit.district())
            ? visit.district()
            : "");
  }

  /** What speaks against a time for a visit, so that it is said before it is taken. */
  @GetMapping("/api/visits/{id}/clashes")
  Clashes listClashes(
      Act act,
      @PathVariable long id,
      @RequestParam long technicianId,
      @RequestParam(required = false) @Nullable List<Long> companionIds,
      @RequestParam LocalDate day,
      @RequestParam LocalTime start,
      @RequestParam int minutes) {
    var reading = new Reading();
    VisitPlan.check(day, minutes, act.today(), reading);
    reading.refuseIfFaulty();
    PlannedVisit visit = visits.visit(id);
    VisitPlan.checkCompanions(
        technicianId, companionIds == null ? List.of() : companionIds, reading);
    reading.refuseIfFaulty();
    var crewIds = new ArrayList<>(List.of(technicianId));
    crewIds.addAll(companionIds == null ? List.of() : companionIds);
    return new Clashes(
        check
            .clashes(
                visit, Stretch.of(start, minutes), crewIds, day, store.days(day, day, act.at()))
            .keySet());
  }
}
