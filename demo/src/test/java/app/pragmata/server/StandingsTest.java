package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.STANDING;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.sum;

import app.pragmata.server.worklists.Stage;
import app.pragmata.server.worklists.WorkKind;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

class StandingsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  private List<String> standings() {
    return program
        .database()
        .selectFrom(STANDING)
        .orderBy(STANDING.KIND, STANDING.RECORD_ID)
        .fetch(row -> row.toString());
  }

  @Test
  void what_is_kept_of_every_quote_and_job_is_what_is_worked_out_from_scratch() {
    new SwingGate(program, "piet").planned();
    new SwingGate(program, "piet").finished();
    new SwingGate(program, "piet").corrected();
    new SwingGate(program, "piet").billed();
    var deposited = new SentQuote();
    deposited.sent();
    office.post("/api/receipts", Map.of("quoteId", deposited.gate().quote(), "amount", "100"));
    deposited.accept(1, List.of());
    deposited.gate().answered().planned();
    List<String> kept = standings();
    program.recomputeStandings();
    assertThat(standings()).isNotEmpty().containsExactlyElementsOf(kept);
  }

  @Test
  void what_a_job_would_charge_follows_the_warranty_of_its_equipment() {
    var gate = new SwingGate(program, "piet").checked();
    gate.bearLabour("50");
    List<String> kept = standings();
    gate.bearLabour("");
    List<String> back = standings();
    assertThat(back).isNotEqualTo(kept);
    program.recomputeStandings();
    assertThat(standings()).containsExactlyElementsOf(back);
  }

  @Test
  void a_part_payment_lowers_what_stands_at_billed_by_as_much() {
    var gate = new SwingGate(program, "piet").billed();
    long before = billed(gate);
    receive(gate, 1, "41.19");
    assertThat(billed(gate)).isEqualTo(before - 4119);
  }

  @Test
  void of_a_bill_paid_in_two_months_only_what_came_in_this_month_stands_at_paid() {
    var gate = new SwingGate(program, "piet").billed();
    receive(gate, 1, "100.00");
    program.clock().set(startOfNextMonth(gate) + "T09:00");
    receive(gate, 2, "41.19");
    JsonNode paid = office.get("/api/worklists/paid").json();
    gate.at("20:00");
    assertThat(paid.path("rows"))
        .filteredOn(row -> row.path("jobId").asLong() == gate.job())
        .map(row -> row.path("valueMinor").asLong())
        .containsExactly(4119L);
  }

  @Test
  void paid_on_the_money_line_is_the_sum_of_the_months_receipts() {
    var gate = new SwingGate(program, "piet").billed();
    LocalDate month = startOfNextMonth(gate);
    program.clock().set(month + "T09:00");
    receive(gate, 1, "12.34");
    long receipts =
        program
            .database()
            .select(sum(RECEIPT.AMOUNT_MINOR))
            .from(RECEIPT)
            .where(RECEIPT.RECEIVED_ON.ge(month))
            .fetchSingle()
            .value1()
            .longValueExact();
    JsonNode line = office.get("/api/money-line").json();
    gate.at("20:00");
    assertThat(line)
        .filteredOn(stage -> stage.path("stage").asString().equals("paid"))
        .map(stage -> stage.path("amountMinor").asLong())
        .containsExactly(receipts);
  }

  private LocalDate startOfNextMonth(SwingGate gate) {
    return LocalDate.parse(invoice(gate).path("invoiceDate").asString())
        .plusMonths(1)
        .withDayOfMonth(1);
  }

  private JsonNode invoice(SwingGate gate) {
    return gate.sheet().path("billing").path("invoices").path(0);
  }

  private void receive(SwingGate gate, int version, String amount) {
    var answer = gate.receive(Map.of("version", version, "amount", amount, "method", "card"));
    assertThat(answer.status()).isEqualTo(200);
  }

  private long billed(SwingGate gate) {
    return program
        .database()
        .select(STANDING.VALUE_MINOR)
        .from(STANDING)
        .where(STANDING.KIND.eq(WorkKind.INVOICE).and(STANDING.JOB_ID.eq(gate.job())))
        .fetchSingle(STANDING.VALUE_MINOR);
  }

  @Test
  void a_step_that_was_refused_leaves_the_standing_as_it_was() {
    var gate = new SwingGate(program, "piet").planned();
    List<String> before = standings();
    office.post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(standings()).isEqualTo(before);
  }

  @ParameterizedTest
  @CsvSource({
    "quoted, oldest", "quoted, value", "quoted, margin", "quoted, customer",
    "billed, oldest", "billed, value", "billed, margin", "billed, customer",
    "paid, oldest", "paid, value", "paid, margin", "paid, customer"
  })
  void a_list_read_page_by_page_is_the_list_read_at_once(String stage, String sort) {
    program.clock().set("2026-11-24T06:30");
    manyQuotes();
    String file = office.get("/api/worklists/" + stage + "/file?sort=" + sort).text();
    var numbers = new ArrayList<String>();
    String next = "";
    do {
      JsonNode page =
          office.get("/api/worklists/%s?sort=%s&after=%s".formatted(stage, sort, next)).json();
      numbers.addAll(texts(page.path("rows"), "number"));
      next = page.path("next").isNull() ? "" : page.path("next").asString();
    } while (!next.isEmpty());
    assertThat(numbers).isEqualTo(file.lines().skip(1).map(line -> line.split(",", 3)[1]).toList());
  }

  /** More than a page of drafts, once. */
  private void manyQuotes() {
    if (program.database().fetchCount(STANDING, STANDING.STAGE.eq(Stage.QUOTED)) > 120) {
      return;
    }
    for (int i = 0; i < 110; i++) {
      office.post(
          "/api/calls",
          Map.of(
              "customerId",
              4,
              "siteId",
              8,
              "about",
              "Paged quote " + i,
              "outcome",
              "quote",
              "quote",
              Map.of("kindOfJobId", 1 + i % 5)));
    }
  }

  @Test
  void a_page_key_that_is_not_ours_is_refused_in_words() {
    var answer = office.get("/api/worklists/quoted?after=bm90IG91cnM");
    assertThat(answer.rule()).isEqualTo("NOT_FOUND");
    assertThat(answer.json().path("detail").asString()).contains("Start from its top");
  }
}
