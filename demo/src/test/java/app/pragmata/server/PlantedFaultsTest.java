package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.books.PostingCategory;
import app.pragmata.server.laws.Laws;
import java.util.List;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * A law that cannot fail proves nothing: for each a fault is planted behind the back of the
 * database's own guards, found, and taken back.
 */
class PlantedFaultsTest {
  /** A change of what is stored that breaks a law. */
  record Fault(String law, String change) {
    @Override
    public String toString() {
      return law;
    }
  }

  private final RunningPragmata program = RunningPragmata.forTests();
  private final DSLContext database = program.database();

  static List<Fault> faults() {
    return List.of(
        new Fault("Debits equal credits in every entry", posted(PostingCategory.BANK)),
        new Fault("Debits equal credits overall", posted(PostingCategory.INPUT_VAT)),
        new Fault(
            "The total of every account is what its lines add up to",
            oneOf("account_total", "account_code", "debit_minor = debit_minor + 1")),
        new Fault(
            "Every line lies on an account of what it is posted as",
            """
            update journal_line set posting_category = 'bank'
              where posting_category = 'stock' and entry_id = (select max(entry_id)
                from journal_line where posting_category = 'stock')
            """),
        new Fault(
            "Work in progress is the cost that no document has taken out of it",
            posted(PostingCategory.WORK_IN_PROGRESS)),
        new Fault(
            "Work in progress of every job is its cost that no document has taken out of it",
            onAnotherJob(PostingCategory.WORK_IN_PROGRESS)),
        new Fault(
            "Cost of sales is the cost that invoices took",
            posted(PostingCategory.COST_OF_SALES_PARTS)),
        new Fault(
            "Warranty and goodwill is the cost of jobs that are not charged",
            posted(PostingCategory.WARRANTY_AND_GOODWILL)),
        new Fault(
            "Cost of work called off is the cost of jobs that were called off",
            posted(PostingCategory.COST_OF_WORK_CALLED_OFF)),
        new Fault(
            "Every cost is taken by a document of its own job",
            """
            update visit_part set cost_release_id = (select max(id) from cost_release)
              where id = (select min(p.id) from visit_part p join cost_release r
                on r.id = p.cost_release_id where r.id < (select max(id) from cost_release))
            """),
        new Fault(
            "Every bill of work takes the cost of its job, and every such document is a bill",
            "delete from bill where invoice_id = (select max(invoice_id) from bill where kind = 'final')"),
        new Fault("Sales are what is charged for good", posted(PostingCategory.SALES_PARTS)),
        new Fault(
            "Billed ahead of work is the stages of jobs without a final invoice",
            posted(PostingCategory.BILLED_AHEAD_OF_WORK)),
        new Fault(
            "Billed ahead of the work of every job is its stages until its final invoice",
            onAnotherJob(PostingCategory.BILLED_AHEAD_OF_WORK)),
        new Fault(
            "No more of a line, or of a VAT group, is credited than was charged",
            oneOf("credit_note_line", "credit_note_id", "net_minor = 900000000")),
        new Fault(
            "Every credit note stands as the text that was posted",
            anotherNumber("credit_note_text", "credit_note_id")),
        new Fault("Credit note numbers have no gaps", skippedNumber("credit_note")),
        new Fault(
            "A job is called off when a document says so",
            "update job set state = 'called_off' where id = (select max(id) from job where state = 'open')"),
        new Fault(
            "A job waits for as many parts as are wanted for it",
            "update job set parts_wanted = parts_wanted + 1 where id = (select max(id) from job)"),
        new Fault(
            "A round goes on when the job of its day is called off",
            """
            update round_date set not_this_time = 'x' where id = (select max(d.id) from round_date d
              join job j on j.id = d.job_id where j.state <> 'called_off')
            """),
        new Fault(
            "A drive home is borne whole by the visits of its day",
            """
            insert into drive_home_share (time_entry_id, visit_id, minutes, miles, time_cost_minor,
                distance_cost_minor, shared_at)
              select id, visit_id, 10, 4, 100, 50, now() from time_entry
                where visit_id is not null order by id limit 1
            """),
        new Fault(
            "Every line of an invoice is its quantity at its price, less what comes off it",
            oneOf("invoice_line", "invoice_id", "unit_price = unit_price + 1")),
        new Fault(
            "Output VAT is the VAT of the invoices less that of the credits",
            posted(PostingCategory.OUTPUT_VAT)),
        new Fault(
            "Every invoice stands as the text that was posted",
            anotherNumber("invoice_text", "invoice_id")),
        new Fault(
            "What is owed is what was invoiced less what was credited and what of receipts went to it",
            oneOf("receivable", "invoice_id", "gross_minor = gross_minor + 1")),
        new Fault("Trade debtors is what open invoices owe", posted(PostingCategory.TRADE_DEBTORS)),
        new Fault("Stock is quantity x average cost", posted(PostingCategory.STOCK)),
        new Fault(
            "Stock differences are what was used beyond the stock, less what explains it, and what was counted",
            posted(PostingCategory.STOCK_DIFFERENCES)),
        new Fault(
            "What the places hold of a part is what the books hold less what nothing explains",
            oneOf("stock_level", "part_id", "quantity = quantity + 1")),
        new Fault(
            "Parts held are what the stock movements add up to",
            oneOf("stock_movement", "id", "cost_minor = cost_minor + 1")),
        new Fault(
            "Customer deposits are receipts less what went to invoices or back",
            posted(PostingCategory.CUSTOMER_DEPOSITS)),
        new Fault(
            "What is left of a receipt is what went neither to an invoice nor back",
            oneOf("receipt", "id", "left_minor = left_minor + 1")),
        new Fault(
            "Money in the bank is what came in and neither bounced nor went back",
            posted(PostingCategory.BANK)),
        new Fault(
            "Nobody's money pays an invoice of somebody else",
            """
            update receipt r set customer_id = (select max(id) from customer where id <> r.customer_id)
              where id = (select max(receipt_id) from receipt_allocation)
            """),
        new Fault(
            "Every card payment that was taken is one receipt",
            """
            insert into card_payment (quote_id, reference, amount_minor, state, asked_at, answered_at)
              select max(id), 'planted', 100, 'taken', now(), now() from quote
            """),
        new Fault(
            "Every wages run went out for the people and minutes that its lines add up to",
            oneOf("wages_run", "id", "minutes = minutes + 1")),
        new Fault(
            "No more of what somebody worked was taken off their wages than went out",
            """
            insert into wages_line (wages_run_id, position, person_id, day, pay_class, percent, kind, what, minutes)
              select wages_run_id, 100000, person_id, day, pay_class, percent, 'labour', 'planted', -1
                from wages_line limit 1
            """),
        new Fault("Receipt numbers have no gaps", skippedNumber("receipt")),
        new Fault("Invoice numbers have no gaps", skippedNumber("invoice")),
        new Fault("Journal numbers have no gaps", skippedNumber("journal_entry")));
  }

