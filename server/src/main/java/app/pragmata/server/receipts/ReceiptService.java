package app.pragmata.server.receipts;

import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.RECEIPT_ALLOCATION;
import static app.pragmata.server.generated.Tables.REFUND;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.money.Money;
import app.pragmata.core.receipts.Allocation;
import app.pragmata.core.receipts.Debt;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.books.MoneyIn;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.ReceiptAllocationRecord;
import app.pragmata.server.generated.tables.records.ReceiptRecord;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Customers' money from its coming in to where it went. What came is never refused: what pays no
 * invoice is the customer's on account. Each step posts and is one transaction.
 */
@Service
@Transactional
public class ReceiptService {
  private static final int LONGEST_REASON = 300;

  private final DSLContext database;
  private final ReceivableStore receivables;
  private final ReceiptStore receipts;
  private final VisitStore visits;
  private final BooksStore books;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final RepeatableRequests repeats;
  private final Events events;

  ReceiptService(
      DSLContext database,
      ReceivableStore receivables,
      ReceiptStore receipts,
      VisitStore visits,
      BooksStore books,
      CompanyStore companies,
      NumberSeries numbers,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.receivables = receivables;
    this.receipts = receipts;
    this.visits = visits;
    this.books = books;
    this.companies = companies;
    this.numbers = numbers;
    this.repeats = repeats;
    this.events = events;
  }

  /** Money as somebody saw it come in; gives the receipt's id. */
  public long receive(Act act, @Nullable String key, ReceiptForm form) {
    return repeats.once(
        act,
        key,
        "receive money",
        form,
        () -> {
          var reading = new Reading();
          MoneyIn money =
              MoneyIn.read(
                  reading,
                  act,
                  companies.getCompany().typed(),
                  form.amount(),
                  form.receivedOn(),
                  form.method());
          if (money != null && money.amount().isZero()) {
            reading.fault("amount", Rule.MISSING, "Enter how much came in.");
          }
          AskedAllocations.check(reading, form.asked());
          if (form.quoteId() != null && form.jobId() != null) {
            reading.fault(
                "jobId", Rule.REPEATED, "Money is meant for a quote or for a job. Leave one out.");
          }
          reading.refuseIfFaulty();
          return receive(act, form, Objects.requireNonNull(money));
        });
  }

  private long receive(Act act, ReceiptForm form, MoneyIn money) {
    Purpose purpose = lock(form);
    var reading = new Reading();
    long customerId = customerOf(form, purpose);
    requireOfCustomer(reading, form, purpose, customerId);
    List<Allocation> asked =
        AskedAllocations.read(
            reading,
            form.asked(),
            purpose.debts(),
            customerId,
            money.amount(),
            companies.getCompany().typed());
    reading.refuseIfFaulty();
    return insert(act, customerId, form.quoteId(), form.jobId(), null, money, asked, purpose);
  }

  /**
   * What money is meant for, locked: the jobs first, then what is owed.
   *
   * @param jobs by id: those for which it is earmarked, and those of the invoices that it may pay
   * @param debts the invoices that it may pay, by id
   * @param earmarked those of them that take what is not asked to go elsewhere
   */
  private record Purpose(
      Map<Long, LockedJob> jobs,
      Map<Long, ReceivableStore.Locked> debts,
      Set<Long> earmarked,
      Set<Long> ofJobs,
      @Nullable Long quoteCustomerId) {

    List<Debt> earmarkedDebts() {
      return earmarked.stream().map(id -> Objects.requireNonNull(debts.get(id)).debt()).toList();
    }

    Stream<Long> customers() {
      return Stream.concat(
          Stream.concat(
              Stream.ofNullable(quoteCustomerId),
              ofJobs.stream().map(id -> Objects.requireNonNull(jobs.get(id)).customerId())),
          debts.values().stream().map(ReceivableStore.Locked::customerId));
    }
  }

