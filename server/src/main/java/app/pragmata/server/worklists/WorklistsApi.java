package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.STANDING;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The Money line and its worklists over HTTP. */
@RestController
class WorklistsApi {
  private static final int PAGE = 100;
  private static final List<Stage> UNBILLED =
      List.of(Stage.QUOTED, Stage.WON, Stage.BOOKED, Stage.WORKED, Stage.CHECKED);

  /**
   * What stands at one stage.
   *
   * @param amountMinor net up to Checked, what is owed with VAT at Billed, what came in at Paid
   * @param days how old the oldest is, or at Billed how late; null where nothing stands or nothing
   *     is waited for
   * @param belowFloor how many jobs keep less at their end than the company wants to
   * @param until the day until which work is booked; null at every other stage
   */
  record StageTotal(
      Stage stage,
      long amountMinor,
      int count,
      @Nullable Integer days,
      @Nullable LocalDate until,
      boolean stuck,
      int belowFloor) {}

  /**
   * A page of the rows that match, of so many in all.
   *
   * @param next asks for the page after this one; null on the last
   */
  record Worklist(List<WorkRow> rows, int count, long amountMinor, @Nullable String next) {}

  private final Worklists worklists;
  private final CompanyStore companies;
  private final DSLContext database;

  WorklistsApi(Worklists worklists, CompanyStore companies, DSLContext database) {
    this.worklists = worklists;
    this.companies = companies;
    this.database = database;
  }

  @GetMapping("/api/money-line")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public List<StageTotal> getMoneyLine(Act act) {
    Map<Stage, StageTotal> unbilled = unbilled(act);
    var totals = new ArrayList<StageTotal>();
    for (Stage stage : UNBILLED) {
      totals.add(unbilled.getOrDefault(stage, new StageTotal(stage, 0, 0, null, null, false, 0)));
    }
    totals.add(billed(act));
    totals.add(paid(act));
    return totals;
  }

  private Map<Stage, StageTotal> unbilled(Act act) {
    var lapsed = STANDING.VALID_UNTIL.lt(act.today());
    return database
        .select(
            STANDING.STAGE,
            sum(STANDING.VALUE_MINOR),
            count(),
            min(STANDING.DAY),
            max(STANDING.DAY),
            count().filterWhere(lapsed),
            count()
                .filterWhere(
                    STANDING.FORECAST_PERCENT.lt(
                        companies.getCompany().quoting().floorMarginPercent())))
        .from(STANDING)
        .where(STANDING.STAGE.in(UNBILLED))
        .and(STANDING.STAGE.ne(inline(Stage.SETTLED)))
        .and(Worklists.standsAt(Stage.QUOTED, act).or(STANDING.STAGE.ne(Stage.QUOTED)))
        .groupBy(STANDING.STAGE)
        .fetchMap(
            STANDING.STAGE,
            row ->
                total(
                    act,
                    row.value1(),
                    row.value2().longValueExact(),
                    row.value3(),
                    row.value4(),
                    row.value5(),
                    row.value6() > 0,
                    row.value7()));
  }

  private StageTotal total(
      Act act,
      Stage stage,
      long amountMinor,
      int count,
      LocalDate oldest,
      LocalDate newest,
      boolean lapsed,
      int belowFloor) {
    long age = ChronoUnit.DAYS.between(oldest, act.today());
    return new StageTotal(
        stage,
        amountMinor,
        count,
        stage == Stage.BOOKED ? null : Integer.valueOf((int) age),
        stage == Stage.BOOKED ? newest : null,
        lapsed || age > stage.patienceDays(companies.getCompany().patience()),
        belowFloor);
  }

  private StageTotal billed(Act act) {
    return database
        .select(
            coalesce(sum(RECEIVABLE.OWED_MINOR), BigDecimal.ZERO),
            count(),
            min(RECEIVABLE.DUE_DATE))
        .from(RECEIVABLE)
        .where(RECEIVABLE.OWED_MINOR.gt(0L))
        .fetchSingle(
            row -> {
              Integer late =
                  row.value3() == null
                      ? null
                      : Integer.valueOf(
                          (int) Math.max(0, ChronoUnit.DAYS.between(row.value3(), act.today())));
              return new StageTotal(
                  Stage.BILLED,
                  row.value1().longValueExact(),
                  row.value2(),
                  late,
                  null,
                  late != null && late > 0,
                  0);
            });
  }

  private StageTotal paid(Act act) {
    Worklists.Total paid =
        worklists.total(act, new Worklists.Question(Stage.PAID, Worklists.Sort.OLDEST, "", null));
    return new StageTotal(Stage.PAID, paid.amountMinor(), paid.count(), null, null, false, 0);
  }

  /**
   * A page of a stage's list.
   *
   * @param technicianId whose work; null for everybody's
   */
  @GetMapping("/api/worklists/{stage}")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public Worklist getWorklist(
      Act act,
      @PathVariable Stage stage,
      @RequestParam(defaultValue = "oldest") Worklists.Sort sort,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(required = false) @Nullable Long technicianId,
      @RequestParam(defaultValue = "") String after) {
    var asked = new Worklists.Question(known(stage), sort, filter, technicianId);
    List<WorkRow> rows = worklists.list(act, asked, after, PAGE + 1);
    boolean more = rows.size() > PAGE;
    List<WorkRow> page = more ? rows.subList(0, PAGE) : rows;
    Worklists.Total total = worklists.total(act, asked);
    return new Worklist(
        page,
        total.count(),
        total.amountMinor(),
        more ? Worklists.key(asked, page.getLast()).text() : null);
  }

  @GetMapping("/api/worklists/{stage}/file")
  ResponseEntity<byte[]> downloadWorklist(
      Act act,
      @PathVariable Stage stage,
      @RequestParam(defaultValue = "oldest") Worklists.Sort sort,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(required = false) @Nullable Long technicianId,
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    var asked = new Worklists.Question(known(stage), sort, filter, technicianId);
    return ListFile.named(asked.stage().code(), format)
        .head(
            "Kind",
            "Number",
            "Customer",
            "Site",
            "Title",
            "Technician",
            "Day",
            "Remark",
            "Value",
            "Margin %",
            "Forecast %")
        .rows(
            worklists.list(act, asked, "", ListFile.MOST_ROWS),
            row ->
                new @Nullable Object[] {
                  row.kind().code(),
                  row.number(),
                  row.customer(),
                  row.site(),
                  row.title(),
                  row.technician(),
                  row.day(),
                  row.remark().words(row.remarkNumber()),
                  ListFile.amount(row.valueMinor()),
                  row.marginPercent(),
                  row.forecastPercent()
                })
        .answer();
  }

  /** What is settled has no list of its own. */
  private static Stage known(Stage stage) {
    if (stage == Stage.SETTLED) {
      throw new Refused(Rule.NOT_FOUND, "There is no such stage on the Money line.");
    }
    return stage;
  }
}
