package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import app.pragmata.server.records.RecordKind;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

class BillingTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  @AfterEach
  void the_books_are_in_order() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void both_bases_stand_side_by_side_before_one_is_chosen() {
    JsonNode billing = gate.corrected().sheet().path("billing");
    assertThat(billing.path("fixedPrice").path("netMinor").asLong()).isEqualTo(612_00);
    assertThat(billing.path("timeAndParts").path("netMinor").asLong()).isEqualTo(450_99);
    assertThat(billing.path("fixedPrice").path("marginMinor").asLong()).isEqualTo(258_64);
    assertThat(billing.path("timeAndParts").path("marginMinor").asLong()).isEqualTo(97_63);
  }

  @Test
  void at_the_fixed_price_the_invoice_reads_as_the_quote_and_costs_what_it_took() {
    gate.checked();
    choose(Map.of("basis", "fixed_price"));
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(texts(invoice().path("lines"), "netMinor"))
        .containsExactly("14500", "4500", "31860", "2690", "7650");
    assertThat(invoice().path("grossMinor").asLong()).isEqualTo(734_40);
    assertThat(gate.sheet().path("cost").path("marginMinor").asLong()).isEqualTo(258_64);
  }

  @Test
  void a_basis_that_does_not_exist_is_refused_and_the_old_one_stays() {
    gate.checked();
    var refused = choose(Map.of("basis", "by_the_moon"));
    assertThat(refused.pointer()).isEqualTo("/basis");
    assertThat(gate.sheet().path("billing").path("basis").asString()).isEqualTo("time_and_parts");
  }

  @Test
  void not_charging_needs_a_reason() {
    gate.checked();
    assertThat(choose(Map.of("basis", "not_charged")).pointer()).isEqualTo("/reason");
  }

  @Test
  void a_job_that_is_not_charged_shows_what_will_post_before_it_is_closed() {
    gate.checked();
    choose(Map.of("basis", "not_charged", "reason", "Our own fault"));
    JsonNode draft = gate.sheet().path("billing").path("draft");
    assertThat(texts(draft.path("entry"), "debitMinor")).containsExactly("35336", "0");
    assertThat(
            draft.path("expectedNumber").isNull() || draft.path("expectedNumber").isMissingNode())
        .isTrue();
  }

  @Test
  void work_that_is_not_checked_cannot_be_billed_and_says_what_to_do() {
    gate.corrected();
    JsonNode draft = gate.sheet().path("billing").path("draft");
    assertThat(draft.path("notYet").asString()).isEqualTo("Check the finished visit first.");
    var refused =
        gate.office()
            .post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(refused.rule()).isEqualTo("JOB_NOT_CHECKED");
  }

  @Test
  void a_posted_job_takes_no_other_basis() {
    gate.billed();
    assertThat(choose(Map.of("basis", "fixed_price")).rule()).isEqualTo("JOB_CLOSED");
  }

  @ParameterizedTest
  @CsvSource({
    "cost, 12.345, UNREADABLE",
    "cost, -80, NEGATIVE",
    "cost, 0, MISSING",
    "supplier, '', MISSING",
    "vat, half, NOT_FOUND"
  })
  void a_suppliers_bill_with_a_fault_is_refused_at_its_field(
      String field, String typed, String rule) {
    gate.corrected();
    var bill =
        new HashMap<String, Object>(
            Map.of("supplier", "Hire", "description", "Lift", "cost", "80", "vat", "standard"));
    bill.put(field, typed);
    var refused = gate.office().post("/api/jobs/" + gate.job() + "/other-costs", bill);
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(gate.sheet().path("otherCosts")).isEmpty();
  }

  @Test
  void a_suppliers_bill_is_charged_with_markup_at_cost_or_not_and_costs_the_same() {
    gate.corrected();
    long before = net();
    for (var passed : List.of("with_markup", "at_cost", "not_charged")) {
      gate.office()
          .post(
              "/api/jobs/" + gate.job() + "/other-costs",
              Map.of("supplier", "Hire", "description", "Lift", "cost", "80", "passedOn", passed));
    }
    assertThat(net() - before).isEqualTo(92_00 + 80_00);
    assertThat(gate.sheet().path("cost").path("rungs").path(3).path("actualMinor").asLong())
        .isEqualTo(240_00);
    assertThat(texts(gate.sheet().path("otherCosts"), "passedOn"))
        .containsExactly("with_markup", "at_cost", "not_charged");
  }

  private long net() {
    return gate.sheet().path("billing").path("timeAndParts").path("netMinor").asLong();
  }

  @Test
  void a_suppliers_bill_takes_its_vat_to_input_vat_and_its_net_to_the_job() {
    gate.corrected();
    gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/other-costs",
            Map.of("supplier", "Hire", "description", "Lift", "cost", "80"));
    JsonNode lines = gate.sheet().path("journal").path(0).path("lines");
    assertThat(texts(lines, "accountName"))
        .containsExactly("Work in progress", "Input VAT", "Trade creditors");
    assertThat(texts(lines, "debitMinor")).containsExactly("8000", "1600", "0");
  }

  @Test
  void the_invoice_is_due_after_the_customers_days() {
    gate.billed();
    LocalDate posted = LocalDate.parse(invoice().path("invoiceDate").asString());
    assertThat(LocalDate.parse(invoice().path("dueDate").asString()))
        .isEqualTo(posted.plusDays(30));
  }

  @Test
  void an_invoice_is_late_the_day_after_it_was_due() {
    gate.billed();
    LocalDate due = LocalDate.parse(invoice().path("dueDate").asString());
    program.clock().set(due + "T09:00");
    assertThat(invoice().path("late").asBoolean()).isFalse();
    program.clock().set(due.plusDays(1) + "T09:00");
    assertThat(invoice().path("late").asBoolean()).isTrue();
    gate.at("20:00");
  }

  @Test
  void money_that_came_last_friday_is_in_the_books_on_last_friday() {
    gate.billed();
    LocalDate posted = LocalDate.parse(invoice().path("invoiceDate").asString());
    program.clock().set(posted.plusDays(10) + "T09:00");
    LocalDate came = posted.plusDays(3);
    gate.receive(Map.of("amount", "541.19", "receivedOn", came.toString()));
    assertThat(
            program
                .database()
                .select(JOURNAL_ENTRY.ENTRY_DATE)
                .from(JOURNAL_ENTRY)
                .where(JOURNAL_ENTRY.SOURCE_KIND.eq(RecordKind.RECEIPT))
                .and(
                    JOURNAL_ENTRY.SOURCE_ID.eq(
                        invoice().path("receipts").path(0).path("id").asLong()))
                .fetchSingle(JOURNAL_ENTRY.ENTRY_DATE))
        .isEqualTo(came);
    gate.at("20:00");
  }

  @Test
  void a_weekday_means_the_last_one_when_money_has_come() {
    gate.billed();
    LocalDate posted = LocalDate.parse(invoice().path("invoiceDate").asString());
    program.clock().set(posted.plusDays(8) + "T09:00");
    String weekday = posted.plusDays(3).getDayOfWeek().name();
    gate.receive(Map.of("amount", "1", "receivedOn", weekday));
    assertThat(invoice().path("receipts").path(0).path("receivedOn").asString())
        .isEqualTo(posted.plusDays(3).toString());
    gate.at("20:00");
  }

  @ParameterizedTest
  @CsvSource({
    "amount, 0, MISSING",
    "amount, -5, NEGATIVE",
    "amount, 5.001, UNREADABLE",
    "amount, '', MISSING",
    "receivedOn, 2031-01-01, IN_THE_FUTURE",
    "method, barter, UNKNOWN_WORD"
  })
  void a_receipt_with_a_fault_is_refused_at_its_field(String field, String typed, String rule) {
    gate.billed();
    var form = new HashMap<String, Object>(Map.of("amount", "10", "receivedOn", "today"));
    form.put(field, typed);
    var refused = gate.receive(form);
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(invoice().path("owedMinor").asLong()).isEqualTo(541_19);
  }

  @Test
  void money_dated_into_a_closed_month_is_refused_and_nothing_is_booked() {
    gate.billed();
    LocalDate posted = LocalDate.parse(invoice().path("invoiceDate").asString());
    LocalDate month = posted.withDayOfMonth(1);
    program.clock().set(posted.plusDays(40) + "T09:00");
    var database = program.database();
    database.execute("update period set closed_at = now() where month = '%s'".formatted(month));
    try {
      var refused = gate.receive(Map.of("amount", "10", "receivedOn", posted.toString()));
      assertThat(refused.rule()).isEqualTo("PERIOD_CLOSED");
      assertThat(invoice().path("receipts")).isEmpty();
    } finally {
      database.execute("update period set closed_at = null where month = '%s'".formatted(month));
      gate.at("20:00");
    }
  }

  @Test
  void the_same_money_from_two_desks_at_once_is_taken_once() throws Exception {
    gate.billed();
    List<Integer> statuses = AtOnce.statuses(2, i -> gate.receive(Map.of("amount", "541.19")));
    assertThat(statuses).containsOnlyOnce(200);
    assertThat(invoice().path("receipts")).hasSize(1);
  }

  @Test
  void jobs_posted_at_the_same_moment_get_numbers_without_gaps() throws Exception {
    List<SwingGate> gates =
        IntStream.range(0, 4).mapToObj(i -> new SwingGate(program, "imre").checked()).toList();
    List<Integer> versions = gates.stream().map(SwingGate::version).toList();
    List<Integer> statuses =
        AtOnce.statuses(
            4,
            i ->
                gates
                    .get(i)
                    .office()
                    .post(
                        "/api/jobs/" + gates.get(i).job() + "/invoice",
                        Map.of("version", versions.get(i))));
    assertThat(statuses).containsOnly(200);
    List<Long> numbers =
        gates.stream()
            .map(
                one -> one.sheet().path("billing").path("invoices").path(0).path("number").asLong())
            .sorted()
            .toList();
    assertThat(numbers.getLast() - numbers.getFirst()).isEqualTo(3);
  }

  private Visitor.Answer choose(Map<String, Object> basis) {
    var form = new HashMap<>(basis);
    form.put("version", gate.version());
    return gate.office().put("/api/jobs/" + gate.job() + "/basis", form);
  }

  private JsonNode invoice() {
    return gate.sheet().path("billing").path("invoices").path(0);
  }
}
