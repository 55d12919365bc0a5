package app.pragmata.server.field;

import app.pragmata.server.checklists.VisitChecklists.AnswerForm;
import app.pragmata.server.field.FittedEquipment.SerialNumberForm;
import app.pragmata.server.partswanted.PartsWanted.WantForm;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** What a technician taps; each answers with the page as it is then. */
@RestController
class PocketStepsApi {
  private final PocketApi pocket;
  private final FieldService service;
  private final Clocks clocks;
  private final FittedEquipment fitted;
  private final ToldPrices told;

  PocketStepsApi(
      PocketApi pocket,
      FieldService service,
      Clocks clocks,
      FittedEquipment fitted,
      ToldPrices told) {
    this.told = told;
    this.pocket = pocket;
    this.service = service;
    this.clocks = clocks;
    this.fitted = fitted;
  }

  /** Starts a clock on no visit: a break, a drive such as the one home, other paid time. */
  @PostMapping("/api/pocket/clock")
  PocketApi.Day startClock(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody Clocks.ClockForm form) {
    clocks.start(act, key, form);
    return pocket.getPocketDay(act);
  }

  /** Stops one's clock, on whatever it runs. */
  @PostMapping("/api/pocket/clock/stop")
  PocketApi.Day stopClock(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody StepForm form) {
    clocks.stop(act, key, form);
    return pocket.getPocketDay(act);
  }

  @PostMapping("/api/pocket/visits/{id}/drive")
  PocketVisit driveToVisit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody StepForm form) {
    clocks.drive(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  @PostMapping("/api/pocket/visits/{id}/arrive")
  PocketVisit arriveAtVisit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody StepForm form) {
    clocks.arrive(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  @PostMapping("/api/pocket/visits/{id}/start-work")
  PocketVisit startWork(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody StepForm form) {
    clocks.startWork(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  @PostMapping("/api/pocket/visits/{id}/pause")
  PocketVisit pauseVisit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody StepForm form) {
    clocks.pause(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  @PostMapping("/api/pocket/visits/{id}/finish")
  PocketVisit finishVisit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FieldService.FinishForm form) {
    service.finish(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  /** Says that one comes as planned. */
  @PostMapping("/api/pocket/visits/{id}/accept")
  PocketVisit acceptVisit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FieldService.ComingForm form) {
    service.accept(act, key, id);
    return pocket.getPocketVisit(act, id);
  }

  /** Gives a visit back that has not begun; it is not among one's own any more. */
  @PostMapping("/api/pocket/visits/{id}/hand-back")
  PocketApi.Day handVisitBack(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FieldService.HandBackForm form) {
    service.handBack(act, key, id, form);
    return pocket.getPocketDay(act);
  }

  /** Says that one comes later than planned. */
  @PostMapping("/api/pocket/visits/{id}/late")
  PocketVisit tellLate(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FieldService.LateForm form) {
    service.beLate(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  /** Notes what one has told the customer that the job costs in all; the office reads it. */
  @PostMapping("/api/pocket/visits/{id}/told-price")
  PocketVisit noteToldPrice(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody ToldPrices.ToldPriceForm form) {
    told.note(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  @PostMapping("/api/pocket/visits/{id}/parts")
  PocketVisit usePart(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FieldService.PartForm form) {
    service.addPart(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  @PostMapping("/api/pocket/visits/{id}/missing-parts")
  PocketVisit notePartMissing(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody WantForm form) {
    service.wantPart(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  /** Puts a part that was fitted on record as equipment, by its serial number. */
  @PostMapping("/api/pocket/visits/{id}/serial-numbers")
  PocketVisit noteSerialNumber(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody SerialNumberForm form) {
    fitted.note(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  /** Answers a question of a checklist, or answers it anew. */
  @PostMapping("/api/pocket/visits/{id}/checklist-answers")
  PocketVisit answerChecklist(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody AnswerForm form) {
    service.answerChecklist(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  /** Ticks a promised line off as done, or takes that back. */
  @PostMapping("/api/pocket/visits/{id}/lines-done")
  PocketVisit tickLine(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FieldService.TickForm form) {
    service.tickLine(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  /** Fits a part that the job waited for; one of the price list is taken from the van. */
  @PostMapping("/api/pocket/visits/{id}/missing-parts/{partWantedId}/fit")
  PocketVisit fitMissingPart(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @PathVariable long partWantedId,
      @RequestBody AtVersion at) {
    service.fitWantedPart(act, key, id, partWantedId, at.version());
    return pocket.getPocketVisit(act, id);
  }

  /** It is not missing after all; refused once the office has seen to it. */
  @PostMapping("/api/pocket/visits/{id}/missing-parts/{partWantedId}/withdraw")
  PocketVisit withdrawMissingPart(
      Act act, @PathVariable long id, @PathVariable long partWantedId, @RequestBody AtVersion at) {
    service.takeWantBack(act, id, partWantedId, at.version());
    return pocket.getPocketVisit(act, id);
  }

  @DeleteMapping("/api/pocket/visits/{id}/parts/{visitPartId}")
  PocketVisit putPartBack(Act act, @PathVariable long id, @PathVariable long visitPartId) {
    service.removePart(act, id, visitPartId);
    return pocket.getPocketVisit(act, id);
  }
}
