package app.pragmata.server.workorders;

import static app.pragmata.server.generated.Tables.OTHER_COST;
import static app.pragmata.server.generated.Tables.WORK_ORDER;

import app.pragmata.core.jobs.PassedOn;
import app.pragmata.core.jobs.WorkOrderState;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Orders of subcontractors' work over HTTP. Money is in minor units, without VAT. */
@RestController
class WorkOrdersApi {
  /**
   * What somebody else was ordered to do for a job.
   *
   * @param email where it was sent; empty for nowhere
   * @param expectedMinor what it is to cost; null where nobody knows
   * @param wantedOn null for no certain day
   * @param closedOn when the bill came or it was dropped; null until then
   * @param billedMinor what it cost; null until the bill came
   * @param reason why it was dropped; empty for none
   */
  record WorkOrder(
      long id,
      int version,
      String supplier,
      String email,
      String what,
      @Nullable Long expectedMinor,
      @Nullable LocalDate wantedOn,
      WorkOrderState state,
      LocalDate orderedOn,
      @Nullable LocalDate closedOn,
      @Nullable Long billedMinor,
      String reason) {}

  /**
   * As typed.
   *
   * @param email empty for one that is told otherwise
   * @param expected what it is to cost without VAT; empty for unknown
   * @param wantedOn a day; empty for none
   */
  record WorkOrderForm(
      @Nullable String supplier,
      @Nullable String email,
      @Nullable String what,
      @Nullable String expected,
      @Nullable String wantedOn) {}

  /** The bill as typed, without VAT; as any supplier's bill. */
  record WorkOrderBillForm(
      int version, @Nullable String cost, @Nullable String vat, @Nullable PassedOn passedOn) {}

  /** Why nobody wants it any more. */
  record WorkOrderDroppedForm(int version, @Nullable String reason) {}

  private final WorkOrders service;
  private final VersionStore versions;
  private final DSLContext database;

  WorkOrdersApi(WorkOrders service, VersionStore versions, DSLContext database) {
    this.service = service;
    this.versions = versions;
    this.database = database;
  }

  /** All of a job, the oldest first. */
  @GetMapping("/api/jobs/{id}/work-orders")
  List<WorkOrder> listWorkOrders(@PathVariable long id) {
    return database
        .select(
            WORK_ORDER.ID,
            WORK_ORDER.VERSION,
            WORK_ORDER.SUPPLIER,
            WORK_ORDER.EMAIL,
            WORK_ORDER.WHAT,
            WORK_ORDER.EXPECTED_MINOR,
            WORK_ORDER.WANTED_ON,
            WORK_ORDER.STATE,
            WORK_ORDER.ORDERED_ON,
            WORK_ORDER.CLOSED_ON,
            OTHER_COST.COST_MINOR,
            WORK_ORDER.REASON)
        .from(WORK_ORDER)
        .leftJoin(OTHER_COST)
        .on(OTHER_COST.ID.eq(WORK_ORDER.OTHER_COST_ID))
        .where(WORK_ORDER.JOB_ID.eq(id))
        .orderBy(WORK_ORDER.ID)
        .fetch(Records.mapping(WorkOrder::new));
  }

  /** Orders work from somebody else, and mails the order where an address is given. */
  @PostMapping("/api/jobs/{id}/work-orders")
  @Transactional
  public Changed orderWork(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody WorkOrderForm form) {
    return versions.changed(WORK_ORDER.ID, service.order(act, key, id, form));
  }

  /** Their bill has come; it joins the job's costs and the books. */
  @PostMapping("/api/work-orders/{id}/bill")
  @Transactional
  public Changed noteWorkBilled(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody WorkOrderBillForm form) {
    return versions.changed(WORK_ORDER.ID, service.bill(act, key, id, form));
  }

  /** Nobody wants it any more, and no bill is awaited. */
  @PostMapping("/api/work-orders/{id}/drop")
  @Transactional
  public Changed dropWorkOrder(
      Act act, @PathVariable long id, @RequestBody WorkOrderDroppedForm form) {
    service.drop(act, id, form.version(), form.reason());
    return versions.changed(WORK_ORDER.ID, id);
  }
}
