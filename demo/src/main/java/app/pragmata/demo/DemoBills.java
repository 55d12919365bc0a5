package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.BILL;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.OTHER_COST;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.CreditKind;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.server.billing.CreditForm;
import app.pragmata.server.billing.CreditService;
import app.pragmata.server.billing.InvoiceForm;
import app.pragmata.server.billing.InvoiceService;
import app.pragmata.server.planning.PlanningService;
import app.pragmata.server.records.Act;
import java.time.LocalTime;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The rarer bills: some of the work, several jobs on one invoice, and credits of both kinds. */
@Component
class DemoBills {
  private final DSLContext database;
  private final InvoiceService invoicing;
  private final CreditService credits;
  private final PlanningService planning;
  private int count;

  DemoBills(
      DSLContext database,
      InvoiceService invoicing,
      CreditService credits,
      PlanningService planning) {
    this.database = database;
    this.invoicing = invoicing;
    this.credits = credits;
    this.planning = planning;
  }

  /** A job that one invoice charges alone, by time and parts. */
  private record Billed(long jobId, long customerId, long invoiceId) {}

  /** All of them, in one morning. */
  void post(Act act) {
    Deque<Billed> billed = new ArrayDeque<>(listBilled());
    Map<Long, List<Billed>> byCustomer =
        billed.stream().collect(Collectors.groupingBy(Billed::customerId));
    byCustomer.values().stream()
        .filter(jobs -> jobs.size() > 1)
        .limit(2)
        .map(jobs -> jobs.subList(0, 2))
        .forEach(
            jobs -> {
              billed.removeAll(jobs);
              billTogether(act, jobs);
            });
    for (int i = 0; i < 2; i++) {
      billSomeWork(act, billed.pop());
      lowerPrice(act, billed.pop());
    }
  }

  /** The newest first. */
  private List<Billed> listBilled() {
    return database
        .select(BILL.JOB_ID, RECEIVABLE.CUSTOMER_ID, RECEIVABLE.INVOICE_ID)
        .from(BILL)
        .join(RECEIVABLE)
        .on(RECEIVABLE.INVOICE_ID.eq(BILL.INVOICE_ID))
        .where(BILL.KIND.eq(Bill.Kind.FINAL))
        .and(BILL.BILLING_BASIS.eq(BillingBasis.Code.TIME_AND_PARTS))
        .andNotExists(selectOne().from(OTHER_COST).where(OTHER_COST.JOB_ID.eq(BILL.JOB_ID)))
        .orderBy(RECEIVABLE.NUMBER.desc())
        .fetch(row -> new Billed(row.value1(), row.value2(), row.value3()));
  }

  private String key() {
    return "demo-bills-" + count++;
  }

  /** The customer wants one invoice for both jobs. */
  private void billTogether(Act act, List<Billed> jobs) {
    jobs.forEach(
        job -> credit(act, job, CreditKind.WORK_TAKEN_BACK, "One invoice for both jobs", null));
    bill(act, jobs.stream().map(job -> form(job, Bill.Kind.FINAL, null)).toList());
  }

  /** The work goes on after all: what is done stands on a bill of its own. */
  private void billSomeWork(Act act, Billed job) {
    credit(act, job, CreditKind.WORK_TAKEN_BACK, "The work goes on; billed anew so far", null);
    var visit =
        database
            .select(VISIT.ID, VISIT.TECHNICIAN_ID)
            .from(VISIT)
            .where(VISIT.JOB_ID.eq(job.jobId()))
            .orderBy(VISIT.ID.desc())
            .limit(1)
            .fetchSingle();
    planning.add(
        act,
        key(),
        job.jobId(),
        PlanningService.PlanForm.anyway(
            1, visit.value2(), act.today().plusDays(12 + count), LocalTime.of(16, 0), 30));
    bill(act, List.of(form(job, Bill.Kind.PART, List.of(visit.value1()))));
  }

  private void lowerPrice(Act act, Billed job) {
    credit(
        act,
        job,
        CreditKind.PRICE,
        "Promised on the telephone",
        List.of(new CreditForm.LineForm(1, "5.00")));
  }

  private void credit(
      Act act,
      Billed job,
      CreditKind kind,
      String reason,
      @Nullable List<CreditForm.LineForm> lines) {
    int version =
        database
            .select(RECEIVABLE.VERSION)
            .from(RECEIVABLE)
            .where(RECEIVABLE.INVOICE_ID.eq(job.invoiceId()))
            .fetchSingle(RECEIVABLE.VERSION);
    credits.credit(act, key(), job.invoiceId(), new CreditForm(version, kind, reason, null, lines));
  }

  private InvoiceForm.BillForm form(Billed job, Bill.Kind kind, @Nullable List<Long> visitIds) {
    int version =
        database
            .select(JOB.VERSION)
            .from(JOB)
            .where(JOB.ID.eq(job.jobId()))
            .fetchSingle(JOB.VERSION);
    return new InvoiceForm.BillForm(job.jobId(), version, kind, visitIds, null, null, null);
  }

  private void bill(Act act, List<InvoiceForm.BillForm> jobs) {
    invoicing.postInvoice(act, key(), new InvoiceForm(jobs));
  }
}
