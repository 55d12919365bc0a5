package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What is charged besides the work; without it the worked example comes to 450.99. */
class ChargesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private Visitor.Answer charge(Map<String, String> form) {
    return gate.office().post("/api/jobs/" + gate.job() + "/charges", form);
  }

  private Visitor.Answer change(JsonNode charge, String what) {
    return gate.office()
        .post(
            "/api/job-charges/" + charge.path("id").asLong() + "/" + what,
            Map.of("version", charge.path("version").asInt()));
  }

  private void bill() {
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
  }

  private JsonNode charges() {
    return gate.sheet().path("charges");
  }

  private long net() {
    return gate.sheet().path("billing").path("timeAndParts").path("netMinor").asLong();
  }

  @Test
  void a_charge_of_its_own_is_billed_with_the_work_and_costs_nothing() {
    gate.checked();
    charge(Map.of("description", "Safety certificate", "price", "25"));
    assertThat(net()).isEqualTo(450_99 + 25_00);
    bill();
    assertThat(gate.invoice().path("netMinor").asLong()).isEqualTo(475_99);
    assertThat(gate.sheet().path("cost").path("actualMinor").asLong()).isEqualTo(353_36);
  }

  @Test
  void one_that_is_removed_is_not_charged_until_it_is_put_back() {
    gate.checked();
    charge(Map.of("description", "Diagnosis", "quantity", "2", "price", "30"));
    JsonNode added = charges().path(0);
    JsonNode removed = change(added, "remove").json();
    assertThat(net()).isEqualTo(450_99);
    assertThat(change(added, "put-back").status()).isEqualTo(409);
    change(removed, "put-back");
    assertThat(net()).isEqualTo(450_99 + 60_00);
  }

  @Test
  void one_that_cannot_be_is_refused_at_its_fields() {
    gate.checked();
    Visitor.Answer refused =
        charge(Map.of("description", "", "quantity", "0", "price", "nil", "vat", "half"));
    assertThat(texts(refused.json().path("errors"), "pointer"))
        .containsExactly("/description", "/quantity", "/price", "/vat");
    assertThat(charge(Map.of("description", "Diagnosis", "price", "0")).pointer())
        .isEqualTo("/price");
    assertThat(charges()).isEmpty();
  }

  @Test
  void nothing_is_added_to_or_taken_off_a_billed_job() {
    gate.checked();
    charge(Map.of("description", "Diagnosis", "price", "30"));
    JsonNode charge = charges().path(0);
    bill();
    assertThat(charge(Map.of("description", "Late", "price", "5")).rule()).isEqualTo("JOB_CLOSED");
    assertThat(change(charge, "remove").rule()).isEqualTo("JOB_CLOSED");
  }

  @Test
  void a_job_straight_from_a_call_begins_with_the_charges_of_its_kind() {
    long job = called(kindWithKit());
    JsonNode sheet = gate.office().get("/api/jobs/" + job).json();
    assertThat(texts(sheet.path("charges"), "description")).containsExactly("Diagnosis");
    assertThat(texts(sheet.path("charges"), "netMinor")).containsExactly("4500");
  }

  private long called(long kind) {
    gate.quoted();
    JsonNode quote = gate.office().get("/api/quotes/" + gate.quote()).json();
    return gate.office()
        .post(
            "/api/calls",
            Map.of(
                "customerId", quote.path("customerId").asLong(),
                "siteId", quote.path("siteId").asLong(),
                "about", "The gate stops half way",
                "outcome", "job",
                "job", Map.of("kindOfJobId", kind, "priority", "normal")))
        .json()
        .path("jobId")
        .asLong();
  }

  private long kindWithKit() {
    long kit =
        gate.office()
            .post(
                "/api/kits",
                Map.of(
                    "name",
                    "Fault finding",
                    "lines",
                    List.of(
                        Map.of("category", "labour", "description", "Labour", "time", "1:00"),
                        Map.of(
                            "category", "other",
                            "description", "Diagnosis",
                            "quantity", "1",
                            "price", "45"),
                        Map.of(
                            "category", "other",
                            "description", "Lift hire",
                            "quantity", "1",
                            "cost", "80",
                            "price", "92"))))
            .json()
            .path("id")
            .asLong();
    Visitor owner = Visitor.signedIn(program, "orla");
    JsonNode kinds = owner.get("/api/settings/kinds-of-job").json();
    JsonNode added =
        owner
            .post(
                "/api/settings/kinds-of-job",
                Map.of(
                    "version",
                    kinds.path("version").asInt(),
                    "name",
                    "Fault finding",
                    "promise",
                    "estimate",
                    "defaultMinutes",
                    "1:00",
                    "costCentre",
                    kinds.path("kinds").path(0).path("costCentre").asString(),
                    "usualForCalls",
                    false,
                    "kitId",
                    kit))
            .json();
    for (JsonNode kind : added.path("kinds")) {
      if (kind.path("name").asString().equals("Fault finding")) {
        return kind.path("id").asLong();
      }
    }
    throw new AssertionError(added);
  }
}
