package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.SITE;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.selectFrom;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.billing.BillingBasis;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.costing.JobFacts;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Money;
import app.pragmata.server.costing.JobStore;
import app.pragmata.server.costing.JobStore.WholeJob;
import app.pragmata.server.costing.JobStore.WholeVisit;
import app.pragmata.server.generated.tables.records.InvoiceRecord;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.jobs.Response;
import app.pragmata.server.people.Act;
import app.pragmata.server.people.Company;
import app.pragmata.server.people.CompanyStore;
import app.pragmata.server.quoting.QuoteStore;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads what stands at each stage: quotes at the beginning, jobs from then on. */
@Repository
class Worklists {
  /**
   * One quote or job.
   *
   * @param day since when it stands here, or its planned or due day where that says more
   * @param ageDays from that day to today; negative when it lies ahead
   * @param valueMinor net up to Checked, what is owed with VAT at Billed, what came in at Paid
   * @param marginPercent null when nothing is charged
   * @param remark a few words about what it waits for
   * @param response by when somebody has to be there; null where nobody has, or somebody was
   */
  record WorkRow(
      String kind,
      long id,
      long number,
      String title,
      long customerId,
      String customer,
      String site,
      @Nullable String technician,
      LocalDate day,
      int ageDays,
      boolean stuck,
      String remark,
      long valueMinor,
      @Nullable BigDecimal marginPercent,
      List<SmallRung> rungs,
      @Nullable Response response) {
    Standing standing() {
      return new Standing(day, ageDays, stuck, valueMinor);
    }
  }

  /** One rung of the small cost ladder. */
  record SmallRung(long quotedMinor, long actualMinor) {}

  private final DSLContext database;
  private final JobStore jobs;
  private final CompanyStore companies;

  Worklists(DSLContext database, JobStore jobs, CompanyStore companies) {
    this.database = database;
    this.jobs = jobs;
    this.companies = companies;
  }

  /** Everything that stands at one stage, oldest first. */
  List<WorkRow> list(Act act, Stage stage) {
    Company company = companies.getCompany();
    return switch (stage) {
      case QUOTED -> quotes(act, company, unanswered(act), Stage.QUOTED);
      case WON -> {
        var rows = new ArrayList<>(quotes(act, company, acceptedWithoutJob(), Stage.WON));
        rows.addAll(jobRows(act, company, JOB.STATE.eq("open"), Stage.WON));
        yield rows;
      }
      case BOOKED -> jobRows(act, company, JOB.STATE.eq("open"), stage);
      case WORKED, CHECKED, BILLED -> jobRows(act, company, JOB.STATE.eq(stage.path()), stage);
      case PAID -> paidRows(act, company);
    };
  }

  /**
   * How long how much money has stood at a stage; the part of a row that the Money line adds up.
   */
  record Standing(LocalDate day, int ageDays, boolean stuck, long valueMinor) {}

  /** All stages up to Checked at once, for the Money line. */
  Map<Stage, List<Standing>> listUnbilled(Act act) {
    var standings = new EnumMap<Stage, List<Standing>>(Stage.class);
    jobRowsByStage(act, companies.getCompany(), JOB.STATE.in("open", "worked", "checked"))
        .forEach(
            (stage, rows) ->
                standings.put(
                    stage, new ArrayList<>(rows.stream().map(WorkRow::standing).toList())));
    standings.put(Stage.QUOTED, standings(act, unanswered(act), Stage.QUOTED));
    standings
        .computeIfAbsent(Stage.WON, ignored -> new ArrayList<>())
        .addAll(standings(act, acceptedWithoutJob(), Stage.WON));
    return standings;
  }

  private List<Standing> standings(Act act, Condition condition, Stage stage) {
    return database.selectFrom(QUOTE).where(condition).fetch(quote -> standing(act, stage, quote));
  }

  /**
   * A lapsed quote is worth a call for two more weeks; then its money no longer stands anywhere.
   */
  private static Condition unanswered(Act act) {
    return QUOTE
        .STATE
        .eq("draft")
        .or(QUOTE.STATE.eq("sent").and(QUOTE.VALID_UNTIL.ge(act.today().minusDays(14))));
  }

  private static Condition acceptedWithoutJob() {
    return QUOTE
        .STATE
        .eq("accepted")
        .and(notExists(selectFrom(JOB).where(JOB.QUOTE_ID.eq(QUOTE.ID))));
  }

