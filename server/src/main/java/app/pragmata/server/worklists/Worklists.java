package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.RECEIPT_ALLOCATION;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.STANDING;
import static org.jooq.impl.DSL.case_;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Coded;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.Standing;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.http.SearchWords;
import app.pragmata.server.jobs.RespondBy;
import app.pragmata.server.jobs.Response;
import app.pragmata.server.receipts.ReceiptStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.worklists.WorkRow.SmallRung;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.OrderField;
import org.jooq.Record;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads the list of a stage page by page. */
@Repository
class Worklists {
  /** What a list is asked for. */
  record Question(Stage stage, Sort sort, String filter, @Nullable Long technicianId) {}

  /** What comes first. */
  enum Sort implements Coded {
    OLDEST,
    VALUE,
    /** The worst first. */
    MARGIN,
    CUSTOMER
  }

  /** How many rows match, and the money that stands in them. */
  record Total(int count, long amountMinor) {}

  private static final BigDecimal BELOW_ANY_MARGIN = new BigDecimal(-1_000_000);
  private static final int WORTH_A_CALL_DAYS = 14;

  // A row of the page that is shown, under the names of the table that it comes from.
  private static final Standing ROW = STANDING.as("shown");
  private static final Field<Long> NUMBER = coalesce(RECEIPT.NUMBER, JOB.NUMBER, QUOTE.NUMBER);
  private static final Field<String> TITLE = coalesce(JOB.TITLE, QUOTE.TITLE, inline(""));

  private final DSLContext database;
  private final CompanyStore companies;

  Worklists(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** The rows after a page's key, in the asked order; from the top when the key is empty. */
  List<WorkRow> list(Act act, Question asked, String after, int most) {
    Company company = companies.getCompany();
    Order order = Order.of(asked.sort(), STANDING);
    var page =
        select(
                STANDING.KIND,
                STANDING.RECORD_ID,
                STANDING.DAY,
                STANDING.VALID_UNTIL,
                STANDING.VALUE_MINOR,
                STANDING.MARGIN_PERCENT,
                STANDING.FORECAST_PERCENT,
                STANDING.TECHNICIAN_ID,
                STANDING.REMARK,
                STANDING.REMARK_NUMBER,
                STANDING.CUSTOMER_NAME,
                STANDING.RUNGS,
                STANDING.JOB_ID,
                STANDING.QUOTE_ID)
            .from(STANDING)
            .where(matches(act, asked))
            .and(after.isEmpty() ? noCondition() : order.further(PageKey.parse(after, 3)))
            .orderBy(order.fields())
            .limit(most)
            .asTable(ROW.getName());
    // Names and dates are looked up for the rows of the page only.
    return database
        .select(
            ROW.KIND,
            ROW.RECORD_ID,
            ROW.DAY,
            ROW.VALID_UNTIL,
            ROW.VALUE_MINOR,
            ROW.MARGIN_PERCENT,
            ROW.FORECAST_PERCENT,
            ROW.REMARK,
            ROW.REMARK_NUMBER,
            ROW.RUNGS,
            NUMBER,
            TITLE,
            CUSTOMER.ID,
            CUSTOMER.NAME,
            SITE.NAME,
            PERSON.NAME,
            RECEIPT.QUOTE_ID,
            RECEIPT.JOB_ID,
            QUOTE.ID,
            RECEIVABLE.NUMBER,
            RECEIVABLE.OWED_MINOR)
        .select(JOB.fields())
        .from(page)
        .leftJoin(JOB)
        .on(JOB.ID.eq(idOf(WorkKind.JOB, ROW.JOB_ID)))
        .leftJoin(QUOTE)
        .on(QUOTE.ID.eq(idOf(WorkKind.QUOTE, ROW.QUOTE_ID)))
        .leftJoin(RECEIPT)
        .on(ROW.KIND.eq(WorkKind.RECEIPT).and(RECEIPT.ID.eq(ROW.RECORD_ID)))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(coalesce(RECEIPT.CUSTOMER_ID, JOB.CUSTOMER_ID, QUOTE.CUSTOMER_ID)))
        .leftJoin(SITE)
        .on(SITE.ID.eq(coalesce(JOB.SITE_ID, QUOTE.SITE_ID)))
        .leftJoin(PERSON)
        .on(PERSON.ID.eq(ROW.TECHNICIAN_ID))
        .leftJoin(RECEIVABLE)
        .on(
            RECEIVABLE.INVOICE_ID.eq(
                select(min(RECEIPT_ALLOCATION.INVOICE_ID))
                    .from(RECEIPT_ALLOCATION)
                    .where(RECEIPT_ALLOCATION.RECEIPT_ID.eq(RECEIPT.ID))
                    .and(ReceiptStore.standing())))
        .orderBy(Order.of(asked.sort(), ROW).fields())
        .fetch(found -> workRow(act, company, asked.stage(), found));
  }

  /** A row of this kind is the record itself; a receipt names it. */
  private static Field<Long> idOf(WorkKind kind, Field<Long> named) {
    return case_().when(ROW.KIND.eq(inline(kind)), ROW.RECORD_ID).else_(named);
  }

  /** The key of a row in the asked order. */
  static PageKey key(Question asked, WorkRow row) {
    Object first =
        switch (asked.sort()) {
          case VALUE -> row.valueMinor();
          case MARGIN -> Objects.requireNonNullElse(row.keptPercent(), BELOW_ANY_MARGIN);
          case CUSTOMER -> row.customer();
          case OLDEST -> row.day();
        };
    return PageKey.of(first, row.kind().code(), row.id());
  }

