package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.INVOICE;

import app.pragmata.core.Category;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.billing.InvoiceDraft;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.CostObject;
import app.pragmata.core.company.VatRates;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.InvoiceRecord;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.jobs.JobStore.WholeJob;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.OtherCosts;
import app.pragmata.server.jobs.PromiseStore;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.receipts.ReceivableStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.FrozenText;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** From a checked job to money in the bank; each step is one transaction. */
@Service
@Transactional
public class BillingService {
  /** How to charge a job; not charging it needs its reason. */
  public record BasisForm(
      int version, BillingBasis.@Nullable Code basis, @Nullable String reason) {}

  /** A supplier's bill as typed, without VAT. */
  public record OtherCostForm(
      @Nullable String supplier,
      @Nullable String description,
      @Nullable String cost,
      @Nullable String vat) {}

  private final DSLContext database;
  private final JobStore jobs;
  private final VisitStore visits;
  private final OtherCosts otherCosts;
  private final PromiseStore promises;
  private final InvoiceStore invoices;
  private final FrozenText texts;
  private final BooksStore books;
  private final ReceiptService receipts;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final RepeatableRequests repeats;
  private final Events events;

  BillingService(
      DSLContext database,
      JobStore jobs,
      VisitStore visits,
      OtherCosts otherCosts,
      PromiseStore promises,
      InvoiceStore invoices,
      FrozenText texts,
      BooksStore books,
      ReceiptService receipts,
      CompanyStore companies,
      NumberSeries numbers,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.jobs = jobs;
    this.visits = visits;
    this.otherCosts = otherCosts;
    this.promises = promises;
    this.invoices = invoices;
    this.texts = texts;
    this.books = books;
    this.receipts = receipts;
    this.companies = companies;
    this.numbers = numbers;
    this.repeats = repeats;
    this.events = events;
  }

  /**
   * Both bases side by side, the draft of the chosen one with its entry, or the invoice once it is
   * posted.
   */
  @Transactional(readOnly = true)
  public BillingView view(Act act, WholeJob job, Company company, CostSheet sheet) {
    var billing = new Billing(company.terms(), company.locale(), act.today());
    var facts = job.facts(company.zone());
    InvoiceDraft fixed = billing.draft(facts, new BillingBasis.FixedPrice(), job.warranty());
    InvoiceDraft worked = billing.draft(facts, new BillingBasis.TimeAndParts(), job.warranty());
    BillingView.Invoice invoice = invoices.findOfJob(job.job().id(), act.today()).orElse(null);
    Closing.Billed state =
        Closing.billed(
            job.closing(), invoice == null ? Money.ZERO : Money.ofMinor(invoice.owedMinor()));
    boolean open =
        state == Closing.Billed.UNBILLED && job.job().state() != JobState.Code.CALLED_OFF;
    return new BillingView(
        state,
        job.job().billingBasis(),
        job.job().notChargedReason(),
        total(fixed, sheet),
        total(worked, sheet),
        open ? draft(job, sheet, billing.draft(facts, job.job().basis(), job.warranty())) : null,
        invoice);
  }

  private static BillingView.BasisTotal total(InvoiceDraft draft, CostSheet sheet) {
    Margin margin = sheet.marginOn(draft.vat().net());
    return new BillingView.BasisTotal(
        draft.vat().net().minor(),
        draft.vat().gross().minor(),
        margin.amount().minor(),
        margin.percent());
  }

  private BillingView.Draft draft(WholeJob job, CostSheet sheet, InvoiceDraft draft) {
    Money deposit = depositToApply(job, draft);
    List<BooksStore.AccountLine> entry =
        Stream.concat(
                books
                    .preview(event(costObject(job), job.job().basis(), costs(sheet), draft))
                    .stream(),
                books.preview(new BooksEvent.MoneyAllocated(deposit)).stream())
            .toList();
    boolean charged = job.job().billingBasis() != BillingBasis.Code.NOT_CHARGED;
    return new BillingView.Draft(
        BillingView.ChargedLine.of(draft),
        BillingView.ChargedVat.of(draft),
        draft.vat().net().minor(),
        draft.vat().gross().minor(),
        entry,
        entry.stream().mapToLong(BooksStore.AccountLine::debitMinor).sum(),
        entry.stream().mapToLong(BooksStore.AccountLine::creditMinor).sum(),
        charged ? numbers.expected(NumberSeries.Series.INVOICE) : null,
        deposit.minor(),
        draft.vat().gross().minus(deposit).minor(),
        notYet(job.job(), draft, charged));
  }

