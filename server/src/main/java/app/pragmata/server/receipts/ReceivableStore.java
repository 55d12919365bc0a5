package app.pragmata.server.receipts;

import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.RECEIVABLE_JOB;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.table;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.receipts.Debt;
import app.pragmata.server.generated.tables.records.ReceivableJobRecord;
import app.pragmata.server.generated.tables.records.ReceivableRecord;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Repository;

/** What customers owe on invoices that were posted. */
@Repository
public class ReceivableStore {
  /**
   * A new debt.
   *
   * @param number of the invoice
   * @param jobs whose work it charges; at least one
   */
  public record Owed(
      long invoiceId,
      long customerId,
      long number,
      LocalDate invoiceDate,
      LocalDate dueDate,
      Money gross,
      List<OfJob> jobs) {}

  /**
   * A job that an invoice charges.
   *
   * @param ahead whether it asks for money ahead of work
   */
  public record OfJob(long jobId, boolean ahead) {}

  /** A debt as it is stored, locked until the transaction ends. */
  record Locked(long invoiceId, long customerId, long number, int version, Debt debt) {}

  private final DSLContext database;

  ReceivableStore(DSLContext database) {
    this.database = database;
  }

  /** Keeps what invoices ask for; nothing of it is paid yet. */
  void insert(List<Owed> owed) {
    database.insertInto(RECEIVABLE).set(owed.stream().map(ReceivableStore::row).toList()).execute();
    database
        .insertInto(RECEIVABLE_JOB)
        .set(
            owed.stream()
                .flatMap(
                    each ->
                        each.jobs().stream()
                            .map(
                                job ->
                                    new ReceivableJobRecord(
                                        each.invoiceId(), job.jobId(), job.ahead())))
                .toList())
        .execute();
  }

  private static ReceivableRecord row(Owed owed) {
    var row = new ReceivableRecord();
    row.setInvoiceId(owed.invoiceId());
    row.setCustomerId(owed.customerId());
    row.setNumber(owed.number());
    row.setInvoiceDate(owed.invoiceDate());
    row.setDueDate(owed.dueDate());
    row.setGrossMinor(owed.gross().minor());
    return row;
  }

  /** The jobs that these invoices charge. */
  Map<Long, List<Long>> jobsOf(Collection<Long> invoiceIds) {
    return database
        .select(RECEIVABLE_JOB.INVOICE_ID, RECEIVABLE_JOB.JOB_ID)
        .from(RECEIVABLE_JOB)
        .where(RECEIVABLE_JOB.INVOICE_ID.in(invoiceIds))
        .orderBy(RECEIVABLE_JOB.JOB_ID)
        .fetchGroups(RECEIVABLE_JOB.INVOICE_ID, RECEIVABLE_JOB.JOB_ID);
  }

  /** The invoices that charge each of these jobs. */
  Map<Long, List<Long>> invoicesOf(Collection<Long> jobIds) {
    return database
        .select(RECEIVABLE_JOB.JOB_ID, RECEIVABLE_JOB.INVOICE_ID)
        .from(RECEIVABLE_JOB)
        .where(RECEIVABLE_JOB.JOB_ID.in(jobIds))
        .orderBy(RECEIVABLE_JOB.INVOICE_ID)
        .fetchGroups(RECEIVABLE_JOB.JOB_ID, RECEIVABLE_JOB.INVOICE_ID);
  }

  /** These debts by invoice, locked in one order; those that there are. */
  Map<Long, Locked> lock(Collection<Long> invoiceIds) {
    return database
        .selectFrom(RECEIVABLE)
        .where(RECEIVABLE.INVOICE_ID.in(invoiceIds))
        .orderBy(RECEIVABLE.INVOICE_ID)
        .forUpdate()
        .fetchMap(
            RECEIVABLE.INVOICE_ID,
            row ->
                new Locked(
                    row.getInvoiceId(),
                    row.getCustomerId(),
                    row.getNumber(),
                    row.getVersion(),
                    new Debt(
                        row.getInvoiceId(),
                        row.getInvoiceDate(),
                        Money.ofMinor(row.getOwedMinor()))));
  }

  /** So much more of each invoice is paid, or less when an amount is below nothing. */
  void pay(Map<Long, Money> paid) {
    if (paid.isEmpty()) {
      return;
    }
    List<Long> ids = List.copyOf(paid.keySet());
    Field<Long> invoiceId = field(name("paid", "invoice_id"), Long.class);
    Field<Long> amount = field(name("paid", "amount_minor"), Long.class);
    database
        .update(RECEIVABLE)
        .set(RECEIVABLE.ALLOCATED_MINOR, RECEIVABLE.ALLOCATED_MINOR.plus(amount))
        .set(RECEIVABLE.VERSION, RECEIVABLE.VERSION.plus(1))
        .from(
            table(
                "unnest({0}, {1}) as paid (invoice_id, amount_minor)",
                val(ids.toArray(Long[]::new)),
                val(ids.stream().map(id -> paid.get(id).minor()).toArray(Long[]::new))))
        .where(RECEIVABLE.INVOICE_ID.eq(invoiceId))
        .execute();
  }

  /** So much of it is not asked for after all, and so much less of it is paid. */
  void credit(long invoiceId, Money credited, Money freed) {
    database
        .update(RECEIVABLE)
        .set(RECEIVABLE.CREDITED_MINOR, RECEIVABLE.CREDITED_MINOR.plus(credited.minor()))
        .set(RECEIVABLE.ALLOCATED_MINOR, RECEIVABLE.ALLOCATED_MINOR.minus(freed.minor()))
        .set(RECEIVABLE.VERSION, RECEIVABLE.VERSION.plus(1))
        .where(RECEIVABLE.INVOICE_ID.eq(invoiceId))
        .execute();
  }

  /** Whether money was asked for ahead of the job's work, and not all of it credited. */
  boolean isAskedAhead(long jobId) {
    return database.fetchExists(
        selectOne()
            .from(RECEIVABLE_JOB)
            .join(RECEIVABLE)
            .on(RECEIVABLE.INVOICE_ID.eq(RECEIVABLE_JOB.INVOICE_ID))
            .where(RECEIVABLE_JOB.JOB_ID.eq(jobId).and(RECEIVABLE_JOB.AHEAD))
            .and(RECEIVABLE.CREDITED_MINOR.lt(RECEIVABLE.GROSS_MINOR)));
  }

  static Refused unknown() {
    return new Refused(
        Rule.NOT_FOUND, "This invoice does not exist. Find the right one with / and its number.");
  }
}
