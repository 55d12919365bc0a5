package app.pragmata.server;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.BILL;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RepeatsAndVersionsTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void pressing_post_many_times_at_once_makes_one_invoice() throws Exception {
    var gate = new SwingGate(program, "tobias").checked();
    var form = Map.of("version", gate.version());
    List<Integer> statuses =
        AtOnce.statuses(8, i -> gate.office().post("/api/jobs/" + gate.job() + "/invoice", form));
    assertThat(statuses).containsOnlyOnce(200);
    assertThat(program.database().fetchCount(BILL, BILL.JOB_ID.eq(gate.job()))).isEqualTo(1);
  }

  @Test
  void the_same_request_again_answers_the_same_and_does_nothing_more() {
    var gate = new SwingGate(program, "tobias").checked();
    var form = Map.of("version", gate.version());
    var first = gate.office().post("/api/jobs/" + gate.job() + "/invoice", form, "post-once-0001");
    var second = gate.office().post("/api/jobs/" + gate.job() + "/invoice", form, "post-once-0001");
    assertThat(second).isEqualTo(first);
    assertThat(second.status()).isEqualTo(200);
  }

  @Test
  void the_same_key_with_other_content_is_refused() {
    var gate = new SwingGate(program, "tobias").billed();
    long customer = gate.sheet().path("customerId").asLong();
    var ten = Map.of("customerId", customer, "amount", "10");
    var twenty = Map.of("customerId", customer, "amount", "20");
    gate.office().post("/api/receipts", ten, "receipt-key-01");
    var clash = gate.office().post("/api/receipts", twenty, "receipt-key-01");
    assertThat(clash.rule()).isEqualTo("REPEATED_KEY_WITH_OTHER_CONTENT");
  }

  @Test
  void a_request_that_moves_money_without_a_key_is_refused() {
    var gate = new SwingGate(program, "tobias").checked();
    var answer =
        gate.office()
            .send(
                "POST",
                "/api/jobs/" + gate.job() + "/invoice",
                Map.of("version", gate.version()),
                null);
    assertThat(answer.status()).isEqualTo(422);
  }

  @Test
  void making_the_job_again_gives_the_same_job() {
    var gate = new SwingGate(program, "tobias").planned();
    var again = gate.office().post("/api/quotes/" + gate.quote() + "/job", Map.of());
    assertThat(again.json().path("id").asLong()).isEqualTo(gate.job());
    assertThat(
            program.database().fetchCount(ACCEPTED_QUOTE, ACCEPTED_QUOTE.QUOTE_ID.eq(gate.quote())))
        .isEqualTo(1);
  }

  @Test
  void a_stale_sheet_is_not_posted() {
    var gate = new SwingGate(program, "tobias").checked();
    int shown = gate.version();
    gate.office()
        .put(
            "/api/jobs/" + gate.job() + "/basis", Map.of("version", shown, "basis", "fixed_price"));
    var answer =
        gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", shown));
    assertThat(answer.status()).isEqualTo(409);
    assertThat(answer.rule()).isEqualTo("STALE_VERSION");
  }

  @Test
  void a_refused_invoice_leaves_no_gap_in_the_numbers() {
    var refused = new SwingGate(program, "tobias").checked();
    long expected = refused.sheet().path("billing").path("draft").path("expectedNumber").asLong();
    refused.office().post("/api/jobs/" + refused.job() + "/invoice", Map.of("version", 1));
    refused
        .office()
        .post("/api/jobs/" + refused.job() + "/invoice", Map.of("version", refused.version()));
    assertThat(refused.sheet().path("billing").path("invoices").path(0).path("number").asLong())
        .isEqualTo(expected);
  }

  @Test
  void a_second_tap_on_the_phone_does_nothing_more() {
    var gate = new SwingGate(program, "tobias").onSite();
    assertThat(gate.tap("start-work", Map.of()).status()).isEqualTo(200);
    assertThat(gate.tap("drive", Map.of()).json().path("state").asString()).isEqualTo("on_site");
    gate.at("16:00");
    gate.tap("finish", Map.of());
    assertThat(gate.tap("finish", Map.of()).json().path("labourMinutes").asInt()).isEqualTo(60);
  }
}
