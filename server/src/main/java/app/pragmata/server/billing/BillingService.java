package app.pragmata.server.billing;

import app.pragmata.core.Category;
import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.Promised;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.PassedOn;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.TaxedGroup;
import app.pragmata.server.jobs.JobCharges;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.OtherCosts;
import app.pragmata.server.jobs.PromiseStore;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.jobs.WholeJob;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** How a job is charged, and what it costs besides; each step is one transaction. */
@Service
@Transactional
public class BillingService {
  /**
   * How to charge a job; not charging it needs a reason, and so does more than was promised.
   *
   * @param told what the customer was told on site that it costs in all; null for what stands
   * @param withVat whether that is with VAT, as it is where nobody says
   */
  public record BasisForm(
      int version,
      BillingBasis.@Nullable Code basis,
      @Nullable String reason,
      @Nullable String told,
      @Nullable Boolean withVat) {
    /** One that names no price. */
    public BasisForm(int version, BillingBasis.Code basis, String reason) {
      this(version, basis, reason, null, null);
    }
  }

  /** How VAT applies to a job, by the code of a treatment. */
  public record VatForm(int version, @Nullable String vatCode) {}

  /**
   * Whether the warranty bears its share of a promised line.
   *
   * @param position of the line in its quote's promise, from one
   * @param reason why it does not; empty for that it does
   */
  public record PromisedWarrantyForm(
      int version, long quoteId, int position, @Nullable String reason) {}

  /**
   * A supplier's bill as typed, without VAT.
   *
   * @param passedOn what the customer pays of it by time and parts; null for with the markup
   */
  public record OtherCostForm(
      @Nullable String supplier,
      @Nullable String description,
      @Nullable String cost,
      @Nullable String vat,
      @Nullable PassedOn passedOn) {}

  /**
   * What is charged by time and parts besides the work, as typed.
   *
   * @param quantity one where nobody says how many
   * @param price of one, without VAT
   * @param vat the code of a treatment; empty for as the job is treated
   */
  public record ChargeForm(
      @Nullable String description,
      @Nullable String quantity,
      @Nullable String price,
      @Nullable String vat) {}

  private static final int LONGEST_REASON = 300;

  private final JobStore jobs;
  private final VisitStore visits;
  private final OtherCosts otherCosts;
  private final JobCharges charges;
  private final PromiseStore promises;
  private final InvoiceStore invoices;
  private final Bills bills;
  private final BooksStore books;
  private final ReceiptService receipts;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final RepeatableRequests repeats;

  BillingService(
      JobStore jobs,
      VisitStore visits,
      OtherCosts otherCosts,
      JobCharges charges,
      PromiseStore promises,
      InvoiceStore invoices,
      Bills bills,
      BooksStore books,
      ReceiptService receipts,
      CompanyStore companies,
      NumberSeries numbers,
      RepeatableRequests repeats) {
    this.jobs = jobs;
    this.visits = visits;
    this.otherCosts = otherCosts;
    this.charges = charges;
    this.promises = promises;
    this.invoices = invoices;
    this.bills = bills;
    this.books = books;
    this.receipts = receipts;
    this.companies = companies;
    this.numbers = numbers;
    this.repeats = repeats;
  }

  /** Both bases side by side, the draft of the final invoice with its entry, and what is posted. */
  @Transactional(readOnly = true)
  public BillingView view(Act act, WholeJob job, Company company, CostSheet sheet) {
    Bills.Before before = bills.before(List.of(job), act.today());
    boolean open = job.closing().isEmpty();
    List<BillingView.Invoice> posted =
        invoices.listOfJob(job.job().id(), act.today(), companies.getCompany().wording());
    Money owed = posted.stream().map(each -> Money.ofMinor(each.owedMinor())).collect(Money.sum());
    BillingView.Draft draft = open ? draft(act, job, before) : null;
    Money charged = charged(job, before, draft);
    return new BillingView(
        Closing.billed(job.closing(), owed),
        job.job().billingBasis(),
        job.job().notChargedReason(),
        job.vat().ofJob() == null ? null : job.vat().ofJob().code(),
        promised(job, act.today(), charged),
        total(act, job, new BillingBasis.FixedPrice(), before, sheet),
        total(act, job, new BillingBasis.TimeAndParts(), before, sheet),
        job.job().basis() instanceof BillingBasis.PromisedOnSite promised
            ? told(act, job, promised, before, sheet)
            : null,
        draft,
        posted,
        before.salesOf(job).minor(),
        charged.minor());
  }

