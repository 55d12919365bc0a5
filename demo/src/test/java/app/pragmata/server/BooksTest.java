package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.books.BooksEvent;
import app.pragmata.server.laws.Laws;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

class BooksTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor maud = Visitor.signedIn(program, "maud");

  @Test
  void the_journal_is_read_page_by_page_without_a_gap_or_a_repeat() {
    var numbers = new ArrayList<Long>();
    String path = "/api/books/journal";
    for (int page = 0; page < 6; page++) {
      JsonNode journal = maud.get(path).json();
      journal.path("entries").forEach(entry -> numbers.add(entry.path("number").asLong()));
      path = "/api/books/journal?before=" + journal.path("before").asLong();
    }
    assertThat(numbers).hasSize(300);
    assertThat(numbers.getFirst() - numbers.getLast()).isEqualTo(299);
    assertThat(new HashSet<>(numbers)).hasSize(300);
  }

  @Test
  void an_accounts_balance_runs_on_across_its_pages() {
    JsonNode first = maud.get("/api/books/accounts/1050").json();
    JsonNode second =
        maud.get("/api/books/accounts/1050?after=" + first.path("next").asString()).json();
    JsonNode oldestOfFirst = first.path("entries").path(first.path("entries").size() - 1);
    long before =
        oldestOfFirst.path("balanceMinor").asLong()
            - oldestOfFirst.path("debitMinor").asLong()
            + oldestOfFirst.path("creditMinor").asLong();
    assertThat(second.path("entries").path(0).path("balanceMinor").asLong()).isEqualTo(before);
  }

  @Test
  void the_trial_balance_holds_each_account_on_one_side() {
    JsonNode accounts = maud.get("/api/books/trial-balance").json().path("accounts");
    assertThat(accounts).isNotEmpty();
    for (JsonNode account : accounts) {
      assertThat(
              Math.min(account.path("debitMinor").asLong(), account.path("creditMinor").asLong()))
          .isZero();
    }
  }

  @ParameterizedTest
  @CsvSource({"1050,asset", "1100,asset", "2200,liability", "4000,income", "5000,expense"})
  void an_accounts_page_ends_at_the_balance_of_the_trial_balance(String code, String kind) {
    JsonNode account = maud.get("/api/books/accounts/" + code).json();
    assertThat(account.path("kind").asString()).isEqualTo(kind);
    for (JsonNode line : maud.get("/api/books/trial-balance").json().path("accounts")) {
      if (line.path("code").asString().equals(code)) {
        assertThat(line.path("debitMinor").asLong() - line.path("creditMinor").asLong())
            .isEqualTo(account.path("balanceMinor").asLong());
      }
    }
  }

  @Test
  void every_entry_of_the_journal_balances_and_names_its_source() {
    for (JsonNode entry : maud.get("/api/books/journal").json().path("entries")) {
      long debit = 0;
      long credit = 0;
      for (JsonNode line : entry.path("lines")) {
        debit += line.path("debitMinor").asLong();
        credit += line.path("creditMinor").asLong();
      }
      assertThat(debit).isEqualTo(credit).isPositive();
      assertThat(entry.path("source").path("kind").asString()).isNotBlank();
      assertThat(entry.path("source").path("id").asLong()).isPositive();
    }
  }

  @Test
  void lines_of_profit_and_work_name_job_and_cost_centre_those_of_control_and_differences_none() {
    var control = Set.of("asset", "liability");
    var kinds = new HashMap<String, String>();
    for (JsonNode account : maud.get("/api/books/trial-balance").json().path("accounts")) {
      kinds.put(account.path("code").asString(), account.path("kind").asString());
    }
    for (JsonNode entry : maud.get("/api/books/journal").json().path("entries")) {
      for (JsonNode line : entry.path("lines")) {
        String account = line.path("accountCode").asString();
        boolean ofAJob =
            account.equals("1050")
                || account.equals("2160")
                || !(control.contains(kinds.get(account)) || account.equals("5120"));
        assertThat(line.path("jobNumber").isNumber()).isEqualTo(ofAJob);
        assertThat(line.path("costCentre").isString()).isEqualTo(ofAJob);
      }
    }
  }

  @Test
  void the_trial_balance_of_some_days_adds_up_to_that_of_all_days() {
    long all = bank("/api/books/trial-balance");
    long before = bank("/api/books/trial-balance?to=2026-10-31");
    long since = bank("/api/books/trial-balance?from=2026-11-01&to=2039-12-31");
    assertThat(before).isNotZero();
    assertThat(since).isNotZero();
    assertThat(before + since).isEqualTo(all);
  }

  private long bank(String address) {
    for (JsonNode account : maud.get(address).json().path("accounts")) {
      if (account.path("code").asString().equals("1200")) {
        return account.path("debitMinor").asLong() - account.path("creditMinor").asLong();
      }
    }
    throw new AssertionError("No bank in " + address);
  }

  @Test
  void the_journal_of_a_day_has_the_entries_of_that_day() {
    String day =
        maud.get("/api/books/journal").json().path("entries").path(0).path("date").asString();
    JsonNode entries =
        maud.get("/api/books/journal?from=" + day + "&to=" + day).json().path("entries");
    assertThat(entries).isNotEmpty();
    assertThat(texts(entries, "date")).containsOnly(day);
  }

  @Test
  void periods_and_cost_centres_are_records() {
    JsonNode periods = maud.get("/api/books/periods").json();
    assertThat(texts(periods, "month"))
        .hasSizeGreaterThan(2)
        .allMatch(month -> month.endsWith("-01"));
    assertThat(texts(maud.get("/api/books/cost-centres").json(), "code"))
        .containsExactly("installation", "repairs", "service");
  }

  @Test
  void the_journals_file_holds_every_line_of_every_entry() {
    long lines = program.database().fetchCount(app.pragmata.server.generated.Tables.JOURNAL_LINE);
    assertThat(maud.get("/api/books/journal/file").text().lines().count()).isEqualTo(lines + 1);
  }

  @Test
  void the_trial_balances_file_adds_up_on_both_sides() {
    List<String> rows = maud.get("/api/books/trial-balance/file").text().lines().skip(1).toList();
    var debit = java.math.BigDecimal.ZERO;
    var credit = java.math.BigDecimal.ZERO;
    for (String row : rows) {
      String[] cells = row.split(",", -1);
      debit = debit.add(new java.math.BigDecimal(cells[cells.length - 2]));
      credit = credit.add(new java.math.BigDecimal(cells[cells.length - 1]));
    }
    assertThat(debit).isEqualTo(credit).isPositive();
  }

  /** Each law with something past all of our own code that breaks it. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          Debits equal credits in every entry | insert into journal_line (entry_id, position, account_code, posting_category, debit_minor, credit_minor) select id, 90, '1100', 'trade_debtors', 1, 0 from journal_entry order by id limit 1
          Debits equal credits overall | insert into journal_line (entry_id, position, account_code, posting_category, debit_minor, credit_minor) select id, 90, '1100', 'trade_debtors', 1, 0 from journal_entry order by id limit 1
          Every line lies on an account of what it is posted as | update journal_line set account_code = '1000' where account_code = '4010'
          Work in progress is the cost that no document has taken out of it | update other_cost set cost_release_id = null
          Work in progress of every job is its cost that no document has taken out of it | update visit_part set cost_release_id = null
          Cost of sales is the cost that invoices took | update cost_release set kind = 'not_charged', invoice_number = null where kind = 'invoice' and closes
          Warranty and goodwill is the cost of jobs that are not charged | update cost_release set kind = 'called_off' where kind = 'not_charged'
          Cost of work called off is the cost of jobs that were called off | update journal_line set posting_category = 'stock' where posting_category = 'cost_of_work_called_off'
          Every cost is taken by a document of its own job | update time_entry set cost_release_id = cost_release_id + 1
          Every bill of work takes the cost of its job, and every such document is a bill | update cost_release set invoice_number = -invoice_number where kind = 'invoice'
          A job is called off when a document says so | update job set state = 'called_off' where state = 'checked'
          Every line of an invoice is its quantity at its price, less what comes off it | update invoice_line set quantity = quantity + 1 where category = 'parts'
          Output VAT is the VAT of the invoices less that of the credits | update invoice_vat set percent = percent + 1
          Every invoice stands as the text that was posted | update invoice_text set content = replace(content, '"number":4001', '"number":1'), content_hash = encode(sha256(convert_to(replace(content, '"number":4001', '"number":1'), 'UTF8')), 'hex')
          What is owed is what was invoiced less what was credited and what of receipts went to it | update receivable set allocated_minor = allocated_minor + 1 where owed_minor > 0
          Trade debtors is what open invoices owe | update journal_line set posting_category = 'stock' where posting_category = 'trade_debtors'
          Nobody's money pays an invoice of somebody else | update receipt set customer_id = customer_id + 1
          What is left of a receipt is what went neither to an invoice nor back | update receipt set left_minor = left_minor + 1
          Money in the bank is what came in and neither bounced nor went back | update receipt set amount_minor = amount_minor + 1
          Receipt numbers have no gaps | update receipt set number = number + 1000000 where number = (select max(number) from receipt)
          Stock is quantity x average cost | update part set value_minor = value_minor + 1 where quantity > 0
          Parts held are what the stock movements add up to | update part set value_minor = value_minor + 1 where quantity > 0
          Customer deposits are receipts less what went to invoices or back | update journal_line set posting_category = 'stock' where posting_category = 'customer_deposits'
          The total of every account is what its lines add up to | update account_total set debit_minor = debit_minor + 1
          Sales are what is charged for good | update journal_line set posting_category = 'stock' where posting_category = 'sales_labour'
          Billed ahead of work is the stages of jobs without a final invoice | update invoice_line set net_minor = net_minor + 1, full_minor = full_minor + 1 where category is null
          Billed ahead of the work of every job is its stages until its final invoice | update cost_release set closes = false where job_id in (select job_id from bill where kind = 'stage')
          No more of a line, or of a VAT group, is credited than was charged | update credit_note_line set net_minor = net_minor + 1000000
          Every credit note stands as the text that was posted | update credit_note set gross_minor = gross_minor + 1, vat_minor = vat_minor + 1
          Credit note numbers have no gaps | update credit_note set number = number + 1000000 where number = (select max(number) from credit_note)
          Invoice numbers have no gaps | update invoice set number = number + 1000000 where number = (select max(number) from invoice)
          Journal numbers have no gaps | update journal_entry set number = number + 1000000 where number = (select max(number) from journal_entry)
          """)
  void prove_finds_a_broken_law(String law, String breaking) {
    var found = new ArrayList<Laws.Finding>();
    var kept = new IllegalStateException("only to roll back");
    try {
      program
          .database()
          .transaction(
              inner -> {
                inner.dsl().execute("set local session_replication_role = replica");
                inner.dsl().execute(breaking);
                found.addAll(Laws.check(inner.dsl()));
                throw kept;
              });
    } catch (IllegalStateException rolledBack) {
      assertThat(rolledBack).isSameAs(kept);
    }
    assertThat(found.stream().filter(finding -> !finding.holds()).map(Laws.Finding::law))
        .contains(law);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void nothing_is_ever_added_to_a_posted_entry() {
    long posted =
        program
            .database()
            .select(JOURNAL_ENTRY.ID)
            .from(JOURNAL_ENTRY)
            .limit(1)
            .fetchSingle(JOURNAL_ENTRY.ID);
    org.assertj.core.api.Assertions.assertThatThrownBy(
            () ->
                program
                    .database()
                    .execute(
                        "insert into journal_line (entry_id, position, account_code, posting_category, debit_minor, credit_minor)"
                            + " values (%d, 90, '1100', 'trade_debtors', 5, 0), (%d, 91, '1200', 'bank', 0, 5)"
                                .formatted(posted, posted)))
        .hasStackTraceContaining("nothing is added");
  }

  @Test
  void an_account_that_does_not_exist_is_named_in_the_answer() {
    var answer = maud.get("/api/books/accounts/9999");
    assertThat(answer.status()).isEqualTo(404);
    assertThat(answer.text()).contains("9999");
  }

  @Test
  void the_events_of_the_demo_are_all_of_those_that_the_work_gives_rise_to() {
    assertThat(
            program
                .database()
                .selectDistinct(JOURNAL_ENTRY.EVENT)
                .from(JOURNAL_ENTRY)
                .fetch(JOURNAL_ENTRY.EVENT))
        .contains(
            BooksEvent.Code.TIME_APPROVED,
            BooksEvent.Code.PART_USED,
            BooksEvent.Code.PART_RECEIVED,
            BooksEvent.Code.SUPPLIER_BILLED,
            BooksEvent.Code.INVOICE_POSTED,
            BooksEvent.Code.MONEY_RECEIVED,
            BooksEvent.Code.JOB_NOT_CHARGED);
    assertThat(texts(maud.get("/api/books/trial-balance").json().path("accounts"), "code"))
        .isSorted();
  }
}
