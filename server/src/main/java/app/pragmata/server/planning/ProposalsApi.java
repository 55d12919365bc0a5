package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.PLAN_PROPOSAL;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.PlanProposal.Figures;
import app.pragmata.core.planning.PlanProposal.Placed;
import app.pragmata.core.planning.PlanProposal.Unplaced;
import app.pragmata.core.planning.PlanProposal.Why;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.generated.tables.records.PlanProposalRecord;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.planning.PlanRun.Best;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.planning.RelayApi.MovedVisit;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.LaterWork;
import app.pragmata.server.records.Made;
import app.pragmata.server.records.RepeatableRequests;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** Plans of many visits that the program proposes, over HTTP. */
@RestController
class ProposalsApi {
  /**
   * What is to be planned.
   *
   * @param firstDay such as "tomorrow"
   * @param lastDay empty for the first day alone
   * @param technicianIds nobody named means everybody
   * @param visitIds none named means all that wait; one that is planned may be moved
   * @param seconds for how long is searched, at most 60; nothing for 10
   */
  record ProposalForm(
      @Nullable String firstDay,
      @Nullable String lastDay,
      List<Long> technicianIds,
      List<Long> visitIds,
      @Nullable Integer seconds) {}

  /**
   * The best plan so far.
   *
   * @param drivingMinutes of these people on these days as things stand
   * @param figures what the plan is judged by; null until there is one
   */
  record ProposedPlan(
      long id,
      ProposalState state,
      LocalDate firstDay,
      LocalDate lastDay,
      int drivingMinutes,
      @Nullable Figures figures,
      List<ProposedVisit> visits,
      List<UnplacedVisit> unplaced) {}

  /**
   * A visit with who would make it when.
   *
   * @param version as it was when the search began
   */
  record ProposedVisit(
      long visitId,
      int version,
      long jobNumber,
      String customer,
      String title,
      long personId,
      String person,
      List<Colleague> companions,
      LocalDate day,
      LocalTime start,
      LocalTime end,
      int expectedMinutes,
      int lateMinutes) {}

  /** A visit that nobody would make, with why. */
  record UnplacedVisit(long visitId, long jobNumber, String customer, String title, Why why) {}

  /** Which of the proposed visits are taken, as they were proposed. */
  record TakingForm(List<MovedVisit> moves) {}

  /** How many were planned, and which were left as somebody has made them meanwhile. */
  record PlanTaken(int planned, List<LeftVisit> left) {}

  /** A visit that was left alone, with why in words. */
  record LeftVisit(long visitId, long jobNumber, String customer, String reason) {}

  private static final int MOST_DAYS = 28;
  private static final int MOST_VISITS = 200;
  private static final int MOST_SECONDS = 60;
  private static final short USUAL_SECONDS = 10;

  private final DSLContext database;
  private final PlannerStore store;
  private final PlannedVisits planned;
  private final PlanTaking taking;
  private final RoadMap roads;
  private final LaterWork later;
  private final RepeatableRequests repeats;
  private final JsonMapper json;

  ProposalsApi(
      DSLContext database,
      PlannerStore store,
      PlannedVisits planned,
      PlanTaking taking,
      RoadMap roads,
      LaterWork later,
      RepeatableRequests repeats,
      JsonMapper json) {
    this.database = database;
    this.store = store;
    this.planned = planned;
    this.taking = taking;
    this.roads = roads;
    this.later = later;
    this.repeats = repeats;
    this.json = json;
  }

  /** Begins to search; what whoever asks had searched for before is dropped. */
  @PostMapping("/api/planner/proposals")
  @Transactional
  public Made proposePlan(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody ProposalForm form) {
    return new Made(repeats.once(act, key, "propose plan", form, () -> propose(act, form)));
  }

  private long propose(Act act, ProposalForm form) {
    PlanProposalRecord row = read(act, form);
    Days days = store.days(row.getFirstDay(), row.getLastDay(), act.at());
    List<Long> everybody = days.people().stream().map(Colleague::id).toList();
    List<Long> chosen = form.technicianIds().isEmpty() ? everybody : form.technicianIds();
    if (!new HashSet<>(everybody).containsAll(chosen)) {
      throw new Refused(
          Rule.NOT_FOUND, "This technician does not exist. Choose one from the list.");
    }
    List<PlannedVisit> visits =
        form.visitIds().isEmpty() ? planned.waiting() : movable(form.visitIds());
    row.setPersonId(act.personId());
    row.setState(ProposalState.SEARCHING);
    row.setTechnicianIds(chosen.toArray(Long[]::new));
    row.setVisitIds(visits.stream().map(PlannedVisit::id).toArray(Long[]::new));
    row.setDrivingMinutes(driving(days.days(), chosen));
    database.deleteFrom(PLAN_PROPOSAL).where(PLAN_PROPOSAL.PERSON_ID.eq(act.personId())).execute();
    row.store();
    later.soon(PlanRun.of(act, row.getId()));
    return row.getId();
  }

