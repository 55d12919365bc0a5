package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What manufacturers are asked to bear of work under their warranty. */
class ClaimsTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @AfterEach
  void the_books_hold() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private static Visitor.Answer make(SwingGate gate, String amount) {
    return gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/claims",
            Map.of("manufacturer", "Ramsden Drives", "what", "ram 230 V", "amount", amount));
  }

  private static JsonNode claim(SwingGate gate) {
    return gate.office().get("/api/jobs/" + gate.job() + "/claims").json().path(0);
  }

  private static Visitor.Answer note(SwingGate gate, String what, Map<String, Object> more) {
    var form = new HashMap<>(more);
    form.put("version", claim(gate).path("version").asInt());
    return gate.office().post("/api/claims/" + claim(gate).path("id").asLong() + what, form);
  }

  private static String newestEntry(SwingGate gate) {
    JsonNode entry = gate.sheet().path("journal").path(0);
    var lines = new StringBuilder(entry.path("event").asString());
    entry
        .path("lines")
        .forEach(
            line ->
                lines
                    .append(", ")
                    .append(line.path("accountName").asString())
                    .append(' ')
                    .append(line.path("debitMinor").asLong() - line.path("creditMinor").asLong()));
    return lines.toString();
  }

  private static long margin(SwingGate gate) {
    return gate.sheet().path("cost").path("marginMinor").asLong();
  }

  @Test
  void a_claim_that_is_credited_before_the_bill_comes_off_the_work_in_progress() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    make(gate, "212.40");
    note(gate, "/send", Map.of());
    long before = margin(gate);
    long charged = gate.sheet().path("billing").path("chargedMinor").asLong();
    assertThat(note(gate, "/credit", Map.of("amount", "200")).status()).isEqualTo(200);
    assertThat(newestEntry(gate))
        .isEqualTo("supplier_credited, Trade creditors 20000, Work in progress -20000");
    assertThat(margin(gate) - before).isEqualTo(200_00);
    assertThat(gate.sheet().path("billing").path("chargedMinor").asLong()).isEqualTo(charged);
    assertThat(claim(gate).path("state").asString()).isEqualTo("credited");
    assertThat(claim(gate).path("creditedMinor").asLong()).isEqualTo(200_00);
  }

  @Test
  void the_invoice_takes_a_credited_claim_out_of_work_in_progress_with_the_other_cost() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    make(gate, "212.40");
    note(gate, "/credit", Map.of("amount", "212.40"));
    Visitor.Answer billed =
        gate.office()
            .post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(billed.status()).isEqualTo(200);
    assertThat(newestEntry(gate)).contains("Cost of sales, other -21240");
  }

  @Test
  void one_that_is_credited_after_the_bill_comes_off_the_cost_of_sales() {
    SwingGate gate = new SwingGate(program, "tobias").billed();
    make(gate, "100");
    long before = margin(gate);
    note(gate, "/credit", Map.of("amount", "100"));
    assertThat(newestEntry(gate))
        .isEqualTo("supplier_credited, Trade creditors 10000, Cost of sales, other -10000");
    assertThat(margin(gate) - before).isEqualTo(100_00);
  }

  @Test
  void one_of_a_job_that_was_not_charged_comes_off_warranty_and_goodwill() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    gate.office()
        .put(
            "/api/jobs/" + gate.job() + "/basis",
            Map.of("version", gate.version(), "basis", "not_charged", "reason", "Warranty"));
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    make(gate, "100");
    note(gate, "/credit", Map.of("amount", "60"));
    assertThat(newestEntry(gate))
        .isEqualTo("supplier_credited, Trade creditors 6000, Warranty and goodwill -6000");
  }

  @Test
  void one_that_is_refused_says_why_costs_what_it_did_and_may_be_sent_again() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    make(gate, "212.40");
    note(gate, "/send", Map.of());
    long before = margin(gate);
    note(gate, "/refuse", Map.of("reason", "Bought elsewhere"));
    assertThat(claim(gate).path("reason").asString()).isEqualTo("Bought elsewhere");
    assertThat(margin(gate)).isEqualTo(before);
    assertThat(gate.toDos()).noneMatch(what -> what.startsWith("Claim from Ramsden"));
    note(gate, "/send", Map.of());
    assertThat(claim(gate).path("state").asString()).isEqualTo("sent");
    assertThat(claim(gate).path("reason").asString()).isEmpty();
    assertThat(gate.toDos()).contains("Claim from Ramsden Drives: 212.40 for ram 230 V");
  }

  @Test
  void what_is_credited_is_at_most_what_was_claimed_and_is_credited_once() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    make(gate, "100");
    for (String wrong : new String[] {"100.01", "0", "-5", "plenty", ""}) {
      assertThat(note(gate, "/credit", Map.of("amount", wrong)).pointer())
          .as(wrong)
          .isEqualTo("/amount");
    }
    assertThat(note(gate, "/credit", Map.of("amount", "100")).status()).isEqualTo(200);
    assertThat(note(gate, "/credit", Map.of("amount", "100")).rule()).isEqualTo("CLAIM_MOVED_ON");
    assertThat(note(gate, "/refuse", Map.of("reason", "No")).rule()).isEqualTo("CLAIM_MOVED_ON");
  }

  @Test
  void a_claim_for_nothing_or_from_nobody_is_refused_at_its_field() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    assertThat(make(gate, "0").pointer()).isEqualTo("/amount");
    assertThat(
            gate.office()
                .post(
                    "/api/jobs/" + gate.job() + "/claims",
                    Map.of("manufacturer", " ", "what", "ram", "amount", "5"))
                .pointer())
        .isEqualTo("/manufacturer");
    assertThat(gate.office().get("/api/jobs/" + gate.job() + "/claims").json()).isEmpty();
  }
}
