package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_PART;

import app.pragmata.core.jobs.PartsNow;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Correcting and checking visits over HTTP. */
@RestController
class CheckApi {

  record WithReason(int version, @Nullable String reason) {}

  /**
   * A visit that will not happen.
   *
   * @param others planned visits of the same job that go with it, each as it was shown
   * @param parts where those are that were recorded on it; needed where there are any
   */
  record CalledOffVisitForm(
      int version,
      @Nullable String reason,
      @Nullable List<CheckService.Shown> others,
      @Nullable PartsNow parts) {}

  /**
   * A visit that did not happen this time.
   *
   * @param parts where those are that were recorded on it; needed where there are any
   */
  record NotThisTimeForm(int version, @Nullable String reason, @Nullable PartsNow parts) {}

  private final VersionStore versions;
  private final CheckService service;

  CheckApi(CheckService service, VersionStore versions) {
    this.versions = versions;
    this.service = service;
  }

  @PutMapping("/api/time-entries/{id}")
  @Transactional
  Changed correctTime(Act act, @PathVariable long id, @RequestBody CheckService.TimeForm form) {
    service.correctTime(act, id, form);
    return versions.changed(TIME_ENTRY.ID, id);
  }

  @PostMapping("/api/time-entries/{id}/remove")
  @Transactional
  Changed removeTime(Act act, @PathVariable long id, @RequestBody WithReason form) {
    service.removeTime(act, id, form.version(), form.reason());
    return versions.changed(TIME_ENTRY.ID, id);
  }

  @PostMapping("/api/visits/{id}/time-entries")
  @Transactional
  Changed addTime(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody CheckService.TimeForm form) {
    return versions.changed(TIME_ENTRY.ID, service.addTime(act, key, id, form));
  }

  @PutMapping("/api/visit-parts/{id}")
  @Transactional
  Changed correctQuantity(
      Act act, @PathVariable long id, @RequestBody CheckService.QuantityForm form) {
    service.correctQuantity(act, id, form);
    return versions.changed(VISIT_PART.ID, id);
  }

  @PostMapping("/api/visit-parts/{id}/remove")
  @Transactional
  Changed removePart(Act act, @PathVariable long id, @RequestBody WithReason form) {
    service.removePart(act, id, form.version(), form.reason());
    return versions.changed(VISIT_PART.ID, id);
  }

  @PostMapping("/api/visits/{id}/warranty")
  @Transactional
  Changed changeVisitWarranty(
      Act act, @PathVariable long id, @RequestBody CheckService.WarrantyForm form) {
    service.excludeFromWarranty(act, id, form);
    return versions.changed(VISIT.ID, id);
  }

  @PostMapping("/api/visit-parts/{id}/warranty")
  @Transactional
  Changed changeWarranty(Act act, @PathVariable long id, @RequestBody WithReason form) {
    service.excludeFromWarranty(act, id, form.version(), form.reason());
    return versions.changed(VISIT_PART.ID, id);
  }

  record SerialForm(@Nullable String serialNumber) {}

  /** Puts a fitted part on record as equipment. */
  @PostMapping("/api/visit-parts/{id}/equipment")
  @Transactional
  Changed putOnRecord(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody SerialForm form) {
    return versions.changed(EQUIPMENT.ID, service.putOnRecord(act, key, id, form.serialNumber()));
  }

  @PostMapping("/api/visits/{id}/parts")
  @Transactional
  Changed addPart(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FieldService.PartForm form) {
    return versions.changed(VISIT_PART.ID, service.addPart(act, key, id, form));
  }

  @PostMapping("/api/visits/{id}/check")
  @Transactional
  Changed checkVisit(Act act, @PathVariable long id, @RequestBody AtVersion form) {
    service.check(act, id, form.version());
    return versions.changed(VISIT.ID, id);
  }

  /**
   * Visits to check.
   *
   * @param visits at most a hundred, each as it was shown
   */
  record CheckForm(@Nullable List<CheckService.Shown> visits) {}

  /** The visits as they are now. */
  record Checked(List<CheckService.Shown> visits) {}

  /** Checks finished visits, all or none. */
  @PostMapping("/api/visit-checks")
  Checked checkVisits(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody CheckForm form) {
    return new Checked(service.checkList(act, key, form.visits()));
  }

  /** Takes the checks of visits back, all or none, while no document has taken their cost. */
  @PostMapping("/api/visit-checks/take-back")
  Checked takeChecksBack(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody CheckForm form) {
    return new Checked(service.reopenList(act, key, form.visits()));
  }

  @PostMapping("/api/visits/{id}/reopen")
  @Transactional
  Changed takeCheckBack(Act act, @PathVariable long id, @RequestBody AtVersion form) {
    service.reopen(act, id, form.version());
    return versions.changed(VISIT.ID, id);
  }

  @PostMapping("/api/visits/{id}/not-this-time")
  @Transactional
  Changed notThisTime(Act act, @PathVariable long id, @RequestBody NotThisTimeForm form) {
    service.notThisTime(act, id, form.version(), form.reason(), form.parts());
    return versions.changed(VISIT.ID, id);
  }

  @PostMapping("/api/visits/{id}/call-off")
  @Transactional
  Changed callOffVisit(Act act, @PathVariable long id, @RequestBody CalledOffVisitForm form) {
    service.callOff(act, id, form.version(), form.reason(), form.others(), form.parts());
    return versions.changed(VISIT.ID, id);
  }
}
