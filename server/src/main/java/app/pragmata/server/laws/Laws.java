package app.pragmata.server.laws;

import static org.jooq.impl.DSL.field;

import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.PostingCategory;
import app.pragmata.core.jobs.Closing;
import app.pragmata.server.receipts.CardPaymentState;
import app.pragmata.server.records.Vocabulary;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

/** What must always be true of the books, each law as two figures that must be the same. */
public final class Laws {
  /** What the two figures of a law are: so many things, or money in minor units. */
  public enum Unit {
    COUNT,
    MINOR
  }

  /** A law with its two sides. */
  public record Finding(
      String law, Unit unit, String leftName, long left, String rightName, long right) {
    public boolean holds() {
      return left == right;
    }
  }

  private record Law(
      String name, Unit unit, String leftName, String left, String rightName, String right) {}

  private static final List<Law> LAWS =
      List.of(
          new Law(
              "Debits equal credits in every entry",
              Unit.COUNT,
              "entries",
              "select count(*) from journal_entry",
              "balanced entries",
              """
              select count(*) from (select entry_id from journal_line group by entry_id
                having sum(debit_minor) = sum(credit_minor) and sum(debit_minor) > 0) balanced
              """),
          new Law(
              "Debits equal credits overall",
              Unit.MINOR,
              "debits",
              "select coalesce(sum(debit_minor), 0) from journal_line",
              "credits",
              "select coalesce(sum(credit_minor), 0) from journal_line"),
          new Law(
              "The total of every account is what its lines add up to",
              Unit.COUNT,
              "accounts with lines",
              "select count(distinct account_code) from journal_line",
              "accounts with the same total",
              """
              select count(*) from account_total t join (
                select account_code, sum(debit_minor) as debits, sum(credit_minor) as credits, count(*) as lines
                  from journal_line group by account_code) added using (account_code)
                where t.debit_minor = debits and t.credit_minor = credits and t.lines = added.lines
              """),
          new Law(
              "Work in progress is the cost of the jobs not yet billed",
              Unit.MINOR,
              "work in progress",
              balanceOf(PostingCategory.WORK_IN_PROGRESS),
              "approved time, drives home, parts used and other costs of unbilled jobs",
              """
              select coalesce(sum(cost), 0) from (
                select coalesce(t.time_cost_minor, 0) + coalesce(t.distance_cost_minor, 0) as cost, v.job_id
                  from time_entry t join visit v on v.id = t.visit_id where t.removed_at is null
                union all select s.time_cost_minor + s.distance_cost_minor, v.job_id
                  from drive_home_share s join visit v on v.id = s.visit_id
                union all select p.cost_minor, v.job_id from visit_part p join visit v on v.id = p.visit_id where p.removed_at is null
                union all select o.cost_minor, o.job_id from other_cost o
              ) costs left join closing_document closing using (job_id) where closing.kind is null
              """),
          new Law(
              "Work in progress of every billed job is nil",
              Unit.COUNT,
              "billed jobs",
              "select count(*) from closing_document",
              "billed jobs without any left",
              """
              select count(*) from closing_document closing where 0 = (
                select coalesce(sum(l.debit_minor - l.credit_minor), 0) from posting_account p
                  join journal_line l on l.account_code = p.account_code
                  join journal_entry e on e.id = l.entry_id
                where p.posting_category = :WORK_IN_PROGRESS and l.job_id = closing.job_id)
              """),
          new Law(
              "A job is closed by its invoice, or by the entry that says it is not charged",
              Unit.COUNT,
              "closed jobs",
              "select count(*) from closing_document",
              "with such an invoice or entry",
              """
              select count(*) from closing_document c where case c.kind
                when :INVOICE then exists (
                  select from invoice i where i.job_id = c.job_id and i.number = c.invoice_number)
                else exists (
                  select from journal_entry e where e.source_id = c.job_id and e.event = :JOB_NOT_CHARGED) end
              """),
          new Law(
              "Every invoice closes its job",
              Unit.COUNT,
              "invoices",
              "select count(*) from invoice",
              "that close a job",
              "select count(*) from closing_document where kind = :INVOICE"),
          new Law(
              "A drive home is borne whole by the visits of its day",
              Unit.MINOR,
              "approved drives on no visit",
              """
              select coalesce(sum(time_cost_minor + distance_cost_minor), 0)
                from time_entry where visit_id is null and removed_at is null
              """,
              "their shares less those taken back",
              "select coalesce(sum(time_cost_minor + distance_cost_minor), 0) from drive_home_share"),
          new Law(
              "What is owed is what was invoiced less what of receipts went to it",
              Unit.COUNT,
              "invoices",
              "select count(*) from invoice",
              "that owe so much",
              """
              select count(*) from invoice i join receivable r on r.invoice_id = i.id
                where r.gross_minor = i.gross_minor and r.owed_minor = i.gross_minor - (
                  select coalesce(sum(a.amount_minor), 0) from receipt_allocation a where a.invoice_id = i.id)
              """),
          new Law(
              "Trade debtors is what open invoices owe",
              Unit.MINOR,
              "trade debtors",
              balanceOf(PostingCategory.TRADE_DEBTORS),
              "invoices less what of receipts went to them",
              """
              select coalesce(sum(gross_minor), 0) - (select coalesce(sum(amount_minor), 0) from receipt_allocation)
                from invoice
              """),
          new Law(
              "Stock is quantity x average cost",
              Unit.MINOR,
              "stock",
              balanceOf(PostingCategory.STOCK),
              "value of all parts held",
              "select coalesce(sum(value_minor), 0) from part"),
          new Law(
              "Parts held are what the stock movements add up to",
              Unit.MINOR,
              "value of all parts held",
              "select coalesce(sum(value_minor), 0) from part",
              "stock movements",
              "select coalesce(sum(cost_minor), 0) from stock_movement"),
          new Law(
              "Customer deposits are receipts less what went to invoices or back",
              Unit.MINOR,
              "customer deposits",
              "select -(" + balanceOf(PostingCategory.CUSTOMER_DEPOSITS) + ")",
              "receipts less allocations less what was given back",
              """
              select coalesce(sum(amount_minor), 0) - (select coalesce(sum(amount_minor), 0) from receipt_allocation)
                  - (select coalesce(sum(amount_minor), 0) from refund)
                from receipt where taken_back_on is null
              """),
          new Law(
              "Money in the bank is what came in and neither bounced nor went back",
              Unit.MINOR,
              "bank",
              balanceOf(PostingCategory.BANK),
              "receipts less what was given back",
              """
              select coalesce(sum(amount_minor), 0) - (select coalesce(sum(amount_minor), 0) from refund)
                from receipt where taken_back_on is null
              """),
          new Law(
              "Nobody's money pays an invoice of somebody else",
              Unit.COUNT,
              "allocations",
              "select count(*) from receipt_allocation",
              "of the invoice's customer",
              """
              select count(*) from receipt_allocation a join receipt r on r.id = a.receipt_id
                join receivable d on d.invoice_id = a.invoice_id and d.customer_id = r.customer_id
              """),
          new Law(
              "Every card payment that was taken is one receipt",
              Unit.MINOR,
              "payments taken",
              "select coalesce(sum(amount_minor), 0) from card_payment where state = :TAKEN",
              "receipts by card through a link",
              "select coalesce(sum(amount_minor), 0) from receipt where card_payment_id is not null"),
          new Law(
              "Receipt numbers have no gaps",
              Unit.COUNT,
              "receipts",
              "select count(*) from receipt",
              "numbers used",
              "select coalesce(max(number) - min(number) + 1, 0) from receipt"),
          new Law(
              "Invoice numbers have no gaps",
              Unit.COUNT,
              "invoices",
              "select count(*) from invoice",
              "numbers used",
              "select coalesce(max(number) - min(number) + 1, 0) from invoice"),
          new Law(
              "Journal numbers have no gaps",
              Unit.COUNT,
              "entries",
              "select count(*) from journal_entry",
              "numbers used",
              "select coalesce(max(number) - min(number) + 1, 0) from journal_entry"));

  private Laws() {}

  private static String balanceOf(PostingCategory category) {
    return """
        select coalesce(sum(l.debit_minor - l.credit_minor), 0) from posting_account p
          join journal_line l on l.account_code = p.account_code where p.posting_category = '%s'
        """
        .formatted(category.code());
  }

  /**
   * Both sides of every law, all read from the one state of the database that the transaction sees.
   */
  public static List<Finding> check(DSLContext database) {
    return LAWS.stream()
        .map(
            law ->
                new Finding(
                    law.name(),
                    law.unit(),
                    law.leftName(),
                    read(database, law.left()),
                    law.rightName(),
                    read(database, law.right())))
        .toList();
  }

  private static long read(DSLContext database, String sql) {
    String named =
        Vocabulary.inSql(
            sql,
            BooksEvent.Code.class,
            PostingCategory.class,
            Closing.Kind.class,
            CardPaymentState.class);
    return database.select(field("({0})", Long.class, DSL.sql(named))).fetchSingle().value1();
  }
}