  private Purpose lock(ReceiptForm form) {
    Long jobId = form.jobId();
    Long quoteCustomerId = null;
    if (form.quoteId() != null) {
      quoteCustomerId =
          receipts
              .findCustomerOfQuote(form.quoteId())
              .orElseThrow(
                  () -> new Refused(Rule.NOT_FOUND, "This quote does not exist. Reload the page."));
      jobId = receipts.findJobOfQuote(form.quoteId()).orElse(null);
    }
    return lock(
        jobId == null ? List.of() : List.of(jobId),
        quoteCustomerId,
        form.asked().stream().map(ReceiptForm.AllocationForm::invoiceId).toList());
  }

  private Purpose lock(
      Collection<Long> ofJobs, @Nullable Long quoteCustomerId, Collection<Long> invoiceIds) {
    Set<Long> earmarked = new LinkedHashSet<>();
    receivables.invoicesOf(ofJobs).values().forEach(earmarked::addAll);
    var all = new LinkedHashSet<>(invoiceIds);
    all.addAll(earmarked);
    var jobIds = new LinkedHashSet<>(ofJobs);
    receivables.jobsOf(all).values().forEach(jobIds::addAll);
    Map<Long, LockedJob> jobs = jobIds.isEmpty() ? Map.of() : visits.lockJobs(jobIds);
    if (!jobs.keySet().containsAll(ofJobs)) {
      throw new Refused(
          Rule.NOT_FOUND, "This job does not exist. Find the right one with / and its number.");
    }
    return new Purpose(
        jobs, receivables.lock(all), Set.copyOf(earmarked), Set.copyOf(ofJobs), quoteCustomerId);
  }

  private static long customerOf(ReceiptForm form, Purpose purpose) {
    Long customerId =
        form.customerId() == null
            ? purpose.customers().findFirst().orElse(null)
            : form.customerId();
    if (customerId == null) {
      var reading = new Reading();
      reading.fault(
          "customerId", Rule.MISSING, "Say whose money it is, or name an invoice that it pays.");
      reading.refuseIfFaulty();
    }
    return Objects.requireNonNull(customerId);
  }

  private void requireOfCustomer(
      Reading reading, ReceiptForm form, Purpose purpose, long customerId) {
    if (form.customerId() != null && !receipts.isCustomer(customerId)) {
      throw new Refused(
          Rule.NOT_FOUND, "This customer does not exist. Find the right one with / and the name.");
    }
    if (form.jobId() != null
        && Objects.requireNonNull(purpose.jobs().get(form.jobId())).customerId() != customerId) {
      reading.fault(
          "jobId",
          Rule.OF_ANOTHER_CUSTOMER,
          "This job is of another customer. Choose one of theirs.");
    }
    if (purpose.quoteCustomerId() != null && purpose.quoteCustomerId() != customerId) {
      reading.fault(
          "quoteId",
          Rule.OF_ANOTHER_CUSTOMER,
          "This quote is of another customer. Choose one of theirs.");
    }
  }

  /**
   * Takes in what a card payment for a quote or a job brought, of which one is null; its receipt is
   * made once. Gives its id.
   */
  long receiveByCard(
      Act act, @Nullable Long quoteId, @Nullable Long jobId, Money amount, long cardPaymentId) {
    var form = new ReceiptForm(null, null, null, null, quoteId, jobId, null);
    Purpose purpose = lock(form);
    return insert(
        act,
        customerOf(form, purpose),
        quoteId,
        jobId,
        cardPaymentId,
        new MoneyIn(amount, act.today(), PaymentMethod.CARD),
        List.of(),
        purpose);
  }

