package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.JOB;

import app.pragmata.core.Category;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.http.AskedSet;
import app.pragmata.server.jobs.CostTaking;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.jobs.WholeJob;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Posts invoices, and closes jobs by them or without charge; each call is one transaction. */
@Service
@Transactional
public class InvoiceService {
  private static final int MOST_JOBS = 100;

  private final JobStore jobs;
  private final VisitStore visits;
  private final InvoiceStore invoices;
  private final Bills bills;
  private final InvoicePosting posting;
  private final BooksStore books;
  private final ReceiptService receipts;
  private final RepeatableRequests repeats;

  InvoiceService(
      JobStore jobs,
      VisitStore visits,
      InvoiceStore invoices,
      Bills bills,
      InvoicePosting posting,
      BooksStore books,
      ReceiptService receipts,
      RepeatableRequests repeats) {
    this.jobs = jobs;
    this.visits = visits;
    this.invoices = invoices;
    this.bills = bills;
    this.posting = posting;
    this.books = books;
    this.receipts = receipts;
    this.repeats = repeats;
  }

  /** A job as it was shown to whoever closes it. */
  public record JobAtVersion(long jobId, int version) {}

  /** Posts the final invoice of a checked job, or closes it without charge; gives the job's id. */
  public long post(Act act, @Nullable String key, long jobId, int version) {
    close(act, key, List.of(new JobAtVersion(jobId, version)));
    return jobId;
  }

  /** The same for a list as it was sent; gives how many there are. */
  int closeAll(Act act, @Nullable String key, @Nullable List<JobAtVersion> asked) {
    List<JobAtVersion> jobs = AskedSet.read("jobs", asked, JobAtVersion::jobId, "job", "close");
    close(act, key, jobs);
    return jobs.size();
  }

  /**
   * Closes checked jobs by their bases: posts an invoice for each, or takes its cost where it is
   * not charged; all or none of them.
   */
  public void close(Act act, @Nullable String key, List<JobAtVersion> asked) {
    repeats.once(
        act,
        key,
        "close jobs",
        asked,
        asked.getFirst().jobId(),
        () -> {
          Map<Long, LockedJob> locked =
              visits.lockJobs(asked.stream().map(JobAtVersion::jobId).toList());
          for (JobAtVersion each : asked) {
            requireToClose(locked.get(each.jobId()), each.version());
          }
          Map<Long, WholeJob> jobs = wholeJobs(act, locked.keySet());
          postAll(act, asked, locked, jobs);
          closeWithoutCharge(act, locked.values());
        });
  }

  private static void requireToClose(@Nullable LockedJob job, int version) {
    if (job == null) {
      throw VisitStore.unknownJob();
    }
    if (job.closed() || job.state() instanceof JobState.CalledOff) {
      throw new Refused(Rule.JOB_BILLED, "Job %d is billed already.".formatted(job.number()));
    }
    Versions.require(version, job.version());
    if (!(job.state() instanceof JobState.Checked)) {
      throw new Refused(
          Rule.JOB_NOT_CHECKED, "There is nothing to bill until all work is finished and checked.");
    }
  }

  private Map<Long, WholeJob> wholeJobs(Act act, Collection<Long> ids) {
    return jobs.list(JOB.ID.in(ids), act.today()).stream()
        .collect(Collectors.toMap(job -> job.job().id(), job -> job));
  }

  private void postAll(
      Act act, List<JobAtVersion> asked, Map<Long, LockedJob> locked, Map<Long, WholeJob> jobs) {
    List<WholeJob> charged =
        asked.stream()
            .map(each -> Objects.requireNonNull(jobs.get(each.jobId())))
            .filter(job -> !(job.job().basis() instanceof BillingBasis.NotCharged))
            .toList();
    Bills.Before before = bills.before(charged, act.today());
    List<JobBill> last =
        charged.stream()
            .map(job -> bills.last(job, job.job().basis(), act.today(), before))
            .toList();
    last.forEach(bill -> bills.requireReason(bill, act.today(), before));
    posting.post(
        act, last.stream().map(bill -> new InvoicePosting.ToPost(List.of(bill))).toList(), locked);
  }

  private void closeWithoutCharge(Act act, Collection<LockedJob> locked) {
    List<LockedJob> free =
        locked.stream().filter(job -> job.basis() instanceof BillingBasis.NotCharged).toList();
    free.forEach(receipts::requireNothingAhead);
    var closing = new Closing(Closing.Kind.NOT_CHARGED, null, act.at());
    Map<Long, Map<Category, Money>> costs =
        visits.take(
            act, free.stream().map(job -> new CostTaking(job, closing, null, why(job))).toList());
    for (LockedJob job : free) {
      books.post(
          act,
          new BooksEvent.JobNotCharged(
              job.costObject(),
              costs.getOrDefault(job.id(), Map.of()).values().stream().collect(Money.sum())),
          VisitStore.source(RecordKind.JOB, job.id(), "not charged: " + why(job), job));
    }
  }

  private static String why(LockedJob job) {
    return job.basis() instanceof BillingBasis.NotCharged free ? free.reason() : "";
  }

