package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.CUSTOMER;

import app.pragmata.core.Category;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.InvoiceDraft;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.CustomerRecord;
import app.pragmata.server.generated.tables.records.InvoiceRecord;
import app.pragmata.server.jobs.CostTaking;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.receipts.ReceivableStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.FrozenText;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RecordKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * Posts invoices inside the caller's transaction, any number in the same few statements; one is a
 * list of one.
 */
@Component
public class InvoicePosting {
  /**
   * An invoice that is to be posted.
   *
   * @param bills of different jobs of one customer
   */
  record ToPost(List<JobBill> bills) {
    ToPost {
      bills = List.copyOf(bills);
    }

    InvoiceDraft draft() {
      return new InvoiceDraft(bills.stream().map(JobBill::bill).toList());
    }

    long customerId() {
      return bills.getFirst().job().job().customerId();
    }
  }

  /** An invoice that was posted. */
  public record Posted(long id, long number) {}

  private final DSLContext database;
  private final InvoiceStore invoices;
  private final VisitStore visits;
  private final FrozenText texts;
  private final BooksStore books;
  private final ReceiptService receipts;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final Events events;

  InvoicePosting(
      DSLContext database,
      InvoiceStore invoices,
      VisitStore visits,
      FrozenText texts,
      BooksStore books,
      ReceiptService receipts,
      CompanyStore companies,
      NumberSeries numbers,
      Events events) {
    this.database = database;
    this.invoices = invoices;
    this.visits = visits;
    this.texts = texts;
    this.books = books;
    this.receipts = receipts;
    this.companies = companies;
    this.numbers = numbers;
    this.events = events;
  }

  /**
   * Posts them in this order, under numbers in a row.
   *
   * @param locked their jobs by id
   */
  List<Posted> post(Act act, List<ToPost> toPost, Map<Long, LockedJob> locked) {
    if (toPost.isEmpty()) {
      return List.of();
    }
    toPost.forEach(InvoicePosting::requireCharge);
    List<InvoiceDocument> documents =
        documents(act, toPost, numbers.nextBlock(NumberSeries.Series.INVOICE, toPost.size()));
    List<InvoiceRecord> rows = new ArrayList<>();
    for (int i = 0; i < toPost.size(); i++) {
      rows.add(row(act, toPost.get(i), documents.get(i)));
    }
    List<Long> ids = invoices.insert(rows, toPost, documents.stream().map(texts::freeze).toList());
    Map<Long, Map<Category, Money>> costs = takeCosts(act, toPost, documents, locked);
    var entries = new ArrayList<BooksStore.Dated>();
    var owed = new ArrayList<ReceivableStore.Owed>();
    for (int i = 0; i < toPost.size(); i++) {
      entries.add(entry(act, ids.get(i), documents.get(i), toPost.get(i), costs));
      owed.add(owed(ids.get(i), documents.get(i), toPost.get(i)));
      tell(act, ids.get(i), documents.get(i), toPost.get(i));
    }
    books.post(act, entries);
    receipts.owe(act, owed);
    return ids.stream().map(id -> new Posted(id, documents.get(ids.indexOf(id)).number())).toList();
  }

  private static void requireCharge(ToPost invoice) {
    boolean ahead = invoice.bills().stream().anyMatch(each -> each.bill().deducted().isPositive());
    if (invoice.draft().vat().gross().isZero() && !ahead) {
      throw new Refused(
          Rule.NO_LINES, "Nothing is charged on this basis. Choose “not charged” with a reason.");
    }
  }

  /** The document under the number that it would have now. */
  InvoiceDocument preview(Act act, ToPost invoice) {
    return documents(act, List.of(invoice), numbers.expected(NumberSeries.Series.INVOICE))
        .getFirst();
  }

  /** What the entry would be, with the costs that would be taken. */
  static BooksEvent.InvoicePosted event(
      ToPost invoice, Map<Long, Map<Category, Money>> costsByJob) {
    VatBreakdown vat = invoice.draft().vat();
    return new BooksEvent.InvoicePosted(
        vat.gross(),
        vat.vat(),
        invoice.bills().stream()
            .map(
                each ->
                    each.charged(
                        each.takesCost()
                            ? costsByJob.getOrDefault(each.job().job().id(), Map.of())
                            : Map.of()))
            .toList());
  }

