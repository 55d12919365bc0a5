package app.pragmata.server;

import static app.pragmata.server.StagedGate.bill;
import static app.pragmata.server.StagedGate.credit;
import static app.pragmata.server.StagedGate.entry;
import static app.pragmata.server.StagedGate.post;
import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A fixed price of 10,000.00 that is billed in stages, to the penny. */
class StagesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final StagedGate staged = new StagedGate(program);
  private final SwingGate gate = staged.gate();

  @AfterEach
  void the_books_are_right() {
    proved();
  }

  private void proved() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private SwingGate checked() {
    gate.at("14:20");
    gate.tap("drive", Map.of());
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "18.4"));
    gate.tap("start-work", Map.of());
    gate.at("16:00");
    gate.tap("finish", Map.of("note", "Handed over."));
    gate.office()
        .post("/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion()));
    return gate;
  }

  private String margin() {
    return gate.sheet().path("cost").path("marginMinor").asString();
  }

  /** Whatever the visit cost, six thousand in all. */
  private void spendUpTo6000() {
    long spent = gate.sheet().path("cost").path("actualMinor").asLong();
    staged.spend("%d.%02d".formatted((6000_00 - spent) / 100, (6000_00 - spent) % 100));
  }

  @Test
  void each_stage_is_billed_ahead_of_work_and_all_meets_in_the_final_invoice() {
    gate.planned();
    staged.billStage();
    assertThat(entry(gate, 0))
        .containsExactly(
            "Trade debtors 360000 0", "Billed ahead of work 0 300000", "Output VAT 0 60000");
    proved();
    staged.spend("500");
    proved();
    staged.billStage();
    assertThat(entry(gate, 0))
        .containsExactly(
            "Trade debtors 480000 0", "Billed ahead of work 0 400000", "Output VAT 0 80000");
    proved();
    checked();
    spendUpTo6000();
    proved();
    staged.billRest();
    assertThat(entry(gate, 0))
        .contains(
            "Trade debtors 360000 0",
            "Sales, other 0 1000000",
            "Billed ahead of work 700000 0",
            "Output VAT 0 60000",
            "Work in progress 0 600000");
    assertThat(margin()).isEqualTo("400000");
    proved();
    staged.spend("50");
    assertThat(entry(gate, 0).getFirst()).isEqualTo("Cost of sales, other 5000 0");
    assertThat(margin()).isEqualTo("395000");
  }

  @Test
  void the_final_invoice_is_shown_with_what_was_billed_before_it_is_posted() {
    gate.planned();
    staged.billStage();
    JsonNode draft = gate.sheet().path("billing").path("draft");
    assertThat(texts(draft.path("billedBefore"), "netMinor")).containsExactly("300000");
    assertThat(draft.path("netMinor").asLong()).isEqualTo(7000_00);
    assertThat(draft.path("grossMinor").asLong()).isEqualTo(8400_00);
  }

  @Test
  void the_entry_of_the_final_invoice_is_the_one_that_was_shown() {
    gate.planned();
    staged.billStage();
    checked();
    JsonNode shown = gate.sheet().path("billing").path("draft").path("entry");
    staged.billRest();
    assertThat(gate.sheet().path("journal").path(0).path("lines")).isEqualTo(shown);
  }

  @Test
  void a_previewed_stage_is_the_one_that_is_posted() {
    gate.planned();
    JsonNode preview =
        gate.office()
            .post("/api/invoices/preview", Map.of("jobs", java.util.List.of(bill(gate, "stage"))))
            .json();
    long invoice = staged.billStage();
    JsonNode posted = gate.office().get("/api/invoices/" + invoice).json();
    assertThat(posted.path("document")).isEqualTo(preview.path("document"));
    assertThat(gate.sheet().path("journal").path(0).path("lines")).isEqualTo(preview.path("entry"));
  }

  @Test
  void the_last_stage_is_not_billed_ahead_of_work() {
    gate.planned();
    staged.billStage();
    staged.billStage();
    Visitor.Answer third = post(gate, bill(gate, "stage"));
    assertThat(third.status()).isEqualTo(409);
    assertThat(third.text()).contains("the last one is the final invoice");
  }

  @Test
  void a_stage_is_billed_once() {
    gate.planned();
    staged.billStage();
    Map<String, Object> again = bill(gate, "stage");
    again.put("stage", 1);
    assertThat(post(gate, again).text()).contains("is billed already");
  }

  @Test
  void eight_desks_at_once_bill_a_stage_once() throws Exception {
    gate.planned();
    Map<String, Object> first = bill(gate, "stage");
    assertThat(AtOnce.statuses(8, i -> post(gate, first))).containsOnlyOnce(200);
    assertThat(gate.sheet().path("billing").path("invoices").size()).isEqualTo(1);
  }

  @Test
  void a_stage_that_is_credited_is_billed_again() {
    gate.planned();
    long first = staged.billStage();
    assertThat(credit(gate, first, "price", Map.of()).status()).isEqualTo(200);
    assertThat(entry(gate, 0))
        .containsExactly(
            "Trade debtors 0 360000", "Billed ahead of work 300000 0", "Output VAT 60000 0");
    staged.billStage();
    JsonNode second = gate.sheet().path("billing").path("invoices").path(1);
    assertThat(texts(second.path("lines"), "description")).containsExactly("Order");
  }

  @Test
  void half_a_stage_that_is_credited_is_charged_at_the_end() {
    gate.planned();
    long first = staged.billStage();
    credit(
        gate,
        first,
        "price",
        Map.of("lines", java.util.List.of(Map.of("position", 1, "amount", "1000"))));
    checked();
    staged.billRest();
    JsonNode last = gate.sheet().path("billing").path("invoices").path(1);
    assertThat(texts(last.path("billedBefore"), "netMinor")).containsExactly("200000");
    assertThat(last.path("netMinor").asLong()).isEqualTo(8000_00);
  }

  @Test
  void the_final_invoice_taken_back_reopens_its_stages() {
    gate.planned();
    long first = staged.billStage();
    checked();
    long last = staged.billRest();
    assertThat(credit(gate, first, "price", Map.of()).text()).contains("takes this stage off");
    assertThat(credit(gate, last, "work_taken_back", Map.of()).status()).isEqualTo(200);
    assertThat(entry(gate, 0))
        .contains(
            "Trade debtors 0 840000", "Sales, other 1000000 0", "Billed ahead of work 0 300000");
    proved();
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("billing").path("state").asString()).isEqualTo("unbilled");
    assertThat(sheet.path("billing").path("draft").path("netMinor").asLong()).isEqualTo(7000_00);
    staged.billRest();
    assertThat(gate.sheet().path("cost").path("chargedNetMinor").asLong()).isIn(0L, 10_000_00L);
  }

  @Test
  void a_job_is_neither_called_off_nor_closed_without_charge_while_a_stage_is_billed() {
    gate.planned();
    staged.billStage();
    Visitor.Answer off =
        gate.office()
            .post(
                "/api/jobs/" + gate.job() + "/call-off",
                Map.of("version", gate.version(), "reason", "Sold the house"));
    assertThat(off.status()).isEqualTo(409);
    assertThat(off.text()).contains("Credit that invoice first");
    Visitor.Answer free =
        gate.office()
            .put(
                "/api/jobs/" + gate.job() + "/basis",
                Map.of("version", gate.version(), "basis", "not_charged", "reason", "Goodwill"));
    assertThat(free.status()).isEqualTo(409);
  }

  @Test
  void up_to_checked_stands_the_promise_less_what_is_billed_and_at_billed_the_invoice() {
    gate.planned();
    long before = stands("booked");
    long owed = stands("billed");
    staged.billStage();
    assertThat(stands("booked")).isEqualTo(before - 3000_00);
    assertThat(stands("billed")).isEqualTo(owed + 3600_00);
  }

  private long stands(String stage) {
    return gate.office().get("/api/worklists/" + stage).json().path("amountMinor").asLong();
  }
}