  /** Posts one invoice for what is asked of one or several jobs of a customer. */
  public InvoicePosting.Posted postInvoice(Act act, @Nullable String key, InvoiceForm form) {
    Reading reading = new Reading();
    checkForm(reading, form);
    var posted = new ArrayList<InvoicePosting.Posted>();
    long id =
        repeats.once(
            act,
            key,
            "post invoice",
            form,
            () -> {
              Map<Long, LockedJob> locked = visits.lockJobs(form.jobIds().toList());
              Map<Long, WholeJob> whole = wholeJobs(act, locked.keySet());
              Bills.Before before = bills.before(whole.values(), act.today());
              InvoicePosting.ToPost invoice = read(act, form, whole, before);
              invoice.bills().forEach(bill -> bills.requireReason(bill, act.today(), before));
              posted.addAll(posting.post(act, List.of(invoice), locked));
              return posted.getFirst().id();
            });
    return posted.isEmpty()
        ? new InvoicePosting.Posted(id, invoices.getNumber(id))
        : posted.getFirst();
  }

  /** The invoice as it would be posted, and its entry. */
  @Transactional(readOnly = true)
  public InvoicePreview preview(Act act, InvoiceForm form) {
    checkForm(new Reading(), form);
    Map<Long, WholeJob> whole = wholeJobs(act, form.jobIds().toList());
    InvoicePosting.ToPost invoice =
        read(act, form, whole, bills.before(whole.values(), act.today()));
    Map<Long, Map<Category, Money>> costs =
        invoice.bills().stream()
            .collect(Collectors.toMap(each -> each.job().job().id(), bills::costs));
    return new InvoicePreview(
        posting.preview(act, invoice), books.preview(InvoicePosting.event(invoice, costs)));
  }

  /** An invoice before it is posted, under the number that it would have now. */
  public record InvoicePreview(InvoiceDocument document, List<BooksStore.AccountLine> entry) {}

  private static void checkForm(Reading reading, InvoiceForm form) {
    List<InvoiceForm.BillForm> asked = form.asked();
    if (asked.isEmpty()) {
      reading.fault("jobs", Rule.MISSING, "Name a job to bill.");
    }
    if (asked.size() > MOST_JOBS) {
      reading.fault(
          "jobs",
          Rule.EXCEEDS_LIMIT,
          "At most %d jobs on one invoice. Bill the rest on another.".formatted(MOST_JOBS));
    }
    var seen = new HashSet<Long>();
    for (int i = 0; i < asked.size(); i++) {
      InvoiceForm.BillForm bill = asked.get(i);
      String field = "jobs/%d/".formatted(i);
      if (!seen.add(bill.jobId())) {
        reading.fault(
            field + "jobId",
            Rule.REPEATED,
            "This job is named twice. Bill one thing of it on an invoice.");
      }
      if (bill.kind() == null) {
        reading.fault(
            field + "kind", Rule.MISSING, "Say what to bill: a stage, some of the work, or all.");
      }
      if (bill.askedVisits().size() + bill.askedOtherCosts().size() > MOST_JOBS) {
        reading.fault(
            field + "visitIds",
            Rule.EXCEEDS_LIMIT,
            "At most %d visits and suppliers' bills at once.".formatted(MOST_JOBS));
      }
    }
    reading.refuseIfFaulty();
  }

  private InvoicePosting.ToPost read(
      Act act, InvoiceForm form, Map<Long, WholeJob> whole, Bills.Before before) {
    var reading = new Reading();
    for (InvoiceForm.BillForm bill : form.asked()) {
      WholeJob job = whole.get(bill.jobId());
      if (job == null) {
        throw VisitStore.unknownJob();
      }
      Versions.require(bill.version(), job.job().version());
    }
    long customer =
        Objects.requireNonNull(whole.get(form.asked().getFirst().jobId())).job().customerId();
    var made = new ArrayList<JobBill>();
    for (int i = 0; i < form.asked().size(); i++) {
      String field = "jobs/%d/".formatted(i);
      WholeJob job = Objects.requireNonNull(whole.get(form.asked().get(i).jobId()));
      if (job.job().customerId() != customer) {
        reading.fault(
            field + "jobId",
            Rule.OF_ANOTHER_CUSTOMER,
            "This job is of another customer. Bill it on an invoice of its own.");
      }
      if (job.job().state() == JobState.Code.CALLED_OFF) {
        throw new Refused(Rule.JOB_CLOSED, "Job %d is called off.".formatted(job.job().number()));
      }
      if (form.asked().get(i).kind() == Bill.Kind.FINAL
          && job.job().billingBasis() == BillingBasis.Code.NOT_CHARGED) {
        throw new Refused(
            Rule.NO_LINES,
            "Job %d is not charged. Choose another basis first, or close it without an invoice."
                .formatted(job.job().number()));
      }
      made.add(bills.asked(reading, field, job, form.asked().get(i), act.today(), before));
    }
    reading.refuseIfFaulty();
    return new InvoicePosting.ToPost(made);
  }
}
