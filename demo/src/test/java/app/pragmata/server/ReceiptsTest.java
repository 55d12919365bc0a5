package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Customers' money: part, over- and multiple payments, on account, given back, taken back. */
class ReceiptsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys").billed();
  private final long customer = gate.sheet().path("customerId").asLong();

  @AfterEach
  void theBooksAreRight() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private long take(Map<String, Object> said) {
    Visitor.Answer answer = gate.office().post("/api/receipts", said);
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return answer.json().path("id").asLong();
  }

  private JsonNode receipt(long id) {
    return gate.office().get("/api/receipts/" + id).json();
  }

  private Visitor.Answer change(long receipt, String what, Map<String, Object> said) {
    var form = new HashMap<>(said);
    form.putIfAbsent("version", receipt(receipt).path("version").asInt());
    return gate.office().post("/api/receipts/" + receipt + "/" + what, form);
  }

  private static long id(SwingGate gate) {
    return gate.invoice().path("id").asLong();
  }

  private static long owed(SwingGate gate) {
    return gate.invoice().path("owedMinor").asLong();
  }

  private static Map<String, Object> onto(SwingGate gate, String amount) {
    return Map.of("invoiceId", id(gate), "amount", amount);
  }

  @Test
  void money_beyond_the_debt_pays_it_and_the_rest_is_the_customers_on_account() {
    gate.receive(Map.of("amount", "600"));
    assertThat(owed(gate)).isZero();
    JsonNode receipt = gate.sheet().path("receipts").path(0);
    assertThat(receipt.path("leftMinor").asLong()).isEqualTo(58_81);
    assertThat(receipt.path("allocations").path(0).path("amountMinor").asLong()).isEqualTo(541_19);
    JsonNode lines = gate.sheet().path("journal").path(0).path("lines");
    assertThat(texts(lines, "accountName"))
        .containsExactly("Bank", "Trade debtors", "Customer deposits");
    assertThat(texts(lines, "creditMinor")).containsExactly("0", "54119", "5881");
  }

  @Test
  void one_receipt_pays_several_invoices_and_an_invoice_is_paid_by_several_receipts() {
    var other = sameCustomer();
    long receipt =
        take(
            Map.of("amount", "700", "allocations", List.of(onto(gate, "541.19"), onto(other, ""))));
    assertThat(owed(gate)).isZero();
    assertThat(owed(other)).isEqualTo(541_19 - 158_81);
    assertThat(receipt(receipt).path("leftMinor").asLong()).isZero();
    other.receive(Map.of("amount", "382.38"));
    assertThat(other.sheet().path("billing").path("state").asString()).isEqualTo("settled");
    assertThat(texts(other.invoice().path("receipts"), "amountMinor"))
        .containsExactly("15881", "38238");
  }

  /** A second billed job of the same customer. */
  private SwingGate sameCustomer() {
    return new SwingGate(program, "dilys").billed();
  }

  @Test
  void money_on_account_pays_an_invoice_later() {
    long receipt = take(Map.of("customerId", customer, "amount", "100"));
    assertThat(receipt(receipt).path("leftMinor").asLong()).isEqualTo(100_00);
    change(receipt, "allocations", Map.of("allocations", List.of(onto(gate, "60"))));
    assertThat(owed(gate)).isEqualTo(481_19);
    assertThat(receipt(receipt).path("leftMinor").asLong()).isEqualTo(40_00);
    assertThat(texts(gate.sheet().path("journal"), "event"))
        .startsWith("money_allocated", "money_received");
  }

  @Test
  void an_allocation_to_the_wrong_invoice_is_taken_back_and_the_money_is_left() {
    long receipt = take(Map.of("amount", "100", "allocations", List.of(onto(gate, ""))));
    long allocation = receipt(receipt).path("allocations").path(0).path("id").asLong();
    change(receipt, "allocations/" + allocation + "/take-back", Map.of());
    assertThat(owed(gate)).isEqualTo(541_19);
    assertThat(receipt(receipt).path("leftMinor").asLong()).isEqualTo(100_00);
    assertThat(receipt(receipt).path("allocations")).isEmpty();
  }

  @Test
  void money_that_is_left_is_given_back_in_parts_and_never_more_than_there_is() {
    long receipt = take(Map.of("customerId", customer, "amount", "100"));
    assertThat(change(receipt, "give-back", Map.of("amount", "100.01")).rule())
        .isEqualTo("MORE_THAN_LEFT");
    change(receipt, "give-back", Map.of("amount", "30"));
    change(receipt, "give-back", Map.of());
    assertThat(texts(receipt(receipt).path("givenBack"), "amountMinor"))
        .containsExactly("3000", "7000");
    assertThat(change(receipt, "give-back", Map.of()).rule()).isEqualTo("NOTHING_LEFT");
  }

  @Test
  void a_bounced_cheque_leaves_the_invoice_owed_again_and_is_among_nothing_that_came_in() {
    long before = paid();
    long receipt =
        take(Map.of("amount", "600", "method", "cheque", "allocations", List.of(onto(gate, ""))));
    assertThat(paid()).isEqualTo(before + 600_00);
    assertThat(change(receipt, "take-back", Map.of("reason", "Bounced")).status()).isEqualTo(200);
    assertThat(owed(gate)).isEqualTo(541_19);
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("billed");
    assertThat(paid()).isEqualTo(before);
    assertThat(receipt(receipt).path("leftMinor").asLong()).isZero();
    assertThat(receipt(receipt).path("takenBackReason").asString()).isEqualTo("Bounced");
    assertThat(texts(gate.sheet().path("journal"), "event"))
        .startsWith("receipt_taken_back", "allocation_taken_back");
    assertThat(change(receipt, "take-back", Map.of("reason", "Again")).rule())
        .isEqualTo("RECEIPT_TAKEN_BACK");
  }

  private long paid() {
    return gate.office().get("/api/worklists/paid").json().path("amountMinor").asLong();
  }

  @Test
  void a_receipt_of_which_some_went_back_is_not_taken_back() {
    long receipt = take(Map.of("customerId", customer, "amount", "100"));
    change(receipt, "give-back", Map.of("amount", "30"));
    assertThat(change(receipt, "take-back", Map.of("reason", "Bounced")).rule())
        .isEqualTo("MONEY_GIVEN_BACK");
  }

  @Test
  void money_earmarked_for_a_job_waits_for_its_invoice() {
    var running = new SwingGate(program, "piet").checked();
    long receipt = take(Map.of("jobId", running.job(), "amount", "200"));
    JsonNode draft = running.sheet().path("billing").path("draft");
    assertThat(draft.path("depositMinor").asLong()).isEqualTo(200_00);
    running
        .office()
        .post("/api/jobs/" + running.job() + "/invoice", Map.of("version", running.version()));
    assertThat(owed(running)).isEqualTo(341_19);
    assertThat(receipt(receipt).path("leftMinor").asLong()).isZero();
    assertThat(change(receipt, "take-back", Map.of("version", 1, "reason", "Bounced")).rule())
        .isEqualTo("STALE_VERSION");
  }

  @Test
  void money_earmarked_for_a_billed_job_pays_it_at_once() {
    take(Map.of("jobId", gate.job(), "amount", "41.19"));
    assertThat(owed(gate)).isEqualTo(500_00);
  }

  @Test
  void money_that_came_before_its_invoice_is_a_deposit_until_the_invoices_day() {
    LocalDate posted = LocalDate.parse(gate.invoice().path("invoiceDate").asString());
    long receipt =
        take(
            Map.of(
                "amount", "100",
                "receivedOn", posted.minusDays(3).toString(),
                "allocations", List.of(onto(gate, ""))));
    assertThat(owed(gate)).isEqualTo(441_19);
    assertThat(receipt(receipt).path("allocations").path(0).path("allocatedOn").asString())
        .isEqualTo(posted.toString());
    JsonNode entries = gate.sheet().path("journal");
    assertThat(texts(entries, "event")).startsWith("money_allocated", "money_received");
    assertThat(texts(entries, "date"))
        .startsWith(posted.toString(), posted.minusDays(3).toString());
  }

  @ParameterizedTest
  @CsvSource({"541.20, MORE_THAN_OWED", "400, MORE_THAN_LEFT", "0, MISSING", "a lot, UNREADABLE"})
  void what_cannot_go_to_an_invoice_is_told_at_its_amount(String amount, String rule) {
    var refused =
        gate.office()
            .post(
                "/api/receipts",
                Map.of("amount", "300", "allocations", List.of(onto(gate, amount))));
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(refused.pointer()).isEqualTo("/allocations/0/amount");
    assertThat(owed(gate)).isEqualTo(541_19);
  }

  @Test
  void nobodys_money_pays_an_invoice_of_somebody_else() {
    long somebodyElse = customer == 1 ? 2 : 1;
    var refused =
        gate.office()
            .post(
                "/api/receipts",
                Map.of(
                    "customerId",
                    somebodyElse,
                    "amount",
                    "300",
                    "allocations",
                    List.of(onto(gate, "300"))));
    assertThat(refused.rule()).isEqualTo("OF_ANOTHER_CUSTOMER");
    var ofTheJob =
        gate.office()
            .post(
                "/api/receipts",
                Map.of("customerId", somebodyElse, "amount", "300", "jobId", gate.job()));
    assertThat(ofTheJob.pointer()).isEqualTo("/jobId");
  }

  @ParameterizedTest
  @CsvSource({"customerId", "quoteId", "jobId"})
  void money_of_or_for_what_does_not_exist_is_told_so(String field) {
    var refused = gate.office().post("/api/receipts", Map.of(field, 999_999_999, "amount", "300"));
    assertThat(refused.status()).isEqualTo(404);
  }

  @Test
  void no_money_is_put_down_to_a_customer_whom_another_has_taken_in() {
    var database = program.database();
    long gone =
        database
            .fetchSingle(
                """
                insert into customer (number, name, payment_days, merged_into)
                values (990001, 'Taken in', 30, %d) returning id
                """
                    .formatted(customer))
            .get(0, Long.class);
    var refused = gate.office().post("/api/receipts", Map.of("customerId", gone, "amount", "300"));
    assertThat(refused.rule()).isEqualTo("NOT_FOUND");
    database.execute("delete from customer where id = " + gone);
  }

  @Test
  void money_of_nobody_is_asked_whose_it_is() {
    var refused = gate.office().post("/api/receipts", Map.of("amount", "300"));
    assertThat(refused.pointer()).isEqualTo("/customerId");
    assertThat(refused.rule()).isEqualTo("MISSING");
  }

  @Test
  void an_invoice_that_is_named_twice_is_told_at_the_second() {
    var refused =
        gate.office()
            .post(
                "/api/receipts",
                Map.of("amount", "300", "allocations", List.of(onto(gate, "1"), onto(gate, "2"))));
    assertThat(refused.rule()).isEqualTo("REPEATED");
    assertThat(refused.pointer()).isEqualTo("/allocations/1/invoiceId");
  }

  @Test
  void two_desks_that_give_the_same_money_back_at_once_give_it_back_once() throws Exception {
    long receipt = take(Map.of("customerId", customer, "amount", "100"));
    Map<String, Object> form = Map.of("version", 1);
    List<Integer> statuses =
        AtOnce.statuses(
            3, i -> gate.office().post("/api/receipts/" + receipt + "/give-back", form));
    assertThat(statuses).containsOnlyOnce(200);
    assertThat(receipt(receipt).path("givenBack")).hasSize(1);
  }

  @Test
  void receipts_are_found_by_customer_state_and_day_page_by_page() {
    long used = take(Map.of("amount", "1", "allocations", List.of(onto(gate, ""))));
    long left = take(Map.of("customerId", customer, "amount", "2"));
    String day = receipt(left).path("receivedOn").asString();
    String of = "/api/receipts?customerId=" + customer + "&from=" + day + "&to=" + day;
    assertThat(texts(rows(of + "&state=left"), "id"))
        .contains(String.valueOf(left))
        .doesNotContain(String.valueOf(used));
    assertThat(texts(rows(of + "&state=used"), "id")).contains(String.valueOf(used));
    assertThat(texts(rows("/api/receipts?invoiceId=" + id(gate)), "id"))
        .containsExactly(String.valueOf(used));
    JsonNode first = gate.office().get("/api/receipts").json();
    JsonNode second = rows("/api/receipts?after=" + first.path("next").asString());
    assertThat(texts(first.path("rows"), "id")).hasSize(50);
    assertThat(texts(second, "id")).doesNotContainAnyElementsOf(texts(first.path("rows"), "id"));
  }

  private JsonNode rows(String address) {
    return gate.office().get(address).json().path("rows");
  }

  @Test
  void a_key_that_was_used_for_one_receipt_does_nothing_to_another() {
    long one = take(Map.of("customerId", customer, "amount", "100"));
    long other = take(Map.of("customerId", customer, "amount", "100"));
    String key = "the key of receipt " + one;
    Map<String, Object> form = Map.of("version", 1);
    gate.office().post("/api/receipts/" + one + "/give-back", form, key);
    assertThat(gate.office().post("/api/receipts/" + other + "/give-back", form, key).rule())
        .isEqualTo("REPEATED_KEY_WITH_OTHER_CONTENT");
    assertThat(receipt(other).path("leftMinor").asLong()).isEqualTo(100_00);
  }

  @Test
  void what_somebody_else_changed_meanwhile_is_not_changed_unseen() {
    long receipt = take(Map.of("customerId", customer, "amount", "100"));
    change(receipt, "give-back", Map.of("amount", "30"));
    assertThat(change(receipt, "give-back", Map.of("version", 1)).rule())
        .isEqualTo("STALE_VERSION");
  }
}
