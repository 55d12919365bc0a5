package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.DEPOSIT;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.STANDING;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Money;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.generated.tables.records.InvoiceRecord;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.generated.tables.records.StandingRecord;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.jobs.JobStore.WholeJob;
import app.pragmata.server.jobs.JobStore.WholeVisit;
import app.pragmata.server.quoting.QuoteStore;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.WhatHappened;
import java.time.Clock;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Repository;

/** Keeps where the money of every quote and job stands, as it follows from what happens. */
@Repository
public class Standings {
  private static final int PORTION = 500;

  private final DSLContext database;
  private final JobStore jobs;
  private final QuoteStore quotes;
  private final CompanyStore companies;
  private final Clock clock;

  Standings(
      DSLContext database, JobStore jobs, QuoteStore quotes, CompanyStore companies, Clock clock) {
    this.database = database;
    this.jobs = jobs;
    this.quotes = quotes;
    this.companies = companies;
    this.clock = clock;
  }

  private LocalDate today() {
    return clock.instant().atZone(companies.getZone()).toLocalDate();
  }

  /** Works out anew what stands where, for all that happened in a transaction. */
  @EventListener
  public void follow(WhatHappened what) {
    Set<Long> withDeposits = what.owners(happened -> happened.is(RecordKind.DEPOSIT));
    var quoteIds = new HashSet<>(what.records(happened -> happened.is(RecordKind.QUOTE)));
    quoteIds.addAll(withDeposits);
    var jobIds = new HashSet<>(what.records(happened -> happened.is(RecordKind.JOB)));
    if (!withDeposits.isEmpty()) {
      jobIds.addAll(
          database.fetchValues(
              select(ACCEPTED_QUOTE.JOB_ID)
                  .from(ACCEPTED_QUOTE)
                  .where(ACCEPTED_QUOTE.QUOTE_ID.in(withDeposits))));
    }
    Set<Long> promised =
        what.records(
            happened ->
                happened.event() == JobEvent.MADE_FROM_QUOTE
                    || happened.event() == JobEvent.EXTRA_WORK_PROMISED);
    if (!promised.isEmpty()) {
      quoteIds.addAll(
          database.fetchValues(
              select(ACCEPTED_QUOTE.QUOTE_ID)
                  .from(ACCEPTED_QUOTE)
                  .where(ACCEPTED_QUOTE.JOB_ID.in(promised))));
    }
    // A name that changes is the new one on every list.
    Set<Long> customerIds =
        what.records(
            happened ->
                happened.event() == CustomerEvent.TOOK_IN
                    || (happened.is(RecordKind.CUSTOMER) && happened.changed().contains("name")));
    Set<Long> siteIds =
        what.records(
            happened -> happened.is(RecordKind.SITE) && happened.changed().contains("name"));
    if (!customerIds.isEmpty() || !siteIds.isEmpty()) {
      quoteIds.addAll(
          database.fetchValues(
              select(QUOTE.ID)
                  .from(QUOTE)
                  .where(QUOTE.CUSTOMER_ID.in(customerIds).or(QUOTE.SITE_ID.in(siteIds)))));
      jobIds.addAll(
          database.fetchValues(
              select(JOB.ID)
                  .from(JOB)
                  .where(JOB.CUSTOMER_ID.in(customerIds).or(JOB.SITE_ID.in(siteIds)))));
    }
    inPortions(quoteIds, this::followQuotes);
    inPortions(jobIds, this::followJobs);
  }

  /** Works out anew where every quote and job stands. */
  public void recompute() {
    database.deleteFrom(STANDING).execute();
    inPortions(database.select(QUOTE.ID).from(QUOTE).fetch(QUOTE.ID), this::followQuotes);
    inPortions(database.select(JOB.ID).from(JOB).fetch(JOB.ID), this::followJobs);
  }

  private static void inPortions(Collection<Long> all, Consumer<List<Long>> work) {
    List<Long> ids = List.copyOf(all);
    for (int from = 0; from < ids.size(); from += PORTION) {
      work.accept(ids.subList(from, Math.min(from + PORTION, ids.size())));
    }
  }

  /** Works out anew where these jobs stand. */
  public void followJobs(Collection<Long> jobIds) {
    if (jobIds.isEmpty()) {
      return;
    }
    Company company = companies.getCompany();
    store(
        jobs.list(JOB.ID.in(jobIds), today(), bill(), (job, bill) -> standing(company, job, bill)));
  }

  /** Money that came in. */
  private record CameIn(LocalDate day, long minor) {}

  /** A job's invoice, null while it is not billed, and what came in for it or its quote. */
  private record Bill(@Nullable InvoiceRecord invoice, List<CameIn> cameIn) {}

