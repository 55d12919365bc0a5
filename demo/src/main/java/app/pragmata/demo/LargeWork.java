package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.*;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.billing.ChargeLine;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.CostObject;
import app.pragmata.core.books.CostPlace;
import app.pragmata.core.books.JournalEntry;
import app.pragmata.core.books.Posting;
import app.pragmata.core.books.PostingCategory;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.core.quoting.QuoteTotals;
import app.pragmata.server.billing.InvoiceDocument;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.SiteRecord;
import app.pragmata.server.records.FrozenText;
import app.pragmata.server.records.RecordKind;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.stereotype.Component;

/**
 * Half a million jobs, each costed, billed and posted by the rules of the core, so that the books
 * of the large company are in order.
 */
@Component
@ConditionalOnProperty(name = "pragmata.large", havingValue = "true")
class LargeWork {
  static final int JOBS = 500_000;

  private static final int BOOKED = 1_500;
  private static final int WON = 800;
  private static final int WORKED = 600;
  private static final int CHECKED = 400;
  private static final int BILLED = 6_000;
  private static final int OPEN_QUOTES = 4_000;
  private static final int STOPS_A_DAY = 4;
  private static final int MINUTES_BETWEEN_STOPS = 135;
  private static final int DONE = JOBS - BOOKED - WON;

  private final DSLContext database;
  private final DataSource source;
  private final CompanyStore companies;
  private final FrozenText texts;
  private final List<Long> open = new ArrayList<>();

  LargeWork(DSLContext database, DataSource source, CompanyStore companies, FrozenText texts) {
    this.database = database;
    this.source = source;
    this.companies = companies;
    this.texts = texts;
  }

  /** The jobs that are not settled. */
  List<Long> openJobs() {
    return open;
  }

  static long nextId(DSLContext database, String table) {
    return database
        .resultQuery("select coalesce(max(id), 0) + 1 from " + table)
        .fetchSingle()
        .get(0, Long.class);
  }

  /** Lets new rows go on after the copied ones. */
  static void continueAfterCopy(DSLContext database, String table) {
    database.execute(
        "select setval(pg_get_serial_sequence('%s', 'id'), (select max(id) from %s))"
            .formatted(table, table));
  }

  void fill(Instant now, List<Long> technicians) {
    try (var writer = new Writer(now, technicians)) {
      for (int i = 0; i < JOBS; i++) {
        writer.job(i);
      }
      for (int i = 0; i < OPEN_QUOTES; i++) {
        writer.openQuote(i);
      }
      writer.delivery();
    }
    for (String table :
        List.of(
            "quote",
            "job",
            "visit",
            "time_entry",
            "visit_part",
            "cost_release",
            "journal_entry",
            "invoice",
            "receipt",
            "stock_movement")) {
      continueAfterCopy(database, table);
    }
    Map.of(
            "quote", QUOTE.getName(),
            "job", JOB.getName(),
            "invoice", INVOICE.getName(),
            "receipt", RECEIPT.getName(),
            "journal", JOURNAL_ENTRY.getName())
        .forEach(
            (series, table) ->
                database.execute(
                    "update number_series set next_number = (select max(number) + 1 from %s) where series = '%s'"
                        .formatted(table, series)));
  }

  private enum State {
    WON,
    BOOKED,
    WORKED,
    CHECKED,
    BILLED,
    SETTLED
  }

  /** A job on its way into the tables. */
  private record Draft(
      long id,
      State state,
      LocalDate day,
      Instant started,
      long technician,
      long customerId,
      long siteId,
      long kindId,
      String title,
      boolean quoted,
      int quotedMinutes,
      int driveMinutes,
      int labourMinutes,
      int miles,
      boolean withPart) {}

