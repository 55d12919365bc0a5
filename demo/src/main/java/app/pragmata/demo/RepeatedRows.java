package app.pragmata.demo;

import static java.util.stream.Collectors.joining;
import static java.util.stream.Collectors.toMap;

import app.pragmata.demo.LargeWeek.Moment;
import app.pragmata.demo.LargeWeek.Places;
import app.pragmata.server.records.NumberSeries.Series;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/**
 * The rows of a week that the program's services worked, many times over: each copy has ids and
 * numbers of its own that go on without a gap, other customers, and days whole weeks earlier or
 * later. So every copy is as right as the week is.
 */
final class RepeatedRows {
  /**
   * Copies of the week as it stood at a moment.
   *
   * @param first by how many weeks the first copy is later; less than nothing is earlier
   * @param last the same of the last one
   */
  record Repeats(Moment moment, int first, int last) {
    int count() {
      return last - first + 1;
    }
  }

  /**
   * What the rows of a copy are moved by.
   *
   * @param ids of each table, by its name, and of each series of numbers
   */
  record Shift(int weeks, long places, Map<String, Long> ids) {
    long of(String what) {
      return ids.getOrDefault(what, 0L);
    }
  }

  private static final String WEEK = "week";
  private static final int WEEKS_AT_ONCE = 40;

  /** Each table after those that it refers to. */
  static final List<String> TABLES =
      List.of(
          "quote",
          "quote_line",
          "quote_stage",
          "quote_link",
          "accepted_quote",
          "accepted_stage",
          "promised_line",
          "job",
          "visit",
          "time_entry",
          "visit_part",
          "other_cost",
          "drive_home_share",
          "stock_movement",
          "cost_release",
          "invoice",
          "bill",
          "invoice_line",
          "invoice_vat",
          "invoice_deduction",
          "receivable",
          "receivable_job",
          "receipt",
          "receipt_allocation",
          "refund",
          "credit_note",
          "credit_note_line",
          "credit_note_deduction",
          "credit_note_vat",
          "journal_entry",
          "journal_line",
          "standing");

  /** Documents, whose text names numbers, days and people. */
  private static final List<String> TEXTS =
      List.of("quote_edition", "invoice_text", "credit_note_text");

  /** What only the week itself has: who did what, letters, and what is worked out anew. */
  private static final List<String> ONCE =
      List.of("audit_entry", "repeatable_request", "mail", "search_entry", "account_total");

  private static final Map<String, Series> NUMBERS =
      Map.of(
          "quote.number", Series.QUOTE,
          "accepted_quote.number", Series.QUOTE,
          "job.number", Series.JOB,
          "journal_line.job_number", Series.JOB,
          "invoice.number", Series.INVOICE,
          "receivable.number", Series.INVOICE,
          "cost_release.invoice_number", Series.INVOICE,
          "receipt.number", Series.RECEIPT,
          "credit_note.number", Series.CREDIT_NOTE,
          "journal_entry.number", Series.JOURNAL);

  /** What a kind of record is told by, beside its id. */
  private static final Map<String, Series> NUMBERS_OF_KINDS =
      Map.of(
          "quote", Series.QUOTE,
          "job", Series.JOB,
          "invoice", Series.INVOICE,
          "receipt", Series.RECEIPT,
          "credit_note", Series.CREDIT_NOTE);

  private static final Set<String> PLACES = Set.of("customer", "site", "equipment");

  /** Numbers in the words of an entry, by the word before each. */
  private static final String RENUMBERED =
      """
      create function week.renumbered(words text, jobs bigint, invoices bigint, receipts bigint, credits bigint)
        returns text language sql immutable as $$
        select string_agg(part[1] || case when part[2] = '' then '' else (part[2]::bigint + case
            when part[1] ~ '(^|, )J $' then jobs
            when part[1] ~ '(invoice |^, )$' then invoices
            when part[1] ~ '^receipt $' then receipts
            when part[1] ~ 'credit note $' then credits
            else 0 end)::text end, '' order by position)
          from regexp_matches(words, '(\\D*)(\\d*)', 'g') with ordinality as found (part, position)
      $$
      """;

  /** A column of a table; what it refers to is null where that is not one of the tables here. */
  private record Column(String table, String name, String type, @Nullable String refersTo) {}

  private final DSLContext database;
  private final Places places;
  private final int customers;
  private final Map<String, Long> start;
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final Map<Moment, Map<String, Long>> spans = new HashMap<>();

  /**
   * Before the week is worked, while none of its tables has a row.
   *
   * @param customers over how many customers the copies are spread, each with its first site
   */
  RepeatedRows(DSLContext database, Places places, int customers) {
    this.database = database;
    this.places = places;
    this.customers = customers;
    start = nextNumbers();
    database.execute("create schema week");
    database.execute(RENUMBERED);
  }