  private long insert(
      Act act,
      long customerId,
      @Nullable Long quoteId,
      @Nullable Long jobId,
      @Nullable Long cardPaymentId,
      MoneyIn money,
      List<Allocation> asked,
      Purpose purpose) {
    var allocations = new ArrayList<>(asked);
    allocations.addAll(
        Allocation.oldestFirst(
            money.amount().minus(Allocation.sum(asked)),
            Allocation.after(asked, purpose.earmarkedDebts())));
    ReceiptRecord receipt = database.newRecord(RECEIPT);
    receipt.setNumber(numbers.next(NumberSeries.Series.RECEIPT));
    receipt.setCustomerId(customerId);
    receipt.setReceivedOn(money.day());
    receipt.setAmountMinor(money.amount().minor());
    receipt.setLeftMinor(money.amount().minor());
    receipt.setMethod(money.method());
    receipt.setQuoteId(quoteId);
    receipt.setJobId(jobId);
    receipt.setCardPaymentId(cardPaymentId);
    receipt.setEnteredAt(act.at());
    events.store(act, ReceiptEvent.MONEY_RECEIVED, receipt);
    List<Allocation> atOnce =
        allocations.stream().filter(each -> each.day(money.day()).equals(money.day())).toList();
    books.post(
        act,
        List.of(
            new BooksStore.Dated(
                new BooksEvent.MoneyReceived(money.amount(), Allocation.sum(atOnce)),
                source(receipt, description(receipt, atOnce, purpose.debts())),
                money.day())));
    allocate(act, paying(receipt, allocations, money.day()), purpose.jobs().values());
    // What was paid before its invoice was posted goes to it on the invoice's day.
    allocations.stream()
        .filter(each -> !atOnce.contains(each))
        .forEach(each -> postAllocation(act, receipt, each, each.invoiceDate(), purpose.debts()));
    return receipt.getId();
  }

  private static String description(
      ReceiptRecord receipt, List<Allocation> atOnce, Map<Long, ReceivableStore.Locked> debts) {
    if (atOnce.isEmpty()) {
      boolean earmarked = receipt.getQuoteId() != null || receipt.getJobId() != null;
      return "receipt %d, %s".formatted(receipt.getNumber(), earmarked ? "deposit" : "on account");
    }
    return "receipt %d for invoice %s"
        .formatted(
            receipt.getNumber(),
            atOnce.stream()
                .map(each -> Objects.requireNonNull(debts.get(each.invoiceId())).number())
                .map(String::valueOf)
                .collect(Collectors.joining(", ")));
  }

  /** Money of a receipt that pays an invoice from a day on. */
  private record Paying(ReceiptRecord receipt, Allocation allocation, LocalDate day) {}

  private static List<Paying> paying(
      ReceiptRecord receipt, List<Allocation> allocations, LocalDate notBefore) {
    return allocations.stream()
        .map(each -> new Paying(receipt, each, each.day(notBefore)))
        .toList();
  }

  /** In the same few statements for any number; the jobs are told that their money moved. */
  private void allocate(Act act, List<Paying> paying, Collection<LockedJob> jobs) {
    receipts.insertAllocations(
        paying.stream()
            .map(
                each ->
                    ReceiptStore.allocation(
                        each.receipt().getId(),
                        each.allocation().invoiceId(),
                        each.allocation().amount(),
                        each.day()))
            .toList());
    Map<Long, Money> paid =
        paying.stream()
            .map(Paying::allocation)
            .collect(
                Collectors.groupingBy(
                    Allocation::invoiceId, Collectors.mapping(Allocation::amount, Money.sum())));
    receivables.pay(paid);
    Map<Long, List<Long>> jobIds = receivables.jobsOf(paid.keySet());
    for (Paying each : paying) {
      tell(
          act,
          ReceiptEvent.MONEY_ALLOCATED,
          each.allocation().invoiceId(),
          jobIds,
          each.receipt().getNumber(),
          each.allocation().amount());
    }
    visits.touchJobs(act, jobs);
  }

  private void tell(
      Act act,
      ReceiptEvent event,
      long invoiceId,
      Map<Long, List<Long>> jobIds,
      long receiptNumber,
      Money amount) {
    for (long jobId : jobIds.getOrDefault(invoiceId, List.of())) {
      events.tell(
          act,
          event,
          invoiceId,
          About.partOf(jobId)
              .with(
                  Map.of(), Map.of("receiptNumber", receiptNumber, "amountMinor", amount.minor())));
    }
  }