  private final class Writer implements AutoCloseable {
    private final LargeNames names = new LargeNames(1_849);
    private final Company company = companies.getCompany();
    private final Costing costing = new Costing(company.terms());
    private final Map<PostingCategory, String> accounts = accounts();
    private final LocalDate today;
    private final VatTreatment standard;
    private final BigDecimal standardCost;
    private final Billing billing;
    private final Instant now;
    private final List<Long> technicians;
    private final List<LocalDate> workdaysBack;
    private final List<LocalDate> workdaysAhead;
    private final Map<Long, String> costCentres =
        database.selectFrom(KIND_OF_JOB).fetchMap(KIND_OF_JOB.ID, KIND_OF_JOB.COST_CENTRE);
    private final List<String> faults =
        database
            .select(FAULT_CODE.CODE)
            .from(FAULT_CODE)
            .orderBy(FAULT_CODE.CODE)
            .fetch()
            .into(String.class);
    private final List<String> causes =
        database
            .select(CAUSE_CODE.CODE)
            .from(CAUSE_CODE)
            .orderBy(CAUSE_CODE.CODE)
            .fetch()
            .into(String.class);
    private final long[] kinds = costCentres.keySet().stream().mapToLong(id -> id).toArray();
    private final long office;
    private final long store;
    private final long part;
    private final long firstSite;
    private final long firstCustomer;
    private final long firstJob = nextId(database, "job");
    private long partsUsed;
    private long quote = nextId(database, "quote");
    private long visit = nextId(database, "visit");
    private long timeEntry = nextId(database, "time_entry");
    private long visitPart = nextId(database, "visit_part");
    private long entry = nextId(database, "journal_entry");
    private long invoice = nextId(database, "invoice");
    private long receipt = nextId(database, "receipt");
    private final List<TableCopy> copies = new ArrayList<>();
    private final TableCopy quotes;
    private final TableCopy quoteLines;
    private final TableCopy jobs;
    private final TableCopy releases;
    private final TableCopy acceptedQuotes;
    private final TableCopy visits;
    private final TableCopy times;
    private final TableCopy parts;
    private final TableCopy movements;
    private final TableCopy entries;
    private final TableCopy lines;
    private final TableCopy invoices;
    private final TableCopy bills;
    private final TableCopy invoiceTexts;
    private final TableCopy invoiceLines;
    private final List<InvoiceDocument.Buyer> buyers;
    private final List<SiteRecord> sites;
    private final TableCopy invoiceVat;
    private final TableCopy receivables;
    private final TableCopy receivableJobs;
    private final TableCopy receipts;
    private final TableCopy allocations;
    private final TableCopy standing;

