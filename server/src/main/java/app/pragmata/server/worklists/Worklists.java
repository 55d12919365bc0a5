package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.STANDING;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.planning.WorkingCalendar;
import app.pragmata.server.generated.tables.Standing;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.jobs.Response;
import app.pragmata.server.people.Act;
import app.pragmata.server.people.CompanyStore;
import app.pragmata.server.worklists.WorkRow.SmallRung;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.OrderField;
import org.jooq.Record;
import org.jooq.SelectFromStep;
import org.jooq.SelectJoinStep;
import org.jooq.Table;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads the list of a stage page by page. */
@Repository
class Worklists {
  /** What a list is asked for. */
  record Question(Stage stage, String sort, String filter, String technician) {
    /** Whether all of the stage is asked for. */
    boolean isWhole() {
      return filter.isBlank() && technician.isEmpty();
    }
  }

  /** How many rows match, and the money that stands in them. */
  record Total(int count, long amountMinor) {}

  private static final BigDecimal BELOW_ANY_MARGIN = new BigDecimal(-1_000_000);
  private static final int WORTH_A_CALL_DAYS = 14;

  // A row of the page that is shown, under the names of the table that it comes from.
  private static final Standing ROW = STANDING.as("shown");
  private static final Field<Long> NUMBER = coalesce(JOB.NUMBER, QUOTE.NUMBER);
  private static final Field<String> TITLE = coalesce(JOB.TITLE, QUOTE.TITLE);

  private final DSLContext database;
  private final CompanyStore companies;

