package app.pragmata.server.billing;

import app.pragmata.server.records.Act;
import java.util.List;
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

  /**
   * Jobs to close.
   *
   * @param jobs at most a hundred, each as it was shown
   */
  record ClosingForm(@Nullable List<InvoiceService.AtVersion> jobs) {}

  /** How many jobs are closed. */
  record Closed(int jobs) {}

  record PostForm(int version) {}

  private final BillingService service;
  private final InvoiceService invoicing;

  BillingApi(BillingService service, InvoiceService invoicing) {
    this.service = service;
    this.invoicing = invoicing;
  }

  @PutMapping("/api/jobs/{id}/basis")
  Done chooseBasis(Act act, @PathVariable long id, @RequestBody BillingService.BasisForm form) {
    service.chooseBasis(act, id, form);
    return new Done(id);
  }

  @PutMapping("/api/jobs/{id}/vat")
  Done decideVat(Act act, @PathVariable long id, @RequestBody BillingService.VatForm form) {
    service.decideVat(act, id, form);
    return new Done(id);
  }

  @PostMapping("/api/jobs/{id}/promised-line-warranty")
  Done changePromisedWarranty(
      Act act, @PathVariable long id, @RequestBody BillingService.PromisedWarrantyForm form) {
    service.excludeFromWarranty(act, id, form);
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
    return new Done(invoicing.post(act, key, id, form.version()));
  }

  /** Closes checked jobs by their bases, all or none: each by an invoice, or without charge. */
  @PostMapping("/api/job-closings")
  Closed closeJobs(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody ClosingForm form) {
    return new Closed(invoicing.closeAll(act, key, form.jobs()));
  }

  /** Posts one invoice for stages, some work, or all that is left of jobs of a customer. */
  @PostMapping("/api/invoices")
  InvoicePosting.Posted postInvoiceOfJobs(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody InvoiceForm form) {
    return invoicing.postInvoice(act, key, form);
  }

  /** The same invoice as it would be posted. */
  @PostMapping("/api/invoices/preview")
  InvoiceService.InvoicePreview previewInvoice(Act act, @RequestBody InvoiceForm form) {
    return invoicing.preview(act, form);
  }
}
