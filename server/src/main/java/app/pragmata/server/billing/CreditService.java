package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.INVOICE_TEXT;

import app.pragmata.core.Category;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.ChargeLine;
import app.pragmata.core.billing.CreditKind;
import app.pragmata.core.billing.Creditable;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.CreditNoteRecord;
import app.pragmata.server.jobs.CostTaking;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.FrozenText;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.RepeatableRequests;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Credits what invoices charged wrongly; each credit note is one transaction. */
@Service
@Transactional
public class CreditService {
  private static final int LONGEST_REASON = 300;
  private static final int MOST_LINES = 500;

  private final DSLContext database;
  private final CreditStore credits;
  private final VisitStore visits;
  private final FrozenText texts;
  private final BooksStore books;
  private final ReceiptService receipts;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final RepeatableRequests repeats;
  private final Events events;

  CreditService(
      DSLContext database,
      CreditStore credits,
      VisitStore visits,
      FrozenText texts,
      BooksStore books,
      ReceiptService receipts,
      CompanyStore companies,
      NumberSeries numbers,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.credits = credits;
    this.visits = visits;
    this.texts = texts;
    this.books = books;
    this.receipts = receipts;
    this.companies = companies;
    this.numbers = numbers;
    this.repeats = repeats;
    this.events = events;
  }

  /** The invoice that is credited, as it was posted. */
  private record Posted(long id, long number, InvoiceDocument document) {}

  /** Posts a credit note for an invoice; gives its id. */
  public long credit(Act act, @Nullable String key, long invoiceId, CreditForm form) {
    return repeats.once(
        act, key, "credit invoice", invoiceId + " " + form, () -> credit(act, invoiceId, form));
  }

  private long credit(Act act, long invoiceId, CreditForm form) {
    var reading = new Reading();
    String reason = reading.text("reason", form.reason(), LONGEST_REASON);
    CreditKind kind = form.kind();
    if (kind == null) {
      reading.fault(
          "kind", Rule.MISSING, "Say whether the price is lowered or the work is taken back.");
    }
    if (form.asked().size() > MOST_LINES) {
      reading.fault("lines", Rule.EXCEEDS_LIMIT, "At most %d lines at once.".formatted(MOST_LINES));
    }
    reading.refuseIfFaulty();
    Posted posted = getPosted(invoiceId);
    Map<Long, Bill.Kind> kinds = credits.kinds(invoiceId);
    Map<Long, LockedJob> jobs = visits.lockJobs(kinds.keySet());
    // Read after the jobs are locked: whoever credits the same invoice waits for them.
    Creditable left = credits.creditable(invoiceId);
    List<Creditable.Line> named = named(reading, form, left, kinds);
    reading.refuseIfFaulty();
    Creditable.Credit credit =
        Objects.requireNonNull(kind) == CreditKind.PRICE
            ? price(reading, form, left, named, jobs, kinds)
            : workBack(form, left, named, jobs, kinds, posted);
    return post(
        act, new ToCredit(posted, form, Objects.requireNonNull(reason), named, credit, jobs));
  }

  private Posted getPosted(long id) {
    return database
        .select(INVOICE.NUMBER, INVOICE_TEXT.CONTENT)
        .from(INVOICE)
        .join(INVOICE_TEXT)
        .on(INVOICE_TEXT.INVOICE_ID.eq(INVOICE.ID))
        .where(INVOICE.ID.eq(id))
        .fetchOptional(
            row -> new Posted(id, row.value1(), texts.read(row.value2(), InvoiceDocument.class)))
        .orElseThrow(InvoicesApi::unknown);
  }

  /** The lines that are named, or all of the job that is, or all. */
  private static List<Creditable.Line> named(
      Reading reading, CreditForm form, Creditable left, Map<Long, Bill.Kind> kinds) {
    if (form.jobId() != null && !kinds.containsKey(form.jobId())) {
      reading.fault("jobId", Rule.NOT_FOUND, "The invoice does not charge this job.");
    }
    if (form.asked().isEmpty()) {
      return left.lines().stream()
          .filter(line -> form.jobId() == null || line.jobId() == form.jobId())
          .toList();
    }
    Map<Integer, Creditable.Line> byPosition =
        left.lines().stream().collect(Collectors.toMap(Creditable.Line::position, line -> line));
    var seen = new HashSet<Integer>();
    var named = new ArrayList<Creditable.Line>();
    for (int i = 0; i < form.asked().size(); i++) {
      String field = "lines/%d/position".formatted(i);
      int position = form.asked().get(i).position();
      Creditable.Line line = byPosition.get(position);
      if (line == null || (form.jobId() != null && line.jobId() != form.jobId())) {
        reading.fault(field, Rule.NOT_FOUND, "There is no such line to credit.");
      } else if (!seen.add(position)) {
        reading.fault(field, Rule.REPEATED, "This line is named twice. Name it once.");
      } else {
        named.add(line);
      }
    }
    return named;
  }