  private static CostObject costObject(WholeJob job) {
    return new CostObject(job.job().id(), job.job().number(), job.costCentre());
  }

  private Money depositToApply(WholeJob job, InvoiceDraft draft) {
    Money held = receipts.held(job.job().id());
    Money gross = draft.vat().gross();
    return held.compareTo(gross) > 0 ? gross : held;
  }

  private static @Nullable String notYet(JobStore.Head job, InvoiceDraft draft, boolean charged) {
    if (job.state() != JobState.Code.CHECKED) {
      return job.state() == JobState.Code.WORKED
          ? "Check the finished visit first."
          : "There is nothing to bill until the work is finished and checked.";
    }
    return charged && draft.vat().gross().isZero()
        ? "Nothing is charged on this basis. Choose “not charged” with a reason."
        : null;
  }

  private static BooksEvent event(
      CostObject of, BillingBasis basis, Map<Category, Money> costs, InvoiceDraft draft) {
    if (basis instanceof BillingBasis.NotCharged) {
      return new BooksEvent.JobNotCharged(of, costs.values().stream().collect(Money.sum()));
    }
    return new BooksEvent.InvoicePosted(
        of, draft.vat().gross(), draft.netByCategory(), draft.vat().vat(), costs);
  }

  private static Map<Category, Money> costs(CostSheet sheet) {
    return Arrays.stream(Category.values())
        .collect(Collectors.toMap(category -> category, category -> sheet.rung(category).actual()));
  }

  public void chooseBasis(Act act, long jobId, BasisForm form) {
    var reading = new Reading();
    BillingBasis.Code basis = form.basis();
    if (basis == null) {
      reading.fault("basis", Rule.MISSING, "Choose how the job is charged.");
    }
    String reason =
        basis == BillingBasis.Code.NOT_CHARGED ? reading.text("reason", form.reason(), 300) : null;
    reading.refuseIfFaulty();
    LockedJob job = visits.lockJob(jobId);
    Versions.require(form.version(), job.version());
    job.requireUnbilled();
    if (basis == BillingBasis.Code.FIXED_PRICE && promises.list(jobId).isEmpty()) {
      throw new Refused(
          Rule.NO_LINES,
          "This job came straight from a call: no price was fixed. Charge it by time and parts, or not at all.");
    }
    job.chooseBasis(Objects.requireNonNull(basis), reason);
    visits.storeJob(act, JobEvent.BASIS_CHOSEN, job, Objects.requireNonNullElse(reason, ""));
  }

  /** Adds a supplier's bill to the job's cost; gives its id. */
  public long addOtherCost(Act act, @Nullable String key, long jobId, OtherCostForm form) {
    return repeats.once(
        act,
        key,
        "add other cost",
        jobId + " " + form,
        () -> {
          var reading = new Reading();
          String supplier = reading.text("supplier", form.supplier(), 120);
          String description = reading.text("description", form.description(), 300);
          Money cost = reading.required("cost", form.cost(), companies.getCompany().typed()::money);
          VatRates vat = companies.getCompany().terms().vat();
          String code = form.vat() == null || form.vat().isEmpty() ? vat.usualCode() : form.vat();
          if (!vat.has(code)) {
            reading.fault(
                "vat", Rule.NOT_FOUND, "This VAT rate does not exist. Choose one from the list.");
          }
          if (cost != null && cost.isZero()) {
            reading.fault("cost", Rule.MISSING, "Enter what it costs, without VAT.");
          }
          reading.refuseIfFaulty();
          // A bill that comes late joins the cost where the closing document brought it.
          LockedJob job = visits.lockJob(jobId);
          return otherCosts.add(
              act,
              job,
              Objects.requireNonNull(supplier),
              Objects.requireNonNull(description),
              Objects.requireNonNull(cost),
              vat.on(code, act.today()));
        });
  }

