package app.pragmata.server;

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
        insert into journal_entry (number, entry_date, event, description, source_type, source_id, cost_centre, posted_at, posted_by)
        values (900001, '%s', 'Test', '', 'test', 1, 'test', now(), 1) returning id)
      insert into journal_line select id, position, account, debit, credit from entry,
        (values (1, '1200', 100, 0), (2, '1100', 0, %d)) lines (position, account, debit, credit)
      """;

  @Test
  void an_entry_that_does_not_balance() {
    refuses(ENTRY.formatted("2026-11-24", 99), "does not balance");
  }

  @Test
  void an_entry_without_lines() {
    refuses(
        """
        insert into journal_entry (number, entry_date, event, description, source_type, source_id, cost_centre, posted_at, posted_by)
        values (900002, '2026-11-24', 'Test', '', 'test', 1, 'test', now(), 1)
        """,
        "does not balance");
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
        "truncate journal_line, journal_entry cascade",
        "update receipt set amount_minor = 1",
        "delete from invoice_line",
        "update stock_movement set quantity = 1",
        "delete from audit_entry"
      })
  void a_change_of_what_only_grows(String statement) {
    refuses(statement, "inserts only");
  }

  @Test
  void an_invoice_whose_total_does_not_add_up() {
    refuses("update invoice set gross_minor = gross_minor + 1", "check constraint");
  }

  @Test
  void stock_below_nothing() {
    refuses("update part set quantity = -1", "check constraint");
  }

  private void refuses(String statement, String because) {
    assertThatThrownBy(() -> database.transaction(inner -> inner.dsl().execute(statement)))
        .hasStackTraceContaining(because);
  }
}