  private Creditable.Credit price(
      Reading reading,
      CreditForm form,
      Creditable left,
      List<Creditable.Line> named,
      Map<Long, LockedJob> jobs,
      Map<Long, Bill.Kind> kinds) {
    named.stream()
        .map(Creditable.Line::jobId)
        .filter(jobId -> kinds.get(jobId) == Bill.Kind.STAGE)
        .forEach(jobId -> requireNotTakenOff(Objects.requireNonNull(jobs.get(jobId))));
    if (form.asked().isEmpty()) {
      // A final invoice asks for less than its lines where some was billed before: what it gives
      // back of the price is what it asks for.
      return left.credit(left.price(named), List.of());
    }
    var less = new ArrayList<Creditable.Less>();
    for (int i = 0; i < form.asked().size(); i++) {
      Money amount =
          reading.optional(
              "lines/%d/amount".formatted(i),
              form.asked().get(i).amount(),
              companies.getCompany().typed()::money);
      Creditable.Line line = named.get(i);
      less.add(new Creditable.Less(line, amount == null ? line.left() : amount));
    }
    reading.refuseIfFaulty();
    return left.credit(less, List.of());
  }

  /** A stage that the final invoice took off is credited only once that is taken back. */
  private static void requireNotTakenOff(LockedJob job) {
    if (job.closed()) {
      throw new Refused(
          Rule.FINAL_INVOICE_STANDS,
          "The final invoice of job %d takes this stage off. Credit that one, or take its work back first."
              .formatted(job.number()));
    }
  }

  private static Creditable.Credit workBack(
      CreditForm form,
      Creditable left,
      List<Creditable.Line> named,
      Map<Long, LockedJob> jobs,
      Map<Long, Bill.Kind> kinds,
      Posted posted) {
    for (int i = 0; i < form.asked().size(); i++) {
      if (form.asked().get(i).amount() != null) {
        var reading = new Reading();
        reading.fault(
            "lines/%d/amount".formatted(i),
            Rule.EXCEEDS_LIMIT,
            "Work is taken back whole. Leave the amount out, or credit the price.");
        reading.refuseIfFaulty();
      }
    }
    Set<Long> jobIds =
        named.stream().map(Creditable.Line::jobId).collect(Collectors.toCollection(TreeSet::new));
    for (long jobId : jobIds) {
      requireToTakeBack(
          Objects.requireNonNull(jobs.get(jobId)),
          Objects.requireNonNull(kinds.get(jobId)),
          posted);
    }
    if (!form.asked().isEmpty()) {
      requireWholeWork(left, named);
    }
    List<Creditable.Off> given =
        left.deductions().stream().filter(off -> jobIds.contains(off.jobId())).toList();
    return left.credit(left.whole(named), given);
  }

  private static void requireToTakeBack(LockedJob job, Bill.Kind kind, Posted posted) {
    if (kind == Bill.Kind.STAGE) {
      throw new Refused(
          Rule.STAGE_BILLED,
          "Invoice %d charges a stage of job %d ahead of work: there is no work to take back. Credit its price."
              .formatted(posted.number(), job.number()));
    }
    if (job.closed() && !job.isClosedBy(posted.number())) {
      throw new Refused(
          Rule.FINAL_INVOICE_STANDS,
          "Job %d is closed by a later document. Take the work of its last invoice back first."
              .formatted(job.number()));
    }
  }

  /**
   * Visits and suppliers' bills go back with all of their lines, and promised lines all together.
   */
  private static void requireWholeWork(Creditable left, List<Creditable.Line> named) {
    record Work(long jobId, ChargeLine.Of of) {
      static Work of(Creditable.Line line) {
        return new Work(line.jobId(), line.of());
      }
    }
    Set<Work> works = named.stream().map(Work::of).collect(Collectors.toSet());
    List<Integer> missing =
        left.lines().stream()
            .filter(line -> works.contains(Work.of(line)) && !named.contains(line))
            .map(Creditable.Line::position)
            .toList();
    if (!missing.isEmpty()) {
      throw new Refused(
          Rule.MISSING,
          "The same work is charged on line %s as well. Name all of its lines, or credit the price of one."
              .formatted(missing.stream().map(String::valueOf).collect(Collectors.joining(", "))));
    }
  }

  /** A credit note that is to be posted. */
  private record ToCredit(
      Posted posted,
      CreditForm form,
      String reason,
      List<Creditable.Line> named,
      Creditable.Credit credit,
      Map<Long, LockedJob> jobs) {
    CreditKind kind() {
      return Objects.requireNonNull(form.kind());
    }

    /** The jobs of which something is credited. */
    Set<Long> jobIds() {
      return named.stream()
          .map(Creditable.Line::jobId)
          .collect(Collectors.toCollection(TreeSet::new));
    }

    LockedJob job(long id) {
      return Objects.requireNonNull(jobs.get(id));
    }

    Map<Long, Long> jobNumbers() {
      return jobs.values().stream().collect(Collectors.toMap(LockedJob::id, LockedJob::number));
    }
  }