    Writer(Instant now, List<Long> technicians) {
      this.now = now;
      this.technicians = technicians;
      today = now.atZone(company.zone()).toLocalDate();
      standard = company.terms().vat().usualOn(today);
      standardCost = company.terms().standardCostPerHour(RateClass.NORMAL, today);
      billing = new Billing(company.terms(), company.locale(), today);
      workdaysBack =
          workdays(today.minusDays(1), -1, DONE / (technicians.size() * STOPS_A_DAY) + 2);
      workdaysAhead = workdays(today.plusDays(1), 1, 10);
      office =
          database
              .select(PERSON.ID)
              .from(PERSON)
              .where(PERSON.USERNAME.eq("hester"))
              .fetchSingle()
              .value1();
      store =
          database
              .select(STOCK_PLACE.ID)
              .from(STOCK_PLACE)
              .where(STOCK_PLACE.PERSON_ID.isNull())
              .fetchSingle()
              .value1();
      part =
          database
              .select(PART.ID)
              .from(PART)
              .where(PART.NUMBER.eq("PHO-02"))
              .fetchSingle()
              .value1();
      firstSite = nextId(database, "site") - LargeCompany.SITES;
      firstCustomer = nextId(database, "customer") - LargeCompany.CUSTOMERS;
      buyers =
          database
              .selectFrom(CUSTOMER)
              .where(CUSTOMER.ID.ge(firstCustomer))
              .orderBy(CUSTOMER.ID)
              .fetch(
                  row ->
                      new InvoiceDocument.Buyer(
                          row.getName(), row.getAddress(), row.getPostcode(), row.getVatNumber()));
      sites = database.selectFrom(SITE).where(SITE.ID.ge(firstSite)).orderBy(SITE.ID).fetch();
      quotes =
          copy(
              "quote",
              "id, number, customer_id, site_id, kind_of_job_id, title, promise, state, valid_until, net_minor, vat_minor,"
                  + " cost_minor, created_at, sent_at, decided_at, accepted_by, decline_reason, version");
      quoteLines =
          copy(
              "quote_line",
              "quote_id, position, category, description, minutes, rate_class, miles, part_id, quantity, unit_cost,"
                  + " cost_per_mile, unit_price, vat_code, drive_charge");
      jobs =
          copy(
              "job",
              "id, number, customer_id, site_id, equipment_id, kind_of_job_id, title, billing_basis, state,"
                  + " state_since, created_at, version, notes, priority, respond_by, responded_at, fault_code,"
                  + " cause_code");
      releases = copy("cost_release", "id, job_id, kind, invoice_number, closes, released_at");
      acceptedQuotes =
          copy(
              "accepted_quote",
              "quote_id, job_id, number, promise, accepted_at, accepted_by, quoted_on, net_minor");
      visits =
          copy(
              "visit",
              "id, job_id, technician_id, day, start_time, expected_minutes, state, note, finished_at, checked_at,"
                  + " checked_by, version");
      times =
          copy(
              "time_entry",
              "id, visit_id, person_id, day, kind, rate_class, started_at, ended_at, miles, time_cost_minor,"
                  + " distance_cost_minor, cost_release_id");
      parts =
          copy(
              "visit_part",
              "id, visit_id, part_id, quantity, cost_minor, unit_price, place_id, added_at, cost_release_id");
      movements = copy("stock_movement", "part_id, place_id, quantity, cost_minor, moved_at");
      entries =
          copy(
              "journal_entry",
              "id, number, entry_date, event, description, source_kind, source_id, source_number, posted_at,"
                  + " posted_by");
      lines =
          copy(
              "journal_line",
              "entry_id, position, account_code, job_id, job_number, cost_centre, debit_minor, credit_minor");
      invoices =
          copy(
              "invoice",
              "id, number, customer_id, invoice_date, due_date, net_minor, vat_minor, gross_minor, posted_at,"
                  + " posted_by");
      bills = copy("bill", "invoice_id, job_id, kind, billing_basis, net_minor, deducted_minor");
      invoiceTexts = copy("invoice_text", "invoice_id, content, content_hash");
      receivables =
          copy(
              "receivable",
              "invoice_id, customer_id, number, invoice_date, due_date, gross_minor, allocated_minor, version");
      receivableJobs = copy("receivable_job", "invoice_id, job_id, ahead");
      invoiceLines =
          copy(
              "invoice_line",
              "invoice_id, position, job_id, visit_id, category, description, quantity, unit, price_base, unit_price, full_minor,"
                  + " discount_minor, warranty_share, warranty_reduction_minor, net_minor, vat_code, vat_category,"
                  + " vat_percent, vat_reason, vat_said_by");
      invoiceVat =
          copy("invoice_vat", "invoice_id, category, percent, reason, net_minor, vat_minor");
      receipts =
          copy(
              "receipt",
              "id, number, customer_id, received_on, amount_minor, left_minor, method, entered_at, version");
      allocations =
          copy("receipt_allocation", "id, receipt_id, invoice_id, amount_minor, allocated_on");
      standing =
          copy(
              "standing",
              "kind, record_id, stage, day, value_minor, margin_percent, technician_id, remark, customer_name, words, rungs,"
                  + " job_id");
    }

    private TableCopy copy(String table, String columns) {
      var copy = new TableCopy(source, table, columns);
      copies.add(copy);
      return copy;
    }

