package app.pragmata.server;

import static app.pragmata.server.StagedGate.credit;
import static app.pragmata.server.StagedGate.entry;
import static app.pragmata.server.StagedGate.row;
import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Credits of the worked example's invoice of 450.99, with VAT 541.19. */
class CreditsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre").billed();
  private final long invoice = gate.invoice().path("id").asLong();

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private static Map<String, Object> line(int position, String amount) {
    return Map.of("lines", List.of(Map.of("position", position, "amount", amount)));
  }

  @Test
  void a_lower_price_lowers_sales_tax_debt_and_margin_and_leaves_the_cost() {
    assertThat(credit(gate, invoice, "price", line(1, "50.00")).status()).isEqualTo(200);
    assertThat(entry(gate, 0))
        .containsExactlyInAnyOrder(
            "Trade debtors 0 6000", "Sales, labour 5000 0", "Output VAT 1000 0");
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("cost").path("marginMinor").asLong()).isEqualTo(97_63 - 50_00);
    assertThat(gate.invoice().path("owedMinor").asLong()).isEqualTo(541_19 - 60_00);
    assertThat(sheet.path("billing").path("state").asString()).isEqualTo("billed");
  }

  @Test
  void the_whole_price_credited_leaves_no_debt_and_no_tax() {
    credit(gate, invoice, "price", line(2, "0.03"));
    credit(gate, invoice, "price", Map.of());
    assertThat(gate.invoice().path("creditedMinor").asLong()).isEqualTo(541_19);
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("settled");
    assertThat(credit(gate, invoice, "price", Map.of()).text()).contains("left to credit");
  }

  @Test
  void more_than_is_left_of_a_line_is_refused_at_its_amount() {
    Visitor.Answer answer = credit(gate, invoice, "price", line(1, "5000"));
    assertThat(answer.status()).isEqualTo(422);
    assertThat(texts(answer.json().path("errors"), "pointer")).containsExactly("/lines/0/amount");
    assertThat(gate.invoice().path("creditedMinor").asLong()).isZero();
  }

  @Test
  void work_taken_back_is_in_progress_again_and_the_job_is_open() {
    credit(gate, invoice, "work_taken_back", Map.of());
    assertThat(entry(gate, 0))
        .contains(
            "Trade debtors 0 54119",
            "Work in progress 35336 0",
            "Cost of sales, labour 0 8940",
            "Sales, parts 18124 0");
    JsonNode billing = gate.sheet().path("billing");
    assertThat(billing.path("state").asString()).isEqualTo("unbilled");
    assertThat(billing.path("draft").path("netMinor").asLong()).isEqualTo(450_99);
  }

  @Test
  void work_whose_price_was_credited_is_still_taken_back_once_and_billed_anew() {
    credit(gate, invoice, "price", Map.of());
    assertThat(credit(gate, invoice, "work_taken_back", Map.of()).status()).isEqualTo(200);
    assertThat(entry(gate, 0)).contains("Work in progress 35336 0");
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("unbilled");
    assertThat(credit(gate, invoice, "work_taken_back", Map.of()).text())
        .contains("left to credit");
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("billed");
  }

  @Test
  void work_taken_back_can_be_corrected_and_billed_anew() {
    credit(gate, invoice, "work_taken_back", Map.of());
    assertThat(
            gate.office()
                .post(
                    "/api/visits/" + gate.visit() + "/reopen",
                    Map.of("version", gate.visitVersion()))
                .status())
        .isEqualTo(200);
    gate.office()
        .post("/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion()));
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(texts(gate.sheet().path("billing").path("invoices"), "owedMinor"))
        .containsExactly("0", "54119");
  }

  @Test
  void a_late_cost_goes_back_together_with_the_work() {
    StagedGate.spend(gate, "80");
    credit(gate, invoice, "work_taken_back", Map.of());
    assertThat(entry(gate, 0)).contains("Work in progress 43336 0", "Cost of sales, other 0 8000");
  }

  @Test
  void what_was_paid_beyond_the_rest_is_the_customers_money_again() {
    gate.receive(Map.of("amount", "541.19"));
    credit(gate, invoice, "price", line(1, "50.00"));
    assertThat(texts(gate.sheet().path("journal").path(0).path("lines"), "accountName"))
        .containsExactly("Trade debtors", "Customer deposits");
    JsonNode receipt = gate.sheet().path("receipts").path(0);
    assertThat(receipt.path("leftMinor").asLong()).isEqualTo(60_00);
    assertThat(receipt.path("allocations").path(0).path("amountMinor").asLong()).isEqualTo(481_19);
    assertThat(gate.invoice().path("owedMinor").asLong()).isZero();
  }

  @Test
  void a_credit_uses_up_what_is_owed_before_it_frees_money() {
    gate.receive(Map.of("amount", "500"));
    credit(gate, invoice, "price", line(1, "50.00"));
    assertThat(gate.sheet().path("receipts").path(0).path("leftMinor").asLong())
        .isEqualTo(60_00 - 41_19);
  }

  @Test
  void a_credit_note_is_frozen_with_the_invoice_that_it_credits() {
    long id = credit(gate, invoice, "price", line(1, "50.00")).json().path("id").asLong();
    JsonNode posted = gate.office().get("/api/credits/" + id).json();
    JsonNode document = posted.path("document");
    assertThat(document.path("invoiceNumber").asLong())
        .isEqualTo(gate.invoice().path("number").asLong());
    assertThat(document.path("buyer"))
        .isEqualTo(
            gate.office().get("/api/invoices/" + invoice).json().path("document").path("buyer"));
    assertThat(document.path("vat").path(0).path("vatMinor").asLong()).isEqualTo(10_00);
    assertThat(posted.path("content").asString()).contains("Agreed on the telephone");
  }

  @Test
  void two_desks_that_credit_the_same_invoice_as_they_saw_it_credit_it_once() throws Exception {
    var form =
        Map.of(
            "version", row(gate, invoice).path("version").asInt(),
            "kind", "price",
            "reason", "Agreed on the telephone");
    assertThat(
            AtOnce.statuses(
                4, i -> gate.office().post("/api/invoices/" + invoice + "/credits", form)))
        .containsOnlyOnce(200);
  }

  @Test
  void a_repeated_request_credits_once() {
    var form =
        Map.of(
            "version", row(gate, invoice).path("version").asInt(),
            "kind", "price",
            "reason", "Agreed on the telephone");
    String path = "/api/invoices/" + invoice + "/credits";
    var first = gate.office().post(path, form, "credit-once-" + invoice);
    var second = gate.office().post(path, form, "credit-once-" + invoice);
    assertThat(second.json()).isEqualTo(first.json());
  }

  @Test
  void a_credit_without_a_reason_or_kind_says_what_is_missing() {
    Visitor.Answer answer =
        gate.office()
            .post("/api/invoices/" + invoice + "/credits", Map.of("version", 1, "reason", " "));
    assertThat(texts(answer.json().path("errors"), "pointer")).containsExactly("/reason", "/kind");
  }

  @Test
  void credits_are_listed_by_invoice() {
    credit(gate, invoice, "price", line(1, "1.00"));
    credit(gate, invoice, "price", line(1, "2.00"));
    assertThat(
            texts(
                gate.office().get("/api/credits?invoiceId=" + invoice).json().path("rows"),
                "netMinor"))
        .containsExactly("200", "100");
  }
}