  private static Field<Bill> bill() {
    Field<@Nullable InvoiceRecord> invoice =
        multiset(select(INVOICE.fields()).from(INVOICE).where(INVOICE.JOB_ID.eq(JOB.ID)))
            .convertFrom(rows -> rows.isEmpty() ? null : rows.getFirst().into(INVOICE));
    Field<List<CameIn>> cameIn =
        multiset(
                select(RECEIPT.RECEIVED_ON, RECEIPT.AMOUNT_MINOR)
                    .from(RECEIPT)
                    .join(INVOICE)
                    .on(INVOICE.ID.eq(RECEIPT.INVOICE_ID))
                    .where(INVOICE.JOB_ID.eq(JOB.ID))
                    .unionAll(
                        select(DEPOSIT.RECEIVED_ON, DEPOSIT.AMOUNT_MINOR)
                            .from(DEPOSIT)
                            .join(ACCEPTED_QUOTE)
                            .on(ACCEPTED_QUOTE.QUOTE_ID.eq(DEPOSIT.QUOTE_ID))
                            .where(ACCEPTED_QUOTE.JOB_ID.eq(JOB.ID))))
            .convertFrom(rows -> rows.map(Records.mapping(CameIn::new)));
    return multiset(select(invoice, cameIn))
        .as("bill")
        .convertFrom(rows -> rows.map(Records.mapping(Bill::new)).getFirst());
  }

  private Map<Long, List<CameIn>> cameInForQuotes(Collection<Long> quoteIds) {
    return database
        .select(DEPOSIT.QUOTE_ID, DEPOSIT.RECEIVED_ON, DEPOSIT.AMOUNT_MINOR)
        .from(DEPOSIT)
        .where(DEPOSIT.QUOTE_ID.in(quoteIds))
        .fetchGroups(row -> row.value1(), row -> new CameIn(row.value2(), row.value3()));
  }

  /**
   * Works out anew where these quotes stand; one that was declined or became a job stands nowhere.
   */
  public void followQuotes(Collection<Long> quoteIds) {
    if (quoteIds.isEmpty()) {
      return;
    }
    Company company = companies.getCompany();
    var lines = quotes.lines(QUOTE.ID, today());
    var costing = new Costing(company.terms());
    Map<Long, List<CameIn>> cameIn = cameInForQuotes(quoteIds);
    var standing = new ArrayList<StandingRecord>();
    database
        .select(QUOTE.fields())
        .select(lines, CUSTOMER.NAME, SITE.NAME)
        .from(QUOTE)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(QUOTE.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(QUOTE.SITE_ID))
        .where(QUOTE.ID.in(quoteIds))
        .and(QUOTE.STATE.ne(QuoteState.Code.DECLINED))
        .andNotExists(selectOne().from(ACCEPTED_QUOTE).where(ACCEPTED_QUOTE.QUOTE_ID.eq(QUOTE.ID)))
        .forEach(
            row ->
                standing.add(
                    standing(
                        company.zone(),
                        row.into(QUOTE),
                        row.get(CUSTOMER.NAME),
                        row.get(SITE.NAME),
                        costing.cost(new JobFacts(row.get(lines), List.of(), List.of())),
                        cameIn.getOrDefault(row.get(QUOTE.ID), List.of()))));
    database
        .deleteFrom(STANDING)
        .where(STANDING.KIND.eq(WorkKind.QUOTE).and(STANDING.RECORD_ID.in(quoteIds)))
        .execute();
    store(standing);
  }

  private void store(List<StandingRecord> rows) {
    database.batchMerge(rows).execute();
  }

  private static StandingRecord standing(
      ZoneId zone,
      QuoteRecord quote,
      String customer,
      String site,
      CostSheet sheet,
      List<CameIn> cameIn) {
    var row = new StandingRecord();
    row.setKind(WorkKind.QUOTE);
    row.setRecordId(quote.getId());
    boolean accepted = quote.getState() == QuoteState.Code.ACCEPTED;
    row.setStage(accepted ? Stage.WON : Stage.QUOTED);
    row.setDay(
        Objects.requireNonNullElse(
                quote.getDecidedAt(),
                Objects.requireNonNullElse(quote.getSentAt(), quote.getCreatedAt()))
            .atZone(zone)
            .toLocalDate());
    row.setValidUntil(quote.getState() == QuoteState.Code.SENT ? quote.getValidUntil() : null);
    row.setValueMinor(quote.getNetMinor());
    row.setMarginPercent(sheet.quotedMargin().percent());
    row.setTechnicianId(null);
    row.setRemark(
        accepted
            ? Remark.NO_JOB_YET
            : quote.getState() == QuoteState.Code.SENT ? Remark.SENT : Remark.DRAFT);
    name(row, quote.getNumber(), customer, site, quote.getTitle());
    row.setRungs(rungs(sheet));
    receive(row, cameIn);
    return row;
  }