    private static List<LocalDate> workdays(LocalDate from, int step, int count) {
      var days = new ArrayList<LocalDate>();
      for (LocalDate day = from; days.size() < count; day = day.plusDays(step)) {
        if (day.getDayOfWeek() != DayOfWeek.SATURDAY && day.getDayOfWeek() != DayOfWeek.SUNDAY) {
          days.add(day);
        }
      }
      return days;
    }

    private Map<PostingCategory, String> accounts() {
      return database.selectFrom(POSTING_ACCOUNT).fetch().stream()
          .collect(Collectors.toMap(row -> row.getPostingCategory(), row -> row.getAccountCode()));
    }

    /** The oldest job first; the last ones are still ahead. */
    void job(int i) {
      Draft draft = draft(i);
      if (draft.state() != State.SETTLED) {
        open.add(draft.id());
      }
      Long quoteId = draft.quoted() ? quote(draft, "accepted") : null;
      long visitId = visit++;
      boolean done = draft.state().compareTo(State.WORKED) >= 0;
      boolean approved = draft.state().compareTo(State.CHECKED) >= 0;
      Instant finished =
          draft.started().plusSeconds(60L * (draft.driveMinutes() + draft.labourMinutes()));
      Instant arrived = draft.started().plusSeconds(60L * draft.driveMinutes());
      Instant created = draft.started().minusSeconds(86_400L * 3);
      jobs.row(
          draft.id(),
          2_000 + draft.id(),
          draft.customerId(),
          draft.siteId(),
          null,
          draft.kindId(),
          draft.title(),
          "time_and_parts",
          draft.state() == State.WON || draft.state() == State.BOOKED
              ? "open"
              : approved ? "checked" : "worked",
          finished.isAfter(now) ? created : finished,
          created,
          done ? 4 : 1,
          "",
          quoteId == null ? "normal" : null,
          quoteId == null ? created.plusSeconds(86_400L * 5) : null,
          done ? arrived : null,
          quoteId == null ? one(faults, draft.id()) : null,
          quoteId == null && approved ? one(causes, draft.id() / 7) : null);
      visits.row(
          visitId,
          draft.id(),
          draft.state() == State.WON ? null : draft.technician(),
          draft.state() == State.WON ? null : draft.day(),
          draft.state() == State.WON ? null : LocalTime.ofInstant(draft.started(), company.zone()),
          draft.quotedMinutes(),
          approved
              ? "checked"
              : done ? "finished" : draft.state() == State.WON ? "unplanned" : "planned",
          done ? names.note() : "",
          done ? finished : null,
          approved ? finished.plusSeconds(3_600) : null,
          approved ? office : null,
          3);
      if (done) {
        work(draft, quoteId, visitId, approved, arrived, finished);
      }
    }

    private Draft draft(int i) {
      State state = state(i);
      int stopsADay = technicians.size() * STOPS_A_DAY;
      int stop;
      LocalDate day;
      if (i < DONE) {
        stop = (DONE - 1 - i) % stopsADay;
        day = workdaysBack.get((DONE - 1 - i) / stopsADay);
      } else {
        stop = (i - DONE) % stopsADay;
        day = workdaysAhead.get(Math.min((i - DONE) / stopsADay, workdaysAhead.size() - 1));
      }
      Instant started =
          day.atTime(8, 0)
              .plusMinutes((long) MINUTES_BETWEEN_STOPS * (stop / technicians.size()))
              .atZone(company.zone())
              .toInstant();
      // Some customers call often, most hardly ever.
      double pick = names.below(1_000_000) / 1_000_000.0;
      int site = (int) (pick * pick * LargeCompany.SITES);
      long customer =
          firstCustomer
              + (site < LargeCompany.CUSTOMERS ? site : 2L * (site - LargeCompany.CUSTOMERS));
      return new Draft(
          firstJob + i,
          state,
          day,
          started,
          technicians.get(stop % technicians.size()),
          customer,
          firstSite + site,
          kinds[names.below(kinds.length)],
          names.title(),
          names.below(5) < 2,
          30 + 15 * names.below(5),
          8 + names.below(28),
          25 + names.below(70),
          3 + names.below(25),
          names.below(10) < 3);
    }

