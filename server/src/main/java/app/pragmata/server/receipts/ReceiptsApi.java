package app.pragmata.server.receipts;

import static app.pragmata.server.generated.Tables.RECEIPT;

import app.pragmata.server.http.AskedDays;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Customers' money over HTTP. */
@RestController
class ReceiptsApi {
  private static final int PAGE = 50;

  /** A page of receipts; {@code next} asks for the one after it, null on the last. */
  record ReceiptPage(List<ReceiptView> rows, @Nullable String next) {}

  record ShownVersion(int version) {}

  private final ReceiptService service;
  private final ReceiptStore receipts;
  private final VersionStore versions;

  ReceiptsApi(ReceiptService service, ReceiptStore receipts, VersionStore versions) {
    this.service = service;
    this.receipts = receipts;
    this.versions = versions;
  }

  /**
   * Receipts, the newest money first; what is left out does not matter.
   *
   * @param jobId also those for its quotes, and those that pay an invoice of it
   */
  @GetMapping("/api/receipts")
  ReceiptPage listReceipts(
      Act act,
      @RequestParam(required = false) @Nullable Long customerId,
      @RequestParam(required = false) @Nullable Long quoteId,
      @RequestParam(required = false) @Nullable Long jobId,
      @RequestParam(required = false) @Nullable Long invoiceId,
      @RequestParam(required = false) ReceiptStore.@Nullable State state,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "") String after) {
    var asked =
        new ReceiptStore.Question(
            customerId, quoteId, jobId, invoiceId, state, AskedDays.read(act, from, to));
    List<ReceiptView> rows = receipts.list(asked, after, PAGE + 1);
    if (rows.size() <= PAGE) {
      return new ReceiptPage(rows, null);
    }
    ReceiptView last = rows.get(PAGE - 1);
    return new ReceiptPage(rows.subList(0, PAGE), PageKey.of(last.receivedOn(), last.id()).text());
  }

  @GetMapping("/api/receipts/{id}")
  ReceiptView getReceipt(@PathVariable long id) {
    return receipts.get(id);
  }

  @PostMapping("/api/receipts")
  @Transactional
  Changed receiveMoney(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody ReceiptForm form) {
    return versions.changed(RECEIPT.ID, service.receive(act, key, form));
  }

  @PostMapping("/api/receipts/{id}/allocations")
  @Transactional
  Changed allocateReceipt(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody ReceiptForm.FurtherAllocations form) {
    service.allocate(act, key, id, form);
    return versions.changed(RECEIPT.ID, id);
  }

  @PostMapping("/api/receipts/{id}/allocations/{allocationId}/take-back")
  @Transactional
  Changed takeAllocationBack(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @PathVariable long allocationId,
      @RequestBody ShownVersion form) {
    service.takeAllocationBack(act, key, id, allocationId, form.version());
    return versions.changed(RECEIPT.ID, id);
  }

  @PostMapping("/api/receipts/{id}/give-back")
  @Transactional
  Changed giveMoneyBack(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody ReceiptForm.GivingBack form) {
    service.giveBack(act, key, id, form);
    return versions.changed(RECEIPT.ID, id);
  }

  @PostMapping("/api/receipts/{id}/take-back")
  @Transactional
  Changed takeReceiptBack(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody ReceiptForm.TakingBack form) {
    service.takeBack(act, key, id, form);
    return versions.changed(RECEIPT.ID, id);
  }
}