  /**
   * What a customer is charged for a job.
   *
   * @param lines none where it is not charged
   * @param billed whether an invoice has said so; else it is as an invoice would say it now
   */
  public record Charges(
      List<BillingView.ChargedLine> lines,
      List<TaxedGroup> vat,
      long grossMinor,
      String currency,
      boolean billed) {}

  /** What a job comes to for its customer; refused when there is no such job. */
  @Transactional(readOnly = true)
  public Charges charges(Act act, long jobId) {
    WholeJob job = jobs.find(jobId, act.today()).orElseThrow(VisitStore::unknownJob);
    Company company = companies.getCompany();
    Bill bill = bills.inAll(job, job.job().basis(), act.today());
    return new Charges(
        BillingView.ChargedLine.of(bill, 0),
        TaxedGroup.of(bill.vat(), company.wording()),
        bill.vat().gross().minor(),
        company.currency(),
        job.closing().isPresent());
  }

  private BillingView.@Nullable PromisedPrice promised(
      WholeJob job, LocalDate taxDay, Money charged) {
    Promised accepted = job.promised().orElse(null);
    if (accepted == null) {
      return null;
    }
    Promised now = bills.promised(job, job.job().basis(), taxDay).orElseThrow();
    return new BillingView.PromisedPrice(
        now.kind(),
        accepted.net().minor(),
        now.net().minus(accepted.net()).minor(),
        now.net().minor(),
        now.above(charged).minor(),
        job.job().abovePromiseReason());
  }

  /**
   * What the customer is charged for a job without VAT: as posted for good, and as the rest would
   * be posted by now. What is billed ahead of work is part of that rest.
   */
  private static Money charged(
      WholeJob job, Bills.Before before, BillingView.@Nullable Draft draft) {
    return draft == null || job.job().state() == JobState.Code.CALLED_OFF
        ? before.salesOf(job)
        : before
            .salesOf(job)
            .plus(
                draft.lines().stream()
                    .map(line -> Money.ofMinor(line.netMinor()))
                    .collect(Money.sum()));
  }

  private BillingView.BasisTotal total(
      Act act, WholeJob job, BillingBasis basis, Bills.Before before, CostSheet sheet) {
    boolean open = job.closing().isEmpty();
    Bill bill =
        open
            ? bills.last(job, basis, act.today(), before).bill()
            : bills.inAll(job, basis, act.today());
    Money charged = open ? before.salesOf(job).plus(bill.net()) : bill.net();
    Margin margin = sheet.marginOn(charged);
    return new BillingView.BasisTotal(
        bill.net().minor(),
        bill.vat().gross().minor(),
        margin.amount().minor(),
        margin.percent(),
        bills
            .promised(job, basis, act.today())
            .map(promised -> Long.valueOf(charged.minus(promised.net()).minor()))
            .orElse(null));
  }

  private BillingView.ToldOnSite told(
      Act act,
      WholeJob job,
      BillingBasis.PromisedOnSite promised,
      Bills.Before before,
      CostSheet sheet) {
    Bill worked = bills.inAll(job, new BillingBasis.TimeAndParts(), act.today());
    Bill told = bills.inAll(job, promised, act.today());
    return new BillingView.ToldOnSite(
        promised.told().minor(),
        promised.withVat(),
        total(act, job, promised, before, sheet),
        told.net().minus(worked.net()).minor(),
        told.above(worked).entrySet().stream()
            .map(each -> new BillingView.Difference(each.getKey(), each.getValue().minor()))
            .toList());
  }

  private BillingView.Draft draft(Act act, WholeJob job, Bills.Before before) {
    JobBill last = bills.last(job, job.job().basis(), act.today(), before);
    Money gross = last.bill().vat().gross();
    Money deposit = depositToApply(job, gross);
    List<BooksStore.AccountLine> entry =
        Stream.concat(
                books.preview(event(job, last)).stream(),
                books.preview(new BooksEvent.MoneyAllocated(deposit)).stream())
            .toList();
    boolean charged = job.job().billingBasis() != BillingBasis.Code.NOT_CHARGED;
    return new BillingView.Draft(
        BillingView.ChargedLine.of(last.bill(), 0),
        BillingView.Deducted.of(last.bill()),
        TaxedGroup.of(last.bill().vat(), companies.getCompany().wording()),
        last.bill().vat().net().minor(),
        gross.minor(),
        entry,
        entry.stream().mapToLong(BooksStore.AccountLine::debitMinor).sum(),
        entry.stream().mapToLong(BooksStore.AccountLine::creditMinor).sum(),
        charged ? numbers.expected(NumberSeries.Series.INVOICE) : null,
        deposit.minor(),
        gross.minus(deposit).minor(),
        notYet(last, act.today(), before, charged),
        job.awaited().stream()
            .map(
                each ->
                    new BillingView.AwaitedBill(
                        each.supplier(), each.description(), each.expectedMinor()))
            .toList());
  }