    private static State state(int i) {
      int fromEnd = DONE - i;
      if (fromEnd <= 0) {
        return i - DONE < BOOKED ? State.BOOKED : State.WON;
      }
      if (fromEnd <= WORKED) {
        return State.WORKED;
      }
      if (fromEnd <= WORKED + CHECKED) {
        return State.CHECKED;
      }
      return fromEnd <= WORKED + CHECKED + BILLED ? State.BILLED : State.SETTLED;
    }

    private List<QuoteLine> promise(Draft draft) {
      var promise = new ArrayList<QuoteLine>();
      promise.add(
          new QuoteLine.Labour(
              draft.title(),
              draft.quotedMinutes(),
              RateClass.NORMAL,
              standardCost,
              UnitPrice.of("58.00"),
              standard));
      promise.add(
          new QuoteLine.Drive(
              "Call-out",
              25,
              new BigDecimal(10),
              standardCost,
              new BigDecimal("0.38"),
              new DriveCharge.PerCallOut(UnitPrice.of("45.00")),
              standard));
      if (draft.withPart()) {
        promise.add(
            new QuoteLine.Part(
                part,
                "Photocell pair",
                BigDecimal.ONE,
                new BigDecimal("14.25"),
                UnitPrice.of("26.90"),
                standard));
      }
      return promise;
    }

    private long quote(Draft draft, String state) {
      long id = quote++;
      QuoteTotals totals = QuoteTotals.of(promise(draft));
      boolean accepted = state.equals("accepted");
      Instant sent = draft.started().minusSeconds(86_400L * 6);
      quotes.row(
          id,
          1_200 + id,
          draft.customerId(),
          draft.siteId(),
          draft.kindId(),
          draft.title(),
          "estimate",
          state,
          sent.atZone(company.zone()).toLocalDate().plusDays(30),
          totals.vat().net().minor(),
          totals.vat().vat().minor(),
          totals.cost().minor(),
          sent.minusSeconds(3_600),
          sent,
          accepted ? sent.plusSeconds(86_400L * 2) : null,
          accepted ? "The customer" : null,
          null,
          3);
      if (accepted) {
        acceptedQuotes.row(
            id,
            draft.id(),
            1_200 + id,
            "estimate",
            sent.plusSeconds(86_400L * 2),
            "The customer",
            sent.atZone(company.zone()).toLocalDate(),
            totals.vat().net().minor());
      }
      int position = 1;
      for (QuoteLine line : promise(draft)) {
        quoteLine(id, position++, line);
      }
      return id;
    }

    private void quoteLine(long id, int position, QuoteLine line) {
      String category = line.category().code();
      switch (line) {
        case QuoteLine.Labour l ->
            quoteLines.row(
                id,
                position,
                category,
                l.description(),
                l.minutes(),
                "normal",
                null,
                null,
                null,
                l.costPerHour(),
                null,
                l.unitPrice().major(),
                "standard",
                null);
        case QuoteLine.Drive d ->
            quoteLines.row(
                id,
                position,
                category,
                d.description(),
                d.minutes(),
                null,
                d.miles(),
                null,
                null,
                d.costPerHour(),
                d.costPerMile(),
                d.unitPrice().major(),
                "standard",
                d.charge().rule().code());
        case QuoteLine.Part p ->
            quoteLines.row(
                id,
                position,
                category,
                p.description(),
                null,
                null,
                null,
                p.partId(),
                p.quantity(),
                p.unitCost(),
                null,
                p.unitPrice().major(),
                "standard",
                null);
        case QuoteLine.Other other -> throw new IllegalStateException("No other costs here");
      }
    }

