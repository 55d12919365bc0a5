package app.pragmata.server.field;

import app.pragmata.server.records.Act;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Correcting and checking visits over HTTP. */
@RestController
class CheckApi {
  record Changed(long id) {}

  record AtVersion(int version) {}

  record WithReason(int version, @Nullable String reason) {}

  private final CheckService service;

  CheckApi(CheckService service) {
    this.service = service;
  }

  @PutMapping("/api/time-entries/{id}")
  Changed correctTime(Act act, @PathVariable long id, @RequestBody CheckService.TimeForm form) {
    service.correctTime(act, id, form);
    return new Changed(id);
  }

  @PostMapping("/api/time-entries/{id}/remove")
  Changed removeTime(Act act, @PathVariable long id, @RequestBody WithReason form) {
    service.removeTime(act, id, form.version(), form.reason());
    return new Changed(id);
  }

  @PostMapping("/api/visits/{id}/time-entries")
  Changed addTime(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody CheckService.TimeForm form) {
    return new Changed(service.addTime(act, key, id, form));
  }

  @PutMapping("/api/visit-parts/{id}")
  Changed correctQuantity(
      Act act, @PathVariable long id, @RequestBody CheckService.QuantityForm form) {
    service.correctQuantity(act, id, form);
    return new Changed(id);
  }

  @PostMapping("/api/visit-parts/{id}/remove")
  Changed removePart(Act act, @PathVariable long id, @RequestBody WithReason form) {
    service.removePart(act, id, form.version(), form.reason());
    return new Changed(id);
  }

  @PostMapping("/api/visits/{id}/warranty")
  Changed changeVisitWarranty(
      Act act, @PathVariable long id, @RequestBody CheckService.WarrantyForm form) {
    service.excludeFromWarranty(act, id, form);
    return new Changed(id);
  }

  @PostMapping("/api/visit-parts/{id}/warranty")
  Changed changeWarranty(Act act, @PathVariable long id, @RequestBody WithReason form) {
    service.excludeFromWarranty(act, id, form.version(), form.reason());
    return new Changed(id);
  }

  record SerialForm(@Nullable String serialNumber) {}

  /** Puts a fitted part on record as equipment. */
  @PostMapping("/api/visit-parts/{id}/equipment")
  Changed putOnRecord(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody SerialForm form) {
    return new Changed(service.putOnRecord(act, key, id, form.serialNumber()));
  }

  @PostMapping("/api/visits/{id}/parts")
  Changed addPart(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FieldService.PartForm form) {
    return new Changed(service.addPart(act, key, id, form));
  }

  @PostMapping("/api/visits/{id}/check")
  Changed checkVisit(Act act, @PathVariable long id, @RequestBody AtVersion form) {
    service.check(act, id, form.version());
    return new Changed(id);
  }

  @PostMapping("/api/visits/{id}/reopen")
  Changed takeCheckBack(Act act, @PathVariable long id, @RequestBody AtVersion form) {
    service.reopen(act, id, form.version());
    return new Changed(id);
  }

  @PostMapping("/api/visits/{id}/not-this-time")
  Changed notThisTime(Act act, @PathVariable long id, @RequestBody WithReason form) {
    service.notThisTime(act, id, form.version(), form.reason());
    return new Changed(id);
  }

  @PostMapping("/api/visits/{id}/call-off")
  Changed callOffVisit(Act act, @PathVariable long id, @RequestBody WithReason form) {
    service.callOff(act, id, form.version(), form.reason());
    return new Changed(id);
  }
}
