package app.pragmata.server.field;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.customers.EquipmentService;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.PartsUsed;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Parts that become equipment of their site once they are fitted, as technicians note them. */
@Service
@Transactional
class FittedEquipment {
  /**
   * The serial number of a part that was fitted.
   *
   * @param replaces whether it is in the place of the equipment that the job is about
   */
  record SerialNumberForm(
      @Nullable Long visitPartId, @Nullable String serialNumber, boolean replaces) {}

  private final VisitStore visits;
  private final PartsUsed parts;
  private final EquipmentService equipment;
  private final RepeatableRequests repeats;

  FittedEquipment(
      VisitStore visits, PartsUsed parts, EquipmentService equipment, RepeatableRequests repeats) {
    this.visits = visits;
    this.parts = parts;
    this.equipment = equipment;
    this.repeats = repeats;
  }

  /** Puts it on record, with the warranty that comes with the part; gives its id. */
  long note(Act act, @Nullable String key, long visitId, SerialNumberForm form) {
    return repeats.once(
        act,
        key,
        "note serial number",
        visitId + " " + form,
        () -> {
          LockedVisit visit = OwnVisit.require(visits.lock(visitId), act.personId());
          OwnVisit.requireRunning(visit);
          return note(act, visit, form);
        });
  }

  /**
   * The same inside the caller's transaction.
   *
   * @param visit locked
   */
  long note(Act act, LockedVisit visit, SerialNumberForm form) {
    var reading = new Reading();
    Long use = form.visitPartId();
    if (use == null || parts.find(use).filter(found -> found.visitId() == visit.id()).isEmpty()) {
      reading.fault("visitPartId", Rule.NOT_FOUND, "This part is not on this visit any more.");
    }
    Long replaced = visit.job().equipmentId();
    if (form.replaces() && replaced == null) {
      reading.fault(
          "replaces", Rule.NOT_FOUND, "The job is about no equipment that it could replace.");
    }
    reading.refuseIfFaulty();
    EquipmentService.Fitted fitted = parts.lockFitted(Objects.requireNonNull(use));
    return form.replaces()
        ? equipment.putInPlaceOf(act, Objects.requireNonNull(replaced), fitted, form.serialNumber())
        : equipment.putOnRecord(act, fitted, form.serialNumber());
  }
}