    void openQuote(int i) {
      Draft like = draft(DONE - 1 - i * 2);
      quote(
          new Draft(
              0,
              State.WON,
              today,
              now.minusSeconds(86_400L * (i % 30)).plusSeconds(86_400L * 6),
              like.technician(),
              like.customerId(),
              like.siteId(),
              like.kindId(),
              like.title(),
              true,
              like.quotedMinutes(),
              like.driveMinutes(),
              like.labourMinutes(),
              like.miles(),
              like.withPart()),
          "sent");
    }

    private void work(
        Draft draft,
        @Nullable Long quoteId,
        long visitId,
        boolean approved,
        Instant arrived,
        Instant finished) {
      long driveId = timeEntry++;
      long labourId = timeEntry++;
      TimeEntry drive = time(driveId, TimeEntry.Kind.DRIVE, draft, approved);
      TimeEntry labour = time(labourId, TimeEntry.Kind.LABOUR, draft, approved);
      time(drive, draft, visitId, draft.started(), arrived);
      time(labour, draft, visitId, arrived, finished);
      var uses = new ArrayList<PartUse>();
      if (draft.withPart()) {
        uses.add(use(draft, visitId, finished));
      }
      if (!approved) {
        return;
      }
      TimeEntry.Cost driveCost = costing.cost(drive);
      TimeEntry.Cost labourCost = costing.cost(labour);
      post(
          new BooksEvent.TimeApproved(
              of(draft),
              CostPlace.WORK_IN_PROGRESS,
              labourCost.time(),
              driveCost.time(),
              driveCost.distance()),
          "time approved",
          RecordKind.VISIT,
          visitId,
          null,
          draft,
          draft.day(),
          finished.plusSeconds(3_600));
      if (draft.state() == State.CHECKED) {
        return;
      }
      var facts =
          new JobFacts(
              quoteId == null ? List.of() : promise(draft),
              List.of(
                  new JobFacts.VisitFacts(
                      visitId,
                      draft.day(),
                      JobFacts.Charging.WHOLE,
                      List.of(drive, labour),
                      uses,
                      List.of())),
              List.of());
      bill(draft, facts);
    }

    private TimeEntry time(long id, TimeEntry.Kind kind, Draft draft, boolean approved) {
      boolean drive = kind == TimeEntry.Kind.DRIVE;
      var open =
          new TimeEntry(
              id,
              draft.technician(),
              kind,
              RateClass.NORMAL,
              draft.day(),
              drive ? draft.driveMinutes() : draft.labourMinutes(),
              drive ? new BigDecimal(draft.miles()) : BigDecimal.ZERO,
              null);
      return approved
          ? new TimeEntry(
              open.id(),
              open.personId(),
              open.kind(),
              open.rateClass(),
              open.day(),
              open.minutes(),
              open.miles(),
              costing.cost(open))
          : open;
    }

    private void time(TimeEntry entry, Draft draft, long visitId, Instant from, Instant to) {
      TimeEntry.Cost cost = entry.approved();
      times.row(
          entry.id(),
          visitId,
          entry.personId(),
          entry.day(),
          entry.kind() == TimeEntry.Kind.DRIVE ? "drive" : "labour",
          "normal",
          from,
          to,
          entry.miles(),
          cost == null ? null : cost.time().minor(),
          cost == null ? null : cost.distance().minor(),
          released(draft));
    }

    /** The document of this id as the job's is what takes its cost, once it is billed. */
    private static @Nullable Long released(Draft draft) {
      return draft.state().compareTo(State.BILLED) >= 0 ? draft.id() : null;
    }

    private PartUse use(Draft draft, long visitId, Instant at) {
      long id = visitPart++;
      Money cost = Money.ofMinor(1_425);
      post(
          new BooksEvent.PartUsed(of(draft), CostPlace.WORK_IN_PROGRESS, cost),
          "1 Photocell pair",
          RecordKind.VISIT_PART,
          id,
          null,
          draft,
          draft.day(),
          at);
      parts.row(
          id, visitId, part, 1, cost.minor(), new BigDecimal("26.90"), store, at, released(draft));
      movements.row(part, store, -1, -cost.minor(), at);
      partsUsed++;
      return new PartUse(
          id, part, "Photocell pair", BigDecimal.ONE, cost, UnitPrice.of("26.90"), standard, false);
    }

