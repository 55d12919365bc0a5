package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.COST_RELEASE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.money.Money;
import app.pragmata.server.billing.BillingService;
import app.pragmata.server.jobs.JobOpening;
import app.pragmata.server.planning.PlanningService;
import app.pragmata.server.receipts.ReceiptForm;
import app.pragmata.server.receipts.ReceiptForm.AllocationForm;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.Act;
import java.util.List;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Money and costs that go other ways than most: beyond a debt, for several invoices at once, on
 * account, given back, bounced; bills that come late, and work called off when it had cost
 * something. Each is there twice.
 */
@Component
class DemoMoney {
  private record Open(long invoiceId, long customerId, Money owed) {}

  private final DSLContext database;
  private final ReceiptService receipts;
  private final BillingService billing;
  private final JobOpening jobs;
  private final PlanningService planning;
  private int count;

  DemoMoney(
      DSLContext database,
      ReceiptService receipts,
      BillingService billing,
      JobOpening jobs,
      PlanningService planning) {
    this.database = database;
    this.receipts = receipts;
    this.billing = billing;
    this.jobs = jobs;
    this.planning = planning;
  }

  /** All of it, in one morning. */
  void take(Act act) {
    List<Open> open = listOpen();
    open.subList(0, 2).forEach(invoice -> payBeyond(act, invoice));
    open.subList(2, 4).forEach(invoice -> bounce(act, invoice));
    open.subList(4, 6).forEach(invoice -> payOnAccount(act, invoice));
    open.subList(6, 8).forEach(invoice -> giveBack(act, invoice.customerId()));
    open.subList(8, open.size()).stream()
        .collect(Collectors.groupingBy(Open::customerId))
        .entrySet()
        .stream()
        .filter(owing -> owing.getValue().size() > 1)
        .sorted(java.util.Map.Entry.comparingByKey())
        .limit(2)
        .forEach(owing -> split(act, owing.getValue()));
    billLate(act);
    callOffWithCost(act);
  }

  /** The newest first. */
  private List<Open> listOpen() {
    return database
        .select(RECEIVABLE.INVOICE_ID, RECEIVABLE.CUSTOMER_ID, RECEIVABLE.OWED_MINOR)
        .from(RECEIVABLE)
        .where(RECEIVABLE.OWED_MINOR.gt(0L))
        .orderBy(RECEIVABLE.NUMBER.desc())
        .fetch(row -> new Open(row.value1(), row.value2(), Money.ofMinor(row.value3())));
  }

  private String key() {
    return "demo-money-" + count++;
  }

  private long receive(
      Act act,
      @Nullable Long customerId,
      Money amount,
      PaymentMethod method,
      List<AllocationForm> allocations) {
    return receipts.receive(
        act,
        key(),
        new ReceiptForm(customerId, amount.toString(), null, method, null, null, allocations));
  }

  private static AllocationForm onto(Open invoice, @Nullable Money amount) {
    return new AllocationForm(invoice.invoiceId(), null, amount == null ? null : amount.toString());
  }

  private void payBeyond(Act act, Open invoice) {
    receive(
        act,
        null,
        invoice.owed().plus(Money.of("20.00")),
        PaymentMethod.BANK_TRANSFER,
        List.of(onto(invoice, null)));
  }

  private void bounce(Act act, Open invoice) {
    long receipt =
        receive(act, null, invoice.owed(), PaymentMethod.CHEQUE, List.of(onto(invoice, null)));
    receipts.takeBack(
        act, key(), receipt, new ReceiptForm.TakingBack(1, "The bank sent the cheque back", null));
  }

  private void payOnAccount(Act act, Open invoice) {
    long receipt =
        receive(
            act, invoice.customerId(), Money.of("150.00"), PaymentMethod.BANK_TRANSFER, List.of());
    receipts.allocate(
        act,
        key(),
        receipt,
        new ReceiptForm.FurtherAllocations(1, List.of(onto(invoice, Money.of("50.00")))));
  }

  private void giveBack(Act act, long customerId) {
    long receipt = receive(act, customerId, Money.of("60.00"), PaymentMethod.CARD, List.of());
    receipts.giveBack(act, key(), receipt, new ReceiptForm.GivingBack(1, "30.00", null));
  }

  /** One receipt pays the first invoice and half of the next. */
  private void split(Act act, List<Open> owing) {
    Open whole = owing.getFirst();
    Open half = owing.get(1);
    Money part = Money.ofMinor(half.owed().minor() / 2);
    receive(
        act,
        null,
        whole.owed().plus(part),
        PaymentMethod.BANK_TRANSFER,
        List.of(onto(whole, null), onto(half, part)));
  }

  private void billLate(Act act) {
    database
        .select(COST_RELEASE.JOB_ID)
        .from(COST_RELEASE)
        .where(COST_RELEASE.KIND.eq(Closing.Kind.INVOICE).and(COST_RELEASE.CLOSES))
        .orderBy(COST_RELEASE.JOB_ID.desc())
        .limit(2)
        .fetch(COST_RELEASE.JOB_ID)
        .forEach(job -> billFor(act, job, "Road permit, sent on by the council", "18.50"));
  }

  private void billFor(Act act, long job, String what, String cost) {
    billing.addOtherCost(
        act,
        key(),
        job,
        new BillingService.OtherCostForm("Ostmere Plant Hire", what, cost, null, null));
  }

  private void callOffWithCost(Act act) {
    var sites =
        database
            .select(SITE.ID, SITE.CUSTOMER_ID)
            .from(SITE)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(SITE.CUSTOMER_ID).and(CUSTOMER.STOP_REASON.isNull()))
            .orderBy(SITE.ID.desc())
            .limit(2)
            .fetch();
    long installation =
        database
            .select(KIND_OF_JOB.ID)
            .from(KIND_OF_JOB)
            .where(KIND_OF_JOB.NAME.eq("Installation"))
            .fetchSingle(KIND_OF_JOB.ID);
    for (var site : sites) {
      long job =
          jobs.open(
              act,
              new JobOpening.NewJob(
                  site.get(SITE.CUSTOMER_ID),
                  site.get(SITE.ID),
                  null,
                  null,
                  installation,
                  "New bollards at the gate",
                  "",
                  null,
                  null,
                  null,
                  null,
                  null,
                  List.of()));
      billFor(act, job, "Lift, booked and not used", "45.00");
      int version =
          database.select(JOB.VERSION).from(JOB).where(JOB.ID.eq(job)).fetchSingle(JOB.VERSION);
      planning.callOffJob(act, job, version, "The council said no");
    }
  }
}