  Worklists(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** The rows after a page's key, in the asked order; from the top when the key is empty. */
  List<WorkRow> list(Act act, Question asked, String after, int most) {
    WorkingCalendar calendar = companies.getCompany().calendar();
    Received received = Received.of(act, asked.stage());
    Order order = Order.of(asked.sort(), received);
    var page =
        standing(
                select(
                    STANDING.KIND,
                    STANDING.RECORD_ID,
                    received.day().as(STANDING.DAY.getName()),
                    STANDING.VALID_UNTIL,
                    received.value().as(STANDING.VALUE_MINOR.getName()),
                    STANDING.MARGIN_PERCENT,
                    STANDING.TECHNICIAN_ID,
                    STANDING.REMARK,
                    STANDING.CUSTOMER_NAME,
                    STANDING.RUNGS),
                received)
            .where(matches(act, asked, received))
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
            ROW.REMARK,
            ROW.RUNGS,
            NUMBER,
            TITLE,
            CUSTOMER.ID,
            CUSTOMER.NAME,
            SITE.NAME,
            PERSON.NAME,
            INVOICE.NUMBER,
            INVOICE.OWED_MINOR)
        .select(JOB.fields())
        .from(page)
        .leftJoin(JOB)
        .on(ROW.KIND.eq("job").and(JOB.ID.eq(ROW.RECORD_ID)))
        .leftJoin(QUOTE)
        .on(ROW.KIND.eq("quote").and(QUOTE.ID.eq(ROW.RECORD_ID)))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(coalesce(JOB.CUSTOMER_ID, QUOTE.CUSTOMER_ID)))
        .join(SITE)
        .on(SITE.ID.eq(coalesce(JOB.SITE_ID, QUOTE.SITE_ID)))
        .leftJoin(PERSON)
        .on(PERSON.ID.eq(ROW.TECHNICIAN_ID))
        .leftJoin(INVOICE)
        .on(INVOICE.JOB_ID.eq(JOB.ID))
        .orderBy(Order.of(asked.sort(), Received.SHOWN).fields())
        .fetch(found -> workRow(act, calendar, asked.stage(), found));
  }

  /** The key of a row in the asked order. */
  static PageKey key(Question asked, WorkRow row) {
    Object first =
        switch (asked.sort()) {
          case "value" -> row.valueMinor();
          case "margin" -> row.marginPercent() == null ? BELOW_ANY_MARGIN : row.marginPercent();
          case "customer" -> row.customer();
          default -> row.day();
        };
    return PageKey.of(first, row.kind(), row.id());
  }

  Total total(Act act, Question asked) {
    Received received = Received.of(act, asked.stage());
    var totals =
        database.select(
            count(), coalesce(sum(received.value()), BigDecimal.ZERO).cast(SQLDataType.BIGINT));
    // Every job of which money came has a standing, so it is looked up only for a part of the list.
    boolean receivedAlone = received.table() != null && asked.isWhole();
    return (receivedAlone ? totals.from(received.table()) : standing(totals, received))
        .where(receivedAlone ? noCondition() : matches(act, asked, received))
        .fetchSingle(found -> new Total(found.value1(), found.value2()));
  }

  private static <R extends Record> SelectJoinStep<R> standing(
      SelectFromStep<R> select, Received received) {
    return received.table() == null
        ? select.from(STANDING)
        : select
            .from(received.table())
            .join(STANDING)
            .on(STANDING.KIND.eq("job").and(STANDING.RECORD_ID.eq(received.jobId())));
  }

  private static Condition matches(Act act, Question asked, Received received) {
    Condition matches = received.table() == null ? standsAt(asked.stage(), act) : noCondition();
    if (!asked.technician().isEmpty()) {
      matches =
          matches.and(
              STANDING.TECHNICIAN_ID.in(
                  select(PERSON.ID).from(PERSON).where(PERSON.NAME.eq(asked.technician()))));
    }
    String wanted = asked.filter().strip().toLowerCase(Locale.ROOT);
    return wanted.isEmpty() ? matches : matches.and(STANDING.WORDS.contains(wanted));
  }

  /**
   * What stands at a stage. A lapsed quote is worth a call for two more weeks; then its money
   * stands nowhere.
   */
  static Condition standsAt(Stage stage, Act act) {
    Condition here = STANDING.STAGE.eq(inline(stage.path()));
    return stage == Stage.QUOTED
        ? here.and(
            STANDING
                .VALID_UNTIL
                .isNull()
                .or(STANDING.VALID_UNTIL.ge(act.today().minusDays(WORTH_A_CALL_DAYS))))
        : here;
  }

  /** What came in this month by job, for Paid; for every other stage the standing says it all. */
  private record Received(
      @Nullable Table<?> table,
      Field<Long> jobId,
      Field<Long> value,
      Field<LocalDate> day,
      Standing from) {
    static final Received SHOWN = new Received(null, JOB.ID, ROW.VALUE_MINOR, ROW.DAY, ROW);

    static Received of(Act act, Stage stage) {
      if (stage != Stage.PAID) {
        return new Received(null, JOB.ID, STANDING.VALUE_MINOR, STANDING.DAY, STANDING);
      }
      Table<?> table =
          select(
                  INVOICE.JOB_ID.as("job_id"),
                  sum(RECEIPT.AMOUNT_MINOR).cast(SQLDataType.BIGINT).as("amount"),
                  max(RECEIPT.RECEIVED_ON).as("day"))
              .from(RECEIPT)
              .join(INVOICE)
              .on(INVOICE.ID.eq(RECEIPT.INVOICE_ID))
              .where(receivedThisMonth(act))
              .groupBy(INVOICE.JOB_ID)
              .asTable("received");
      return new Received(
          table,
          field(org.jooq.impl.DSL.name("received", "job_id"), Long.class),
          field(org.jooq.impl.DSL.name("received", "amount"), Long.class),
          field(org.jooq.impl.DSL.name("received", "day"), LocalDate.class),
          STANDING);
    }
  }

  static Condition receivedThisMonth(Act act) {
    return RECEIPT.RECEIVED_ON.ge(act.today().withDayOfMonth(1));
  }

  /** An order of rows, and what comes further down than a key in it. */
  private record Order(
      List<? extends OrderField<?>> fields, java.util.function.Function<PageKey, Condition> after) {
    static Order of(String sort, Received received) {
      var kind = received.from().KIND;
      var id = received.from().RECORD_ID;
      Field<String> customer = received.from().CUSTOMER_NAME;
      Field<BigDecimal> margin = coalesce(received.from().MARGIN_PERCENT, inline(BELOW_ANY_MARGIN));
      return switch (sort) {
        case "value" ->
            new Order(
                List.of(received.value().desc(), kind.asc(), id.asc()),
                key ->
                    received
                        .value()
                        .lt(key.number(0))
                        .or(
                            received
                                .value()
                                .eq(key.number(0))
                                .and(row(kind, id).gt(key.text(1), key.number(2)))));
        case "margin" ->
            new Order(
                List.of(margin.asc(), kind.asc(), id.asc()),
                key -> row(margin, kind, id).gt(key.decimal(0), key.text(1), key.number(2)));
        case "customer" ->
            new Order(
                List.of(customer.asc(), kind.asc(), id.asc()),
                key ->
                    row(customer, kind, id)
                        .gt(key.text(0).toLowerCase(Locale.ROOT), key.text(1), key.number(2)));
        default ->
            new Order(
                List.of(received.day().asc(), kind.asc(), id.asc()),
                key -> row(received.day(), kind, id).gt(key.day(0), key.text(1), key.number(2)));
      };
    }

    Condition further(PageKey key) {
      return after.apply(key);
    }
  }

  private static WorkRow workRow(Act act, WorkingCalendar calendar, Stage stage, Record found) {
    LocalDate day = found.get(ROW.DAY);
    int age = (int) ChronoUnit.DAYS.between(day, act.today());
    LocalDate validUntil = found.get(ROW.VALID_UNTIL);
    boolean lapsed = validUntil != null && validUntil.isBefore(act.today());
    boolean isJob = found.get(ROW.KIND).equals("job");
    Long[] rungs = found.get(ROW.RUNGS);
    return new WorkRow(
        found.get(ROW.KIND),
        found.get(ROW.RECORD_ID),
        found.get(NUMBER),
        found.get(TITLE),
        found.get(CUSTOMER.ID),
        found.get(CUSTOMER.NAME),
        found.get(SITE.NAME),
        found.get(PERSON.NAME),
        day,
        age,
        lapsed || age > stage.patienceDays(),
        remark(stage, lapsed, found),
        found.get(ROW.VALUE_MINOR),
        found.get(ROW.MARGIN_PERCENT),
        IntStream.range(0, rungs.length / 2)
            .mapToObj(i -> new SmallRung(rungs[2 * i], rungs[2 * i + 1]))
            .toList(),
        isJob && found.get(JOB.RESPONDED_AT) == null
            ? Response.of(found.into(JOB), act, calendar)
            : null);
  }

  private static String remark(Stage stage, boolean lapsed, Record found) {
    if (stage == Stage.PAID && found.get(INVOICE.NUMBER) != null) {
      return (found.get(INVOICE.OWED_MINOR) > 0 ? "part of invoice " : "invoice ")
          + found.get(INVOICE.NUMBER);
    }
    return lapsed ? "lapsed" : found.get(ROW.REMARK);
  }
}