  /** Keeps the rows as they are now. */
  void keep(Moment moment) {
    for (String table : all()) {
      database.execute("create table %s as table %s".formatted(kept(moment, table), table));
    }
    Map<String, Long> next = nextNumbers();
    Map<String, Long> span =
        start.keySet().stream()
            .collect(toMap(series -> series, series -> next.get(series) - start.get(series)));
    for (String table : TABLES) {
      if (columns(table).stream().anyMatch(column -> column.name().equals("id"))) {
        span.put(
            table,
            database.fetchSingle("select coalesce(max(id), 0) from " + table).get(0, Long.class));
      }
    }
    spans.put(moment, span);
  }

  static String kept(Moment moment, String table) {
    return WEEK + "." + moment.name().toLowerCase(Locale.ROOT) + "_" + table;
  }

  private static List<String> all() {
    var all = new ArrayList<>(TABLES);
    all.addAll(TEXTS);
    return all;
  }

  private Map<String, Long> nextNumbers() {
    return database
        .resultQuery("select series, next_number from number_series")
        .fetchMap(row -> "series " + row.get(0), row -> row.get(1, Long.class));
  }

  private static String series(Series series) {
    return "series " + series.name().toLowerCase(Locale.ROOT);
  }

  /** What takes the week itself away, so that only copies are there. */
  List<String> removal() {
    var removed = new ArrayList<>(all());
    removed.addAll(ONCE);
    return removed.stream().map(table -> "delete from " + table).toList();
  }

  /**
   * What inserts the copies: statements in any order, for connections on which no trigger fires.
   */
  List<String> insertions(List<Repeats> repeats) {
    var statements = new ArrayList<String>();
    for (Repeats each : repeats) {
      for (int from = each.first(); from <= each.last(); from += WEEKS_AT_ONCE) {
        int to = Math.min(from + WEEKS_AT_ONCE - 1, each.last());
        for (String table : TABLES) {
          statements.add(insertion(table, each, from, to, repeats));
        }
      }
    }
    return statements;
  }

  /** By what the rows of one copy are moved. */
  Shift shift(Repeats of, int week, List<Repeats> repeats) {
    Map<String, Long> span = Objects.requireNonNull(spans.get(of.moment()));
    return new Shift(
        week,
        place(week),
        span.keySet().stream()
            .collect(
                toMap(
                    what -> what,
                    what -> base(what, of, repeats) + (week - of.first()) * span.get(what))));
  }

  /** How far the customers of this week's copy lie behind those of the week itself. */
  private long place(int week) {
    return Math.floorMod((long) week * places.count(), (long) customers);
  }

  /** The customer, site or equipment of a copy, counted from the first one. */
  long placed(long index, Shift shift) {
    return (index + shift.places()) % customers;
  }

  /** What the copies before these take up. */
  private long base(String what, Repeats of, List<Repeats> repeats) {
    return repeats.subList(0, repeats.indexOf(of)).stream()
        .mapToLong(
            before ->
                before.count()
                    * Objects.requireNonNull(spans.get(before.moment())).getOrDefault(what, 0L))
        .sum();
  }

  private String insertion(String table, Repeats of, int from, int to, List<Repeats> repeats) {
    Function<String, String> moved =
        what ->
            "(%d + (k - %d) * %d)"
                .formatted(
                    base(what, of, repeats),
                    of.first(),
                    Objects.requireNonNull(spans.get(of.moment())).getOrDefault(what, 0L));
    List<Column> inserted = columns(table);
    return """
        insert into %s (%s) overriding system value
          select %s from generate_series(%d, %d) k cross join %s t %s
        """
        .formatted(
            table,
            inserted.stream().map(column -> '"' + column.name() + '"').collect(joining(", ")),
            inserted.stream().map(column -> value(column, moved)).collect(joining(", ")),
            from,
            to,
            kept(of.moment(), table),
            // What is still open is worked out anew when all rows are there.
            table.equals("standing") ? "where t.stage in ('settled', 'paid')" : "");
  }

