package app.pragmata.server.receipts;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.RECEIPT_ALLOCATION;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.RECEIVABLE_JOB;
import static app.pragmata.server.generated.Tables.REFUND;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.server.generated.tables.records.ReceiptAllocationRecord;
import app.pragmata.server.http.AskedDays;
import app.pragmata.server.http.PageKey;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Record3;
import org.jooq.Select;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads receipts with where their money went. */
@Repository
public class ReceiptStore {
  /** What has become of the money. */
  enum State implements Coded {
    /** Some of it is neither allocated nor given back. */
    LEFT,
    USED,
    TAKEN_BACK
  }

  /** Which receipts are asked for; what is null does not matter. */
  record Question(
      @Nullable Long customerId,
      @Nullable Long quoteId,
      @Nullable Long jobId,
      @Nullable Long invoiceId,
      @Nullable State state,
      AskedDays days) {}

  /** Money that is left of a receipt. */
  record Held(long receiptId, long number, LocalDate receivedOn, Money left) {}

  private final DSLContext database;

  ReceiptStore(DSLContext database) {
    this.database = database;
  }

  /** The newest money first, after a page's key; from the top when the key is empty. */
  List<ReceiptView> list(Question asked, String after, int most) {
    Condition condition = condition(asked);
    if (!after.isEmpty()) {
      PageKey key = PageKey.parse(after, 2);
      condition =
          condition.and(DSL.row(RECEIPT.RECEIVED_ON, RECEIPT.ID).lt(key.day(0), key.number(1)));
    }
    return list(condition, most);
  }

  private static Condition condition(Question asked) {
    Condition condition = asked.days().contain(RECEIPT.RECEIVED_ON);
    if (asked.customerId() != null) {
      condition = condition.and(RECEIPT.CUSTOMER_ID.eq(asked.customerId()));
    }
    if (asked.quoteId() != null) {
      condition = condition.and(RECEIPT.QUOTE_ID.eq(asked.quoteId()));
    }
    if (asked.jobId() != null) {
      condition = condition.and(ofJob(asked.jobId()));
    }
    if (asked.invoiceId() != null) {
      condition =
          condition.and(
              RECEIPT.ID.in(
                  select(RECEIPT_ALLOCATION.RECEIPT_ID)
                      .from(RECEIPT_ALLOCATION)
                      .where(RECEIPT_ALLOCATION.INVOICE_ID.eq(asked.invoiceId()))));
    }
    if (asked.state() != null) {
      condition =
          condition.and(
              switch (asked.state()) {
                case LEFT -> RECEIPT.LEFT_MINOR.gt(0L);
                case USED -> RECEIPT.LEFT_MINOR.eq(0L).and(RECEIPT.TAKEN_BACK_ON.isNull());
                case TAKEN_BACK -> RECEIPT.TAKEN_BACK_ON.isNotNull();
              });
    }
    return condition;
  }

  /** Earmarked for the job or a quote of it, or paying an invoice of it. */
  private static Condition ofJob(long jobId) {
    return RECEIPT.ID.in(
        earmarked(jobId)
            .unionAll(
                select(RECEIPT_ALLOCATION.RECEIPT_ID)
                    .from(RECEIVABLE_JOB)
                    .join(RECEIPT_ALLOCATION)
                    .on(RECEIPT_ALLOCATION.INVOICE_ID.eq(RECEIVABLE_JOB.INVOICE_ID))
                    .where(RECEIVABLE_JOB.JOB_ID.eq(jobId))));
  }

  /** Read by index each: with “or” in one condition all receipts would be read. */
  private static Select<Record1<Long>> earmarked(long jobId) {
    var forJob = RECEIPT.as("for_job");
    var forQuote = RECEIPT.as("for_quote");
    return select(forJob.ID)
        .from(forJob)
        .where(forJob.JOB_ID.eq(jobId))
        .unionAll(
            select(forQuote.ID)
                .from(ACCEPTED_QUOTE)
                .join(forQuote)
                .on(forQuote.QUOTE_ID.eq(ACCEPTED_QUOTE.QUOTE_ID))
                .where(ACCEPTED_QUOTE.JOB_ID.eq(jobId)));
  }

  /** All money that has to do with a job, the newest first. */
  public List<ReceiptView> listOfJob(long jobId) {
    return list(ofJob(jobId), Integer.MAX_VALUE);
  }

  /** Refused when there is no such receipt. */
  ReceiptView get(long id) {
    return list(RECEIPT.ID.eq(id), 1).stream().findFirst().orElseThrow(ReceiptStore::unknown);
  }

  static Refused unknown() {
    return new Refused(
        Rule.NOT_FOUND, "This receipt does not exist. Choose one of the customer's.");
  }

