package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RATE_CLASS_TERMS;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.STANDING;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;
import static app.pragmata.server.generated.Tables.VEHICLE_COST;
import static app.pragmata.server.generated.Tables.WAGE;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.company.RateClass;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.people.Role;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.demo.LargeWeek.Moment;
import app.pragmata.demo.RepeatedRows.Repeats;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.SettingsChanged;
import app.pragmata.server.worklists.Standings;
import app.pragmata.server.worklists.WorkKind;
import java.math.BigDecimal;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Consumer;
import javax.sql.DataSource;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The demo company grown large, to see whether the program stays fast: 100,000 customers, 150,000
 * sites and 500,000 jobs with their books, always the same ones.
 */
@Component
@ConditionalOnProperty(name = "pragmata.large", havingValue = "true")
class LargeCompany {
  /** How many different notes there are. */
  static final int NOTES = 20_000;

  /** What a trigger does for lines that are inserted one statement at a time. */
  private static final String ACCOUNT_TOTALS =
      """
      insert into account_total (account_code, debit_minor, credit_minor, lines)
        select account_code, sum(debit_minor), sum(credit_minor), count(*)
        from journal_line group by account_code
      """;

  private static final String PERIODS =
      "insert into period (month) select distinct period from journal_entry on conflict do nothing";

  /** What is held is what came less what was used; its last cost stays. */
  private static final List<String> STOCK =
      List.of(
          "delete from stock_level",
          "insert into stock_level (place_id, part_id, quantity) select place_id, part_id, sum(quantity) from stock_movement where place_id is not null group by 1, 2",
          "update part set quantity = held.quantity, value_minor = held.cost_minor from (select part_id, sum(quantity) as quantity, sum(cost_minor) as cost_minor from stock_movement group by 1) held where held.part_id = part.id");

  /** The words by which settled jobs and their money are found on the lists. */
  private static final List<String> NAMES =
      List.of(
          """
          update standing s set customer_name = lower(c.name),
              words = lower(concat_ws(' ', j.number, c.name, t.name, j.title))
            from job j join customer c on c.id = j.customer_id join site t on t.id = j.site_id
            where s.kind = 'job' and s.record_id = j.id and s.words = ''
          """,
          """
          update standing s set customer_name = lower(c.name),
              words = lower(concat_ws(' ', r.number, j.number, q.number, c.name, t.name, j.title, q.title))
            from standing o join receipt r on r.id = o.record_id join customer c on c.id = r.customer_id
              left join quote q on q.id = r.quote_id left join job j on j.id = o.job_id
              left join site t on t.id = coalesce(j.site_id, q.site_id)
            where s.kind = 'receipt' and s.words = '' and o.kind = s.kind and o.record_id = s.record_id
          """);

  private static final Logger LOG = LoggerFactory.getLogger(LargeCompany.class);
  private static final LocalDate LONG_AGO = LocalDate.of(2015, 1, 1);

  /** Each site stands near a junction, by its number. */
  private static final String PLACES =
      """
      update site set
        latitude = junction.latitude + (site.id % 29 - 14) / 10000.0,
        longitude = junction.longitude + (site.id % 31 - 15) / 10000.0
      from junction
      where junction.id = site.id * 7 % (select count(*) from junction)
      """;

  private final DSLContext database;
  private final DataSource source;
  private final LargeWeek week;
  private final Standings standings;
  private final CompanyStore companies;
  private final TransactionTemplate transaction;
  private final ApplicationEventPublisher changes;
  private final Size size;

  /**
   * How large it is.
   *
   * @param weeks of which all work is settled, before those of which some is open
   */
  record Size(int technicians, int customers, int weeks) {
    /** Every second customer has two. */
    int sites() {
      return customers + customers / 2;
    }
  }

  LargeCompany(
      DSLContext database,
      DataSource source,
      LargeWeek week,
      Standings standings,
      CompanyStore companies,
      TransactionTemplate transaction,
      ApplicationEventPublisher changes,
      @Value("${pragmata.large.technicians:64}") int technicians,
      @Value("${pragmata.large.customers:100000}") int customers,
      @Value("${pragmata.large.weeks:381}") int weeks) {
    this.database = database;
    this.source = source;
    this.week = week;
    this.standings = standings;
    this.companies = companies;
    this.transaction = transaction;
    this.changes = changes;
    size = new Size(technicians, customers, weeks);
  }