  /** What its closing would post by now: the cost that no document has taken. */
  private BooksEvent event(WholeJob job, JobBill last) {
    Map<Category, Money> costs = bills.costs(last);
    if (job.job().basis() instanceof BillingBasis.NotCharged) {
      return new BooksEvent.JobNotCharged(
          JobBill.costObject(job), costs.values().stream().collect(Money.sum()));
    }
    return InvoicePosting.event(
        new InvoicePosting.ToPost(List.of(last)), Map.of(job.job().id(), costs));
  }

  private Money depositToApply(WholeJob job, Money gross) {
    Money held = receipts.held(job.job().id());
    return held.compareTo(gross) > 0 ? gross : held;
  }

  private @Nullable String notYet(
      JobBill last, LocalDate taxDay, Bills.Before before, boolean charged) {
    WholeJob.Head job = last.job().job();
    if (job.state() != JobState.Code.CHECKED) {
      return job.state() == JobState.Code.WORKED
          ? "Check the finished visit first."
          : "There is nothing to bill until the work is finished and checked.";
    }
    if (!charged) {
      return null;
    }
    if (last.bill().vat().gross().isZero() && last.bill().deductions().isEmpty()) {
      return "Nothing is charged on this basis. Choose “not charged” with a reason.";
    }
    Money above =
        bills.above(last.job(), taxDay, before.salesOf(last.job()).plus(last.bill().net()));
    return above.isPositive() && job.abovePromiseReason() == null
        ? "This is %s more than was accepted, without VAT. Say why first.".formatted(above)
        : null;
  }

  public void chooseBasis(Act act, long jobId, BasisForm form) {
    var reading = new Reading();
    BillingBasis.Code basis = form.basis();
    if (basis == null) {
      reading.fault("basis", Rule.MISSING, "Choose how the job is charged.");
    }
    String reason =
        basis == BillingBasis.Code.NOT_CHARGED
            ? reading.text("reason", form.reason(), LONGEST_REASON)
            : reading.optionalText("reason", form.reason(), LONGEST_REASON);
    Money told =
        basis == BillingBasis.Code.PROMISED_ON_SITE && form.told() != null
            ? reading.required("told", form.told(), companies.getCompany().typed()::money)
            : null;
    if (told != null && !told.isPositive()) {
      reading.fault("told", Rule.MISSING, "Enter what the customer was told that it costs in all.");
    }
    reading.refuseIfFaulty();
    LockedJob job = visits.lockJob(jobId);
    Versions.require(form.version(), job.version());
    job.requireUnbilled();
    if (basis == BillingBasis.Code.FIXED_PRICE && promises.list(jobId).isEmpty()) {
      throw new Refused(
          Rule.NO_LINES,
          "This job came straight from a call: no price was fixed. Charge it by time and parts, or not at all.");
    }
    requireBasisFits(job, Objects.requireNonNull(basis));
    job.chooseBasis(
        BillingBasis.of(
            basis,
            reason,
            basis == BillingBasis.Code.PROMISED_ON_SITE ? onSite(act, job, form, told) : null),
        reason == null || reason.isEmpty() ? null : reason);
    visits.storeJob(act, JobEvent.BASIS_CHOSEN, job, Objects.requireNonNullElse(reason, ""));
  }

  private BillingBasis.PromisedOnSite onSite(
      Act act, LockedJob job, BasisForm form, @Nullable Money told) {
    if (told == null) {
      if (job.basis() instanceof BillingBasis.PromisedOnSite stands) {
        return stands;
      }
      throw wrongTold(Rule.MISSING, "Enter what the customer was told that it costs in all.");
    }
    boolean withVat = !Boolean.FALSE.equals(form.withVat());
    var promised = new BillingBasis.PromisedOnSite(told, withVat);
    WholeJob whole = jobs.find(job.id(), act.today()).orElseThrow(VisitStore::unknownJob);
    Money gross = bills.inAll(whole, promised, act.today()).vat().gross();
    if (withVat && !gross.equals(told)) {
      throw wrongTold(
          Rule.NO_SUCH_TOTAL,
          "With VAT no bill comes to exactly %s: %s does, or give it without VAT."
              .formatted(told, gross));
    }
    return promised;
  }

  private static Refused wrongTold(Rule rule, String message) {
    return new Refused(List.of(new Fault("told", rule, message)));
  }

