package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * The worked example, charged 450.99 by time and parts, where less was accepted: 400.00, of one
 * line. The photocells are taken out of warranty while the visit is looked at, so that 32.28 more
 * are promised.
 */
class PromiseKindsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private SwingGate promising(String promise) {
    return gate.agree("promise", promise)
        .agree(
            "lines",
            List.of(
                Map.of(
                    "category",
                    "other",
                    "description",
                    "Gate repaired",
                    "quantity",
                    "1",
                    "cost",
                    "250",
                    "price",
                    "400")));
  }

  private JsonNode billing() {
    return gate.sheet().path("billing");
  }

  private Visitor.Answer bill() {
    return gate.office()
        .post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
  }

  private Visitor.Answer choose(String basis, String reason) {
    var form = new HashMap<String, Object>(Map.of("version", gate.version(), "basis", basis));
    if (!reason.isEmpty()) {
      form.put("reason", reason);
    }
    return gate.office().put("/api/jobs/" + gate.job() + "/basis", form);
  }

  @Test
  void a_fixed_price_is_what_is_charged() {
    promising("fixed_price").checked();
    assertThat(billing().path("draft").path("netMinor").asLong()).isEqualTo(400_00);
    assertThat(bill().status()).isEqualTo(200);
    assertThat(gate.invoice().path("netMinor").asLong()).isEqualTo(400_00);
  }

  @Test
  void more_than_an_estimate_is_charged_once_somebody_says_why_and_the_reason_stays() {
    promising("estimate").checked();
    assertThat(billing().path("draft").path("netMinor").asLong()).isEqualTo(450_99);
    assertThat(billing().path("promised").path("aboveMinor").asLong()).isEqualTo(18_71);
    Visitor.Answer refused = bill();
    assertThat(refused.status()).isEqualTo(409);
    assertThat(refused.text()).contains("18.71 more");
    choose("time_and_parts", "Both leaves had to be set");
    assertThat(bill().status()).isEqualTo(200);
    assertThat(billing().path("promised").path("aboveReason").asString())
        .isEqualTo("Both leaves had to be set");
  }

  @Test
  void not_more_than_is_cut_to_what_was_accepted_line_by_line() {
    promising("not_more_than").checked();
    assertThat(bill().status()).isEqualTo(200);
    JsonNode invoice = gate.invoice();
    assertThat(invoice.path("netMinor").asLong()).isEqualTo(432_28);
    assertThat(invoice.path("grossMinor").asLong()).isEqualTo(518_74);
    assertThat(WorkedExampleTest.texts(invoice.path("lines"), "cutMinor"))
        .containsExactly("662", "271", "186", "529", "223");
    assertThat(gate.sheet().path("cost").path("marginMinor").asLong()).isEqualTo(432_28 - 353_36);
  }

  @Test
  void a_part_bill_uses_up_what_may_be_charged() {
    promising("not_more_than").checked();
    StagedGate.spend(gate, "80");
    Map<String, Object> part = StagedGate.bill(gate, "part");
    part.put("visitIds", List.of(gate.visit()));
    StagedGate.posted(StagedGate.post(gate, part));
    assertThat(billing().path("draft").path("netMinor").asLong()).isZero();
  }

  @Test
  void a_fixed_price_charged_by_time_and_parts_above_it_needs_a_reason_too() {
    promising("fixed_price").checked();
    choose("time_and_parts", "");
    assertThat(bill().text()).contains("18.71 more");
  }

  private Visitor.Answer told(String told) {
    return gate.office()
        .put(
            "/api/jobs/" + gate.job() + "/basis",
            Map.of("version", gate.version(), "basis", "promised_on_site", "told", told));
  }

  @Test
  void as_promised_on_site_the_customer_pays_what_was_said_and_the_sheet_says_where_it_differs() {
    promising("estimate").checked();
    assertThat(told("£480").status()).isEqualTo(200);
    JsonNode onSite = billing().path("promisedOnSite");
    assertThat(onSite.path("differenceMinor").asLong()).isEqualTo(400_00 - 450_99);
    assertThat(WorkedExampleTest.texts(onSite.path("differences"), "netMinor"))
        .containsExactly("-2541", "-509", "-2049");
    assertThat(bill().status()).isEqualTo(200);
    assertThat(gate.invoice().path("grossMinor").asLong()).isEqualTo(480_00);
  }

  @Test
  void what_a_technician_told_the_customer_stands_on_the_sheet_and_the_last_word_holds() {
    promising("estimate").onSite();
    for (String told : List.of("450", "480")) {
      assertThat(gate.tap("told-price", Map.of("told", told)).status()).isEqualTo(200);
    }
    JsonNode visit = gate.sheet().path("visits").path(0);
    assertThat(visit.path("toldMinor").asLong()).isEqualTo(480_00);
    assertThat(visit.path("toldWithVat").asBoolean()).isTrue();
    assertThat(gate.tap("told-price", Map.of("told", "nothing")).pointer()).isEqualTo("/told");
    gate.at("18:00");
    gate.tap("finish", Map.of("note", ""));
  }

  @Test
  void what_was_promised_on_site_above_the_accepted_needs_a_reason_and_stays_while_it_is_given() {
    promising("estimate").checked();
    told("600");
    assertThat(bill().text()).contains("67.72 more");
    choose("promised_on_site", "The second leaf was broken too");
    assertThat(bill().status()).isEqualTo(200);
    assertThat(gate.invoice().path("grossMinor").asLong()).isEqualTo(600_00);
  }

  @Test
  void a_price_on_site_that_cannot_be_is_refused_at_its_field() {
    promising("estimate").checked();
    for (String told : List.of("", "0", "-20", "250.05", "a lot")) {
      Visitor.Answer refused = told(told);
      assertThat(refused.status()).as(told).isEqualTo(422);
      assertThat(refused.pointer()).isEqualTo("/told");
    }
    assertThat(choose("promised_on_site", "").pointer()).isEqualTo("/told");
    assertThat(billing().path("basis").asString()).isEqualTo("time_and_parts");
  }

  @Test
  void the_kind_of_job_says_what_a_quote_promises_unless_the_quote_does() {
    gate.quoted();
    assertThat(gate.office().get("/api/quotes/" + gate.quote()).json().path("promise").asString())
        .isEqualTo("estimate");
  }

  @Test
  void the_customer_reads_what_is_promised() {
    promising("not_more_than").sent();
    JsonNode document = gate.office().get("/api/quotes/" + gate.quote() + "/document").json();
    assertThat(document.path("promised").asString()).contains("not more than this total");
  }

  @Test
  void only_a_fixed_price_falls_due_in_stages() {
    promising("estimate").agree("stages", List.of(Map.of("name", "Order", "part", "100%")));
    var form =
        new HashMap<String, Object>(
            Map.of("version", 0, "siteId", 1, "kindOfJobId", 1, "title", "Gate"));
    form.put("promise", "estimate");
    form.put("stages", List.of(Map.of("name", "Order", "part", "100%")));
    form.put("lines", List.of());
    assertThat(gate.office().post("/api/quotes", form).text()).contains("Only a fixed price");
  }
}
