package app.pragmata.server.laws;

import static org.jooq.impl.DSL.field;

import app.pragmata.core.billing.Bill;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.PostingCategory;
import app.pragmata.core.jobs.Closing;
import app.pragmata.server.receipts.CardPaymentState;
import app.pragmata.server.records.NumberSeries.Series;
import app.pragmata.server.records.Vocabulary;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
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

  /** What is billed ahead of the work of jobs that no invoice closes. */
  private static final String STAGES_OPEN =
      """
      select l.job_id, l.net_minor - coalesce((select sum(c.net_minor) from credit_note_line c
            where c.invoice_id = l.invoice_id and c.position = l.position), 0) as net_minor
        from bill b join invoice_line l on l.invoice_id = b.invoice_id and l.job_id = b.job_id
        where b.kind = :STAGE
          and not exists (select from cost_release r where r.job_id = b.job_id and r.closes and r.kind = :INVOICE)
      """;

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
              "Every line lies on an account of what it is posted as",
              Unit.COUNT,
              "lines",
              "select count(*) from journal_line",
              "on such an account",
              """
              select count(*) from journal_line l join posting_account p
                on p.posting_category = l.posting_category and p.account_code = l.account_code
              """),
          new Law(
              "Work in progress is the cost that no document has taken out of it",
              Unit.MINOR,
              "work in progress",
              balanceOf(PostingCategory.WORK_IN_PROGRESS),
              "approved time, drives home, parts used and other costs that name no document",
              "select coalesce(sum(cost_minor), 0) from cost_fact where cost_release_id is null"),
          new Law(
              "Work in progress of every job is its cost that no document has taken out of it",
              Unit.COUNT,
              "jobs",
              "select count(*) from job",
              "jobs with so much work in progress",
              """
              select count(*) from job j
                left join (select l.job_id, sum(l.debit_minor - l.credit_minor) as balance from journal_line l
                    where l.posting_category = :WORK_IN_PROGRESS group by l.job_id) posted on posted.job_id = j.id
                left join (select job_id, sum(cost_minor) as cost from cost_fact
                    where cost_release_id is null group by job_id) open on open.job_id = j.id
                where coalesce(posted.balance, 0) = coalesce(open.cost, 0)
              """),
          costTakenBy(
              "Cost of sales is the cost that invoices took",
              "cost of sales",
              Closing.Kind.INVOICE,
              PostingCategory.COST_OF_SALES_LABOUR,
              PostingCategory.COST_OF_SALES_DRIVE,
              PostingCategory.COST_OF_SALES_PARTS,
              PostingCategory.COST_OF_SALES_OTHER),
          costTakenBy(
              "Warranty and goodwill is the cost of jobs that are not charged",
              "warranty and goodwill",
              Closing.Kind.NOT_CHARGED,
              PostingCategory.WARRANTY_AND_GOODWILL),
          costTakenBy(
              "Cost of work called off is the cost of jobs that were called off",
              "cost of work called off",
              Closing.Kind.CALLED_OFF,
              PostingCategory.COST_OF_WORK_CALLED_OFF),
          new Law(
              "Every cost is taken by a document of its own job",
              Unit.COUNT,
              "costs that name a document",
              "select count(*) from cost_fact where cost_release_id is not null",
              "one of their job",
              "select count(*) from cost_fact f join cost_release r on r.id = f.cost_release_id and r.job_id = f.job_id"),
          new Law(
              "Every bill of work takes the cost of its job, and every such document is a bill",
              Unit.COUNT,
              "bills of work and documents of invoices",
              """
              select (select count(*) from bill where kind <> :STAGE)
                + (select count(*) from cost_release where kind = :INVOICE)
              """,
              "of each other",
              """
              select 2 * count(*) from cost_release r join invoice i on i.number = r.invoice_number
                join bill b on b.invoice_id = i.id and b.job_id = r.job_id and b.kind <> :STAGE
              """),
          new Law(
              "Sales are what is charged for good",
              Unit.MINOR,
              "sales",
              "select -("
                  + balanceOf(PostingCategory.SALES_LABOUR)
                  + ") - ("
                  + balanceOf(PostingCategory.SALES_CALL_OUT)
                  + ") - ("
                  + balanceOf(PostingCategory.SALES_PARTS)
                  + ") - ("
                  + balanceOf(PostingCategory.SALES_OTHER)
                  + ")",
              "lines of part and final bills less what is credited of them",
              "select coalesce(sum(net_minor), 0)::bigint from sale"),
          new Law(
              "Billed ahead of work is the stages of jobs without a final invoice",
              Unit.MINOR,
              "billed ahead of work",
              "select -(" + balanceOf(PostingCategory.BILLED_AHEAD_OF_WORK) + ")",
              "stages less what is credited of them, of jobs that no invoice closes",
              "select coalesce(sum(net_minor), 0)::bigint from (" + STAGES_OPEN + ") stage"),
          new Law(
              "Billed ahead of the work of every job is its stages until its final invoice",
              Unit.COUNT,
              "jobs",
              "select count(*) from job",
              "jobs with so much billed ahead",
              """
              select count(*) from job j
                left join (select l.job_id, sum(l.credit_minor - l.debit_minor) as balance from journal_line l
                    where l.posting_category = :BILLED_AHEAD_OF_WORK group by l.job_id) posted on posted.job_id = j.id
                left join (select job_id, sum(net_minor) as net from (%s) stage group by job_id) open on open.job_id = j.id
                where coalesce(posted.balance, 0) = coalesce(open.net, 0)
              """
                  .formatted(STAGES_OPEN)),
          new Law(
              "No more of a line, or of a VAT group, is credited than was charged",
              Unit.COUNT,
              "credited lines and groups",
              """
              select (select count(*) from (select distinct invoice_id, position from credit_note_line) line)
                + (select count(*) from (select distinct n.invoice_id, v.category, v.percent, v.reason
                    from credit_note_vat v join credit_note n on n.id = v.credit_note_id) vat_group)
              """,
              "within what was charged, and without tax left where no net is",
              """
              select (select count(*) from (select c.invoice_id, c.position, sum(c.net_minor) as net
                    from credit_note_line c group by 1, 2) credited
                  join invoice_line l on l.invoice_id = credited.invoice_id and l.position = credited.position
                  where abs(credited.net) <= abs(l.net_minor))
                + (select count(*) from (select n.invoice_id, v.category, v.percent, v.reason, sum(v.net_minor) as net, sum(v.vat_minor) as vat
                    from credit_note_vat v join credit_note n on n.id = v.credit_note_id group by 1, 2, 3, 4) credited
                  join invoice_vat g on g.invoice_id = credited.invoice_id and g.category = credited.category
                    and g.percent = credited.percent and g.reason = credited.reason
                  where credited.net <= g.net_minor and credited.vat <= g.vat_minor
                    and (credited.net < g.net_minor or credited.vat = g.vat_minor))
              """),
          new Law(
              "Every credit note stands as the text that was posted",
              Unit.COUNT,
              "credit notes",
              "select count(*) from credit_note",
              "with a text of the same number and amounts, and its hash",
              """
              select count(*) from credit_note n join credit_note_text t on t.credit_note_id = n.id
                where t.content_hash = encode(sha256(convert_to(t.content, 'UTF8')), 'hex')
                  and (t.content::jsonb ->> 'number')::bigint = n.number
                  and (t.content::jsonb ->> 'netMinor')::bigint = n.net_minor
                  and (t.content::jsonb ->> 'grossMinor')::bigint = n.gross_minor
              """),
          withoutGaps(
              "Credit note numbers have no gaps",
              Series.CREDIT_NOTE,
              "credit notes",
              "credit_note"),
          new Law(
              "A job is called off when a document says so",
              Unit.COUNT,
              "jobs called off",
              "select count(*) from job where state = :CALLED_OFF",
              "with such a document",
              """
              select count(*) from job j join cost_release r on r.job_id = j.id
                where j.state = :CALLED_OFF and r.closes and r.kind = :CALLED_OFF
              """),
          new Law(
              "A round goes on when the job of its day is called off",
              Unit.COUNT,
              "days that were not done",
              "select count(*) from round_date where not_this_time <> ''",
              "whose job is called off",
              """
              select count(*) from round_date d join job j on j.id = d.job_id
                where d.not_this_time <> '' and j.state = :CALLED_OFF
              """),
          new Law(
              "A job waits for as many parts as are wanted for it",
              Unit.COUNT,
              "jobs",
              "select count(*) from job",
              "that count them right",
              """
              select count(*) from job j where j.parts_wanted = (select count(*) from part_wanted p
                where p.job_id = j.id and p.state in ('wanted', 'ordered', 'arrived'))
              """),
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
              "Every line of an invoice is its quantity at its price, less what comes off it",
              Unit.COUNT,
              "lines",
              "select count(*) from invoice_line",
              "that are so much",
              """
              select count(*) from invoice_line
                where full_minor = round(unit_price * quantity / price_base, 2) * 100
                  and net_minor = full_minor - discount_minor - warranty_reduction_minor - discount_of_whole_minor - cut_minor
              """),
          new Law(
              "Output VAT is the VAT of the invoices less that of the credits",
              Unit.MINOR,
              "output VAT",
              "select -(" + balanceOf(PostingCategory.OUTPUT_VAT) + ")",
              "of the groups of all invoices, each computed on its net, less those of credit notes",
              """
              select coalesce(sum(round(net_minor * percent / 100)), 0)::bigint
                  - (select coalesce(sum(vat_minor), 0)::bigint from credit_note_vat)
                from invoice_vat
              """),
          new Law(
              "Every invoice stands as the text that was posted",
              Unit.COUNT,
              "invoices",
              "select count(*) from invoice",
              "with a text of the same number and amounts, and its hash",
              """
              select count(*) from invoice i join invoice_text t on t.invoice_id = i.id
                where t.content_hash = encode(sha256(convert_to(t.content, 'UTF8')), 'hex')
                  and (t.content::jsonb ->> 'number')::bigint = i.number
                  and (t.content::jsonb ->> 'netMinor')::bigint = i.net_minor
                  and (t.content::jsonb ->> 'grossMinor')::bigint = i.gross_minor
              """),
          new Law(
              "What is owed is what was invoiced less what was credited and what of receipts went to it",
              Unit.COUNT,
              "invoices",
              "select count(*) from invoice",
              "that owe so much",
              """
              select count(*) from invoice i join receivable r on r.invoice_id = i.id
                where r.gross_minor = i.gross_minor and r.owed_minor = i.gross_minor
                  - (select coalesce(sum(n.gross_minor), 0) from credit_note n where n.invoice_id = i.id)
                  - (select coalesce(sum(a.amount_minor), 0) from receipt_allocation a where a.invoice_id = i.id)
              """),
          new Law(
              "Trade debtors is what open invoices owe",
              Unit.MINOR,
              "trade debtors",
              balanceOf(PostingCategory.TRADE_DEBTORS),
              "invoices less credit notes and what of receipts went to them",
              """
              select coalesce(sum(gross_minor), 0) - (select coalesce(sum(gross_minor), 0) from credit_note)
                  - (select coalesce(sum(amount_minor), 0) from receipt_allocation)
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
              "Stock differences are what was used beyond the stock, less what explains it, and what was counted",
              Unit.MINOR,
              "stock differences",
              "select -(" + balanceOf(PostingCategory.STOCK_DIFFERENCES) + ")",
              "such movements",
              "select coalesce(sum(cost_minor), 0)::bigint from stock_movement where kind in ('beyond_stock', 'explained', 'counted')"),
          new Law(
              "What the places hold of a part is what the books hold less what nothing explains",
              Unit.COUNT,
              "parts",
              "select count(*) from part",
              "of which the places hold so much",
              """
              select count(*) from part p where p.quantity - p.unexplained_quantity
                = coalesce((select sum(l.quantity) from stock_level l where l.part_id = p.id), 0)
              """),
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
              "What is left of a receipt is what went neither to an invoice nor back",
              Unit.COUNT,
              "receipts",
              "select count(*) from receipt",
              "of which so much is left",
              """
              select count(*) from receipt r where left_minor = case when taken_back_on is null then amount_minor else 0 end
                - (select coalesce(sum(a.amount_minor), 0) from receipt_allocation a where a.receipt_id = r.id)
                - (select coalesce(sum(f.amount_minor), 0) from refund f where f.receipt_id = r.id)
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
              "Every wages run went out for the people and minutes that its lines add up to",
              Unit.COUNT,
              "runs",
              "select count(*) from wages_run",
              "runs of so much",
              """
              select count(*) from wages_run r join (
                select wages_run_id, count(distinct person_id) as people, sum(minutes) as minutes
                  from wages_line group by wages_run_id) l on l.wages_run_id = r.id
                where r.people = l.people and r.minutes = l.minutes
              """),
          new Law(
              "No more of what somebody worked was taken off their wages than went out",
              Unit.COUNT,
              "days, classes and jobs of wages",
              """
              select count(*) from (select from wages_line where kind is not null
                group by person_id, day, pay_class, kind, job_number, what) paid
              """,
              "of them paid or back at nothing",
              """
              select count(*) from (select from wages_line where kind is not null
                group by person_id, day, pay_class, kind, job_number, what having sum(minutes) >= 0) paid
              """),
          withoutGaps("Receipt numbers have no gaps", Series.RECEIPT, "receipts", "receipt"),
          withoutGaps("Invoice numbers have no gaps", Series.INVOICE, "invoices", "invoice"),
          withoutGaps("Journal numbers have no gaps", Series.JOURNAL, "entries", "journal_entry"));

  private Laws() {}

  /** Each number but the first of a range follows another one. */
  private static Law withoutGaps(String name, Series series, String what, String table) {
    return new Law(
        name,
        Unit.COUNT,
        what,
        "select count(*) from " + table,
        "numbers used",
        """
        select coalesce(sum(last - from_number + 1), 0) from (
          select from_number, (select max(number) from %s where number >= from_number and number < next_from) as last
            from (select from_number, coalesce(lead(from_number) over (order by from_number), 9223372036854775807) as next_from
              from number_range where series = '%s') as ranges) as used
        """
            .formatted(table, series.code()));
  }

  private static Law costTakenBy(
      String name, String accounts, Closing.Kind kind, PostingCategory... categories) {
    return new Law(
        name,
        Unit.MINOR,
        accounts,
        "select "
            + Arrays.stream(categories)
                .map(category -> "(" + balanceOf(category) + ")")
                .collect(Collectors.joining(" + ")),
        "costs that name such a document",
        """
        select coalesce(sum(f.cost_minor), 0) from cost_fact f join cost_release r on r.id = f.cost_release_id
          where r.kind = '%s'
        """
            .formatted(kind.code()));
  }

  private static String balanceOf(PostingCategory category) {
    return """
        select coalesce(sum(debit_minor - credit_minor), 0) from journal_line where posting_category = '%s'
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
            Bill.Kind.class,
            Closing.Kind.class,
            CardPaymentState.class);
    return database.select(field("({0})", Long.class, DSL.sql(named))).fetchSingle().value1();
  }
}