  private List<WorkRow> quotes(Act act, Company company, Condition condition, Stage stage) {
    var lines = QuoteStore.lines(QUOTE.ID);
    var costing = new Costing(company.rates(), company.overheadPerHour());
    return database
        .select(QUOTE.fields())
        .select(CUSTOMER.NAME, SITE.NAME, lines)
        .from(QUOTE)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(QUOTE.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(QUOTE.SITE_ID))
        .where(condition)
        .orderBy(QUOTE.NUMBER)
        .fetch(
            row ->
                quoteRow(
                    act,
                    stage,
                    row.into(QUOTE),
                    row.get(CUSTOMER.NAME),
                    row.get(SITE.NAME),
                    costing.cost(new JobFacts(row.get(lines), List.of(), List.of()))));
  }

  private static Standing standing(Act act, Stage stage, QuoteRecord quote) {
    LocalDate day =
        Objects.requireNonNullElse(
                quote.getDecidedAt(),
                Objects.requireNonNullElse(quote.getSentAt(), quote.getCreatedAt()))
            .atZone(act.zone())
            .toLocalDate();
    int age = age(day, act);
    return new Standing(
        day, age, isLapsed(act, quote) || age > stage.patienceDays(), quote.getNetMinor());
  }

  private static boolean isLapsed(Act act, QuoteRecord quote) {
    return quote.getState().equals("sent") && quote.getValidUntil().isBefore(act.today());
  }

  private static WorkRow quoteRow(
      Act act, Stage stage, QuoteRecord quote, String customer, String site, CostSheet sheet) {
    Standing standing = standing(act, stage, quote);
    String remark =
        isLapsed(act, quote)
            ? "lapsed"
            : quote.getState().equals("accepted") ? "no job yet" : quote.getState();
    return new WorkRow(
        "quote",
        quote.getId(),
        quote.getNumber(),
        quote.getTitle(),
        quote.getCustomerId(),
        customer,
        site,
        null,
        standing.day(),
        standing.ageDays(),
        standing.stuck(),
        remark,
        standing.valueMinor(),
        sheet.quotedMargin().percent(),
        rungs(sheet),
        null);
  }

  private List<WorkRow> jobRows(Act act, Company company, Condition condition, Stage stage) {
    return jobRowsByStage(act, company, condition).getOrDefault(stage, List.of());
  }

  private Map<Stage, List<WorkRow>> jobRowsByStage(Act act, Company company, Condition condition) {
    Map<Long, InvoiceRecord> invoices = invoices(condition);
    return jobs.list(condition).stream()
        .collect(
            Collectors.groupingBy(
                Stage::of,
                Collectors.mapping(
                    job ->
                        jobRow(
                            act,
                            company,
                            job,
                            invoices.get(job.job().getId()),
                            Stage.of(job),
                            null),
                    Collectors.toList())));
  }

  /** What came in for a job this month. */
  private record Received(Money amount, LocalDate lastDay) {}

  /** A job stands here with what came in for it this month, even when more is still to come. */
  private List<WorkRow> paidRows(Act act, Company company) {
    Map<Long, Received> receivedByJob =
        database
            .select(INVOICE.JOB_ID, sum(RECEIPT.AMOUNT_MINOR), max(RECEIPT.RECEIVED_ON))
            .from(RECEIPT)
            .join(INVOICE)
            .on(INVOICE.ID.eq(RECEIPT.INVOICE_ID))
            .where(receivedThisMonth(act))
            .groupBy(INVOICE.JOB_ID)
            .fetchMap(
                INVOICE.JOB_ID,
                row -> new Received(Money.ofMinor(row.value2().longValueExact()), row.value3()));
    Condition paid = JOB.ID.in(receivedByJob.keySet());
    Map<Long, InvoiceRecord> invoices = invoices(paid);
    return jobs.list(paid).stream()
        .map(
            job -> {
              long id = job.job().getId();
              return jobRow(act, company, job, invoices.get(id), Stage.PAID, receivedByJob.get(id));
            })
        .toList();
  }

  static Condition receivedThisMonth(Act act) {
    return RECEIPT.RECEIVED_ON.ge(act.today().withDayOfMonth(1));
  }

  private Map<Long, InvoiceRecord> invoices(Condition condition) {
    return database
        .select(INVOICE.fields())
        .from(INVOICE)
        .join(JOB)
        .on(JOB.ID.eq(INVOICE.JOB_ID))
        .where(condition)
        .fetchMap(INVOICE.JOB_ID, row -> row.into(INVOICE));
  }