  /** Fills a database that holds the demo's catalogue and nothing else. */
  void fill(Instant now) {
    ZoneId zone = companies.getZone();
    LocalDate today = now.atZone(zone).toLocalDate();
    List<Long> technicians = technicians();
    ratesOfOldDays(technicians);
    var places = new LargePlaces(database, source, today, size.customers());
    LargeWeek.Places first = places.first(LargeWeek.Places.count(size.technicians()));
    places.write(first.count());
    // Who pays when is the same for all copies of a customer's jobs.
    var rows = new RepeatedRows(database, first, size.customers() / 3 * 3);
    step("one week", () -> week.work(today, zone, technicians, first, rows::keep));
    step("customers", () -> places.write(size.sites()));
    step("places", () -> copying(List.of(PLACES)));
    notes();
    List<Repeats> repeats = repeats();
    List<String> insertions = rows.insertions(repeats);
    copying(rows.removal());
    var indexes = new SetAsideIndexes(database, RepeatedRows.TABLES);
    step("jobs", () -> copying(insertions));
    copying(rows.continuation());
    step(
        "documents",
        () -> {
          var documents = new RepeatedDocuments(database, source, rows, places, zone);
          sideBySide(
              List.of(() -> documents.writeBills(repeats), () -> documents.writeQuotes(repeats)));
        });
    database.execute("drop schema week cascade");
    STOCK.forEach(database::execute);
    database.execute(PERIODS);
    step("account totals", () -> database.execute(ACCOUNT_TOTALS));
    step("indexes", () -> building(indexes.definitions()));
    step("search", () -> building(List.of(search("kind <> 'job'"), search("kind = 'job'"))));
    step(
        "words",
        () ->
            database.execute(
                """
                insert into search_word
                  select distinct found.word from search_entry, search_words_of(words) as found (word)
                  on conflict do nothing
                """));
    database.execute("analyze");
    step("what stands open", this::standings);
    step("names on lists", () -> NAMES.forEach(database::execute));
    step("statistics", () -> database.execute("vacuum analyze"));
  }

  /** The oldest first, like their numbers. */
  private List<Repeats> repeats() {
    return List.of(
        new Repeats(Moment.SETTLED, 1 - size.weeks(), 0),
        new Repeats(Moment.BILLED, 1, 5),
        new Repeats(Moment.CHECKED, 6, 6),
        new Repeats(Moment.WORKED, 7, 7),
        new Repeats(Moment.WON, 7, 7),
        new Repeats(Moment.PLANNED, 8, 8),
        new Repeats(Moment.OFFERED, 3, 7));
  }

  /** Notes of which many name something that hardly any other does. */
  private void notes() {
    var names = new LargeNames(1_849);
    database.execute("create table week.note (id integer primary key, note text not null)");
    try (var copy = new TableCopy(source, "week.note", "id, note")) {
      for (int i = 0; i < NOTES; i++) {
        copy.row(i, names.note());
      }
    }
  }

  private static void step(String name, Runnable work) {
    long start = System.nanoTime();
    work.run();
    LOG.info("{}: {} s", name, (System.nanoTime() - start) / 1_000_000_000);
  }

  private static String search(String kinds) {
    return """
        insert into search_entry
          select kind, record_id, customer_id, strip(to_tsvector('simple', search_text(text))), digits
          from search_source where %s
        on conflict do nothing
        """
        .formatted(kinds);
  }

  /** Runs statements without triggers, two at once. */
  private void copying(List<String> statements) {
    running(
        statements,
        List.of(
            "set session_replication_role = replica",
            "set synchronous_commit = off",
            "set time zone '%s'".formatted(companies.getZone())),
        List.of("reset session_replication_role", "reset synchronous_commit", "reset time zone"));
  }

  /** Runs statements that need much memory, two at once. */
  private void building(List<String> statements) {
    running(
        statements,
        List.of("set maintenance_work_mem = '512MB'", "set work_mem = '128MB'"),
        List.of("reset maintenance_work_mem", "reset work_mem"));
  }

