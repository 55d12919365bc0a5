package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.JOB_CHARGE;
import static app.pragmata.server.generated.Tables.RECEIVABLE;

import app.pragmata.server.jobs.JobCharges;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.Made;
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

/** Billing over HTTP. */
@RestController
class BillingApi {

  /**
   * Jobs to close.
   *
   * @param jobs at most a hundred, each as it was shown
   */
  record ClosingForm(@Nullable List<InvoiceService.JobAtVersion> jobs) {}

  /** How many jobs are closed. */
  record Closed(int jobs) {}

  record PostForm(int version) {}

  /**
   * The invoice that was posted.
   *
   * @param version of what is owed on it, as it is by now
   */
  record InvoicePosted(long id, long number, int version) {}

  private final BillingService service;
  private final JobCharges charges;
  private final VersionStore versions;
  private final InvoiceService invoicing;

  BillingApi(
      BillingService service, JobCharges charges, InvoiceService invoicing, VersionStore versions) {
    this.charges = charges;
    this.versions = versions;
    this.service = service;
    this.invoicing = invoicing;
  }

  @PutMapping("/api/jobs/{id}/basis")
  @Transactional
  Changed chooseBasis(Act act, @PathVariable long id, @RequestBody BillingService.BasisForm form) {
    service.chooseBasis(act, id, form);
    return versions.changed(JOB.ID, id);
  }

  @PutMapping("/api/jobs/{id}/vat")
  @Transactional
  Changed decideVat(Act act, @PathVariable long id, @RequestBody BillingService.VatForm form) {
    service.decideVat(act, id, form);
    return versions.changed(JOB.ID, id);
  }

  @PostMapping("/api/jobs/{id}/promised-line-warranty")
  @Transactional
  Changed changePromisedWarranty(
      Act act, @PathVariable long id, @RequestBody BillingService.PromisedWarrantyForm form) {
    service.excludeFromWarranty(act, id, form);
    return versions.changed(JOB.ID, id);
  }

  @PostMapping("/api/jobs/{id}/other-costs")
  Made addOtherCost(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody BillingService.OtherCostForm form) {
    return new Made(service.addOtherCost(act, key, id, form));
  }

  @PostMapping("/api/jobs/{id}/charges")
  Made addCharge(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody BillingService.ChargeForm form) {
    return new Made(service.addCharge(act, key, id, form));
  }

  /** Charges it no more; it can be put back. */
  @PostMapping("/api/job-charges/{id}/remove")
  @Transactional
  Changed removeCharge(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    charges.remove(act, id, at.version());
    return versions.changed(JOB_CHARGE.ID, id);
  }

  @PostMapping("/api/job-charges/{id}/put-back")
  @Transactional
  Changed putChargeBack(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    charges.putBack(act, id, at.version());
    return versions.changed(JOB_CHARGE.ID, id);
  }

  @PostMapping("/api/jobs/{id}/invoice")
  @Transactional
  Changed postInvoice(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody PostForm form) {
    return versions.changed(JOB.ID, invoicing.post(act, key, id, form.version()));
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
  @Transactional
  InvoicePosted postInvoiceOfJobs(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody InvoiceForm form) {
    InvoicePosting.Posted posted = invoicing.postInvoice(act, key, form);
    return new InvoicePosted(
        posted.id(), posted.number(), versions.version(RECEIVABLE.INVOICE_ID, posted.id()));
  }

  /** The same invoice as it would be posted. */
  @PostMapping("/api/invoices/preview")
  InvoiceService.InvoicePreview previewInvoice(Act act, @RequestBody InvoiceForm form) {
    return invoicing.preview(act, form);
  }
}
