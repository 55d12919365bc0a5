package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What the database refuses whoever asks, even past all of our own code. */
class DatabaseGuardsTest {
  private final DSLContext database = RunningPragmata.forTests().database();

  private static final String ENTRY =
      """
      with entry as (
        insert into journal_entry (number, entry_date, event, description, source_kind, source_id, posted_at, posted_by)
        values (900001, '%s', 'Test', '', 'test', 1, now(), 1) returning id)
      insert into journal_line (entry_id, position, account_code, posting_category, debit_minor, credit_minor)
        select id, position, account, 'bank', debit, credit from entry,
        (values (1, '1200', 100, 0), (2, '1100', 0, %d)) lines (position, account, debit, credit)
      """;

  @Test
  void an_entry_that_does_not_balance() {
    refuses(ENTRY.formatted(month(), 99), "does not balance");
  }

  private String month() {
    return database.fetchSingle("select max(month)::text from period").get(0, String.class);
  }

  @Test
  void a_line_that_is_added_to_an_entry_later_even_if_it_balances() {
    refuses(
        """
        insert into journal_line (entry_id, position, account_code, posting_category, debit_minor, credit_minor)
        select (select min(id) from journal_entry), position, '1100', 'bank', debit, credit
          from (values (91, 5, 0), (92, 0, 5)) lines (position, debit, credit)
        """,
        "nothing is added to it");
  }

  @Test
  void an_entry_in_a_month_that_is_no_period() {
    refuses(ENTRY.formatted("1999-01-15", 100), "violates foreign key");
  }

  @Test
  void an_entry_without_lines() {
    refuses(
        """
        insert into journal_entry (number, entry_date, event, description, source_kind, source_id, posted_at, posted_by)
        values (900002, (select max(month) from period), 'Test', '', 'test', 1, now(), 1)
        """,
        "has no lines");
  }

  @Test
  void an_entry_in_a_closed_period() {
    database.execute("insert into period values ('2025-01-01', now()) on conflict do nothing");
    refuses(ENTRY.formatted("2025-01-15", 100), "closed");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "update journal_line set debit_minor = debit_minor + 1 where debit_minor > 0",
        "delete from journal_line",
        "update journal_entry set entry_date = entry_date - 1",
        "truncate journal_line",
        "update receipt_allocation set amount_minor = 1",
        "delete from receipt",
        "delete from invoice_line",
        "update invoice_text set content = '{}'",
        "delete from invoice",
        "update invoice_vat set vat_minor = 0",
        "update stock_movement set quantity = 1",
        "delete from audit_entry",
        "delete from promised_line"
      })
  void a_change_of_what_only_grows(String statement) {
    refuses(statement, "inserts only");
  }

  @Test
  void an_invoice_that_does_not_add_up_to_its_lines() {
    refuses(
        """
        insert into invoice (number, customer_id, invoice_date, due_date, net_minor, vat_minor, gross_minor, posted_at,
            posted_by)
        select 900001, id, date '2026-11-24', date '2026-12-24', 100, 20, 120, now(), 1 from customer limit 1
        """,
        "does not add up");
  }

  @Test
  void a_credit_note_that_does_not_add_up_to_its_lines() {
    refuses(
        """
        insert into credit_note (number, invoice_id, kind, reason, credit_date, net_minor, vat_minor, gross_minor,
            posted_at, posted_by)
        select 900001, id, 'price', 'Too dear', date '2026-11-24', 100, 20, 120, now(), 1 from invoice limit 1
        """,
        "does not add up");
  }

  @Test
  void an_invoice_whose_gross_is_not_net_and_vat() {
    refuses(
        "set local session_replication_role = replica; update invoice set gross_minor = gross_minor + 1",
        "check constraint");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "update invoice set gross_minor = gross_minor + 1, net_minor = net_minor + 1",
        "update invoice set due_date = due_date + 30",
        "update invoice set number = number + 1"
      })
  void a_change_of_a_posted_invoice(String statement) {
    refuses(statement, "nothing on it changes");
  }

  @Test
  void an_invoice_that_owes_more_than_its_gross_or_less_than_nothing() {
    refuses("update receivable set allocated_minor = -1", "check constraint");
    refuses("update receivable set allocated_minor = gross_minor + 1", "check constraint");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "insert into time_entry (visit_id, person_id, kind, rate_class, started_at, ended_at) select visit_id, person_id, kind, rate_class, started_at, ended_at from time_entry where ended_at > started_at limit 1",
        "update time_entry set ended_at = started_at + interval '17 hours'",
        "update time_entry set ended_at = started_at - interval '1 minute' where time_cost_minor is not null",
        "update time_entry set miles = -1 where kind = 'drive'"
      })
  void a_clock_that_cannot_be(String statement) {
    refuses(statement, "constraint");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "update receipt set amount_minor = 1",
        "update receipt set received_on = received_on - 1",
        "update receipt set customer_id = (select max(id) from customer)"
      })
  void a_change_of_a_receipt(String statement) {
    refuses(statement, "it can only be taken back");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "insert into refund (receipt_id, amount_minor, refunded_on) select id, amount_minor + 1, received_on from receipt limit 1",
        "insert into receipt_allocation (receipt_id, invoice_id, amount_minor, allocated_on) select receipt_id, invoice_id, 100000000, allocated_on from receipt_allocation limit 1",
        "update receipt set taken_back_on = received_on, taken_back_reason = 'x' where id = (select min(receipt_id) from receipt_allocation)"
      })
  void money_that_is_used_twice(String statement) {
    refuses(statement, "used beyond what it holds");
  }

  @Test
  void a_change_of_a_promised_line() {
    refuses("update promised_line set quantity = 2", "it can only be taken out of warranty");
  }

  @Test
  void two_jobs_of_one_quote() {
    refuses(
        "insert into accepted_quote select quote_id, (select max(id) from job), number, promise, now(), accepted_by, quoted_on, net_minor from accepted_quote limit 1",
        "accepted_quote_pkey");
  }

  @Test
  void stock_below_nothing() {
    refuses("update part set quantity = -1", "check constraint");
  }

  private void refuses(String statement, String because) {
    assertThatThrownBy(() -> database.transaction(inner -> inner.dsl().execute(statement)))
        .hasStackTraceContaining(because);
  }

  @Test
  void every_foreign_key_has_an_index() {
    assertThat(
            database
                .resultQuery(
                    """
                    select conrelid::regclass || ' ' || pg_get_constraintdef(c.oid) from pg_constraint c
                    where contype = 'f' and connamespace = 'public'::regnamespace and not exists (
                      select from pg_index i where i.indrelid = c.conrelid
                        and (i.indkey::int2[])[0:cardinality(c.conkey) - 1] @> c.conkey
                        and c.conkey @> (i.indkey::int2[])[0:cardinality(c.conkey) - 1])
                    """)
                .fetch(0, String.class))
        .isEmpty();
  }
}