  private void postAllocation(
      Act act,
      ReceiptRecord receipt,
      Allocation allocation,
      LocalDate day,
      Map<Long, ReceivableStore.Locked> debts) {
    long invoice = Objects.requireNonNull(debts.get(allocation.invoiceId())).number();
    books.post(
        act,
        List.of(
            new BooksStore.Dated(
                new BooksEvent.MoneyAllocated(allocation.amount()),
                source(
                    receipt, "receipt %d onto invoice %d".formatted(receipt.getNumber(), invoice)),
                day)));
  }

  private static BooksStore.Source source(ReceiptRecord receipt, String what) {
    return new BooksStore.Source(RecordKind.RECEIPT, receipt.getId(), receipt.getNumber(), what);
  }

  /**
   * Keeps what invoices that were just posted ask for; money that was earmarked for their jobs goes
   * to those jobs' invoices at once, the oldest first. Any number takes the same few statements.
   */
  public void owe(Act act, List<ReceivableStore.Owed> owed) {
    receivables.insert(owed);
    Set<Long> charged =
        owed.stream()
            .flatMap(each -> each.jobs().stream())
            .map(ReceivableStore.OfJob::jobId)
            .collect(Collectors.toSet());
    Map<Long, List<Long>> held = receipts.listHeldReceipts(charged);
    if (held.isEmpty()) {
      return;
    }
    Map<Long, List<Long>> invoices = receivables.invoicesOf(held.keySet());
    Purpose purpose = lock(held.keySet(), null, List.of());
    Map<Long, ReceiptRecord> money =
        lockReceipts(held.values().stream().flatMap(List::stream).toList());
    Map<Long, Debt> owing = new HashMap<>();
    purpose.debts().forEach((invoice, debt) -> owing.put(invoice, debt.debt()));
    var paying = new ArrayList<Paying>();
    for (long jobId : new TreeSet<>(held.keySet())) {
      List<Long> ofJob = invoices.getOrDefault(jobId, List.of());
      for (long receiptId : Objects.requireNonNull(held.get(jobId))) {
        ReceiptRecord receipt = Objects.requireNonNull(money.get(receiptId));
        List<Debt> debts = ofJob.stream().map(owing::get).map(Objects::requireNonNull).toList();
        List<Allocation> allocations =
            Allocation.oldestFirst(Money.ofMinor(receipt.getLeftMinor()), debts);
        Allocation.after(allocations, debts).forEach(debt -> owing.put(debt.invoiceId(), debt));
        paying.addAll(paying(receipt, allocations, act.today()));
      }
    }
    allocateLater(act, paying, purpose);
  }

  /**
   * Some of an invoice is not asked for after all. What was paid beyond what is left of it is money
   * of its receipts again, of the latest first.
   *
   * @param version of what is owed
   * @param amount with VAT; never above what of the invoice is not credited yet
   */
  public void credit(Act act, long invoiceId, int version, Money amount) {
    ReceivableStore.Locked debt = receivables.lock(List.of(invoiceId)).get(invoiceId);
    if (debt == null) {
      throw ReceivableStore.unknown();
    }
    Versions.require(version, debt.version());
    Money beyond = amount.minus(debt.debt().owed());
    Money freed = beyond.isPositive() ? beyond : Money.ZERO;
    receivables.credit(invoiceId, amount, freed);
    free(act, invoiceId, freed);
  }

  private void free(Act act, long invoiceId, Money freed) {
    Money left = freed;
    for (ReceiptView.Allocated allocation : receipts.listAllocations(invoiceId).reversed()) {
      if (!left.isPositive()) {
        return;
      }
      Money paid = Money.ofMinor(allocation.amountMinor());
      Money off = left.compareTo(paid) > 0 ? paid : left;
      ReceiptRecord receipt = lockReceipt(receipts.getReceiptOf(allocation.id()));
      LocalDate day = takeOff(receipt, allocation, act.today());
      if (off.compareTo(paid) < 0) {
        receipts.insertAllocations(
            List.of(
                ReceiptStore.allocation(
                    receipt.getId(), invoiceId, paid.minus(off), allocation.allocatedOn())));
      }
      postTakenOff(act, receipt, allocation, off, day);
      events.touch(act, ReceiptEvent.MONEY_RECEIVED, receipt);
      left = left.minus(off);
    }
  }

