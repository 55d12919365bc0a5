package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Of the swing gate's parts the warranty bears 60 %, of the ram at 318.60 so 191.16. */
class WarrantyTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private Map<String, Object> ram(String exclusion) {
    return new HashMap<>(
        Map.of(
            "category",
            "parts",
            "partId",
            gate.part("RAM-230"),
            "quantity",
            "1",
            "warrantyExclusion",
            exclusion));
  }

  private SwingGate promising(String promise, List<Map<String, Object>> lines) {
    return gate.agree("promise", promise).agree("lines", lines);
  }

  private static Map<String, Object> labour(String time) {
    return Map.of(
        "category", "labour", "description", "Change the ram", "time", time, "price", "58");
  }

  private JsonNode promised(int line) {
    return gate.sheet().path("promises").path(0).path("lines").path(line);
  }

  private JsonNode draft() {
    return gate.sheet().path("billing").path("draft");
  }

  private Visitor.Answer excludePromised(int position, String reason) {
    return gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/promised-line-warranty",
            Map.of(
                "version",
                gate.version(),
                "quoteId",
                gate.quote(),
                "position",
                position,
                "reason",
                reason));
  }

  private Visitor.Answer excludeVisits(String kind, String reason) {
    return gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/warranty",
            Map.of("version", gate.visitVersion(), "kind", kind, "reason", reason));
  }

  @Test
  void a_quote_shows_what_the_warranty_bears_of_each_line_to_us_and_to_the_customer() {
    promising("fixed_price", List.of(ram(""), labour("1:00"))).sent();
    JsonNode computed = gate.office().get("/api/quotes/" + gate.quote()).json().path("computed");
    JsonNode line = computed.path("lines").path(0);
    assertThat(line.path("warrantyPercent").asString()).isEqualTo("60");
    assertThat(line.path("warrantyReductionMinor").asLong()).isEqualTo(191_16);
    assertThat(line.path("netMinor").asLong()).isEqualTo(127_44);
    assertThat(computed.path("totals").path("netMinor").asLong()).isEqualTo(127_44 + 58_00);
    JsonNode read =
        new Visitor(program).get(gate.offerPath()).json().path("document").path("lines");
    assertThat(read.path(0).path("warrantyPercent").asString()).isEqualTo("60");
    assertThat(read.path(0).path("warrantyMinor").asLong()).isEqualTo(191_16);
    assertThat(read.path(1).path("warrantyMinor").asLong()).isZero();
  }

  @Test
  void a_line_that_is_taken_out_of_warranty_on_the_quote_stands_at_its_full_price() {
    promising("fixed_price", List.of(ram("Driven into"))).quoted();
    JsonNode quote = gate.office().get("/api/quotes/" + gate.quote()).json();
    JsonNode line = quote.path("computed").path("lines").path(0);
    assertThat(line.path("warrantyPercent").asString()).isEqualTo("60");
    assertThat(line.path("warrantyReductionMinor").asLong()).isZero();
    assertThat(line.path("netMinor").asLong()).isEqualTo(318_60);
    assertThat(quote.path("lines").path(0).path("warrantyExclusion").asString())
        .isEqualTo("Driven into");
  }

  @Test
  void a_promised_line_carries_its_reduction_to_the_bill_which_never_reduces_it_again() {
    promising("fixed_price", List.of(ram(""), labour("1:00"))).billed();
    JsonNode line = gate.invoice().path("lines").path(0);
    assertThat(line.path("fullMinor").asLong()).isEqualTo(318_60);
    assertThat(line.path("warrantyReductionMinor").asLong()).isEqualTo(191_16);
    assertThat(line.path("netMinor").asLong()).isEqualTo(127_44);
    assertThat(gate.invoice().path("netMinor").asLong()).isEqualTo(127_44 + 58_00);
  }

  @Test
  void a_promised_line_taken_out_of_warranty_raises_promise_and_bill_by_exactly_its_reduction() {
    promising("fixed_price", List.of(ram(""), labour("1:00"))).checked();
    assertThat(excludePromised(1, "Driven into").status()).isEqualTo(200);
    assertThat(promised(0).path("warrantyForgoneMinor").asLong()).isEqualTo(191_16);
    JsonNode billing = gate.sheet().path("billing");
    assertThat(billing.path("draft").path("netMinor").asLong()).isEqualTo(318_60 + 58_00);
    assertThat(billing.path("promised").path("netMinor").asLong()).isEqualTo(318_60 + 58_00);
    assertThat(billing.path("promised").path("aboveMinor").asLong()).isZero();
    assertThat(excludePromised(1, "").status()).isEqualTo(200);
    assertThat(draft().path("netMinor").asLong()).isEqualTo(127_44 + 58_00);
  }

  @Test
  void a_line_of_which_the_warranty_bears_nothing_cannot_be_taken_out_of_it() {
    promising("fixed_price", List.of(ram(""), labour("1:00"))).checked();
    assertThat(excludePromised(2, "Driven into").status()).isEqualTo(404);
    assertThat(excludePromised(9, "Driven into").status()).isEqualTo(404);
    assertThat(excludePromised(65_537, "Driven into").status()).isEqualTo(404);
  }

  @Test
  void not_more_than_rises_by_what_the_warranty_does_not_bear_of_a_line_taken_out_of_it() {
    promising("not_more_than", List.of(ram(""), labour("4:00"))).checked();
    // Accepted 127.44 + 232.00; the photocells, 53.80, were taken out when the visit was looked at.
    JsonNode billing = gate.sheet().path("billing");
    assertThat(billing.path("promised").path("netMinor").asLong()).isEqualTo(359_44 + 32_28);
    assertThat(billing.path("draft").path("netMinor").asLong()).isEqualTo(391_72);
    long ramUse = gate.sheet().path("visits").path(0).path("parts").path(0).path("id").asLong();
    Visitor.Answer out =
        gate.office()
            .post(
                "/api/visit-parts/" + ramUse + "/warranty",
                Map.of("version", 1, "reason", "Driven into"));
    assertThat(out.status()).as(out.text()).isEqualTo(200);
    billing = gate.sheet().path("billing");
    assertThat(billing.path("promised").path("netMinor").asLong())
        .isEqualTo(359_44 + 32_28 + 191_16);
    assertThat(billing.path("draft").path("netMinor").asLong()).isEqualTo(582_88);
    Visitor.Answer billed =
        gate.office()
            .post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(billed.status()).as(billed.text()).isEqualTo(200);
    var forgone = new ArrayList<Long>();
    gate.invoice()
        .path("lines")
        .forEach(line -> forgone.add(line.path("warrantyForgoneMinor").asLong()));
    assertThat(forgone).containsExactlyInAnyOrder(0L, 0L, 0L, 191_16L, 32_28L);
  }

  @Test
  void a_visits_labour_and_drive_are_taken_out_of_warranty_each_with_a_reason() {
    gate.checked();
    gate.bearLabour("50");
    try {
      assertThat(draft().path("netMinor").asLong()).isEqualTo(450_99 - 112_38 - 22_50);
      assertThat(excludeVisits("labour", "Driven into").status()).isEqualTo(200);
      assertThat(draft().path("netMinor").asLong()).isEqualTo(450_99 - 22_50);
      assertThat(excludeVisits("drive", "Driven into").status()).isEqualTo(200);
      assertThat(draft().path("netMinor").asLong()).isEqualTo(450_99);
      JsonNode visit = gate.sheet().path("visits").path(0);
      assertThat(visit.path("labourWarrantyExclusion").asString()).isEqualTo("Driven into");
      assertThat(excludeVisits("labour", "").status()).isEqualTo(200);
      assertThat(draft().path("netMinor").asLong()).isEqualTo(450_99 - 112_38);
    } finally {
      gate.bearLabour("");
    }
  }

  @Test
  void what_an_invoice_has_charged_is_neither_taken_out_of_warranty_nor_put_back() {
    gate.billed();
    assertThat(excludeVisits("labour", "Driven into").status()).isEqualTo(409);
    assertThat(excludePromised(3, "Driven into").status()).isEqualTo(409);
  }
}