  private String value(Column column, Function<String, String> moved) {
    String name = "t.\"" + column.name() + '"';
    Series number = NUMBERS.get(column.table() + "." + column.name());
    if (number != null) {
      return name + " + " + moved.apply(series(number));
    }
    if (column.refersTo() != null) {
      return PLACES.contains(column.refersTo())
          ? placed(column.refersTo(), name)
          : name + " + " + moved.apply(column.refersTo());
    }
    return switch (column.table() + "." + column.name()) {
      case "journal_entry.source_id" -> name + byKind("t.source_kind", moved, kind -> kind);
      case "journal_entry.source_number" ->
          name
              + byKind(
                  "t.source_kind",
                  moved,
                  kind -> {
                    Series series = NUMBERS_OF_KINDS.get(kind);
                    return series == null ? null : series(series);
                  });
      case "journal_entry.description" ->
          "week.renumbered(%s, %s, %s, %s, %s)"
              .formatted(
                  name,
                  moved.apply(series(Series.JOB)),
                  moved.apply(series(Series.INVOICE)),
                  moved.apply(series(Series.RECEIPT)),
                  moved.apply(series(Series.CREDIT_NOTE)));
      case "standing.record_id" -> name + byKind("t.kind", moved, kind -> kind);
      case "standing.words", "standing.customer_name" -> "''";
      case "quote_link.token" ->
          "translate(substr(encode(sha256((%1$s || t.quote_id + %2$s)::text::bytea), 'base64'), 1, length(%1$s)), '+/=', '-_A')"
              .formatted(name, moved.apply("quote"));
      case "visit.note", "job.notes" ->
          "case when %1$s = '' then '' else (select note from week.note where id = (t.id * 31 + (k + 1000) * 977) %% %2$d) end"
              .formatted(name, LargeCompany.NOTES);
      default ->
          switch (column.type()) {
            case "date" -> name + " + k * 7";
            case "timestamp with time zone" -> name + " + k * interval '7 days'";
            default -> name;
          };
    };
  }

  private String placed(String what, String name) {
    long first =
        switch (what) {
          case "customer" -> places.firstCustomer();
          case "site" -> places.firstSite();
          default -> places.firstEquipment();
        };
    return "%1$d + (%2$s - %1$d + ((k * %3$d) %% %4$d + %4$d)) %% %4$d"
        .formatted(first, name, places.count(), customers);
  }

  private static String byKind(
      String kind, Function<String, String> moved, Function<String, @Nullable String> what) {
    return " + case %s %s else 0 end"
        .formatted(
            kind,
            TABLES.stream()
                .filter(table -> what.apply(table) != null)
                .map(
                    table ->
                        "when '%s' then %s"
                            .formatted(
                                table, moved.apply(Objects.requireNonNull(what.apply(table)))))
                .collect(joining(" ")));
  }

  private List<Column> columns(String table) {
    return columns.computeIfAbsent(
        table,
        name ->
            database
                .resultQuery(
                    """
                    select column_name, data_type from information_schema.columns
                      where table_schema = 'public' and table_name = {0} and is_generated = 'NEVER'
                      order by ordinal_position
                    """,
                    org.jooq.impl.DSL.val(name))
                .fetch(
                    row ->
                        new Column(
                            name,
                            row.get(0, String.class),
                            row.get(1, String.class),
                            refersTo(name, row.get(0, String.class)))));
  }

  /** Whose id a column holds, through as many tables as it takes. */
  private @Nullable String refersTo(String table, String column) {
    if (column.equals("id")) {
      return TABLES.contains(table) || PLACES.contains(table) ? table : null;
    }
    return references().getOrDefault(table + "." + column, List.of()).stream()
        .map(target -> refersTo(target.table(), target.column()))
        .filter(Objects::nonNull)
        .findFirst()
        .orElse(null);
  }

  private record Target(String table, String column) {}

  private @Nullable Map<String, List<Target>> references;

  private Map<String, List<Target>> references() {
    if (references == null) {
      references =
          database
              .resultQuery(
                  """
                  select c.conrelid::regclass::text || '.' || own.attname, c.confrelid::regclass::text, other.attname
                    from pg_constraint c
                    cross join unnest(c.conkey, c.confkey) as key (own, other)
                    join pg_attribute own on own.attrelid = c.conrelid and own.attnum = key.own
                    join pg_attribute other on other.attrelid = c.confrelid and other.attnum = key.other
                    where c.contype = 'f'
                  """)
              .fetchGroups(
                  row -> row.get(0, String.class),
                  row -> new Target(row.get(1, String.class), row.get(2, String.class)));
    }
    return references;
  }

  /** What lets new rows and numbers go on after the copies. */
  List<String> continuation() {
    var statements = new ArrayList<String>();
    for (String table : TABLES) {
      if (columns(table).stream().anyMatch(column -> column.name().equals("id"))) {
        statements.add(
            "select setval(pg_get_serial_sequence('%1$s', 'id'), (select coalesce(max(id), 1) from %1$s))"
                .formatted(table));
      }
    }
    NUMBERS_OF_KINDS.forEach((table, series) -> statements.add(continuation(table, series)));
    statements.add(continuation("journal_entry", Series.JOURNAL));
    return statements;
  }

  private static String continuation(String table, Series series) {
    return "update number_series set next_number = (select coalesce(max(number) + 1, next_number) from %s) where series = '%s'"
        .formatted(table, series.name().toLowerCase(Locale.ROOT));
  }
}
