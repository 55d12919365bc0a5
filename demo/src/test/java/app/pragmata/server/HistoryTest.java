package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.AUDIT_ENTRY;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What happened to a record can be read on it, from what to what, by whom and why. */
class HistoryTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");

  private JsonNode history(String kind, long id) {
    var answer = gate.office().get("/api/history/" + kind + "/" + id);
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return answer.json().path("entries");
  }

  private static JsonNode entry(JsonNode entries, String event) {
    return StreamSupport.stream(entries.spliterator(), false)
        .filter(entry -> entry.path("event").asString().equals(event))
        .findFirst()
        .orElseThrow();
  }

  private static String change(JsonNode entry, String field) {
    for (JsonNode change : entry.path("fields")) {
      if (change.path("name").asString().equals(field)) {
        return change.path("before").asString("") + " > " + change.path("after").asString("");
      }
    }
    return "unchanged";
  }

  @Test
  void every_step_of_a_quote_is_told_the_newest_first() {
    gate.accepted();
    JsonNode told = history("quote", gate.quote());
    assertThat(texts(told, "event")).containsExactly("accepted", "sent", "created");
    assertThat(change(told.path(0), "state")).isEqualTo("sent > accepted");
    assertThat(told.path(0).path("by").asString()).isEqualTo("Hester Lyle");
  }

  @Test
  void why_nobody_came_stands_with_the_customer_the_site_and_the_equipment() {
    gate.planned();
    gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/not-this-time",
            Map.of("version", gate.visitVersion(), "reason", "The yard was flooded"));
    JsonNode quote = gate.office().get("/api/quotes/" + gate.quote()).json();
    for (String kind : List.of("customer", "site", "equipment")) {
      JsonNode told = history(kind, quote.path(kind + "Id").asLong());
      JsonNode why = entry(told, "visit_not_this_time");
      assertThat(why.path("reason").asString()).isEqualTo("The yard was flooded");
      assertThat(why.path("jobNumber").asLong()).isEqualTo(gate.sheet().path("number").asLong());
    }
  }

  @Test
  void a_saved_quote_tells_only_the_lines_and_terms_that_differ() {
    gate.quoted();
    JsonNode quote = gate.office().get("/api/quotes/" + gate.quote()).json();
    var form = QuotingTest.form(quote);
    form.put("title", "Gate that squeaks");
    gate.office().put("/api/quotes/" + gate.quote(), form);
    JsonNode saved = entry(history("quote", gate.quote()), "saved");
    assertThat(texts(saved.path("fields"), "name")).containsExactly("title");
    assertThat(change(saved, "title")).endsWith(" > Gate that squeaks");
  }

  @Test
  void a_job_tells_of_its_visits_time_parts_and_bill() {
    gate.billed();
    assertThat(texts(history("job", gate.job()), "event"))
        .contains("made_from_quote", "visit_planned", "time_started", "time_stopped", "part_used")
        .contains("visit_finished", "visit_checked", "invoice_posted", "billed");
  }

  @Test
  void a_planned_visit_names_its_technician() {
    gate.planned();
    JsonNode planned = entry(history("job", gate.job()), "visit_planned");
    assertThat(change(planned, "technicianId")).isEqualTo(" > Dilys Marrant");
    assertThat(change(planned, "state")).isEqualTo("unplanned > planned");
  }

  @Test
  void a_corrected_time_tells_before_after_and_the_reason() {
    gate.finished();
    JsonNode labour = gate.sheet().path("visits").path(0).path("times").path(1);
    gate.correct(labour, Map.of("from", "15:00", "to", "17:20", "reason", "Stopped for tea"));
    JsonNode corrected = entry(history("job", gate.job()), "time_corrected");
    assertThat(change(corrected, "endedAt")).endsWith("T17:20");
    assertThat(corrected.path("reason").asString()).isEqualTo("Stopped for tea");
  }

  @Test
  void a_changed_customer_tells_from_what_to_what_and_a_deleted_contact_what_it_was() {
    long id = customer("Was Called So");
    JsonNode card = gate.office().get("/api/customers/" + id).json();
    var form = new HashMap<String, Object>();
    form.put("version", card.path("version").asInt());
    form.put("name", "Is Called So");
    form.put("phone", card.path("phone").asString());
    form.put("address", card.path("address").asString());
    form.put("postcode", card.path("postcode").asString());
    form.put("paymentDays", "30");
    gate.office().put("/api/customers/" + id, form);
    var contact =
        Map.of(
            "version",
            0,
            "name",
            "Ada Locke",
            "phone",
            "01632 960555",
            "pays",
            false,
            "opens",
            true,
            "decides",
            false);
    long contactId =
        gate.office()
            .post("/api/customers/" + id + "/contacts", contact)
            .json()
            .path("id")
            .asLong();
    gate.office().delete("/api/contacts/" + contactId + "?version=1");
    JsonNode told = history("customer", id);
    assertThat(texts(told, "event"))
        .containsExactly("contact_deleted", "contact_added", "changed", "site_added", "taken_on");
    assertThat(change(entry(told, "changed"), "name")).isEqualTo("Was Called So > Is Called So");
    assertThat(change(entry(told, "contact_deleted"), "name")).isEqualTo("Ada Locke > ");
  }

  @Test
  void nothing_is_told_of_a_request_that_was_refused() {
    long entries = program.database().fetchCount(AUDIT_ENTRY);
    gate.office().post("/api/customers", Map.of("name", "", "phone", "x", "place", ""));
    assertThat(program.database().fetchCount(AUDIT_ENTRY)).isEqualTo((int) entries);
  }

  @Test
  void a_long_history_comes_in_pages() {
    gate.planned();
    for (int i = 0; i < 55; i++) {
      gate.giveFault(i % 2 == 0 ? "NOISE" : "STUCK");
    }
    JsonNode first = gate.office().get("/api/history/job/" + gate.job()).json();
    assertThat(first.path("entries")).hasSize(50);
    long olderThan = first.path("olderThan").asLong();
    JsonNode second =
        gate.office().get("/api/history/job/" + gate.job() + "?olderThan=" + olderThan).json();
    assertThat(second.path("olderThan").isNull()).isTrue();
    assertThat(texts(second.path("entries"), "event")).endsWith("visit_wanted", "made_from_quote");
  }

  @Test
  void a_kind_of_record_that_does_not_exist_is_refused_with_those_that_do() {
    var refused = gate.office().get("/api/history/unicorn/1");
    assertThat(refused.rule()).isEqualTo("NOT_FOUND");
    assertThat(refused.text()).contains("customer, site, contact");
  }

  @Test
  void a_technician_reads_no_history() {
    assertThat(gate.technician().get("/api/history/job/1").status()).isEqualTo(403);
  }

  private long customer(String name) {
    return gate.office()
        .post(
            "/api/customers",
            Map.of("name", name, "phone", "01632 960906", "place", "Weir Street, OS6 1AB"))
        .json()
        .path("id")
        .asLong();
  }
}