  private void allocateLater(Act act, List<Paying> paying, Purpose purpose) {
    allocate(act, paying, purpose.jobs().values());
    paying.forEach(
        each ->
            postAllocation(act, each.receipt(), each.allocation(), act.today(), purpose.debts()));
    // Whoever looks at the receipt, or is about to take it back, sees that it has moved on.
    events.touchAll(
        act, ReceiptEvent.MONEY_RECEIVED, paying.stream().map(Paying::receipt).distinct().toList());
  }

  /** Lets what is left of a receipt pay further invoices of its customer. */
  public void allocate(
      Act act, @Nullable String key, long receiptId, ReceiptForm.FurtherAllocations form) {
    repeats.once(
        act,
        key,
        "allocate receipt",
        receiptId + " " + form,
        receiptId,
        () -> {
          List<ReceiptForm.AllocationForm> asked =
              form.allocations() == null ? List.of() : form.allocations();
          var reading = new Reading();
          AskedAllocations.check(reading, asked);
          if (asked.isEmpty()) {
            reading.fault("allocations", Rule.MISSING, "Name an invoice that the money pays.");
          }
          reading.refuseIfFaulty();
          Purpose purpose =
              lock(
                  jobsOf(receipts.get(receiptId)),
                  null,
                  asked.stream().map(ReceiptForm.AllocationForm::invoiceId).toList());
          ReceiptRecord receipt = lockReceipt(receiptId, form.version());
          List<Allocation> allocations =
              AskedAllocations.read(
                  reading,
                  asked,
                  purpose.debts(),
                  receipt.getCustomerId(),
                  requireLeft(receipt),
                  companies.getCompany().typed());
          reading.refuseIfFaulty();
          allocateLater(act, paying(receipt, allocations, act.today()), purpose);
        });
  }

  /** These receipts by id, locked in one order; those that there are. */
  private Map<Long, ReceiptRecord> lockReceipts(Collection<Long> ids) {
    return database
        .selectFrom(RECEIPT)
        .where(RECEIPT.ID.in(ids))
        .orderBy(RECEIPT.ID)
        .forUpdate()
        .fetchMap(RECEIPT.ID);
  }

  private ReceiptRecord lockReceipt(long id) {
    ReceiptRecord receipt = lockReceipts(List.of(id)).get(id);
    if (receipt == null) {
      throw ReceiptStore.unknown();
    }
    return receipt;
  }

  private ReceiptRecord lockReceipt(long id, int version) {
    ReceiptRecord receipt = lockReceipt(id);
    Versions.require(version, receipt.getVersion());
    if (receipt.getTakenBackOn() != null) {
      throw new Refused(
          Rule.RECEIPT_TAKEN_BACK,
          "Receipt %d was taken back: there is no money of it.".formatted(receipt.getNumber()));
    }
    return receipt;
  }

  private Money requireLeft(ReceiptRecord receipt) {
    Money left = receipts.left(receipt.getId());
    if (!left.isPositive()) {
      throw new Refused(
          Rule.NOTHING_LEFT,
          "Nothing of receipt %d is left: all of it went to invoices or back."
              .formatted(receipt.getNumber()));
    }
    return left;
  }

