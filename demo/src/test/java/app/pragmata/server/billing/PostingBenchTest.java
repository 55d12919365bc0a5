package app.pragmata.server.billing;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.demo.Demo;
import app.pragmata.server.DemoTemplate;
import app.pragmata.server.Pragmata;
import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SettableClock;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.postgresql.PGConnection;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * Five hundred checked jobs are closed by an invoice each in one list, against a script that knows
 * the outcome and only writes it: the same rows into the same tables with the same triggers.
 */
@Tag("bench")
class PostingBenchTest {
  private static final String NOW = "2026-11-24T06:30";
  private static final int INVOICES = 500;

  @Test
  void five_hundred_invoices_against_a_script_that_only_writes() throws Exception {
    String posted = RunningPragmata.databaseForTests() + "_posting";
    String written = posted + "_bare";
    DemoTemplate.makeEmpty(posted);
    start(posted).close();
    DemoTemplate.copy(posted, written);
    ConfigurableApplicationContext program = start(posted);
    try (Connection from = DemoTemplate.connect(posted);
        Connection to = DemoTemplate.connect(written)) {
      // As many to warm up; then both databases are the same again.
      close(program);
      DSLContext script = DSL.using(to);
      List<String> tables = tables(script);
      script.execute("set session_replication_role = replica");
      tables.forEach(table -> script.execute("truncate public." + table + " cascade"));
      for (String table : tables) {
        copy(from, to, table, "public." + table);
      }
      script.execute("set session_replication_role = origin");
      double seconds = close(program);
      program.close();
      for (String table : tables) {
        keep(from, to, table);
      }
      script.execute("analyze");
      double bare = run(script);
      assertThat(tables.stream().filter(table -> differ(script, table))).isEmpty();
      System.out.printf(
          "%-34s %5.0f ms    script that writes the same rows %5.0f ms    x %.1f, one run%n",
          "posting, 500 invoices", seconds * 1_000, bare * 1_000, seconds / bare);
    }
  }

  private static ConfigurableApplicationContext start(String database) {
    return RunningPragmata.start(
        database,
        new SettableClock(SettableClock.moment(NOW)),
        List.of(Pragmata.class, Demo.class),
        "pragmata.large=true",
        "pragmata.large.technicians=80",
        "pragmata.large.customers=2000",
        "pragmata.large.weeks=1");
  }

  /** Closes checked jobs by an invoice each; gives the seconds that it took. */
  private static double close(ConfigurableApplicationContext program) {
    var checked = CheckedJobs.list(program.getBean(DSLContext.class)).subList(0, INVOICES);
    long start = System.nanoTime();
    CheckedJobs.close(program, checked);
    return (System.nanoTime() - start) / 1e9;
  }

  /** All but who is signed in. */
  private static List<String> tables(DSLContext database) {
    return database
        .resultQuery(
            """
            select table_name from information_schema.tables
              where table_schema = 'public' and table_type = 'BASE TABLE' and table_name !~ '^(spring|flyway)'
              order by 1
            """)
        .fetchInto(String.class);
  }

  /** Brings a table's rows as they were posted beside those as they were before. */
  private static void keep(Connection from, Connection to, String table)
      throws SQLException, IOException {
    DSLContext database = DSL.using(to);
    database.execute("create schema if not exists whole");
    database.execute("create schema if not exists posted");
    database.execute("create table whole.%s (like public.%s)".formatted(table, table));
    copy(from, to, table, "whole." + table);
    database.execute(
        "create table posted.%1$s as (table whole.%1$s except table public.%1$s)".formatted(table));
  }

  private static void copy(Connection from, Connection to, String table, String target)
      throws SQLException, IOException {
    String columns =
        DSL.using(to)
            .resultQuery(
                """
                select string_agg(quote_ident(column_name), ', ' order by ordinal_position)
                  from information_schema.columns
                  where table_schema = 'public' and table_name = {0}
                    and (is_generated = 'NEVER' or {1} like 'whole.%')
                """,
                DSL.val(table), DSL.val(target))
            .fetchSingle()
            .get(0, String.class);
    var rows = new ByteArrayOutputStream();
    from.unwrap(PGConnection.class)
        .getCopyAPI()
        .copyOut("copy (select %s from %s) to stdout".formatted(columns, table), rows);
    to.unwrap(PGConnection.class)
        .getCopyAPI()
        .copyIn(
            "copy %s (%s) from stdin".formatted(target, columns),
            new ByteArrayInputStream(rows.toByteArray()));
  }

  private static double run(DSLContext database) throws IOException {
    String script;
    try (InputStream file =
        Objects.requireNonNull(PostingBenchTest.class.getResourceAsStream("/posting.sql"))) {
      script = new String(file.readAllBytes(), StandardCharsets.UTF_8);
    }
    var statements = new ArrayList<String>();
    for (String statement : script.split(";\\s*\n", -1)) {
      if (!statement.isBlank()) {
        statements.add(statement);
      }
    }
    long start = System.nanoTime();
    database.transaction(
        inside -> statements.forEach(statement -> inside.dsl().execute(statement)));
    return (System.nanoTime() - start) / 1e9;
  }

  private static boolean differ(DSLContext database, String table) {
    return !database
        .fetch(
            "(table whole.%1$s except table public.%1$s) union all (table public.%1$s except table whole.%1$s)"
                .formatted(table))
        .isEmpty();
  }
}
