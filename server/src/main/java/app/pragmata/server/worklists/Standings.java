package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.BILLED_AHEAD;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.RECEIPT_ALLOCATION;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.RECEIVABLE_JOB;
import static app.pragmata.server.generated.Tables.SALE;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.STANDING;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Money;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.generated.tables.Standing;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.generated.tables.records.StandingRecord;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.jobs.WholeJob;
import app.pragmata.server.jobs.WholeJob.WholeVisit;
import app.pragmata.server.quoting.QuoteStore;
import app.pragmata.server.receipts.ReceiptStore;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.WhatHappened;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Record1;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Repository;

/**
 * Keeps where the money of every quote, job and open invoice stands, and what came in, as it
 * follows from what happens. What is billed stands with its invoices, and no more with their jobs.
 */
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
    var quoteIds = new HashSet<>(what.records(happened -> happened.is(RecordKind.QUOTE)));
    var jobIds = new HashSet<>(what.records(happened -> happened.is(RecordKind.JOB)));
    // A part that a technician takes from the van changes nothing of the job itself.
    jobIds.addAll(what.owners(happened -> happened.is(RecordKind.VISIT_PART)));
    var receiptIds = new HashSet<>(what.records(happened -> happened.is(RecordKind.RECEIPT)));
    var invoiceIds = new HashSet<>(what.records(happened -> happened.is(RecordKind.INVOICE)));
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
      receiptIds.addAll(
          database.fetchValues(
              select(RECEIPT.ID).from(RECEIPT).where(RECEIPT.CUSTOMER_ID.in(customerIds))));
      invoiceIds.addAll(
          database.fetchValues(
              select(RECEIVABLE.INVOICE_ID)
                  .from(RECEIVABLE)
                  .where(
                      RECEIVABLE.CUSTOMER_ID.in(customerIds).and(RECEIVABLE.OWED_MINOR.gt(0L)))));
    }
    // What a job would charge depends on what its equipment's warranty bears.
    Set<Long> equipmentIds = what.records(happened -> happened.is(RecordKind.EQUIPMENT));
    if (!equipmentIds.isEmpty()) {
      jobIds.addAll(
          database.fetchValues(select(JOB.ID).from(JOB).where(JOB.EQUIPMENT_ID.in(equipmentIds))));
    }
    inPortions(quoteIds, this::followQuotes);
    inPortions(jobIds, ids -> storeJobs(ids, invoiceIds, receiptIds));
    inPortions(invoiceIds, this::followInvoices);
    inPortions(receiptIds, this::followReceipts);
  }

  /** Works out anew where everything stands. */
  public void recompute() {
    database.deleteFrom(STANDING).execute();
    inPortions(database.select(QUOTE.ID).from(QUOTE).fetch(QUOTE.ID), this::followQuotes);
    inPortions(database.select(JOB.ID).from(JOB).fetch(JOB.ID), this::followJobs);
    inPortions(
        database
            .select(RECEIVABLE.INVOICE_ID)
            .from(RECEIVABLE)
            .where(RECEIVABLE.OWED_MINOR.gt(0L))
            .fetch(RECEIVABLE.INVOICE_ID),
        this::followInvoices);
    inPortions(database.select(RECEIPT.ID).from(RECEIPT).fetch(RECEIPT.ID), this::followReceipts);
  }

  private static void inPortions(Collection<Long> all, Consumer<List<Long>> work) {
    List<Long> ids = List.copyOf(all);
    for (int from = 0; from < ids.size(); from += PORTION) {
      work.accept(ids.subList(from, Math.min(from + PORTION, ids.size())));
    }
  }

  /** Works out anew where these jobs stand, and what is shown of them beside their money. */
  public void followJobs(Collection<Long> jobIds) {
    var invoiceIds = new HashSet<Long>();
    var receiptIds = new HashSet<Long>();
    storeJobs(jobIds, invoiceIds, receiptIds);
    followInvoices(invoiceIds);
    followReceipts(receiptIds);
  }

  /** Adds the invoices and receipts beside which something of these jobs is shown. */
  private void storeJobs(Collection<Long> jobIds, Set<Long> invoiceIds, Set<Long> receiptIds) {
    if (jobIds.isEmpty()) {
      return;
    }
    Company company = companies.getCompany();
    store(
        jobs.list(
            // One text for any number of them, so that the database need not plan it anew.
            JOB.ID.eq(any(jobIds.toArray(Long[]::new))),
            today(),
            bill(),
            (job, bill) -> {
              receiptIds.addAll(bill.receiptIds());
              invoiceIds.addAll(bill.invoiceIds());
              return standing(company, job, bill);
            }));
  }

  /**
   * What is billed of a job, and when money came last.
   *
   * @param invoiceIds open invoices that stand at Billed as the job's
   * @param receiptIds money that stands at Paid as the job's
   * @param sale charged for good, without VAT
   * @param ahead billed ahead of its work
   */
  private record Bill(
      List<Long> invoiceIds,
      List<Long> receiptIds,
      Money sale,
      Money ahead,
      @Nullable LocalDate paidOn) {}

  private static Field<Bill> bill() {
    Field<LocalDate> paidOn =
        field(
            select(max(RECEIPT.RECEIVED_ON))
                .from(RECEIVABLE_JOB)
                .join(RECEIPT_ALLOCATION)
                .on(RECEIPT_ALLOCATION.INVOICE_ID.eq(RECEIVABLE_JOB.INVOICE_ID))
                .join(RECEIPT)
                .on(RECEIPT.ID.eq(RECEIPT_ALLOCATION.RECEIPT_ID))
                .where(RECEIVABLE_JOB.JOB_ID.eq(JOB.ID))
                .and(ReceiptStore.standing()));
    var open = STANDING.as("open_invoice");
    Field<List<Long>> invoiceIds =
        multiset(
                select(open.RECORD_ID)
                    .from(open)
                    .where(open.KIND.eq(WorkKind.INVOICE).and(open.JOB_ID.eq(JOB.ID))))
            .convertFrom(rows -> rows.map(Record1::value1));
    Field<Money> sale =
        field(select(sum(SALE.NET_MINOR).cast(Long.class)).from(SALE).where(SALE.JOB_ID.eq(JOB.ID)))
            .convertFrom(net -> net == null ? Money.ZERO : Money.ofMinor(net));
    Field<Money> ahead =
        field(
                select(sum(BILLED_AHEAD.NET_MINOR).cast(Long.class))
                    .from(BILLED_AHEAD)
                    .where(BILLED_AHEAD.JOB_ID.eq(JOB.ID)))
            .convertFrom(net -> net == null ? Money.ZERO : Money.ofMinor(net));
    var came = STANDING.as("came");
    var ofQuote = STANDING.as("came_for_quote");
    // Two readings by index: with “or” in one the whole table would be read for each job.
    Field<List<Long>> receiptIds =
        multiset(
                select(came.RECORD_ID)
                    .from(came)
                    .where(came.KIND.eq(WorkKind.RECEIPT).and(came.JOB_ID.eq(JOB.ID)))
                    .unionAll(
                        select(ofQuote.RECORD_ID)
                            .from(ACCEPTED_QUOTE)
                            .join(ofQuote)
                            .on(ofQuote.QUOTE_ID.eq(ACCEPTED_QUOTE.QUOTE_ID))
                            .where(ACCEPTED_QUOTE.JOB_ID.eq(JOB.ID))))
            .convertFrom(rows -> rows.map(Record1::value1));
    return multiset(select(invoiceIds, receiptIds, sale, ahead, paidOn).from(selectOne()))
        .as("bill")
        .convertFrom(rows -> Records.mapping(Bill::new).apply(rows.getFirst()));
  }

  /** Works out anew what is owed; an invoice that owes nothing stands nowhere. */
  public void followInvoices(Collection<Long> invoiceIds) {
    if (invoiceIds.isEmpty()) {
      return;
    }
    database
        .deleteFrom(STANDING)
        .where(STANDING.KIND.eq(WorkKind.INVOICE).and(STANDING.RECORD_ID.in(invoiceIds)))
        .execute();
    var ofJob = STANDING.as("of_job");
    store(
        database
            .select(RECEIVABLE.fields())
            .select(JOB.ID, JOB.NUMBER, JOB.TITLE, CUSTOMER.NAME, SITE.NAME)
            .select(ofJob.MARGIN_PERCENT, ofJob.TECHNICIAN_ID, ofJob.RUNGS)
            .from(RECEIVABLE)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(RECEIVABLE.CUSTOMER_ID))
            .join(JOB)
            .on(
                JOB.ID.eq(
                    field(
                        select(min(RECEIVABLE_JOB.JOB_ID))
                            .from(RECEIVABLE_JOB)
                            .where(RECEIVABLE_JOB.INVOICE_ID.eq(RECEIVABLE.INVOICE_ID)))))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .join(ofJob)
            .on(ofJob.KIND.eq(WorkKind.JOB).and(ofJob.RECORD_ID.eq(JOB.ID)))
            .where(RECEIVABLE.INVOICE_ID.in(invoiceIds).and(RECEIVABLE.OWED_MINOR.gt(0L)))
            .fetch(row -> invoiceStanding(row, ofJob)));
  }

  private static StandingRecord invoiceStanding(Record found, Standing ofJob) {
    var row = new StandingRecord();
    row.setKind(WorkKind.INVOICE);
    row.setRecordId(found.get(RECEIVABLE.INVOICE_ID));
    row.setStage(Stage.BILLED);
    row.setDay(found.get(RECEIVABLE.DUE_DATE));
    row.setValueMinor(found.get(RECEIVABLE.OWED_MINOR));
    row.setMarginPercent(found.get(ofJob.MARGIN_PERCENT));
    row.setTechnicianId(found.get(ofJob.TECHNICIAN_ID));
    row.setRemark(Remark.INVOICE);
    row.setRemarkNumber(found.get(RECEIVABLE.NUMBER));
    row.setCustomerName(found.get(CUSTOMER.NAME).toLowerCase(Locale.ROOT));
    row.setWords(
        Stream.of(
                found.get(RECEIVABLE.NUMBER),
                found.get(JOB.NUMBER),
                found.get(CUSTOMER.NAME),
                found.get(SITE.NAME),
                found.get(JOB.TITLE))
            .map(Object::toString)
            .collect(Collectors.joining(" "))
            .toLowerCase(Locale.ROOT));
    row.setRungs(found.get(ofJob.RUNGS));
    row.setJobId(found.get(JOB.ID));
    return row;
  }

  /** Works out anew what came in; a receipt that was taken back did not. */
  public void followReceipts(Collection<Long> receiptIds) {
    if (receiptIds.isEmpty()) {
      return;
    }
    database
        .deleteFrom(STANDING)
        .where(STANDING.KIND.eq(WorkKind.RECEIPT).and(STANDING.RECORD_ID.in(receiptIds)))
        .execute();
    var ofJob = STANDING.as("of_job");
    var paidJob =
        field(
            select(min(RECEIVABLE_JOB.JOB_ID))
                .from(RECEIPT_ALLOCATION)
                .join(RECEIVABLE_JOB)
                .on(RECEIVABLE_JOB.INVOICE_ID.eq(RECEIPT_ALLOCATION.INVOICE_ID))
                .where(RECEIPT_ALLOCATION.RECEIPT_ID.eq(RECEIPT.ID))
                .and(ReceiptStore.standing()));
    store(
        database
            .select(RECEIPT.fields())
            .select(JOB.ID, JOB.NUMBER, JOB.TITLE, QUOTE.NUMBER, QUOTE.TITLE)
            .select(CUSTOMER.NAME, SITE.NAME)
            .select(ofJob.MARGIN_PERCENT, ofJob.TECHNICIAN_ID, ofJob.RUNGS)
            .from(RECEIPT)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(RECEIPT.CUSTOMER_ID))
            .leftJoin(QUOTE)
            .on(QUOTE.ID.eq(RECEIPT.QUOTE_ID))
            .leftJoin(ACCEPTED_QUOTE)
            .on(ACCEPTED_QUOTE.QUOTE_ID.eq(RECEIPT.QUOTE_ID))
            .leftJoin(JOB)
            .on(JOB.ID.eq(coalesce(RECEIPT.JOB_ID, ACCEPTED_QUOTE.JOB_ID, paidJob)))
            .leftJoin(SITE)
            .on(SITE.ID.eq(coalesce(JOB.SITE_ID, QUOTE.SITE_ID)))
            .leftJoin(ofJob)
            .on(ofJob.KIND.eq(WorkKind.JOB).and(ofJob.RECORD_ID.eq(JOB.ID)))
            .where(RECEIPT.ID.in(receiptIds).and(RECEIPT.TAKEN_BACK_ON.isNull()))
            .fetch(row -> standing(row, ofJob)));
  }

  private static StandingRecord standing(Record found, Standing ofJob) {
    var row = new StandingRecord();
    row.setKind(WorkKind.RECEIPT);
    row.setRecordId(found.get(RECEIPT.ID));
    row.setStage(Stage.PAID);
    row.setDay(found.get(RECEIPT.RECEIVED_ON));
    row.setValueMinor(found.get(RECEIPT.AMOUNT_MINOR));
    row.setMarginPercent(found.get(ofJob.MARGIN_PERCENT));
    row.setTechnicianId(found.get(ofJob.TECHNICIAN_ID));
    row.setRemark(Remark.NONE);
    row.setCustomerName(found.get(CUSTOMER.NAME).toLowerCase(Locale.ROOT));
    row.setWords(
        Stream.of(
                found.get(RECEIPT.NUMBER),
                found.get(JOB.NUMBER),
                found.get(QUOTE.NUMBER),
                found.get(CUSTOMER.NAME),
                found.get(SITE.NAME),
                found.get(JOB.TITLE),
                found.get(QUOTE.TITLE))
            .filter(Objects::nonNull)
            .map(Object::toString)
            .collect(Collectors.joining(" "))
            .toLowerCase(Locale.ROOT));
    row.setRungs(
        found.get(ofJob.RUNGS) == null
            ? Stream.generate(() -> 0L).limit(2L * Category.values().length).toArray(Long[]::new)
            : found.get(ofJob.RUNGS));
    row.setJobId(found.get(JOB.ID));
    row.setQuoteId(found.get(JOB.ID) == null ? found.get(RECEIPT.QUOTE_ID) : null);
    return row;
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
                        costing.cost(new JobFacts(row.get(lines), List.of(), List.of())))));
    database
        .deleteFrom(STANDING)
        .where(STANDING.KIND.eq(WorkKind.QUOTE).and(STANDING.RECORD_ID.in(quoteIds)))
        .execute();
    store(standing);
  }

  private void store(List<StandingRecord> rows) {
    if (rows.isEmpty()) {
      return;
    }
    rows.forEach(row -> row.touched(true));
    database
        .insertInto(STANDING)
        .set(rows)
        .onConflict(STANDING.KIND, STANDING.RECORD_ID)
        .doUpdate()
        .setAllToExcluded()
        .execute();
  }

  private static StandingRecord standing(
      ZoneId zone, QuoteRecord quote, String customer, String site, CostSheet sheet) {
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
    return row;
  }

  private StandingRecord standing(Company company, WholeJob job, Bill bill) {
    // Billed is where its invoices stand.
    Stage stage = Stage.of(job, Money.ZERO);
    CostSheet sheet = new Costing(company.terms()).cost(job.facts(company.zone()));
    Money left = left(stage, company, job, bill.sale(), sheet);
    boolean begun = stage.compareTo(Stage.BOOKED) > 0;
    Margin margin = begun ? sheet.marginOn(bill.sale().plus(left)) : sheet.quotedMargin();
    var row = new StandingRecord();
    row.setKind(WorkKind.JOB);
    row.setRecordId(job.job().id());
    row.setStage(stage);
    row.setDay(day(stage, job, bill, company.zone()));
    row.setValidUntil(null);
    row.setValueMinor(left.minus(bill.ahead()).minor());
    row.setMarginPercent(margin.percent());
    row.setForecastPercent(
        job.job().billingBasis() == BillingBasis.Code.NOT_CHARGED
            ? null
            : job.forecast(company, bill.sale(), today())
                .map(forecast -> forecast.margin().percent())
                .orElse(null));
    row.setTechnicianId(technician(job));
    remark(row, stage, job);
    name(row, job.job().number(), job.customer(), job.site().name(), job.job().title());
    row.setRungs(rungs(sheet));
    return row;
  }

  private static void name(
      StandingRecord row, long number, String customer, String site, String title) {
    row.setCustomerName(customer.toLowerCase(Locale.ROOT));
    row.setWords(
        String.join(" ", Long.toString(number), customer, site, title).toLowerCase(Locale.ROOT));
  }

  /** What of a job is still to be charged for good; nothing once it is closed. */
  private Money left(Stage stage, Company company, WholeJob job, Money before, CostSheet sheet) {
    if (stage == Stage.SETTLED || job.job().billingBasis() == BillingBasis.Code.NOT_CHARGED) {
      return Money.ZERO;
    }
    var billing = new Billing(company.terms(), company.wording(), today());
    Cover cover = job.cover(company.zone());
    if (job.job().basis() instanceof BillingBasis.PromisedOnSite onSite) {
      return billing.bill(job.facts(company.zone()), onSite, cover).net();
    }
    boolean byWork =
        job.job().billingBasis() == BillingBasis.Code.TIME_AND_PARTS
            && stage.compareTo(Stage.BOOKED) > 0;
    if (!byWork) {
      return sheet.quotedNet();
    }
    var basis = new BillingBasis.TimeAndParts();
    var worked = billing.bill(job.unbilled(company.zone()), basis, cover);
    return job.promised()
        .map(accepted -> billing.promised(accepted, job.facts(company.zone()), basis, cover))
        .map(promised -> promised.limit(worked, before))
        .orElse(worked)
        .net();
  }

  private static LocalDate day(Stage stage, WholeJob job, Bill bill, ZoneId zone) {
    LocalDate since = job.job().stateSince().atZone(zone).toLocalDate();
    return switch (stage) {
      case BOOKED ->
          job.visits().stream()
              .filter(visit -> visit.state().isAhead())
              .map(WholeVisit::day)
              .filter(Objects::nonNull)
              .min(LocalDate::compareTo)
              .orElse(since);
      case SETTLED ->
          Stream.concat(
                  job.closing().map(closing -> closing.at().atZone(zone).toLocalDate()).stream(),
                  Stream.ofNullable(bill.paidOn()))
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

  private static void remark(StandingRecord row, Stage stage, WholeJob job) {
    row.setRemark(
        switch (stage) {
          case WON -> job.job().partsWanted() > 0 ? Remark.PART_WANTED : Remark.NO_TIME_YET;
          case BOOKED ->
              count(job, VisitState.Code.ON_SITE) > 0
                  ? Remark.ON_SITE
                  : count(job, VisitState.Code.DRIVING) > 0 ? Remark.DRIVING : Remark.PLANNED;
          case WORKED -> Remark.VISITS_TO_CHECK;
          case CHECKED -> job.awaited().isEmpty() ? basis(job) : Remark.BILL_AWAITED;
          case QUOTED, BILLED, PAID, SETTLED -> Remark.NONE;
        });
    row.setRemarkNumber(
        stage == Stage.WORKED ? Long.valueOf(count(job, VisitState.Code.FINISHED)) : null);
  }

  private static Remark basis(WholeJob job) {
    return switch (job.job().billingBasis()) {
      case FIXED_PRICE -> Remark.FIXED_PRICE;
      case TIME_AND_PARTS -> Remark.TIME_AND_PARTS;
      case PROMISED_ON_SITE -> Remark.PROMISED_ON_SITE;
      case NOT_CHARGED -> Remark.NOT_CHARGED;
    };
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