  private static WorkRow jobRow(
      Act act,
      Company company,
      WholeJob job,
      @Nullable InvoiceRecord invoice,
      Stage stage,
      @Nullable Received received) {
    var facts = job.facts(company.zone());
    CostSheet sheet = new Costing(company.rates(), company.overheadPerHour()).cost(facts);
    Money net = net(stage, company, job, invoice, sheet);
    LocalDate day = received == null ? day(stage, job, invoice, act.zone()) : received.lastDay();
    int age = age(day, act);
    boolean begun = stage.compareTo(Stage.BOOKED) > 0;
    Margin margin = begun ? sheet.marginOn(net) : sheet.quotedMargin();
    return new WorkRow(
        "job",
        job.job().getId(),
        job.job().getNumber(),
        job.job().getTitle(),
        job.job().getCustomerId(),
        job.customer(),
        job.site().name(),
        technician(job),
        day,
        age,
        age > stage.patienceDays(),
        remark(stage, job, invoice),
        value(net, invoice, received).minor(),
        margin.percent(),
        rungs(sheet),
        job.job().getRespondedAt() == null
            ? Response.of(job.job(), act, company.calendar())
            : null);
  }

  private static Money net(
      Stage stage,
      Company company,
      WholeJob job,
      @Nullable InvoiceRecord invoice,
      CostSheet sheet) {
    if (invoice != null) {
      return Money.ofMinor(invoice.getNetMinor());
    }
    if (job.job().getBillingBasis().equals("not_charged")) {
      return Money.ZERO;
    }
    boolean byWork =
        job.job().getBillingBasis().equals("time_and_parts") && stage.compareTo(Stage.BOOKED) > 0;
    return byWork
        ? new Billing(company.rates(), company.chargeTerms())
            .draft(job.facts(company.zone()), new BillingBasis.TimeAndParts(), job.warranty())
            .vat()
            .net()
        : sheet.quotedNet();
  }

  private static Money value(
      Money net, @Nullable InvoiceRecord invoice, @Nullable Received received) {
    if (received != null) {
      return received.amount();
    }
    return invoice == null ? net : Money.ofMinor(invoice.getOwedMinor());
  }

  private static LocalDate day(
      Stage stage, WholeJob job, @Nullable InvoiceRecord invoice, ZoneId zone) {
    LocalDate since = job.job().getStateSince().atZone(zone).toLocalDate();
    return switch (stage) {
      case BOOKED ->
          job.visits().stream()
              .filter(visit -> List.of("planned", "driving", "on_site").contains(visit.state()))
              .map(visit -> visit.day())
              .min(LocalDate::compareTo)
              .orElse(since);
      case BILLED -> invoice == null ? since : invoice.getDueDate();
      default -> since;
    };
  }

  private static @Nullable String technician(WholeJob job) {
    return job.visits().stream()
        .map(WholeVisit::technician)
        .filter(Objects::nonNull)
        .reduce((first, second) -> second)
        .orElse(null);
  }

  private static String remark(Stage stage, WholeJob job, @Nullable InvoiceRecord invoice) {
    return switch (stage) {
      case WON -> "no time yet";
      case BOOKED ->
          count(job, "on_site") > 0 ? "on site" : count(job, "driving") > 0 ? "driving" : "planned";
      case WORKED ->
          count(job, "finished") == 1
              ? "1 visit to check"
              : count(job, "finished") + " visits to check";
      case CHECKED -> job.job().getBillingBasis().replace('_', ' ');
      case BILLED -> invoice == null ? "" : "invoice " + invoice.getNumber();
      case PAID ->
          invoice == null
              ? ""
              : (invoice.getOwedMinor() > 0 ? "part of invoice " : "invoice ")
                  + invoice.getNumber();
      case QUOTED -> "";
    };
  }

  private static long count(WholeJob job, String state) {
    return job.visits().stream().filter(visit -> visit.state().equals(state)).count();
  }

  private static List<SmallRung> rungs(CostSheet sheet) {
    return java.util.Arrays.stream(Category.values())
        .map(
            category ->
                new SmallRung(
                    sheet.rung(category).quoted().minor(), sheet.rung(category).actual().minor()))
        .toList();
  }

  private static int age(LocalDate day, Act act) {
    return (int) ChronoUnit.DAYS.between(day, act.today());
  }
}