  private PlanProposalRecord read(Act act, ProposalForm form) {
    var reading = new Reading();
    LocalDate first =
        reading.required("firstDay", form.firstDay(), typed -> Day.parse(typed, act.today()));
    LocalDate typed =
        reading.optional("lastDay", form.lastDay(), text -> Day.parse(text, act.today()));
    LocalDate last = typed == null ? first : typed;
    if (first != null && last != null) {
      VisitPlan.checkDay("firstDay", first, act.today(), reading);
      if (first.isBefore(act.today())) {
        reading.fault(
            "firstDay", Rule.DAY_PASSED, "This day has passed. Choose one that is to come.");
      }
      if (last.isBefore(first)) {
        reading.fault("lastDay", Rule.ENDS_BEFORE_START, "This is before the first day.");
      }
      if (last.isAfter(first.plusDays(MOST_DAYS - 1L))) {
        reading.fault("lastDay", Rule.TOO_LARGE, "At most four weeks are planned at once.");
      }
    }
    if (form.visitIds().size() > MOST_VISITS) {
      reading.fault("visitIds", Rule.EXCEEDS_LIMIT, "At most 200 visits are planned at once.");
    }
    if (form.seconds() != null && (form.seconds() < 1 || form.seconds() > MOST_SECONDS)) {
      reading.fault("seconds", Rule.EXCEEDS_LIMIT, "A plan is searched for 1 to 60 seconds.");
    }
    reading.refuseIfFaulty();
    PlanProposalRecord row = database.newRecord(PLAN_PROPOSAL);
    row.setFirstDay(first);
    row.setLastDay(last);
    row.setSeconds(form.seconds() == null ? USUAL_SECONDS : form.seconds().shortValue());
    return row;
  }

  private List<PlannedVisit> movable(List<Long> ids) {
    List<PlannedVisit> visits = planned.visits(ids);
    if (visits.size() < new HashSet<>(ids).size()) {
      throw new Refused(Rule.NOT_FOUND, "One of these visits does not exist. Reload the page.");
    }
    for (PlannedVisit visit : visits) {
      if (visit.state() != VisitState.Code.UNPLANNED && visit.state() != VisitState.Code.PLANNED) {
        throw new Refused(
            Rule.VISIT_BEGUN,
            "The visit of J %d has begun or is over. Take it out.".formatted(visit.jobNumber()));
      }
    }
    return visits;
  }

  private int driving(List<PersonDay> days, List<Long> chosen) {
    return days.stream()
        .filter(day -> chosen.contains(day.personId()))
        .flatMap(day -> day.legs(roads).stream())
        .mapToInt(leg -> leg.way().minutes())
        .sum();
  }

  /** How the search stands, with the best plan so far. */
  @GetMapping("/api/planner/proposals/{id}")
  ProposedPlan getProposedPlan(Act act, @PathVariable long id) {
    PlanProposalRecord row = own(act, id);
    Best best = row.getBest() == null ? null : json.readValue(row.getBest().data(), Best.class);
    if (best == null) {
      return new ProposedPlan(
          id,
          row.getState(),
          row.getFirstDay(),
          row.getLastDay(),
          row.getDrivingMinutes(),
          null,
          List.of(),
          List.of());
    }
    Map<Long, PlannedVisit> visits =
        planned
            .visits(
                Stream.concat(
                        best.plan().placed().stream().map(Placed::visitId),
                        best.plan().unplaced().stream().map(Unplaced::visitId))
                    .toList())
            .stream()
            .collect(Collectors.toMap(PlannedVisit::id, Function.identity()));
    Map<Long, String> names = store.names();
    return new ProposedPlan(
        id,
        row.getState(),
        row.getFirstDay(),
        row.getLastDay(),
        row.getDrivingMinutes(),
        best.plan().figures(),
        best.plan().placed().stream()
            .map(
                placed ->
                    proposed(
                        placed,
                        Objects.requireNonNull(visits.get(placed.visitId())),
                        Objects.requireNonNull(best.versions().get(placed.visitId())),
                        names))
            .toList(),
        best.plan().unplaced().stream()
            .map(
                unplaced -> {
                  PlannedVisit visit = Objects.requireNonNull(visits.get(unplaced.visitId()));
                  return new UnplacedVisit(
                      visit.id(),
                      visit.jobNumber(),
                      visit.customer(),
                      visit.title(),
                      unplaced.why());
                })
            .toList());
  }

  private static ProposedVisit proposed(
      Placed placed, PlannedVisit visit, int version, Map<Long, String> names) {
    return new ProposedVisit(
        visit.id(),
        version,
        visit.jobNumber(),
        visit.customer(),
        visit.title(),
        placed.personId(),
        names.getOrDefault(placed.personId(), ""),
        placed.companionIds().stream()
            .map(id -> new Colleague(id, names.getOrDefault(id, "")))
            .toList(),
        placed.day(),
        placed.at().start(),
        placed.at().end(),
        placed.at().minutes(),
        placed.lateMinutes());
  }

  private PlanProposalRecord own(Act act, long id) {
    PlanProposalRecord row =
        database
            .selectFrom(PLAN_PROPOSAL)
            .where(PLAN_PROPOSAL.ID.eq(id))
            .and(PLAN_PROPOSAL.PERSON_ID.eq(act.personId()))
            .fetchOne();
    if (row == null) {
      throw new Refused(
          Rule.NOT_FOUND,
          "This proposal does not exist, or you asked for another since. Ask again.");
    }
    return row;
  }

  /** Ends the search; the best plan so far stays. Ending it again does nothing. */
  @PostMapping("/api/planner/proposals/{id}/stop")
  @Transactional
  public void stopProposing(Act act, @PathVariable long id) {
    own(act, id);
    database
        .update(PLAN_PROPOSAL)
        .set(PLAN_PROPOSAL.STOP, true)
        .where(PLAN_PROPOSAL.ID.eq(id))
        .execute();
  }

  /**
   * Plans proposed visits, as many as can be: what somebody changed meanwhile stays as they have
   * made it, and is named.
   */
  @PostMapping("/api/planner/plans")
  @Transactional
  public PlanTaken takePlan(Act act, @RequestBody TakingForm form) {
    if (form.moves().size() > MOST_VISITS) {
      throw new Refused(Rule.EXCEEDS_LIMIT, "At most 200 visits are planned at once.");
    }
    List<LeftVisit> left = taking.take(act, form.moves());
    return new PlanTaken(form.moves().size() - left.size(), left);
  }
}