  /** Gives money back that is left of a receipt. */
  public void giveBack(Act act, @Nullable String key, long receiptId, ReceiptForm.GivingBack form) {
    repeats.once(
        act,
        key,
        "give money back",
        receiptId + " " + form,
        receiptId,
        () -> {
          Purpose purpose = lockAllOf(receiptId);
          ReceiptRecord receipt = lockReceipt(receiptId, form.version());
          Money left = requireLeft(receipt);
          var reading = new Reading();
          Money typed =
              reading.optional("amount", form.amount(), companies.getCompany().typed()::money);
          Money amount = typed == null ? left : typed;
          if (amount.compareTo(left) > 0) {
            reading.fault(
                "amount",
                Rule.MORE_THAN_LEFT,
                "Only %s of this receipt is left. Check the amount.".formatted(left));
          } else if (amount.isZero()) {
            reading.fault("amount", Rule.MISSING, "Enter how much went back.");
          }
          LocalDate day = readDay(reading, act, receipt, "givenBackOn", form.givenBackOn());
          reading.refuseIfFaulty();
          database
              .insertInto(REFUND)
              .set(REFUND.RECEIPT_ID, receiptId)
              .set(REFUND.AMOUNT_MINOR, amount.minor())
              .set(REFUND.REFUNDED_ON, day)
              .execute();
          books.post(
              act,
              List.of(
                  new BooksStore.Dated(
                      new BooksEvent.MoneyGivenBack(amount),
                      source(receipt, "receipt %d given back".formatted(receipt.getNumber())),
                      day)));
          events.store(
              act,
              ReceiptEvent.MONEY_GIVEN_BACK,
              receipt,
              About.NOTHING.with(Map.of(), Map.of("givenBackMinor", amount.minor())));
          purpose.jobs().values().forEach(job -> visits.touchJob(act, job));
        });
  }

  /** What a receipt has to do with, locked before the receipt itself. */
  private Purpose lockAllOf(long receiptId) {
    ReceiptView receipt = receipts.get(receiptId);
    return lock(
        jobsOf(receipt),
        null,
        receipt.allocations().stream().map(ReceiptView.Allocated::invoiceId).toList());
  }

  /** The job that a receipt is earmarked for, by itself or by its quote; none where it is not. */
  private List<Long> jobsOf(ReceiptView receipt) {
    Long jobId =
        receipt.quoteId() == null
            ? receipt.jobId()
            : receipts.findJobOfQuote(receipt.quoteId()).orElse(null);
    return jobId == null ? List.of() : List.of(jobId);
  }

  private static LocalDate readDay(
      Reading reading, Act act, ReceiptRecord receipt, String field, @Nullable String typed) {
    LocalDate day = reading.optional(field, typed, text -> Day.parsePast(text, act.today()));
    if (day == null) {
      return act.today();
    }
    if (day.isBefore(receipt.getReceivedOn())) {
      reading.fault(
          field,
          Rule.BEFORE_THE_RECEIPT,
          "That is before the money came. Enter that day or a later one.");
    } else if (day.isAfter(act.today())) {
      reading.fault(field, Rule.IN_THE_FUTURE, "This day has not come yet.");
    }
    return day;
  }

  /** The money did not come after all: its invoices are owed again, and it is no receipt. */
  public void takeBack(Act act, @Nullable String key, long receiptId, ReceiptForm.TakingBack form) {
    repeats.once(
        act,
        key,
        "take receipt back",
        receiptId + " " + form,
        receiptId,
        () -> {
          Purpose purpose = lockAllOf(receiptId);
          ReceiptRecord receipt = lockReceipt(receiptId, form.version());
          var reading = new Reading();
          String reason = reading.text("reason", form.reason(), LONGEST_REASON);
          LocalDate day = readDay(reading, act, receipt, "takenBackOn", form.takenBackOn());
          reading.refuseIfFaulty();
          ReceiptView shown = receipts.get(receiptId);
          if (!shown.givenBack().isEmpty()) {
            throw new Refused(
                Rule.MONEY_GIVEN_BACK,
                "Some of receipt %d was given back already. It cannot be taken back as a whole."
                    .formatted(receipt.getNumber()));
          }
          shown.allocations().forEach(allocation -> takeBack(act, receipt, allocation, day));
          receipt.setTakenBackOn(day);
          receipt.setTakenBackReason(reason);
          events.store(act, ReceiptEvent.RECEIPT_TAKEN_BACK, receipt, About.because(reason));
          books.post(
              act,
              List.of(
                  new BooksStore.Dated(
                      new BooksEvent.ReceiptTakenBack(Money.ofMinor(receipt.getAmountMinor())),
                      source(receipt, "receipt %d taken back".formatted(receipt.getNumber())),
                      day)));
          purpose.jobs().values().forEach(job -> visits.touchJob(act, job));
        });
  }