  Total total(Act act, Question asked) {
    return database
        .select(
            count(), coalesce(sum(STANDING.VALUE_MINOR), BigDecimal.ZERO).cast(SQLDataType.BIGINT))
        .from(STANDING)
        .where(matches(act, asked))
        .fetchSingle(found -> new Total(found.value1(), found.value2()));
  }

  private static Condition matches(Act act, Question asked) {
    Condition matches = standsAt(asked.stage(), act);
    if (asked.technicianId() != null) {
      matches = matches.and(STANDING.TECHNICIAN_ID.eq(asked.technicianId()));
    }
    String wanted =
        String.join(" ", SearchWords.read("filter", asked.filter())).toLowerCase(Locale.ROOT);
    return wanted.isEmpty() ? matches : matches.and(STANDING.WORDS.contains(wanted));
  }

  /**
   * What stands at a stage. A lapsed quote is worth a call for two more weeks; then its money
   * stands nowhere. At Paid is what came in this month.
   */
  static Condition standsAt(Stage stage, Act act) {
    Condition here = STANDING.STAGE.eq(inline(stage));
    if (stage == Stage.PAID) {
      return here.and(STANDING.DAY.ge(act.today().withDayOfMonth(1)));
    }
    return stage == Stage.QUOTED
        ? here.and(
            STANDING
                .VALID_UNTIL
                .isNull()
                .or(STANDING.VALID_UNTIL.ge(act.today().minusDays(WORTH_A_CALL_DAYS))))
        : here;
  }

  /** An order of rows, and what comes further down than a key in it. */
  private record Order(List<? extends OrderField<?>> fields, Function<PageKey, Condition> after) {
    static Order of(Sort sort, Standing from) {
      var kind = from.KIND;
      var id = from.RECORD_ID;
      Field<String> customer = from.CUSTOMER_NAME;
      Field<BigDecimal> margin =
          coalesce(from.FORECAST_PERCENT, from.MARGIN_PERCENT, inline(BELOW_ANY_MARGIN));
      return switch (sort) {
        case VALUE ->
            new Order(
                List.of(from.VALUE_MINOR.desc(), kind.asc(), id.asc()),
                key ->
                    from.VALUE_MINOR
                        .lt(key.number(0))
                        .or(
                            from.VALUE_MINOR
                                .eq(key.number(0))
                                .and(row(kind, id).gt(kind(key), key.number(2)))));
        case MARGIN ->
            new Order(
                List.of(margin.asc(), kind.asc(), id.asc()),
                key -> row(margin, kind, id).gt(key.decimal(0), kind(key), key.number(2)));
        case CUSTOMER ->
            new Order(
                List.of(customer.asc(), kind.asc(), id.asc()),
                key ->
                    row(customer, kind, id)
                        .gt(key.text(0).toLowerCase(Locale.ROOT), kind(key), key.number(2)));
        case OLDEST ->
            new Order(
                List.of(from.DAY.asc(), kind.asc(), id.asc()),
                key -> row(from.DAY, kind, id).gt(key.day(0), kind(key), key.number(2)));
      };
    }

    private static WorkKind kind(PageKey key) {
      return key.word(1, WorkKind.class);
    }

    Condition further(PageKey key) {
      return after.apply(key);
    }
  }

  private static WorkRow workRow(Act act, Company company, Stage stage, Record found) {
    LocalDate day = found.get(ROW.DAY);
    int age = (int) ChronoUnit.DAYS.between(day, act.today());
    LocalDate validUntil = found.get(ROW.VALID_UNTIL);
    boolean lapsed = validUntil != null && validUntil.isBefore(act.today());
    boolean isJob = found.get(ROW.KIND) == WorkKind.JOB;
    Long[] rungs = found.get(ROW.RUNGS);
    BigDecimal forecast = found.get(ROW.FORECAST_PERCENT);
    return new WorkRow(
        found.get(ROW.KIND),
        found.get(ROW.RECORD_ID),
        found.get(NUMBER),
        found.get(JOB.ID),
        found.get(QUOTE.ID),
        found.get(TITLE),
        found.get(CUSTOMER.ID),
        found.get(CUSTOMER.NAME),
        found.get(SITE.NAME) == null ? "" : found.get(SITE.NAME),
        found.get(PERSON.NAME),
        day,
        age,
        lapsed || age > stage.patienceDays(company.patience()),
        remark(stage, lapsed, found),
        stage == Stage.PAID ? found.get(RECEIVABLE.NUMBER) : found.get(ROW.REMARK_NUMBER),
        found.get(ROW.VALUE_MINOR),
        found.get(ROW.MARGIN_PERCENT),
        found.get(ROW.FORECAST_PERCENT),
        forecast != null && forecast.compareTo(company.quoting().floorMarginPercent()) < 0,
        IntStream.range(0, rungs.length / 2)
            .mapToObj(i -> new SmallRung(rungs[2 * i], rungs[2 * i + 1]))
            .toList(),
        isJob && found.get(JOB.RESPONDED_AT) == null
            ? response(act, company.calendar(), found)
            : null);
  }

  private static @Nullable Response response(Act act, WorkingCalendar calendar, Record found) {
    RespondBy awaited = RespondBy.of(found);
    return awaited == null ? null : awaited.response(act, calendar);
  }

  private static Remark remark(Stage stage, boolean lapsed, Record found) {
    if (stage != Stage.PAID) {
      return lapsed ? Remark.LAPSED : found.get(ROW.REMARK);
    }
    if (found.get(RECEIVABLE.NUMBER) != null) {
      return found.get(RECEIVABLE.OWED_MINOR) > 0 ? Remark.PART_OF_INVOICE : Remark.INVOICE;
    }
    return found.get(RECEIPT.QUOTE_ID) == null && found.get(RECEIPT.JOB_ID) == null
        ? Remark.ON_ACCOUNT
        : Remark.DEPOSIT;
  }
}