    private void bill(Draft draft, JobFacts facts) {
      CostSheet sheet = costing.cost(facts);
      Bill charged = billing.bill(facts, new BillingBasis.TimeAndParts(), Cover.NONE);
      long id = invoice++;
      long number = 4_000 + id;
      LocalDate billed = earlier(draft.day().plusDays(2), today);
      LocalDate due = billed.plusDays(30);
      Money gross = charged.vat().gross();
      Map<Category, Money> costs =
          Arrays.stream(Category.values())
              .collect(Collectors.toMap(c -> c, c -> sheet.rung(c).actual()));
      Instant at = draft.started().plusSeconds(86_400);
      post(
          new BooksEvent.InvoicePosted(
              gross,
              charged.vat().vat(),
              List.of(BooksEvent.Charged.work(of(draft), charged.netByCategory(), costs))),
          "invoice " + number,
          RecordKind.INVOICE,
          id,
          number,
          draft,
          billed,
          at);
      releases.row(draft.id(), draft.id(), "invoice", number, true, at);
      boolean settled = draft.state() == State.SETTLED;
      invoices.row(
          id,
          number,
          draft.customerId(),
          billed,
          due,
          charged.vat().net().minor(),
          charged.vat().vat().minor(),
          gross.minor(),
          at,
          office);
      receivables.row(
          id,
          draft.customerId(),
          number,
          billed,
          due,
          gross.minor(),
          settled ? gross.minor() : 0,
          settled ? 2 : 1);
      receivableJobs.row(id, draft.id(), false);
      bills.row(id, draft.id(), "final", "time_and_parts", charged.net().minor(), 0);
      text(draft, charged, id, number, billed);
      int position = 1;
      for (ChargeLine line : charged.lines()) {
        invoiceLines.row(
            id,
            position++,
            draft.id(),
            line.of() instanceof ChargeLine.Of.Visit visit ? visit.id() : null,
            Objects.requireNonNull(line.category()).code(),
            line.description(),
            line.priced().quantity(),
            line.priced().unit().code(),
            line.priced().unit().priceBase(),
            line.priced().price().major(),
            line.full().minor(),
            line.reductions().discount().minor(),
            line.reductions().warrantyShare().fraction(),
            line.reductions().warranty().minor(),
            line.net().minor(),
            line.vatTreatment().code(),
            line.vatTreatment().group().category().code(),
            line.vatTreatment().group().percent(),
            line.vatTreatment().group().reason(),
            line.vat().by().code());
      }
      for (VatBreakdown.Taxed taxed : charged.vat().groups()) {
        invoiceVat.row(
            id,
            taxed.group().category().code(),
            taxed.group().percent(),
            taxed.group().reason(),
            taxed.net().minor(),
            taxed.vat().minor());
      }
      if (settled) {
        LocalDate received = earlier(billed.plusDays(5 + names.below(24)), today);
        receive(draft, id, gross, received, at);
        stand(draft, sheet, charged.vat().net(), received, gross);
      }
    }

    private void text(Draft draft, Bill charged, long id, long number, LocalDate billed) {
      SiteRecord site = sites.get((int) (draft.siteId() - firstSite));
      FrozenText.Frozen frozen =
          texts.freeze(
              InvoiceDocument.of(
                  company,
                  number,
                  billed,
                  30,
                  buyers.get((int) (draft.customerId() - firstCustomer)),
                  List.of(
                      InvoiceDocument.ChargedJob.of(
                          2_000 + draft.id(),
                          draft.title(),
                          site.getName(),
                          site.getAddress(),
                          charged,
                          0)),
                  charged.vat()));
      invoiceTexts.row(id, frozen.content(), frozen.hash());
    }