  private long post(Act act, ToCredit toCredit) {
    Creditable.Credit credit = toCredit.credit();
    long number = numbers.next(NumberSeries.Series.CREDIT_NOTE);
    CreditDocument document =
        CreditDocument.of(
            companies.getCompany(),
            number,
            act.today(),
            toCredit.kind(),
            toCredit.reason(),
            toCredit.posted().document(),
            credit,
            toCredit.jobNumbers());
    long id = credits.insert(row(act, number, toCredit), credit, texts.freeze(document));
    boolean closing =
        toCredit.jobIds().stream()
            .anyMatch(jobId -> toCredit.job(jobId).isClosedBy(toCredit.posted().number()));
    Map<Long, Map<Category, Money>> costs = giveCostsBack(act, toCredit);
    // Work whose price is credited already can still be taken back, but only once.
    boolean worked = closing || costs.values().stream().anyMatch(taken -> !taken.isEmpty());
    if (credit.isEmpty() && !(toCredit.kind() == CreditKind.WORK_TAKEN_BACK && worked)) {
      throw new Refused(Rule.NOTHING_LEFT, "Nothing of it is left to credit.");
    }
    books.post(
        act,
        new BooksEvent.CreditPosted(
            new BooksEvent.InvoicePosted(
                credit.gross(),
                credit.vatAmount(),
                toCredit.jobIds().stream()
                    .map(
                        jobId ->
                            new BooksEvent.Charged(
                                toCredit.job(jobId).costObject(),
                                credit.netByCategory(jobId),
                                costs.getOrDefault(jobId, Map.of()),
                                credit.ahead(jobId),
                                credit.given(jobId)))
                    .toList())),
        new BooksStore.Source(
            RecordKind.CREDIT_NOTE,
            id,
            number,
            "credit note %d for invoice %d".formatted(number, toCredit.posted().number())));
    receipts.credit(act, toCredit.posted().id(), toCredit.form().version(), credit.gross());
    tell(act, id, document, toCredit);
    return id;
  }

  private static CreditNoteRecord row(Act act, long number, ToCredit toCredit) {
    var row = new CreditNoteRecord();
    row.setNumber(number);
    row.setInvoiceId(toCredit.posted().id());
    row.setKind(toCredit.kind());
    row.setReason(toCredit.reason());
    row.setCreditDate(act.today());
    row.setNetMinor(toCredit.credit().net().minor());
    row.setVatMinor(toCredit.credit().vatAmount().minor());
    row.setGrossMinor(toCredit.credit().gross().minor());
    row.setPostedAt(act.at());
    row.setPostedBy(act.personId());
    return row;
  }

  /**
   * Work that is taken back is work in progress again; a lower price leaves its cost where it is.
   */
  private Map<Long, Map<Category, Money>> giveCostsBack(Act act, ToCredit toCredit) {
    if (toCredit.kind() == CreditKind.PRICE) {
      visits.touchJobs(act, toCredit.jobIds().stream().map(toCredit::job).toList());
      return Map.of();
    }
    var costs = new TreeMap<Long, Map<Category, Money>>();
    for (long jobId : toCredit.jobIds()) {
      costs.put(
          jobId,
          visits.giveCostBack(
              act,
              toCredit.job(jobId),
              toCredit.posted().number(),
              some(toCredit, jobId),
              toCredit.reason()));
    }
    return costs;
  }

  /** What of the job's work goes back; null for all. */
  private static CostTaking.@Nullable Some some(ToCredit toCredit, long jobId) {
    List<ChargeLine.Of> taken =
        toCredit.named().stream()
            .filter(line -> line.jobId() == jobId)
            .map(Creditable.Line::of)
            .toList();
    boolean all =
        toCredit.form().asked().isEmpty()
            || taken.stream().anyMatch(of -> of instanceof ChargeLine.Of.Promise);
    if (all) {
      return null;
    }
    var visitIds = new HashSet<Long>();
    var otherCostIds = new HashSet<Long>();
    for (ChargeLine.Of of : taken) {
      switch (of) {
        case ChargeLine.Of.Visit visit -> visitIds.add(visit.id());
        case ChargeLine.Of.OtherCost other -> otherCostIds.add(other.id());
        case ChargeLine.Of.Promise promise -> {}
        case ChargeLine.Of.Stage stage -> {}
      }
    }
    return new CostTaking.Some(visitIds, otherCostIds);
  }

  private void tell(Act act, long id, CreditDocument document, ToCredit toCredit) {
    for (long jobId : toCredit.jobIds()) {
      events.tell(
          act,
          BillingEvent.CREDIT_POSTED,
          id,
          About.partOf(jobId)
              .why(toCredit.reason())
              .with(
                  Map.of(),
                  Map.of(
                      "number", document.number(),
                      "invoiceNumber", document.invoiceNumber(),
                      "grossMinor", document.grossMinor())));
    }
    // Whoever follows the invoice is told as well.
    events.tell(act, BillingEvent.INVOICE_CREDITED, toCredit.posted().id(), About.NOTHING);
  }
}
