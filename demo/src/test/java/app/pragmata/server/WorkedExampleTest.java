package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class WorkedExampleTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @AfterEach
  void the_books_are_in_order_after_every_step() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void the_quote_promises_612_00_with_a_margin_of_307_33() {
    var gate = new SwingGate(program, "imre").quoted();
    JsonNode totals =
        gate.office().get("/api/quotes/" + gate.quote()).json().path("computed").path("totals");
    assertThat(totals.path("netMinor").asLong()).isEqualTo(612_00);
    assertThat(totals.path("vatMinor").asLong()).isEqualTo(122_40);
    assertThat(totals.path("marginMinor").asLong()).isEqualTo(307_33);
  }

  @Test
  void a_clock_past_half_past_five_is_cut_into_normal_and_overtime() {
    JsonNode times =
        new SwingGate(program, "imre").finished().sheet().path("visits").path(0).path("times");
    assertThat(texts(times, "rateClass")).containsExactly("normal", "normal", "overtime");
    assertThat(texts(times, "minutes")).containsExactly("40", "150", "50");
  }

  @Test
  void the_corrected_sheet_costs_353_36_and_is_charged_450_99() {
    JsonNode sheet = new SwingGate(program, "imre").corrected().sheet();
    assertThat(texts(sheet.path("cost").path("rungs"), "actualMinor"))
        .containsExactly("8940", "2306", "24090", "0");
    assertThat(sheet.path("cost").path("marginMinor").asLong()).isEqualTo(97_63);
    assertThat(sheet.path("cost").path("marginPercent").decimalValue())
        .isEqualByComparingTo("21.65");
    assertThat(sheet.path("billing").path("draft").path("grossMinor").asLong()).isEqualTo(541_19);
  }

  @Test
  void corrections_keep_their_reasons() {
    JsonNode told = new SwingGate(program, "imre").corrected().history();
    assertThat(texts(told, "reason"))
        .filteredOn(reason -> !reason.isEmpty())
        .containsExactly(
            "Not part of the ram",
            "One is still in the van",
            "Customer says 17:35",
            "Customer says 17:35");
    assertThat(told.toString()).contains("\"name\":\"quantity\",\"before\":\"3\",\"after\":\"2\"");
  }

  @Test
  void the_entry_that_is_posted_is_the_entry_that_was_shown() {
    var gate = new SwingGate(program, "imre").checked();
    JsonNode shown = gate.sheet().path("billing").path("draft").path("entry");
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    JsonNode posted = gate.sheet().path("journal").path(0).path("lines");
    assertThat(posted).isEqualTo(shown);
    assertThat(texts(posted, "debitMinor"))
        .containsExactly("54119", "0", "0", "0", "0", "8940", "2306", "24090", "0");
    assertThat(texts(posted, "creditMinor"))
        .containsExactly("0", "22475", "4500", "18124", "9020", "0", "0", "0", "35336");
  }

  @Test
  void the_job_is_settled_when_all_its_money_has_come() {
    var gate = new SwingGate(program, "imre").billed();
    gate.receive(Map.of("amount", "500"));
    assertThat(gate.invoice().path("owedMinor").asLong()).isEqualTo(41_19);
    gate.receive(Visitor.signedIn(program, "maud"), Map.of("amount", "41.19", "method", "card"));
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("settled");
  }

  @Test
  void a_job_that_is_not_charged_moves_its_cost_to_warranty_and_goodwill() {
    var gate = new SwingGate(program, "imre").checked();
    gate.office()
        .put(
            "/api/jobs/" + gate.job() + "/basis",
            Map.of("version", gate.version(), "basis", "not_charged", "reason", "Our own fault"));
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    JsonNode entry = gate.sheet().path("journal").path(0);
    assertThat(texts(entry.path("lines"), "accountName"))
        .containsExactly("Warranty and goodwill", "Work in progress");
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("settled");
  }

  @Test
  void a_check_taken_back_is_reversed_and_can_be_made_again() {
    var gate = new SwingGate(program, "imre").checked();
    gate.office()
        .post("/api/visits/" + gate.visit() + "/reopen", Map.of("version", gate.visitVersion()));
    assertThat(gate.sheet().path("journal").path(0).path("event").asString()).isEqualTo("reversal");
    gate.office()
        .post("/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion()));
    assertThat(gate.sheet().path("state").asString()).isEqualTo("checked");
  }

  @Test
  void a_visit_in_vain_costs_its_drive_and_charges_nothing() {
    var gate = new SwingGate(program, "imre").planned();
    gate.at("14:20");
    gate.tap("drive", Map.of());
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "18.4"));
    gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/not-this-time",
            Map.of("version", gate.visitVersion(), "reason", "Nobody there"));
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("cost").path("actualMinor").asLong()).isEqualTo(23_06);
    assertThat(sheet.path("billing").path("timeAndParts").path("netMinor").asLong()).isZero();
    assertThat(texts(sheet.path("visits"), "state")).containsExactly("not_this_time", "unplanned");
  }

  @Test
  void a_suppliers_bill_joins_the_cost_and_is_charged_with_the_markup() {
    var gate = new SwingGate(program, "imre").corrected();
    gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/other-costs",
            Map.of("supplier", "Hire", "description", "Lift", "cost", "80"));
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("cost").path("actualMinor").asLong()).isEqualTo(433_36);
    assertThat(sheet.path("billing").path("timeAndParts").path("netMinor").asLong())
        .isEqualTo(542_99);
  }

  static List<String> texts(JsonNode nodes, String field) {
    var texts = new ArrayList<String>();
    nodes.forEach(node -> texts.add(node.path(field).asString()));
    return texts;
  }
}
