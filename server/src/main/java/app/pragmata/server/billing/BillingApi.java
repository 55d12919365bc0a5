package app.pragmata.server.billing;

import app.pragmata.server.records.Act;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Billing over HTTP. */
@RestController
class BillingApi {
  record Done(long id) {}

  record PostForm(int version) {}

  private final BillingService service;

  BillingApi(BillingService service) {
    this.service = service;
  }

  @PutMapping("/api/jobs/{id}/basis")
  Done chooseBasis(Act act, @PathVariable long id, @RequestBody BillingService.BasisForm form) {
    service.chooseBasis(act, id, form);
    return new Done(id);
  }

  @PostMapping("/api/jobs/{id}/other-costs")
  Done addOtherCost(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody BillingService.OtherCostForm form) {
    return new Done(service.addOtherCost(act, key, id, form));
  }

  @PostMapping("/api/jobs/{id}/invoice")
  Done postInvoice(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody PostForm form) {
    return new Done(service.post(act, key, id, form.version()));
  }
}
