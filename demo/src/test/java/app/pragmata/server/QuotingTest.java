package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

class QuotingTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  @Test
  void a_preview_computes_cost_vat_and_margin_and_stores_nothing() {
    int quotes = program.database().fetchCount(app.pragmata.server.generated.Tables.QUOTE);
    JsonNode computed =
        preview(Map.of("category", "labour", "time", "2:30", "price", "58")).path("totals");
    assertThat(computed.path("netMinor").asLong()).isEqualTo(145_00);
    assertThat(computed.path("vatMinor").asLong()).isEqualTo(29_00);
    assertThat(computed.path("costMinor").asLong()).isEqualTo(60_27);
    assertThat(program.database().fetchCount(app.pragmata.server.generated.Tables.QUOTE))
        .isEqualTo(quotes);
  }

  @Test
  void a_part_is_priced_from_the_list_and_costed_at_its_average() {
    JsonNode line =
        preview(Map.of("category", "parts", "partId", gate.part("PHO-02"), "quantity", "3"))
            .path("lines")
            .path(0);
    assertThat(line.path("netMinor").asLong()).isEqualTo(80_70);
    assertThat(line.path("costMinor").asLong()).isEqualTo(42_75);
  }

  @Test
  void a_part_on_an_empty_shelf_is_quoted_at_what_the_last_one_cost_and_its_bands_price() {
    var database = program.database();
    database.execute("update part set quantity = 0, value_minor = 0 where number = 'CBL-4'");
    try {
      JsonNode line =
          preview(Map.of("category", "parts", "partId", gate.part("CBL-4"), "quantity", "10"))
              .path("lines")
              .path(0);
      assertThat(line.path("costMinor").asLong()).isEqualTo(13_50);
      assertThat(line.path("unitPrice").asString()).isEqualTo("2.565");
    } finally {
      database.execute(
          """
          update part set quantity = held.quantity, value_minor = held.cost
          from (select sum(m.quantity) as quantity, sum(m.cost_minor) as cost from stock_movement m
                join part p on p.id = m.part_id where p.number = 'CBL-4') held
          where number = 'CBL-4'
          """);
    }
  }

  @Test
  void a_call_out_without_a_price_is_quoted_at_the_companys_own() {
    JsonNode line =
        preview(Map.of("category", "drive", "time", "0:30", "miles", "15")).path("lines").path(0);
    assertThat(line.path("netMinor").asLong()).isEqualTo(45_00);
    assertThat(line.path("costMinor").asLong()).isEqualTo(17_75);
  }

  @Test
  void a_line_below_the_floor_margin_is_marked() {
    JsonNode lines =
        preview(
                Map.of("category", "labour", "time", "1:00", "price", "25"),
                Map.of("category", "labour", "time", "1:00", "price", "58"))
            .path("lines");
    assertThat(lines.path(0).path("belowFloor").asBoolean()).isTrue();
    assertThat(lines.path(1).path("belowFloor").asBoolean()).isFalse();
  }

  @Test
  void a_quote_of_several_vat_treatments_is_taxed_rate_by_rate() {
    JsonNode totals =
        preview(
                Map.of("category", "other", "description", "a", "quantity", "1", "price", "0.13"),
                Map.of(
                    "category",
                    "other",
                    "description",
                    "b",
                    "quantity",
                    "1",
                    "price",
                    "100",
                    "vat",
                    "zero"))
            .path("totals");
    assertThat(totals.path("vatMinor").asLong()).isEqualTo(3);
    assertThat(totals.path("grossMinor").asLong()).isEqualTo(100_16);
  }

  @Test
  void a_vat_treatment_that_does_not_exist_is_refused_at_its_line() {
    var answer =
        preview(
            Map.of(
                "category",
                "other",
                "description",
                "a",
                "quantity",
                "1",
                "price",
                "1",
                "vat",
                "half"));
    assertThat(answer.path("faults").path(0).path("field").asString()).isEqualTo("lines/0/vat");
  }

  @Test
  void more_than_four_hundred_lines_are_refused_in_words() {
    var line = Map.of("category", "labour", "time", "1:00");
    var answer =
        gate.office()
            .post("/api/quotes/preview", Map.of("lines", java.util.Collections.nCopies(401, line)));
    assertThat(answer.rule()).isEqualTo("EXCEEDS_LIMIT");
    assertThat(answer.text()).contains("400");
  }

  @Test
  void a_quote_of_four_hundred_lines_is_computed() {
    var line = Map.of("category", "labour", "time", "1:00", "price", "58");
    var answer =
        gate.office()
            .post("/api/quotes/preview", Map.of("lines", java.util.Collections.nCopies(400, line)));
    assertThat(answer.json().path("totals").path("netMinor").asLong()).isEqualTo(400 * 58_00);
  }

  @Test
  void a_draft_is_saved_as_it_was_typed_and_read_back_the_same() {
    gate.quoted();
    JsonNode lines = gate.office().get("/api/quotes/" + gate.quote()).json().path("lines");
    assertThat(WorkedExampleTest.texts(lines, "category"))
        .containsExactly("labour", "drive", "parts", "parts", "other");
    assertThat(lines.path(0).path("time").asString()).isEqualTo("2:30");
    assertThat(lines.path(1).path("miles").asString()).isEqualTo("15");
    assertThat(lines.path(4).path("price").asString()).isEqualTo("76.50");
  }

  @Test
  void a_draft_with_a_fault_is_not_stored_at_all() {
    gate.quoted();
    JsonNode before = gate.office().get("/api/quotes/" + gate.quote()).json();
    var form = form(before);
    form.put("title", "Changed");
    form.put("lines", List.of(Map.of("category", "labour", "time", "soon")));
    assertThat(gate.office().put("/api/quotes/" + gate.quote(), form).status()).isEqualTo(422);
    assertThat(gate.office().get("/api/quotes/" + gate.quote()).json()).isEqualTo(before);
  }

  @Test
  void a_draft_that_somebody_else_saved_meanwhile_is_refused_and_keeps_theirs() {
    gate.quoted();
    JsonNode shown = gate.office().get("/api/quotes/" + gate.quote()).json();
    var theirs = form(shown);
    theirs.put("title", "Theirs");
    assertThat(gate.office().put("/api/quotes/" + gate.quote(), theirs).status()).isEqualTo(200);
    var ours = form(shown);
    ours.put("title", "Ours");
    var refused = gate.office().put("/api/quotes/" + gate.quote(), ours);
    assertThat(refused.status()).isEqualTo(409);
    assertThat(refused.rule()).isEqualTo("STALE_VERSION");
    assertThat(title()).isEqualTo("Theirs");
  }

  @Test
  void what_is_typed_is_saved_and_sent_with_one_request() {
    gate.quoted();
    var form = form(gate.office().get("/api/quotes/" + gate.quote()).json());
    form.put("title", "Typed while sending");
    act("send", Map.of("version", 1, "quote", form));
    JsonNode sent = gate.office().get("/api/quotes/" + gate.quote()).json();
    assertThat(sent.path("title").asString()).isEqualTo("Typed while sending");
    assertThat(sent.path("state").asString()).isEqualTo("sent");
  }

  @Test
  void a_sending_that_is_refused_stores_nothing_of_what_was_typed() {
    gate.quoted();
    JsonNode before = gate.office().get("/api/quotes/" + gate.quote()).json();
    var form = form(before);
    form.put("title", "Never stored");
    form.put("validUntil", "2026-01-01");
    var refused =
        gate.office()
            .post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 1, "quote", form));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(gate.office().get("/api/quotes/" + gate.quote()).json()).isEqualTo(before);
  }

  @Test
  void a_sent_quote_is_frozen_until_it_is_taken_back() {
    gate.quoted();
    JsonNode draft = gate.office().get("/api/quotes/" + gate.quote()).json();
    act("send", Map.of("version", 1));
    var form = form(draft);
    form.put("version", 2);
    form.put("title", "Too late");
    assertThat(gate.office().put("/api/quotes/" + gate.quote(), form).rule())
        .isEqualTo("QUOTE_NOT_DRAFT");
    act("take-back", Map.of("version", 2));
    form.put("version", 3);
    assertThat(gate.office().put("/api/quotes/" + gate.quote(), form).status()).isEqualTo(200);
    assertThat(title()).isEqualTo("Too late");
  }

  @Test
  void a_quote_lapses_by_the_day_and_can_be_sent_again_with_a_later_one() {
    gate.quoted();
    act("send", Map.of("version", 1));
    program.clock().advance(java.time.Duration.ofDays(31));
    assertThat(state()).isEqualTo("lapsed");
    var refused =
        gate.office()
            .post(
                "/api/quotes/" + gate.quote() + "/accept",
                Map.of("version", 2, "acceptedBy", "M. Okafor"));
    assertThat(refused.rule()).isEqualTo("QUOTE_LAPSED");
    assertThat(refused.text()).contains("lapsed");
    act("take-back", Map.of("version", 2));
    var form = form(gate.office().get("/api/quotes/" + gate.quote()).json());
    form.put("validUntil", "+30");
    gate.office().put("/api/quotes/" + gate.quote(), form);
    act("send", Map.of("version", 4));
    assertThat(state()).isEqualTo("sent");
    gate.at("08:30");
  }

  @Test
  void a_declined_quote_keeps_its_reason_and_makes_no_job() {
    gate.quoted();
    act("send", Map.of("version", 1));
    act("decline", Map.of("version", 2, "reason", "Too dear"));
    JsonNode quote = gate.office().get("/api/quotes/" + gate.quote()).json();
    assertThat(quote.path("declineReason").asString()).isEqualTo("Too dear");
    assertThat(gate.office().post("/api/quotes/" + gate.quote() + "/job", Map.of()).rule())
        .isEqualTo("QUOTE_NOT_ACCEPTED");
  }

  @Test
  void declining_needs_a_reason() {
    gate.quoted();
    act("send", Map.of("version", 1));
    var refused =
        gate.office()
            .post("/api/quotes/" + gate.quote() + "/decline", Map.of("version", 2, "reason", " "));
    assertThat(refused.pointer()).isEqualTo("/reason");
    assertThat(state()).isEqualTo("sent");
  }

  @Test
  void an_accepted_quote_cannot_be_declined_or_taken_back() {
    gate.accepted();
    Map<String, Map<String, Object>> forms =
        Map.of(
            "decline",
            Map.of("version", 3, "reason", "Changed their mind"),
            "take-back",
            Map.of("version", 3),
            "send",
            Map.of("version", 3));
    var rules =
        Map.of("decline", "QUOTE_ACCEPTED", "take-back", "QUOTE_NOT_SENT", "send", "QUOTE_SENT");
    forms.forEach(
        (step, form) ->
            assertThat(gate.office().post("/api/quotes/" + gate.quote() + "/" + step, form).rule())
                .as(step)
                .isEqualTo(rules.get(step)));
    assertThat(state()).isEqualTo("accepted");
  }

  @Test
  void the_job_takes_over_customer_site_equipment_title_and_basis() {
    gate.planned();
    JsonNode quote = gate.office().get("/api/quotes/" + gate.quote()).json();
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("customer")).isEqualTo(quote.path("customer"));
    assertThat(quote.path("site").asString()).startsWith(sheet.path("site").asString());
    assertThat(sheet.path("title")).isEqualTo(quote.path("title"));
    assertThat(sheet.path("equipment").path("name").asString()).contains("FQ 19977");
    assertThat(sheet.path("promises").path(0).path("netMinor").asLong()).isEqualTo(612_00);
    assertThat(sheet.path("visits").path(0).path("expectedMinutes").asInt()).isEqualTo(150);
  }

  @ParameterizedTest
  @ValueSource(strings = {"someday", "31 feb", "-5"})
  void a_last_day_that_is_no_day_is_refused_with_examples(String typed) {
    gate.quoted();
    var form = form(gate.office().get("/api/quotes/" + gate.quote()).json());
    form.put("validUntil", typed);
    var refused = gate.office().put("/api/quotes/" + gate.quote(), form);
    assertThat(refused.pointer()).isEqualTo("/validUntil");
    assertThat(refused.text()).contains("24 nov");
  }

  private JsonNode preview(Object... lines) {
    return gate.office().post("/api/quotes/preview", Map.of("lines", List.of(lines))).json();
  }

  private void act(String step, Map<String, Object> form) {
    var answer = gate.office().post("/api/quotes/" + gate.quote() + "/" + step, form);
    assertThat(answer.status()).as("%s: %s", step, answer.text()).isEqualTo(200);
  }

  private String state() {
    return gate.office().get("/api/quotes/" + gate.quote()).json().path("state").asString();
  }

  private String title() {
    return gate.office().get("/api/quotes/" + gate.quote()).json().path("title").asString();
  }

  /** What the page would send back of a quote that it has read. */
  static Map<String, Object> form(JsonNode quote) {
    var form = new HashMap<String, Object>();
    for (String field :
        List.of("version", "siteId", "equipmentId", "kindOfJobId", "title", "notes", "lines")) {
      form.put(field, quote.path(field));
    }
    form.put("validUntil", quote.path("validUntil").asString());
    return form;
  }
}