  private List<InvoiceDocument> documents(Act act, List<ToPost> toPost, long firstNumber) {
    Company company = companies.getCompany();
    Map<Long, CustomerRecord> customers =
        database
            .selectFrom(CUSTOMER)
            .where(CUSTOMER.ID.in(toPost.stream().map(ToPost::customerId).distinct().toList()))
            .fetchMap(CUSTOMER.ID);
    var documents = new ArrayList<InvoiceDocument>();
    for (ToPost invoice : toPost) {
      CustomerRecord customer = Objects.requireNonNull(customers.get(invoice.customerId()));
      invoice.draft().vat().requireOneScope("invoice");
      invoice.draft().vat().requireVatNumber(customer.getVatNumber());
      documents.add(
          InvoiceDocument.of(
              company, firstNumber + documents.size(), act.today(), customer, invoice));
    }
    return documents;
  }

  private static InvoiceRecord row(Act act, ToPost invoice, InvoiceDocument document) {
    var row = new InvoiceRecord();
    row.setNumber(document.number());
    row.setCustomerId(invoice.customerId());
    row.setInvoiceDate(document.invoiceDate());
    row.setDueDate(document.dueDate());
    row.setNetMinor(document.netMinor());
    row.setVatMinor(document.vatMinor());
    row.setGrossMinor(document.grossMinor());
    row.setPostedAt(act.at());
    row.setPostedBy(act.personId());
    return row;
  }

  private Map<Long, Map<Category, Money>> takeCosts(
      Act act, List<ToPost> toPost, List<InvoiceDocument> documents, Map<Long, LockedJob> locked) {
    var takings = new ArrayList<CostTaking>();
    var ahead = new ArrayList<LockedJob>();
    for (int i = 0; i < toPost.size(); i++) {
      var closing = new Closing(Closing.Kind.INVOICE, documents.get(i).number(), act.at());
      for (JobBill bill : toPost.get(i).bills()) {
        LockedJob job = Objects.requireNonNull(locked.get(bill.job().job().id()));
        if (bill.takesCost()) {
          takings.add(new CostTaking(job, closing, bill.some(), ""));
        } else {
          ahead.add(job);
        }
      }
    }
    visits.touchJobs(act, ahead);
    return visits.take(act, takings);
  }

  private static BooksStore.Dated entry(
      Act act,
      long id,
      InvoiceDocument document,
      ToPost invoice,
      Map<Long, Map<Category, Money>> costs) {
    return new BooksStore.Dated(
        event(invoice, costs),
        new BooksStore.Source(
            RecordKind.INVOICE,
            id,
            document.number(),
            "%s: invoice %d".formatted(jobs(document), document.number())),
        act.today());
  }

  private static String jobs(InvoiceDocument document) {
    return document.jobs().stream()
        .map(job -> "J " + job.number())
        .collect(Collectors.joining(", "));
  }

  private static ReceivableStore.Owed owed(long id, InvoiceDocument document, ToPost invoice) {
    return new ReceivableStore.Owed(
        id,
        invoice.customerId(),
        document.number(),
        document.invoiceDate(),
        document.dueDate(),
        Money.ofMinor(document.grossMinor()),
        invoice.bills().stream()
            .map(
                each ->
                    new ReceivableStore.OfJob(
                        each.job().job().id(), each.bill().kind() == Bill.Kind.STAGE))
            .toList());
  }

  private void tell(Act act, long id, InvoiceDocument document, ToPost invoice) {
    for (JobBill bill : invoice.bills()) {
      events.tell(
          act,
          BillingEvent.INVOICE_POSTED,
          id,
          About.partOf(bill.job().job().id())
              .with(
                  Map.of(),
                  Map.of(
                      "number", document.number(),
                      "kind", bill.bill().kind().code(),
                      "netMinor", document.netMinor(),
                      "grossMinor", document.grossMinor())));
    }
  }
}
