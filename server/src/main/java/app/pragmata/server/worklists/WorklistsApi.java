package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.countDistinct;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.people.Act;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
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
  private static final int MOST = 300;

  /**
   * What stands at one stage.
   *
   * @param amountMinor net up to Checked, what is owed with VAT at Billed, what came in at Paid
   * @param remark how old the oldest is, or until when work is booked
   */
  record StageTotal(String stage, long amountMinor, int count, String remark, boolean stuck) {}

  /** The rows that match, at most 300 of them, of so many in all. */
  record Worklist(List<Worklists.WorkRow> rows, int count, long amountMinor) {}

  private final Worklists worklists;
  private final DSLContext database;

  WorklistsApi(Worklists worklists, DSLContext database) {
    this.worklists = worklists;
    this.database = database;
  }

  @GetMapping("/api/money-line")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public List<StageTotal> moneyLine(Act act) {
    Map<Stage, List<Worklists.Standing>> standings = worklists.listUnbilled(act);
    var totals = new ArrayList<StageTotal>();
    for (Stage stage :
        List.of(Stage.QUOTED, Stage.WON, Stage.BOOKED, Stage.WORKED, Stage.CHECKED)) {
      totals.add(total(stage, standings.getOrDefault(stage, List.of())));
    }
    totals.add(billed(act));
    totals.add(paid(act));
    return totals;
  }

  private static StageTotal total(Stage stage, List<Worklists.Standing> standings) {
    int oldest = standings.stream().mapToInt(Worklists.Standing::ageDays).max().orElse(0);
    String remark =
        standings.isEmpty() ? "" : stage == Stage.BOOKED ? bookedUntil(standings) : oldest + " d";
    return new StageTotal(
        stage.path(),
        standings.stream().mapToLong(Worklists.Standing::valueMinor).sum(),
        standings.size(),
        remark,
        standings.stream().anyMatch(Worklists.Standing::stuck));
  }

  private static String bookedUntil(List<Worklists.Standing> standings) {
    LocalDate last =
        standings.stream()
            .map(Worklists.Standing::day)
            .max(Comparator.naturalOrder())
            .orElseThrow();
    return "to "
        + last.getDayOfMonth()
        + " "
        + last.getMonth().getDisplayName(java.time.format.TextStyle.SHORT, Locale.UK);
  }

  private StageTotal billed(Act act) {
    return database
        .select(coalesce(sum(INVOICE.OWED_MINOR), BigDecimal.ZERO), count(), min(INVOICE.DUE_DATE))
        .from(INVOICE)
        .where(INVOICE.OWED_MINOR.gt(0L))
        .fetchSingle(
            row -> {
              long late =
                  row.value3() == null ? 0 : ChronoUnit.DAYS.between(row.value3(), act.today());
              return new StageTotal(
                  Stage.BILLED.path(),
                  row.value1().longValueExact(),
                  row.value2(),
                  late > 0 ? late + " d late" : row.value2() == 0 ? "" : "none late",
                  late > 0);
            });
  }

  private StageTotal paid(Act act) {
    return database
        .select(coalesce(sum(RECEIPT.AMOUNT_MINOR), BigDecimal.ZERO), countDistinct(INVOICE.JOB_ID))
        .from(RECEIPT)
        .join(INVOICE)
        .on(INVOICE.ID.eq(RECEIPT.INVOICE_ID))
        .where(Worklists.receivedThisMonth(act))
        .fetchSingle(
            row ->
                new StageTotal(
                    Stage.PAID.path(),
                    row.value1().longValueExact(),
                    row.value2(),
                    "this month",
                    false));
  }

  /** Sorted by {@code oldest} (the default), {@code value}, {@code margin} or {@code customer}. */
  @GetMapping("/api/worklists/{stage}")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public Worklist worklist(
      Act act,
      @PathVariable String stage,
      @RequestParam(defaultValue = "oldest") String sort,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "") String technician) {
    List<Worklists.WorkRow> rows = rows(act, stage, sort, filter, technician);
    return new Worklist(
        rows.stream().limit(MOST).toList(),
        rows.size(),
        rows.stream().mapToLong(Worklists.WorkRow::valueMinor).sum());
  }

  @GetMapping("/api/worklists/{stage}/file")
  ResponseEntity<byte[]> file(
      Act act,
      @PathVariable String stage,
      @RequestParam(defaultValue = "oldest") String sort,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "") String technician,
      @RequestParam(defaultValue = "csv") String format) {
    return ListFile.named(stage.replaceAll("[^a-z]", ""), format)
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
            "Margin %")
        .rows(
            rows(act, stage, sort, filter, technician),
            row ->
                new @Nullable Object[] {
                  row.kind(),
                  row.number(),
                  row.customer(),
                  row.site(),
                  row.title(),
                  row.technician(),
                  row.day(),
                  row.remark(),
                  ListFile.amount(row.valueMinor()),
                  row.marginPercent()
                })
        .answer();
  }

  private List<Worklists.WorkRow> rows(
      Act act, String stage, String sort, String filter, String technician) {
    Stage known =
        Stream.of(Stage.values())
            .filter(candidate -> candidate.path().equals(stage))
            .findFirst()
            .orElseThrow(
                () -> new Refused(Rule.NOT_FOUND, "There is no such stage on the Money line."));
    String wanted = filter.strip().toLowerCase(Locale.ROOT);
    return worklists.list(act, known).stream()
        .filter(row -> technician.isEmpty() || technician.equals(row.technician()))
        .filter(row -> text(row).contains(wanted))
        .sorted(order(sort))
        .toList();
  }

  private static String text(Worklists.WorkRow row) {
    return (row.number() + " " + row.customer() + " " + row.site() + " " + row.title())
        .toLowerCase(Locale.ROOT);
  }

  private static Comparator<Worklists.WorkRow> order(String sort) {
    return switch (sort) {
      case "value" -> Comparator.comparing(Worklists.WorkRow::valueMinor).reversed();
      case "margin" ->
          Comparator.comparing(
              row -> Objects.requireNonNullElse(row.marginPercent(), new BigDecimal(-100_000)));
      case "customer" ->
          Comparator.comparing(Worklists.WorkRow::customer, String.CASE_INSENSITIVE_ORDER);
      default ->
          Comparator.comparing(Worklists.WorkRow::day).thenComparing(Worklists.WorkRow::number);
    };
  }
}