    private void receive(Draft draft, long invoiceId, Money gross, LocalDate day, Instant at) {
      long id = receipt++;
      post(
          new BooksEvent.MoneyReceived(gross, gross),
          "receipt " + (300 + id),
          RecordKind.RECEIPT,
          id,
          300 + id,
          null,
          day,
          at);
      receipts.row(id, 300 + id, draft.customerId(), day, gross.minor(), 0, "bank_transfer", at, 1);
      allocations.row(id, id, invoiceId, gross.minor(), day);
    }

    private void stand(
        Draft draft, CostSheet sheet, Money net, LocalDate receivedOn, Money received) {
      String rungs =
          Arrays.stream(Category.values())
              .map(c -> sheet.rung(c).quoted().minor() + "," + sheet.rung(c).actual().minor())
              .collect(Collectors.joining(",", "{", "}"));
      BigDecimal margin = sheet.marginOn(net).percent();
      standing.row(
          "job",
          draft.id(),
          "settled",
          draft.started().atZone(company.zone()).toLocalDate(),
          0,
          margin,
          draft.technician(),
          "none",
          "",
          "",
          rungs,
          null);
      standing.row(
          "receipt",
          receipt - 1,
          "paid",
          receivedOn,
          received.minor(),
          margin,
          draft.technician(),
          "none",
          "",
          "",
          rungs,
          draft.id());
    }

    private CostObject of(Draft draft) {
      return new CostObject(
          draft.id(), 2_000 + draft.id(), Objects.requireNonNull(costCentres.get(draft.kindId())));
    }

    private void post(
        BooksEvent event,
        String what,
        RecordKind sourceKind,
        long sourceId,
        @Nullable Long sourceNumber,
        @Nullable Draft draft,
        LocalDate day,
        Instant at) {
      long id = entry++;
      JournalEntry balanced = Posting.entryFor(event);
      entries.row(
          id,
          id,
          day,
          event.code().code(),
          draft == null ? what : "J " + (2_000 + draft.id()) + ": " + what,
          sourceKind.code(),
          sourceId,
          sourceNumber,
          at,
          office);
      int position = 1;
      for (JournalEntry.Line line : balanced.lines()) {
        CostObject of = line.of();
        lines.row(
            id,
            position++,
            accounts.get(line.category()),
            of == null ? null : of.jobId(),
            of == null ? null : of.jobNumber(),
            of == null ? null : of.costCentre(),
            line.debit().minor(),
            line.credit().minor());
      }
    }

    /** What was used had been delivered, and some is left. */
    void delivery() {
      long delivered = partsUsed + 500;
      Money worth = Money.ofMinor(1_425).times(BigDecimal.valueOf(delivered));
      Instant at = workdaysBack.getLast().minusDays(1).atStartOfDay(company.zone()).toInstant();
      post(
          new BooksEvent.PartReceived(worth),
          delivered + " Photocell pair",
          RecordKind.PART,
          part,
          null,
          null,
          workdaysBack.getLast().minusDays(1),
          at);
      movements.row(part, store, delivered, worth.minor(), at);
    }

    private static String one(List<String> codes, long id) {
      return codes.get((int) (id % codes.size()));
    }

    private static LocalDate earlier(LocalDate one, LocalDate other) {
      return one.isBefore(other) ? one : other;
    }

    @Override
    public void close() {
      copies.forEach(TableCopy::close);
      BigDecimal left = BigDecimal.valueOf(500);
      database
          .update(PART)
          .set(PART.QUANTITY, left)
          .set(PART.VALUE_MINOR, 500L * 1_425)
          .set(PART.LAST_UNIT_COST, new BigDecimal("14.25"))
          .where(PART.ID.eq(part))
          .execute();
      database.insertInto(STOCK_LEVEL).values(store, part, left).execute();
    }
  }
}