  private StandingRecord standing(Company company, WholeJob job, Bill bill) {
    InvoiceRecord invoice = bill.invoice();
    Stage stage =
        Stage.of(job, invoice == null ? Money.ZERO : Money.ofMinor(invoice.getOwedMinor()));
    CostSheet sheet = new Costing(company.terms()).cost(job.facts(company.zone()));
    Money net = net(stage, company, job, invoice, sheet);
    boolean begun = stage.compareTo(Stage.BOOKED) > 0;
    Margin margin = begun ? sheet.marginOn(net) : sheet.quotedMargin();
    var row = new StandingRecord();
    row.setKind(WorkKind.JOB);
    row.setRecordId(job.job().id());
    row.setStage(stage);
    row.setDay(day(stage, job, bill, company.zone()));
    row.setValidUntil(null);
    row.setValueMinor(invoice == null ? net.minor() : invoice.getOwedMinor());
    row.setMarginPercent(margin.percent());
    row.setTechnicianId(technician(job));
    remark(row, stage, job, invoice);
    name(row, job.job().number(), job.customer(), job.site().name(), job.job().title());
    row.setRungs(rungs(sheet));
    receive(row, bill.cameIn());
    return row;
  }

  /** What came in last, with all that came in the month of that day. */
  private static void receive(StandingRecord row, List<CameIn> cameIn) {
    LocalDate last = cameIn.stream().map(CameIn::day).max(LocalDate::compareTo).orElse(null);
    row.setReceivedOn(last);
    row.setReceivedMinor(
        last == null
            ? null
            : cameIn.stream()
                .filter(money -> YearMonth.from(money.day()).equals(YearMonth.from(last)))
                .mapToLong(CameIn::minor)
                .sum());
  }

  private static void name(
      StandingRecord row, long number, String customer, String site, String title) {
    row.setCustomerName(customer.toLowerCase(Locale.ROOT));
    row.setWords(
        String.join(" ", Long.toString(number), customer, site, title).toLowerCase(Locale.ROOT));
  }

  private Money net(
      Stage stage,
      Company company,
      WholeJob job,
      @Nullable InvoiceRecord invoice,
      CostSheet sheet) {
    if (invoice != null) {
      return Money.ofMinor(invoice.getNetMinor());
    }
    if (job.job().billingBasis() == BillingBasis.Code.NOT_CHARGED) {
      return Money.ZERO;
    }
    boolean byWork =
        job.job().billingBasis() == BillingBasis.Code.TIME_AND_PARTS
            && stage.compareTo(Stage.BOOKED) > 0;
    return byWork
        ? new Billing(company.terms(), company.locale(), today())
            .draft(job.facts(company.zone()), new BillingBasis.TimeAndParts(), job.warranty())
            .vat()
            .net()
        : sheet.quotedNet();
  }

  private static LocalDate day(Stage stage, WholeJob job, Bill bill, ZoneId zone) {
    InvoiceRecord invoice = bill.invoice();
    LocalDate since = job.job().stateSince().atZone(zone).toLocalDate();
    return switch (stage) {
      case BOOKED ->
          job.visits().stream()
              .filter(visit -> visit.state().isAhead())
              .map(WholeVisit::day)
              .filter(Objects::nonNull)
              .min(LocalDate::compareTo)
              .orElse(since);
      case BILLED -> invoice == null ? since : invoice.getDueDate();
      case SETTLED ->
          Stream.concat(
                  job.closing().map(closing -> closing.at().atZone(zone).toLocalDate()).stream(),
                  bill.cameIn().stream().map(CameIn::day))
              .max(LocalDate::compareTo)
              .orElse(since);
      default -> since;
    };
  }

  private static @Nullable Long technician(WholeJob job) {
    return job.visits().stream()
        .map(WholeVisit::technicianId)
        .filter(Objects::nonNull)
        .reduce((first, second) -> second)
        .orElse(null);
  }

  private static void remark(
      StandingRecord row, Stage stage, WholeJob job, @Nullable InvoiceRecord invoice) {
    row.setRemark(
        switch (stage) {
          case WON -> Remark.NO_TIME_YET;
          case BOOKED ->
              count(job, VisitState.Code.ON_SITE) > 0
                  ? Remark.ON_SITE
                  : count(job, VisitState.Code.DRIVING) > 0 ? Remark.DRIVING : Remark.PLANNED;
          case WORKED -> Remark.VISITS_TO_CHECK;
          case CHECKED ->
              switch (job.job().billingBasis()) {
                case FIXED_PRICE -> Remark.FIXED_PRICE;
                case TIME_AND_PARTS -> Remark.TIME_AND_PARTS;
                case NOT_CHARGED -> Remark.NOT_CHARGED;
              };
          case BILLED -> Remark.INVOICE;
          case PAID, QUOTED, SETTLED -> Remark.NONE;
        });
    row.setRemarkNumber(
        stage == Stage.WORKED
            ? Long.valueOf(count(job, VisitState.Code.FINISHED))
            : stage == Stage.BILLED && invoice != null ? invoice.getNumber() : null);
  }

  private static long count(WholeJob job, VisitState.Code state) {
    return job.visits().stream().filter(visit -> visit.state() == state).count();
  }

  private static Long[] rungs(CostSheet sheet) {
    return Arrays.stream(Category.values())
        .flatMap(
            category ->
                Stream.of(
                    sheet.rung(category).quoted().minor(), sheet.rung(category).actual().minor()))
        .toArray(Long[]::new);
  }
}