  /**
   * Decides how VAT applies to what the job charges by time and parts; null or empty for nobody's
   * decision.
   */
  public void decideVat(Act act, long jobId, VatForm form) {
    var reading = new Reading();
    companies.getCompany().terms().vat().requireKnown(reading, "vatCode", form.vatCode());
    reading.refuseIfFaulty();
    LockedJob job = visits.lockJob(jobId);
    Versions.require(form.version(), job.version());
    job.requireUnbilled();
    String code = Objects.requireNonNullElse(form.vatCode(), "");
    job.decideVat(code.isEmpty() ? null : code);
    visits.storeJob(act, JobEvent.VAT_DECIDED, job, code);
  }

  /**
   * Takes a promised line out of the equipment's warranty, or puts it back when the reason is
   * empty.
   */
  public void excludeFromWarranty(Act act, long jobId, PromisedWarrantyForm form) {
    var reading = new Reading();
    String reason = reading.optionalText("reason", form.reason(), LONGEST_REASON);
    reading.refuseIfFaulty();
    LockedJob job = visits.lockJob(jobId);
    Versions.require(form.version(), job.version());
    job.requireUnbilled();
    if (!promises.exclude(job, form.quoteId(), form.position(), reason.isEmpty() ? null : reason)) {
      throw new Refused(
          Rule.NOT_FOUND, "The warranty bears nothing of this line. Reload the page.");
    }
    visits.storeJob(act, JobEvent.PROMISE_WARRANTY_CHANGED, job, reason);
  }

  /** What is billed of a job on one basis is not charged again on another. */
  private void requireBasisFits(LockedJob job, BillingBasis.Code basis) {
    Set<Bill.Kind> standing = invoices.kindsStanding(job.id());
    if (basis != BillingBasis.Code.FIXED_PRICE && standing.contains(Bill.Kind.STAGE)) {
      throw new Refused(
          Rule.STAGE_BILLED,
          "A stage of job %d is billed at the fixed price. Credit that invoice first."
              .formatted(job.number()));
    }
    boolean ofTheWhole =
        basis == BillingBasis.Code.FIXED_PRICE || basis == BillingBasis.Code.PROMISED_ON_SITE;
    if (ofTheWhole && standing.contains(Bill.Kind.PART)) {
      throw new Refused(
          Rule.VISIT_BILLED,
          "Some work of job %d is billed by time and parts. Take it back by a credit note first."
              .formatted(job.number()));
    }
  }

  /** Adds a supplier's bill to the job's cost; gives its id. */
  public long addOtherCost(Act act, @Nullable String key, long jobId, OtherCostForm form) {
    return repeats.once(
        act, key, "add other cost", jobId + " " + form, () -> addOtherCost(act, jobId, form));
  }

  /** The same within a request of which nothing is done twice. */
  @Transactional(propagation = Propagation.MANDATORY)
  public long addOtherCost(Act act, long jobId, OtherCostForm form) {
    var reading = new Reading();
    String supplier = reading.text("supplier", form.supplier(), 120);
    String description = reading.text("description", form.description(), 300);
    Money cost = reading.required("cost", form.cost(), companies.getCompany().typed()::money);
    VatTreatments vat = companies.getCompany().terms().vat();
    String code = form.vat() == null || form.vat().isEmpty() ? vat.usualCode() : form.vat();
    vat.requireKnown(reading, "vat", code);
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
        vat.on(code, act.today()),
        Objects.requireNonNullElse(form.passedOn(), PassedOn.WITH_MARKUP));
  }

  /** Adds a charge of its own to a job; gives its id. */
  public long addCharge(Act act, @Nullable String key, long jobId, ChargeForm form) {
    return repeats.once(
        act,
        key,
        "add charge",
        jobId + " " + form,
        () -> {
          Company company = companies.getCompany();
          var reading = new Reading();
          String description = reading.text("description", form.description(), 300);
          BigDecimal quantity = reading.optional("quantity", form.quantity(), Reading::quantity);
          UnitPrice price = reading.required("price", form.price(), company.typed()::unitPrice);
          if (price != null && price.equals(UnitPrice.ZERO)) {
            reading.fault("price", Rule.MISSING, "Enter what the customer pays, without VAT.");
          }
          boolean ownVat = form.vat() != null && !form.vat().isEmpty();
          if (ownVat) {
            company.terms().vat().requireKnown(reading, "vat", form.vat());
          }
          reading.refuseIfFaulty();
          return charges.add(
              act,
              visits.lockJob(jobId),
              new JobCharges.NewCharge(
                  Objects.requireNonNull(description),
                  Objects.requireNonNullElse(quantity, BigDecimal.ONE),
                  Objects.requireNonNull(price),
                  ownVat ? form.vat() : null));
        });
  }
}