  /** Lets an invoice owe again what a receipt paid of it; the money is left of the receipt. */
  public void takeAllocationBack(
      Act act, @Nullable String key, long receiptId, long allocationId, int version) {
    repeats.once(
        act,
        key,
        "take allocation back",
        allocationId + " " + version,
        receiptId,
        () -> {
          Purpose purpose = lockAllOf(receiptId);
          ReceiptRecord receipt = lockReceipt(receiptId, version);
          ReceiptView.Allocated allocation =
              receipts.get(receiptId).allocations().stream()
                  .filter(each -> each.id() == allocationId)
                  .findFirst()
                  .orElseThrow(
                      () ->
                          new Refused(
                              Rule.NOT_FOUND,
                              "This is not on the invoice any more. Reload the page."));
          takeBack(act, receipt, allocation, act.today());
          events.touch(act, ReceiptEvent.MONEY_RECEIVED, receipt);
          purpose.jobs().values().forEach(job -> visits.touchJob(act, job));
        });
  }

  private void takeBack(
      Act act, ReceiptRecord receipt, ReceiptView.Allocated allocation, LocalDate asked) {
    Money amount = Money.ofMinor(allocation.amountMinor());
    LocalDate day = takeOff(receipt, allocation, asked);
    receivables.pay(Map.of(allocation.invoiceId(), amount.negated()));
    postTakenOff(act, receipt, allocation, amount, day);
  }

  /** Undoes an allocation whole; gives the day of it. */
  private LocalDate takeOff(
      ReceiptRecord receipt, ReceiptView.Allocated allocation, LocalDate asked) {
    LocalDate day = asked.isBefore(allocation.allocatedOn()) ? allocation.allocatedOn() : asked;
    var row = new ReceiptAllocationRecord();
    row.setReceiptId(receipt.getId());
    row.setInvoiceId(allocation.invoiceId());
    row.setTakesBackId(allocation.id());
    row.setAmountMinor(-allocation.amountMinor());
    row.setAllocatedOn(day);
    database.insertInto(RECEIPT_ALLOCATION).set(row).execute();
    return day;
  }

  private void postTakenOff(
      Act act,
      ReceiptRecord receipt,
      ReceiptView.Allocated allocation,
      Money amount,
      LocalDate day) {
    books.post(
        act,
        List.of(
            new BooksStore.Dated(
                new BooksEvent.AllocationTakenBack(amount),
                source(
                    receipt,
                    "receipt %d off invoice %d"
                        .formatted(receipt.getNumber(), allocation.invoiceNumber())),
                day)));
    tell(
        act,
        ReceiptEvent.ALLOCATION_TAKEN_BACK,
        allocation.invoiceId(),
        receivables.jobsOf(List.of(allocation.invoiceId())),
        receipt.getNumber(),
        amount);
  }

  /**
   * Refuses to close a job without an invoice while money is held that its invoices would take, or
   * was asked for ahead of its work.
   */
  public void requireNothingAhead(LockedJob job) {
    if (receivables.isAskedAhead(job.id())) {
      throw new Refused(
          Rule.STAGE_BILLED,
          "A stage of job %d is billed. Credit that invoice first, or bill the rest."
              .formatted(job.number()));
    }
    Money held = held(job.id());
    if (held.isPositive()) {
      throw new Refused(
          Rule.DEPOSIT_HELD,
          "A deposit of %s is held for job %d. Give it back first, for no invoice will take it."
              .formatted(held, job.number()));
    }
  }

  /** What is left of the money earmarked for a job or any of its quotes. */
  @Transactional(readOnly = true)
  public Money held(long jobId) {
    return receipts.listHeld(jobId).stream().map(ReceiptStore.Held::left).collect(Money.sum());
  }

  /** What is left of the money earmarked for a quote. */
  @Transactional(readOnly = true)
  public Money heldForQuote(long quoteId) {
    return receipts.listHeldForQuotes(List.of(quoteId)).stream()
        .map(ReceiptStore.Held::left)
        .collect(Money.sum());
  }

  /** All that came for a quote, whatever became of it, unless it was taken back. */
  @Transactional(readOnly = true)
  public Money received(long quoteId) {
    return receipts.received(quoteId);
  }
}