  /** One minor unit more on one line that is posted as this. */
  private static String posted(PostingCategory category) {
    return """
        update journal_line set debit_minor = debit_minor + sign(debit_minor)::bigint,
            credit_minor = credit_minor + sign(credit_minor)::bigint
          where (entry_id, position) = (select entry_id, position from journal_line
            where posting_category = '%s' order by entry_id, position limit 1)
        """
        .formatted(category.code());
  }

  private static String onAnotherJob(PostingCategory category) {
    return """
        update journal_line l set job_id = (select max(id) from job where id <> l.job_id)
          where (entry_id, position) = (select entry_id, position from journal_line
            where posting_category = '%s' order by entry_id, position limit 1)
        """
        .formatted(category.code());
  }

  private static String oneOf(String table, String key, String change) {
    return "update %1$s set %3$s where ctid = (select ctid from %1$s order by %2$s limit 1)"
        .formatted(table, key, change);
  }

  /** A text that says another number, with the hash of what it says. */
  private static String anotherNumber(String table, String key) {
    String changed = "regexp_replace(content, '(\"number\":)', '\\19')";
    return oneOf(
        table,
        key,
        "content = %1$s, content_hash = encode(sha256(convert_to(%1$s, 'UTF8')), 'hex')"
            .formatted(changed));
  }

  private static String skippedNumber(String table) {
    return "update %1$s set number = number + 1 where number = (select max(number) from %1$s)"
        .formatted(table);
  }

  private List<String> broken() {
    return Laws.check(database).stream()
        .filter(finding -> !finding.holds())
        .map(Laws.Finding::law)
        .toList();
  }

  @ParameterizedTest
  @MethodSource("faults")
  void a_planted_fault_is_found_by_its_law(Fault fault) {
    assertThat(broken()).as("before").isEmpty();
    List<String> found =
        program
            .bean(TransactionTemplate.class)
            .execute(
                status -> {
                  status.setRollbackOnly();
                  database.execute("set local session_replication_role = replica");
                  assertThat(database.execute(fault.change())).as("rows changed").isPositive();
                  return broken();
                });
    assertThat(found).containsOnlyOnce(fault.law());
  }

  @Test
  void every_law_has_a_fault() {
    assertThat(Laws.check(database).stream().map(Laws.Finding::law))
        .containsExactlyInAnyOrderElementsOf(
            faults().stream().map(Fault::law).collect(Collectors.toList()));
  }
}
