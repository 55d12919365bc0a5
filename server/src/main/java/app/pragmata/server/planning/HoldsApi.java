package app.pragmata.server.planning;

import app.pragmata.core.Day;
import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Stretch;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.live.LiveNotices;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.RepeatableRequests;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Times held over HTTP: the time is chosen first, and then what it is for. */
@RestController
class HoldsApi {
  /** A time of somebody's day as it is typed, such as "tue" and "10-12:30". */
  record HoldForm(@Nullable Long personId, @Nullable String day, @Nullable String at) {}

  /** What is held, and until when. */
  record HoldMade(
      long id, long personId, LocalDate day, LocalTime start, LocalTime end, LocalDateTime until) {}

  /** What whoever asks holds, the earliest first. */
  record OwnHolds(List<OwnHold> holds) {}

  /** A time that whoever asks holds, until when by the company's clock. */
  record OwnHold(
      long holdId,
      long personId,
      String person,
      LocalDate day,
      LocalTime start,
      LocalTime end,
      LocalDateTime until) {}

  private final HoldStore holds;
  private final PlannerStore store;
  private final PeopleStore people;
  private final RepeatableRequests repeats;
  private final LiveNotices live;

  HoldsApi(
      HoldStore holds,
      PlannerStore store,
      PeopleStore people,
      RepeatableRequests repeats,
      LiveNotices live) {
    this.live = live;
    this.holds = holds;
    this.store = store;
    this.people = people;
    this.repeats = repeats;
  }

  /** Keeps a free time free for five minutes. Refused where somebody has a visit or is away. */
  @PostMapping("/api/planner/holds")
  @Transactional
  public HoldMade holdTime(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody HoldForm form) {
    long id = repeats.once(act, key, "hold time", form, () -> hold(act, form));
    HoldStore.HeldTime held = holds.find(id, act.at());
    if (held == null) {
      throw new Refused(Rule.HOLD_EXPIRED, "This time was held, and is free again. Hold it anew.");
    }
    return new HoldMade(
        id,
        held.personId(),
        held.day(),
        held.at().start(),
        held.at().end(),
        LocalDateTime.ofInstant(held.until(), act.zone()));
  }

  private long hold(Act act, HoldForm form) {
    var reading = new Reading();
    LocalDate day = reading.required("day", form.day(), typed -> Day.parse(typed, act.today()));
    Stretch at = reading.required("at", form.at(), Stretch::parse);
    if (form.personId() == null) {
      reading.fault("personId", Rule.MISSING, "Choose a technician.");
    }
    if (day != null) {
      VisitPlan.checkDay("day", day, act.today(), reading);
      if (day.isBefore(act.today())) {
        reading.fault("day", Rule.DAY_PASSED, "This day has passed. Choose one that is to come.");
      }
    }
    reading.refuseIfFaulty();
    long personId = Objects.requireNonNull(form.personId());
    people.requireTechnician(personId);
    LocalDate on = Objects.requireNonNull(day);
    Stretch wanted = Objects.requireNonNull(at);
    List<Fault> taken = taken(store.days(on, on, act.at()).of(personId, on), wanted);
    if (!taken.isEmpty()) {
      throw new Refused(taken);
    }
    live.tell(RecordKind.VISIT);
    return holds.hold(act, personId, on, wanted);
  }

  private static List<Fault> taken(PersonDay day, Stretch at) {
    if (day.stops().stream().anyMatch(stop -> stop.at().overlaps(at))) {
      return fault(Rule.OVERLAP, "A visit is planned in this time. Hold a shorter one or another.");
    }
    if (day.held().stream().anyMatch(held -> held.overlaps(at))) {
      return fault(Rule.HELD, "This time is held for another customer. Choose another.");
    }
    return day.away().stream().anyMatch(away -> away.overlaps(at))
        ? fault(Rule.ABSENT, "They are away in this time. Choose another, or somebody else.")
        : List.of();
  }

  private static List<Fault> fault(Rule rule, String message) {
    return List.of(new Fault("at", rule, message));
  }

  /** What whoever asks holds, so that whatever a call comes to can be given one of these times. */
  @GetMapping("/api/planner/holds")
  OwnHolds listOwnHolds(Act act) {
    Map<Long, String> names = store.names();
    return new OwnHolds(
        holds.heldBy(act).stream()
            .map(
                held ->
                    new OwnHold(
                        held.id(),
                        held.personId(),
                        names.getOrDefault(held.personId(), ""),
                        held.day(),
                        held.at().start(),
                        held.at().end(),
                        LocalDateTime.ofInstant(held.until(), act.zone())))
            .toList());
  }

  /** Holds a time for five minutes from now on; refused when it is free again already. */
  @PostMapping("/api/planner/holds/{id}/longer")
  @Transactional
  public void holdLonger(Act act, @PathVariable long id) {
    if (!holds.prolong(act, id)) {
      throw new Refused(
          Rule.HOLD_EXPIRED,
          "This time is no longer held. Look whether it is free, and hold it anew.");
    }
    live.tell(RecordKind.VISIT);
  }

  /** Gives a held time back. Giving it back again, or after its time, does nothing. */
  @DeleteMapping("/api/planner/holds/{id}")
  @Transactional
  public void endHold(Act act, @PathVariable long id) {
    holds.end(act, Set.of(id));
    live.tell(RecordKind.VISIT);
  }
}