  /** Posts the invoice of a checked job, or closes it without charge; gives the job's id. */
  public long post(Act act, @Nullable String key, long jobId, int version) {
    return repeats.once(
        act,
        key,
        "post invoice",
        jobId + " " + version,
        () -> {
          LockedJob job = visits.lockJob(jobId);
          if (job.closed() || job.state() instanceof JobState.CalledOff) {
            throw new Refused(Rule.JOB_BILLED, "Job %d is billed already.".formatted(job.number()));
          }
          Versions.require(version, job.version());
          if (!(job.state() instanceof JobState.Checked)) {
            throw new Refused(
                Rule.JOB_NOT_CHECKED,
                "There is nothing to bill until all work is finished and checked.");
          }
          post(act, job);
          return jobId;
        });
  }

  private void post(Act act, LockedJob locked) {
    if (locked.basis() instanceof BillingBasis.NotCharged free) {
      closeWithoutCharge(act, locked, free);
      return;
    }
    WholeJob job = jobs.find(locked.id(), act.today()).orElseThrow();
    Company company = companies.getCompany();
    InvoiceDraft draft =
        new Billing(company.terms(), company.locale(), act.today())
            .draft(job.facts(company.zone()), locked.basis(), job.warranty());
    if (draft.vat().gross().isZero()) {
      throw new Refused(
          Rule.NO_LINES, "Nothing is charged on this basis. Choose “not charged” with a reason.");
    }
    InvoiceRecord invoice = insertInvoice(act, locked, job, draft);
    Map<Category, Money> costs =
        visits.close(
            act,
            JobEvent.BILLED,
            locked,
            new Closing(Closing.Kind.INVOICE, invoice.getNumber(), act.at()),
            "");
    books.post(
        act,
        event(locked.costObject(), locked.basis(), costs, draft),
        new BooksStore.Source(
            RecordKind.INVOICE,
            invoice.getId(),
            invoice.getNumber(),
            "J %d: invoice %d".formatted(locked.number(), invoice.getNumber())));
    receipts.owe(
        act,
        List.of(
            new ReceivableStore.Owed(
                invoice.getId(),
                invoice.getCustomerId(),
                invoice.getNumber(),
                invoice.getInvoiceDate(),
                invoice.getDueDate(),
                draft.vat().gross(),
                Set.of(locked.id()))));
  }

  private void closeWithoutCharge(Act act, LockedJob locked, BillingBasis.NotCharged free) {
    receipts.requireNothingHeld(locked);
    Map<Category, Money> costs =
        visits.close(
            act,
            JobEvent.CLOSED_WITHOUT_CHARGE,
            locked,
            new Closing(Closing.Kind.NOT_CHARGED, null, act.at()),
            free.reason());
    books.post(
        act,
        new BooksEvent.JobNotCharged(
            locked.costObject(), costs.values().stream().collect(Money.sum())),
        VisitStore.source(RecordKind.JOB, locked.id(), "not charged: " + free.reason(), locked));
  }

  private InvoiceDocument document(Act act, WholeJob job, long number, InvoiceDraft draft) {
    var customer =
        database.selectFrom(CUSTOMER).where(CUSTOMER.ID.eq(job.job().customerId())).fetchSingle();
    return InvoiceDocument.of(
        companies.getCompany(),
        number,
        act.today(),
        customer.getPaymentDays(),
        new InvoiceDocument.Buyer(
            customer.getName(),
            customer.getAddress(),
            customer.getPostcode(),
            customer.getVatNumber()),
        new InvoiceDocument.Work(
            job.job().number(), job.job().title(), job.site().name(), job.site().address()),
        draft);
  }

  private InvoiceRecord insertInvoice(Act act, LockedJob locked, WholeJob job, InvoiceDraft draft) {
    long number = numbers.next(NumberSeries.Series.INVOICE);
    InvoiceDocument document = document(act, job, number, draft);
    InvoiceRecord invoice = database.newRecord(INVOICE);
    invoice.setNumber(number);
    invoice.setJobId(locked.id());
    invoice.setCustomerId(locked.customerId());
    invoice.setInvoiceDate(document.invoiceDate());
    invoice.setDueDate(document.dueDate());
    invoice.setBillingBasis(job.job().billingBasis());
    invoice.setNetMinor(draft.vat().net().minor());
    invoice.setVatMinor(draft.vat().vat().minor());
    invoice.setGrossMinor(draft.vat().gross().minor());
    invoice.setPostedAt(act.at());
    invoice.setPostedBy(act.personId());
    events.store(act, BillingEvent.INVOICE_POSTED, invoice);
    invoices.insertContent(invoice.getId(), draft, texts.freeze(document));
    return invoice;
  }
}
