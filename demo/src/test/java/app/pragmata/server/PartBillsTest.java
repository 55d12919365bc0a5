package app.pragmata.server;

import static app.pragmata.server.StagedGate.bill;
import static app.pragmata.server.StagedGate.credit;
import static app.pragmata.server.StagedGate.entry;
import static app.pragmata.server.StagedGate.post;
import static app.pragmata.server.StagedGate.posted;
import static app.pragmata.server.StagedGate.spend;
import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Bills of some work of a job, and of several jobs at once. */
class PartBillsTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private static long billVisit(SwingGate gate) {
    Map<String, Object> part = bill(gate, "part");
    part.put("visitIds", List.of(gate.visit()));
    return posted(post(gate, part));
  }

  /** A second visit on the same day, an hour of work by hand and checked. */
  private long workOnAnotherVisit(SwingGate gate, boolean check) {
    String day = gate.sheet().path("visits").path(0).path("day").asString();
    long person =
        program
            .database()
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.USERNAME.eq("imre"))
            .fetchSingle()
            .value1();
    gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/visits",
            Map.of(
                "version",
                gate.version(),
                "technicianId",
                person,
                "day",
                day,
                "start",
                "8:00",
                "expected",
                "1h",
                "overruled",
                SwingGate.ANYTHING));
    JsonNode visits = gate.sheet().path("visits");
    JsonNode other =
        visits.path(0).path("id").asLong() == gate.visit() ? visits.path(1) : visits.path(0);
    long id = other.path("id").asLong();
    gate.nextDayAt("07:30");
    Visitor.Answer added = addTime(gate, id, "8:00", "9:00");
    assertThat(added.status()).as(added.text()).isEqualTo(200);
    if (check) {
      gate.office().post("/api/visits/" + id + "/check", Map.of("version", versionOf(gate, id)));
    }
    return id;
  }

  private static Visitor.Answer addTime(SwingGate gate, long visit, String from, String to) {
    return gate.office()
        .post(
            "/api/visits/" + visit + "/time-entries",
            Map.of(
                "version",
                0,
                "kind",
                "labour",
                "from",
                from,
                "to",
                to,
                "rateClass",
                "normal",
                "reason",
                "Not written down"));
  }

  private static int versionOf(SwingGate gate, long visit) {
    for (JsonNode each : gate.sheet().path("visits")) {
      if (each.path("id").asLong() == visit) {
        return each.path("version").asInt();
      }
    }
    throw new AssertionError("No visit " + visit);
  }

  @Test
  void a_part_bill_takes_exactly_the_cost_of_its_visits() {
    var gate = new SwingGate(program, "imre").checked();
    workOnAnotherVisit(gate, true);
    billVisit(gate);
    assertThat(entry(gate, 0))
        .contains("Trade debtors 54119 0", "Work in progress 0 35336", "Output VAT 0 9020");
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("unbilled");
  }

  @Test
  void the_final_invoice_charges_the_rest_alone() {
    var gate = new SwingGate(program, "imre").checked();
    workOnAnotherVisit(gate, true);
    billVisit(gate);
    long net = gate.sheet().path("billing").path("draft").path("netMinor").asLong();
    assertThat(net).isEqualTo(58_00 + 45_00);
    posted(post(gate, bill(gate, "final")));
    JsonNode invoices = gate.sheet().path("billing").path("invoices");
    assertThat(texts(invoices, "kind")).containsExactly("part", "final");
    assertThat(texts(invoices, "netMinor")).containsExactly("45099", "10300");
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("billed");
  }

  @Test
  void a_suppliers_bill_is_charged_on_the_bill_that_names_it() {
    var gate = new SwingGate(program, "imre").checked();
    spend(gate, "80");
    Map<String, Object> part = bill(gate, "part");
    part.put("otherCostIds", List.of(gate.sheet().path("otherCosts").path(0).path("id").asLong()));
    posted(post(gate, part));
    assertThat(entry(gate, 0))
        .containsExactly(
            "Trade debtors 11040 0",
            "Sales, other 0 9200",
            "Output VAT 0 1840",
            "Cost of sales, other 8000 0",
            "Work in progress 0 8000");
  }

  @Test
  void a_visit_that_is_billed_cannot_be_reopened_and_late_time_on_it_has_no_second_call_out() {
    var gate = new SwingGate(program, "imre").checked();
    workOnAnotherVisit(gate, false);
    billVisit(gate);
    assertThat(
            gate.office()
                .post(
                    "/api/visits/" + gate.visit() + "/reopen",
                    Map.of("version", versionOf(gate, gate.visit())))
                .text())
        .contains("credit note");
    long before = gate.sheet().path("billing").path("timeAndParts").path("netMinor").asLong();
    assertThat(addTime(gate, gate.visit(), "9:00", "9:30").status()).isEqualTo(200);
    assertThat(gate.sheet().path("billing").path("timeAndParts").path("netMinor").asLong())
        .isEqualTo(before + 29_00);
  }

  @Test
  void a_visit_that_is_not_checked_is_not_billed() {
    var gate = new SwingGate(program, "imre").corrected();
    Map<String, Object> part = bill(gate, "part");
    part.put("visitIds", List.of(gate.visit()));
    assertThat(post(gate, part).text()).contains("Check it first");
  }

  @Test
  void one_invoice_charges_two_jobs_and_its_tax_is_on_both_together() {
    var one = new SwingGate(program, "imre").checked();
    var two = one.beside();
    two.at("19:00");
    two.planned();
    spend(two, "80");
    Map<String, Object> part = bill(two, "part");
    part.put("otherCostIds", List.of(two.sheet().path("otherCosts").path(0).path("id").asLong()));
    Visitor.Answer answer =
        one.office().post("/api/invoices", Map.of("jobs", List.of(bill(one, "final"), part)));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    JsonNode row = StagedGate.row(one, answer.json().path("id").asLong());
    assertThat(row.path("netMinor").asLong()).isEqualTo(450_99 + 92_00);
    assertThat(row.path("vatMinor").asLong()).isEqualTo(108_60);
    assertThat(row.path("jobs").size()).isEqualTo(2);
    JsonNode shown = one.invoice();
    assertThat(shown.path("otherJobsNetMinor").asLong()).isEqualTo(92_00);
    assertThat(one.sheet().path("billing").path("state").asString()).isEqualTo("billed");
    assertThat(two.sheet().path("billing").path("state").asString()).isEqualTo("unbilled");
  }

  @Test
  void a_job_that_is_billed_in_part_can_still_be_closed_without_charge() {
    var gate = new SwingGate(program, "imre").checked();
    workOnAnotherVisit(gate, true);
    billVisit(gate);
    gate.office()
        .put(
            "/api/jobs/" + gate.job() + "/basis",
            Map.of("version", gate.version(), "basis", "not_charged", "reason", "Our own fault"));
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(entry(gate, 0)).contains("Warranty and goodwill 2411 0");
  }

  @Test
  void work_taken_back_by_visit_is_work_in_progress_again_and_is_billed_anew() {
    var gate = new SwingGate(program, "imre").checked();
    long other = workOnAnotherVisit(gate, true);
    long invoice = posted(post(gate, bill(gate, "final")));
    JsonNode lines =
        gate.office()
            .get("/api/invoices/" + invoice)
            .json()
            .path("document")
            .path("jobs")
            .path(0)
            .path("lines");
    var named = new java.util.ArrayList<Map<String, Object>>();
    lines.forEach(
        line -> {
          if (line.path("visitId").asLong() == other) {
            named.add(Map.of("position", line.path("position").asInt()));
          }
        });
    Visitor.Answer some =
        credit(gate, invoice, "work_taken_back", Map.of("lines", named.subList(0, 1)));
    assertThat(some.text()).contains("Name all of its lines");
    assertThat(credit(gate, invoice, "work_taken_back", Map.of("lines", named)).status())
        .isEqualTo(200);
    assertThat(entry(gate, 0)).contains("Work in progress 2411 0", "Trade debtors 0 12360");
    JsonNode billing = gate.sheet().path("billing");
    assertThat(billing.path("state").asString()).isEqualTo("unbilled");
    assertThat(billing.path("draft").path("netMinor").asLong()).isEqualTo(103_00);
    posted(post(gate, bill(gate, "final")));
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("billed");
    Visitor.Answer rest = credit(gate, invoice, "work_taken_back", Map.of());
    assertThat(rest.status()).isEqualTo(409);
    assertThat(rest.text()).contains("closed by a later document");
  }
}
