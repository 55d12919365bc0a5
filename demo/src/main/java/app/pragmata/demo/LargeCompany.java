package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.*;

import app.pragmata.core.company.RateClass;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.people.Role;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.company.SettingsChanged;
import app.pragmata.server.worklists.Standings;
import java.math.BigDecimal;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Queue;
import java.util.Set;
import java.util.concurrent.ConcurrentLinkedQueue;
import javax.sql.DataSource;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
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
  static final int CUSTOMERS = 100_000;
  static final int SITES = 150_000;

  /** What a trigger does for lines that are inserted one statement at a time. */
  private static final String ACCOUNT_TOTALS =
      """
      insert into account_total (account_code, debit_minor, credit_minor, lines)
        select account_code, sum(debit_minor), sum(credit_minor), count(*)
        from journal_line group by account_code
      on conflict (account_code) do update set debit_minor = excluded.debit_minor,
        credit_minor = excluded.credit_minor, lines = excluded.lines
      """;

  private static final Logger LOG = LoggerFactory.getLogger(LargeCompany.class);
  private static final int TECHNICIANS = 64;
  private static final LocalDate LONG_AGO = LocalDate.of(2015, 1, 1);
  private static final String PROMISES =
      """
      insert into promised_line (quote_id, position, category, description, minutes, rate_class, miles, part_id,
          quantity, unit_cost, cost_per_mile, drive_charge, unit_price, vat_code, vat_percent, discount_minor,
          warranty_share, warranty_reduction_minor, discount_of_whole_minor)
        select l.quote_id, l.position, l.category, l.description, l.minutes, l.rate_class, l.miles, l.part_id,
            l.quantity, l.unit_cost, l.cost_per_mile, l.drive_charge, l.unit_price, l.vat_code, coalesce(v.percent, 0), 0, 0, 0, 0
          from quote_line l join accepted_quote a on a.quote_id = l.quote_id
            left join vat_percent v on v.vat_code = l.vat_code
          where not exists (select from promised_line p where p.quote_id = a.quote_id)
      """;

  private final DSLContext database;
  private final DataSource source;
  private final LargeWork work;
  private final Standings standings;
  private final TransactionTemplate transaction;
  private final ApplicationEventPublisher changes;

  LargeCompany(
      DSLContext database,
      DataSource source,
      LargeWork work,
      Standings standings,
      TransactionTemplate transaction,
      ApplicationEventPublisher changes) {
    this.database = database;
    this.source = source;
    this.work = work;
    this.standings = standings;
    this.transaction = transaction;
    this.changes = changes;
  }

  /** Fills a database that holds the demo's catalogue and nothing else. */
  void fill(Instant now) {
    var technicians = technicians();
    ratesOfOldDays(technicians);
    var indexes =
        new SetAsideIndexes(
            database,
            Set.of(
                "customer",
                "contact",
                "site",
                "equipment",
                "quote",
                "quote_line",
                "job",
                "accepted_quote",
                "promised_line",
                "visit",
                "time_entry",
                "visit_part",
                "journal_entry",
                "journal_line",
                "invoice",
                "invoice_line",
                "receipt",
                "stock_movement",
                "standing",
                "search_entry"));
    step("customers", () -> customers(now));
    step("jobs", () -> work.fill(now, technicians));
    step("promises", () -> database.execute(PROMISES));
    step("account totals", () -> database.execute(ACCOUNT_TOTALS));
    step("indexes", () -> sideBySide(indexes.definitions()));
    step("search", () -> sideBySide(List.of(search("kind <> 'job'"), search("kind = 'job'"))));
    step(
        "words",
        () ->
            database.execute(
                """
                insert into search_word
                  select distinct found.word from search_entry, search_words_of(words) as found (word)
                  on conflict do nothing
                """));
    step("what stands open", this::standings);
    step(
        "names on lists",
        () ->
            database.execute(
                """
                update standing s set customer_name = lower(c.name),
                    words = lower(concat_ws(' ', j.number, c.name, t.name, j.title))
                  from job j join customer c on c.id = j.customer_id join site t on t.id = j.site_id
                  where s.kind = 'job' and s.record_id = j.id and s.words = ''
                """));
    step("statistics", () -> database.execute("vacuum analyze"));
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

  /** Runs statements on two connections at once. */
  private void sideBySide(List<String> statements) {
    Queue<String> left = new ConcurrentLinkedQueue<>(statements);
    var faults = new ConcurrentLinkedQueue<SQLException>();
    var workers = new ArrayList<Thread>();
    for (int i = 0; i < 2; i++) {
      workers.add(Thread.startVirtualThread(() -> work(left, faults)));
    }
    for (Thread worker : workers) {
      try {
        worker.join();
      } catch (InterruptedException interrupted) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException(interrupted);
      }
    }
    if (!faults.isEmpty()) {
      throw new IllegalStateException(faults.peek());
    }
  }

  private void work(Queue<String> left, Queue<SQLException> faults) {
    try (var connection = source.getConnection();
        var statement = connection.createStatement()) {
      statement.execute("set maintenance_work_mem = '512MB'");
      statement.execute("set work_mem = '128MB'");
      for (String sql = left.poll(); sql != null; sql = left.poll()) {
        statement.execute(sql);
      }
      statement.execute("reset maintenance_work_mem");
      statement.execute("reset work_mem");
    } catch (SQLException exception) {
      faults.add(exception);
    }
  }

  /** Everything that is not settled is worked out by the program's own rules. */
  private void standings() {
    var open = new ArrayDeque<>(work.openJobs());
    while (!open.isEmpty()) {
      var portion = new ArrayList<Long>();
      while (!open.isEmpty() && portion.size() < 500) {
        portion.add(open.poll());
      }
      transaction.executeWithoutResult(status -> standings.followJobs(portion));
    }
    var quotes =
        database
            .select(QUOTE.ID)
            .from(QUOTE)
            .where(QUOTE.STATE.in(QuoteState.Code.DRAFT, QuoteState.Code.SENT))
            .fetch(QUOTE.ID);
    for (int from = 0; from < quotes.size(); from += 500) {
      var portion = quotes.subList(from, Math.min(from + 500, quotes.size()));
      transaction.executeWithoutResult(status -> standings.followQuotes(portion));
    }
  }

  private List<Long> technicians() {
    String hash =
        database.select(PERSON.PASSWORD_HASH).from(PERSON).limit(1).fetchSingle().value1();
    var ids = new ArrayList<Long>();
    for (int i = 1; i <= TECHNICIANS; i++) {
      long id =
          database
              .insertInto(PERSON, PERSON.NAME, PERSON.USERNAME, PERSON.PASSWORD_HASH, PERSON.ROLE)
              .values(
                  "Technician %02d".formatted(i),
                  "technician%02d".formatted(i),
                  hash,
                  Role.TECHNICIAN)
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
            "charge_terms",
            "cost_terms",
            "markup_band",
            "vat_percent",
            "response_time")) {
      database.execute("update %s set from_day = date '%s'".formatted(terms, LONG_AGO));
    }
    changes.publishEvent(new SettingsChanged());
  }

  /** Everybody has a site where they are; every second one has another. */
  private void customers(Instant now) {
    var names = new LargeNames(1_848);
    long[] kinds =
        Arrays.stream(DemoCatalogue.MODELS)
            .mapToLong(model -> DemoFrontDesk.kind(database, model))
            .toArray();
    LocalDate today = now.atZone(DemoCatalogue.ZONE).toLocalDate();
    long firstCustomer = nextId("customer");
    long firstSite = nextId("site");
    long firstEquipment = nextId("equipment");
    long number = 1_001;
    try (var customer =
            new TableCopy(
                source,
                "customer",
                "id, number, name, phone, email, address, postcode, payment_days, credit_limit_minor");
        var site =
            new TableCopy(
                source, "site", "id, customer_id, name, address, postcode, access_notes, area");
        var contact = new TableCopy(source, "contact", "customer_id, site_id, name, phone, opens");
        var equipment =
            new TableCopy(
                source,
                "equipment",
                "id, site_id, model, serial_number, fitted_on, parts_warranty_until, parts_warranty_share,"
                    + " labour_warranty_until, labour_warranty_share, equipment_kind_id")) {
      for (int i = 0; i < SITES; i++) {
        boolean first = i < CUSTOMERS;
        long customerId = firstCustomer + (first ? i : 2L * (i - CUSTOMERS));
        String street = names.street();
        String postcode = names.postcode();
        if (first) {
          boolean firm = i % 3 == 0;
          String name = firm ? names.firm() : names.person();
          customer.row(
              customerId,
              number++,
              name,
              names.phone(),
              name.toLowerCase(java.util.Locale.ROOT).replaceAll("[^a-z]+", ".") + "@example.com",
              street,
              postcode,
              firm ? 30 : 14,
              firm ? 500_000 : 0);
        }
        site.row(
            firstSite + i,
            customerId,
            first ? "main site" : "Unit " + (1 + names.below(40)),
            street,
            postcode,
            "",
            postcode.split(" ", 2)[0]);
        if (names.below(3) == 0) {
          contact.row(customerId, firstSite + i, names.person(), names.phone(), true);
        }
        int kind = names.below(DemoCatalogue.MODELS.length);
        LocalDate fitted = today.minusDays(30 + names.below(4_000));
        equipment.row(
            firstEquipment + i,
            firstSite + i,
            DemoCatalogue.MODELS[kind],
            "LG %07d".formatted(i),
            fitted,
            fitted.plusYears(2),
            "0.6",
            fitted.plusMonths(6),
            "0.5",
            kinds[kind]);
      }
    }
    for (String table : List.of("customer", "site", "equipment")) {
      continueAfterCopy(table);
    }
    database
        .update(NUMBER_SERIES)
        .set(NUMBER_SERIES.NEXT_NUMBER, number)
        .where(NUMBER_SERIES.SERIES.eq("customer"))
        .execute();
  }

  private long nextId(String table) {
    return LargeWork.nextId(database, table);
  }

  private void continueAfterCopy(String table) {
    LargeWork.continueAfterCopy(database, table);
  }
}
