package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.records.Versions;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** For which hours of a visit somebody comes along, over HTTP. */
@RestController
class CrewHoursApi {
  /**
   * The hours for which somebody comes along.
   *
   * @param hours such as "10 to 12"; empty for the whole visit
   * @param overruled what speaks against them and is put up with; anything else is refused
   */
  record CrewHoursForm(int version, @Nullable String hours, List<Clash> overruled) {}

  private final VisitStore visits;
  private final VersionStore versions;
  private final PlanCheck check;

  CrewHoursApi(VisitStore visits, VersionStore versions, PlanCheck check) {
    this.visits = visits;
    this.versions = versions;
    this.check = check;
  }

  /** Changes for which hours somebody comes along; they move with the visit. */
  @PutMapping("/api/visits/{id}/crew/{personId}/hours")
  @Transactional
  public Changed changeCrewHours(
      Act act,
      @PathVariable long id,
      @PathVariable long personId,
      @RequestBody CrewHoursForm form) {
    var reading = new Reading();
    Stretch hours = reading.optional("hours", form.hours(), Stretch::parse);
    reading.refuseIfFaulty();
    LockedVisit visit = visits.lock(id);
    Versions.require(form.version(), visit.version());
    visit.job().requireUnbilled();
    if (!(visit.state() instanceof VisitState.Planned planned)
        || !visit.companionIds().contains(personId)) {
      throw new Refused(
          Rule.NOT_FOUND,
          "Nobody of this name comes along to this visit as it is planned. Reload the page.");
    }
    Stretch whole = Stretch.of(Objects.requireNonNull(visit.start()), visit.expectedMinutes());
    if (hours != null && !whole.holds(hours)) {
      throw new Refused(
          List.of(
              new Fault(
                  "hours",
                  Rule.EXCEEDS_LIMIT,
                  "The visit is from %s to %s. Enter hours within it, or nothing for all of it."
                      .formatted(whole.start(), whole.end()))));
    }
    visits.comeFor(
        act, visit, planned, personId, hours == null || hours.equals(whole) ? null : hours);
    check.check(act, Map.of(id, new HashSet<>(form.overruled())));
    return versions.changed(VISIT.ID, id);
  }
}