  private void running(List<String> statements, List<String> before, List<String> after) {
    Queue<String> left = new ConcurrentLinkedQueue<>(statements);
    Runnable worker =
        () -> {
          try (var connection = source.getConnection();
              var statement = connection.createStatement()) {
            for (String sql : before) {
              statement.execute(sql);
            }
            for (String sql = left.poll(); sql != null; sql = left.poll()) {
              statement.execute(sql);
            }
            for (String sql : after) {
              statement.execute(sql);
            }
          } catch (SQLException exception) {
            throw new IllegalStateException(exception);
          }
        };
    sideBySide(List.of(worker, worker));
  }

  private static void sideBySide(List<Runnable> tasks) {
    var faults = new ConcurrentLinkedQueue<RuntimeException>();
    List<Thread> workers =
        tasks.stream()
            .map(
                task ->
                    Thread.ofVirtual()
                        .start(
                            () -> {
                              try {
                                task.run();
                              } catch (RuntimeException fault) {
                                faults.add(fault);
                              }
                            }))
            .toList();
    for (Thread worker : workers) {
      try {
        worker.join();
      } catch (InterruptedException interrupted) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException(interrupted);
      }
    }
    if (!faults.isEmpty()) {
      throw faults.remove();
    }
  }

  /** Everything that is not settled is worked out by the program's own rules. */
  private void standings() {
    inPortions(
        database
            .select(JOB.ID)
            .from(JOB)
            .whereNotExists(
                selectOne()
                    .from(STANDING)
                    .where(STANDING.KIND.eq(WorkKind.JOB).and(STANDING.RECORD_ID.eq(JOB.ID))))
            .orderBy(JOB.ID)
            .fetch(JOB.ID),
        standings::followJobs);
    inPortions(
        database
            .select(RECEIVABLE.INVOICE_ID)
            .from(RECEIVABLE)
            .where(RECEIVABLE.OWED_MINOR.gt(0L))
            .fetch(RECEIVABLE.INVOICE_ID),
        standings::followInvoices);
    inPortions(
        database
            .select(QUOTE.ID)
            .from(QUOTE)
            .where(QUOTE.STATE.in(QuoteState.Code.DRAFT, QuoteState.Code.SENT))
            .fetch(QUOTE.ID),
        standings::followQuotes);
  }

  private void inPortions(List<Long> ids, Consumer<List<Long>> follow) {
    for (int from = 0; from < ids.size(); from += 500) {
      List<Long> portion = ids.subList(from, Math.min(from + 500, ids.size()));
      transaction.executeWithoutResult(status -> follow.accept(portion));
    }
  }

  private List<Long> technicians() {
    var ids = new ArrayList<Long>();
    for (int i = 1; i <= size.technicians(); i++) {
      long id =
          database
              .insertInto(PERSON, PERSON.NAME, PERSON.USERNAME, PERSON.ROLE)
              .values(
                  "Technician %02d".formatted(i), "technician%02d".formatted(i), Role.TECHNICIAN)
              .returning(PERSON.ID)
              .fetchSingle(PERSON.ID);
      database
          .insertInto(STOCK_PLACE, STOCK_PLACE.NAME, STOCK_PLACE.PERSON_ID)
          .values("Van %02d".formatted(i), id)
          .execute();
      ids.add(id);
    }
    return ids;
  }

  private void ratesOfOldDays(List<Long> technicians) {
    for (long technician : technicians) {
      database
          .insertInto(WAGE)
          .values(technician, LONG_AGO, new BigDecimal("19.60"), new BigDecimal("0.23"))
          .execute();
    }
    database.insertInto(VEHICLE_COST).values(LONG_AGO, new BigDecimal("0.38")).execute();
    database
        .insertInto(RATE_CLASS_TERMS)
        .values(RateClass.NORMAL, LONG_AGO, BigDecimal.ONE, UnitPrice.of("58.00"))
        .values(RateClass.OVERTIME, LONG_AGO, new BigDecimal("1.5"), UnitPrice.of("87.00"))
        .values(RateClass.NIGHT, LONG_AGO, new BigDecimal("2"), UnitPrice.of("116.00"))
        .execute();
    for (String terms :
        List.of(
            "working_hours",
            "pay_terms",
            "charge_terms",
            "cost_terms",
            "markup_band",
            "vat_percent",
            "response_time")) {
      database.execute("update %s set from_day = date '%s'".formatted(terms, LONG_AGO));
    }
    changes.publishEvent(new SettingsChanged());
  }
}