  private List<ReceiptView> list(Condition condition, int most) {
    Field<List<ReceiptView.Allocated>> allocations = allocations();
    Field<List<ReceiptView.GivenBack>> givenBack =
        multiset(
                select(REFUND.AMOUNT_MINOR, REFUND.REFUNDED_ON)
                    .from(REFUND)
                    .where(REFUND.RECEIPT_ID.eq(RECEIPT.ID))
                    .orderBy(REFUND.ID))
            .as("given_back")
            .convertFrom(rows -> rows.map(mapping(ReceiptView.GivenBack::new)));
    return database
        .select(
            RECEIPT.ID,
            RECEIPT.NUMBER,
            RECEIPT.VERSION,
            RECEIPT.CUSTOMER_ID,
            CUSTOMER.NAME,
            RECEIPT.RECEIVED_ON,
            RECEIPT.AMOUNT_MINOR,
            RECEIPT.METHOD,
            RECEIPT.QUOTE_ID,
            QUOTE.NUMBER,
            RECEIPT.JOB_ID,
            JOB.NUMBER,
            RECEIPT.LEFT_MINOR,
            RECEIPT.TAKEN_BACK_ON,
            RECEIPT.TAKEN_BACK_REASON,
            allocations,
            givenBack)
        .from(RECEIPT)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(RECEIPT.CUSTOMER_ID))
        .leftJoin(QUOTE)
        .on(QUOTE.ID.eq(RECEIPT.QUOTE_ID))
        .leftJoin(JOB)
        .on(JOB.ID.eq(RECEIPT.JOB_ID))
        .where(condition)
        .orderBy(RECEIPT.RECEIVED_ON.desc(), RECEIPT.ID.desc())
        .limit(most)
        .fetch(mapping(ReceiptView::new));
  }

  private static Field<List<ReceiptView.Allocated>> allocations() {
    return multiset(
            select(
                    RECEIPT_ALLOCATION.ID,
                    RECEIPT_ALLOCATION.INVOICE_ID,
                    RECEIVABLE.NUMBER,
                    RECEIPT_ALLOCATION.AMOUNT_MINOR,
                    RECEIPT_ALLOCATION.ALLOCATED_ON)
                .from(RECEIPT_ALLOCATION)
                .join(RECEIVABLE)
                .on(RECEIVABLE.INVOICE_ID.eq(RECEIPT_ALLOCATION.INVOICE_ID))
                .where(RECEIPT_ALLOCATION.RECEIPT_ID.eq(RECEIPT.ID))
                .and(standing())
                .orderBy(RECEIPT_ALLOCATION.ID))
        .as("allocations")
        .convertFrom(rows -> rows.map(mapping(ReceiptView.Allocated::new)));
  }

  /** Whether an allocation stands: it takes nothing back and is not taken back. */
  public static Condition standing() {
    var back = RECEIPT_ALLOCATION.as("back");
    return RECEIPT_ALLOCATION
        .TAKES_BACK_ID
        .isNull()
        .and(notExists(selectOne().from(back).where(back.TAKES_BACK_ID.eq(RECEIPT_ALLOCATION.ID))));
  }

  /** What is left of the money earmarked for a job or any of its quotes, the oldest first. */
  List<Held> listHeld(long jobId) {
    return held(RECEIPT.ID.in(earmarked(jobId)));
  }

  /** The receipts of which money is held for each of these jobs, the oldest first. */
  Map<Long, List<Long>> listHeldReceipts(Collection<Long> jobIds) {
    var forJob = RECEIPT.as("for_job");
    var forQuote = RECEIPT.as("for_quote");
    return database
        .select(forJob.JOB_ID, forJob.ID, forJob.RECEIVED_ON)
        .from(forJob)
        .where(forJob.JOB_ID.in(jobIds).and(forJob.LEFT_MINOR.gt(0L)))
        .union(
            select(ACCEPTED_QUOTE.JOB_ID, forQuote.ID, forQuote.RECEIVED_ON)
                .from(ACCEPTED_QUOTE)
                .join(forQuote)
                .on(forQuote.QUOTE_ID.eq(ACCEPTED_QUOTE.QUOTE_ID))
                .where(ACCEPTED_QUOTE.JOB_ID.in(jobIds).and(forQuote.LEFT_MINOR.gt(0L))))
        .orderBy(3, 2)
        .fetchGroups(Record3::value1, Record3::value2);
  }

  /** Money of a receipt that pays an invoice, as a row. */
  static ReceiptAllocationRecord allocation(
      long receiptId, long invoiceId, Money amount, LocalDate day) {
    var row = new ReceiptAllocationRecord();
    row.setReceiptId(receiptId);
    row.setInvoiceId(invoiceId);
    row.setAmountMinor(amount.minor());
    row.setAllocatedOn(day);
    return row;
  }

  /** Keeps what goes from receipts to invoices; what is left of them follows. */
  void insertAllocations(List<ReceiptAllocationRecord> allocations) {
    if (!allocations.isEmpty()) {
      database.insertInto(RECEIPT_ALLOCATION).set(allocations).execute();
    }
  }

  /** What of receipts stands on an invoice, in the order in which it went there. */
  List<ReceiptView.Allocated> listAllocations(long invoiceId) {
    return database
        .select(
            RECEIPT_ALLOCATION.ID,
            RECEIPT_ALLOCATION.INVOICE_ID,
            RECEIVABLE.NUMBER,
            RECEIPT_ALLOCATION.AMOUNT_MINOR,
            RECEIPT_ALLOCATION.ALLOCATED_ON)
        .from(RECEIPT_ALLOCATION)
        .join(RECEIVABLE)
        .on(RECEIVABLE.INVOICE_ID.eq(RECEIPT_ALLOCATION.INVOICE_ID))
        .where(RECEIPT_ALLOCATION.INVOICE_ID.eq(invoiceId))
        .and(standing())
        .orderBy(RECEIPT_ALLOCATION.ID)
        .fetch(mapping(ReceiptView.Allocated::new));
  }

  /** The receipt of an allocation that there is. */
  long getReceiptOf(long allocationId) {
    return database
        .select(RECEIPT_ALLOCATION.RECEIPT_ID)
        .from(RECEIPT_ALLOCATION)
        .where(RECEIPT_ALLOCATION.ID.eq(allocationId))
        .fetchSingle(Record1::value1);
  }

  /** What is left of the money earmarked for these quotes, the oldest first. */
  List<Held> listHeldForQuotes(Collection<Long> quoteIds) {
    return held(RECEIPT.QUOTE_ID.in(quoteIds));
  }

  private List<Held> held(Condition which) {
    return database
        .select(RECEIPT.ID, RECEIPT.NUMBER, RECEIPT.RECEIVED_ON, RECEIPT.LEFT_MINOR)
        .from(RECEIPT)
        .where(which)
        .and(RECEIPT.LEFT_MINOR.gt(0L))
        .orderBy(RECEIPT.RECEIVED_ON, RECEIPT.ID)
        .fetch(
            row -> new Held(row.value1(), row.value2(), row.value3(), Money.ofMinor(row.value4())));
  }

  /** All that came for a quote, whatever became of it, unless it was taken back. */
  Money received(long quoteId) {
    return database
        .select(RECEIPT.AMOUNT_MINOR)
        .from(RECEIPT)
        .where(RECEIPT.QUOTE_ID.eq(quoteId).and(RECEIPT.TAKEN_BACK_ON.isNull()))
        .fetch(RECEIPT.AMOUNT_MINOR)
        .stream()
        .map(Money::ofMinor)
        .collect(Money.sum());
  }

  /** What is neither allocated nor given back of a receipt that there is. */
  Money left(long receiptId) {
    return database
        .select(RECEIPT.LEFT_MINOR)
        .from(RECEIPT)
        .where(RECEIPT.ID.eq(receiptId))
        .fetchSingle(row -> Money.ofMinor(row.value1()));
  }

  /** Whether there is such a customer, and no other has taken it in. */
  boolean isCustomer(long customerId) {
    return database.fetchExists(
        CUSTOMER, CUSTOMER.ID.eq(customerId).and(CUSTOMER.MERGED_INTO.isNull()));
  }

  /** Whose the quote is; empty when there is none. */
  Optional<Long> findCustomerOfQuote(long quoteId) {
    return database
        .select(QUOTE.CUSTOMER_ID)
        .from(QUOTE)
        .where(QUOTE.ID.eq(quoteId))
        .fetchOptional(QUOTE.CUSTOMER_ID);
  }

  /** Whose a quote or a job is, of which one is null; empty when there is none. */
  Optional<Long> findCustomerOf(@Nullable Long quoteId, @Nullable Long jobId) {
    return quoteId != null
        ? findCustomerOfQuote(quoteId)
        : database
            .select(JOB.CUSTOMER_ID)
            .from(JOB)
            .where(JOB.ID.eq(jobId))
            .fetchOptional(JOB.CUSTOMER_ID);
  }

  /** The job that a quote promised; empty while there is none. */
  Optional<Long> findJobOfQuote(long quoteId) {
    return database
        .select(ACCEPTED_QUOTE.JOB_ID)
        .from(ACCEPTED_QUOTE)
        .where(ACCEPTED_QUOTE.QUOTE_ID.eq(quoteId))
        .fetchOptional(ACCEPTED_QUOTE.JOB_ID);
  }
}
