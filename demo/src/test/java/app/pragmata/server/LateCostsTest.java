package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.COST_FACT;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Costs that come when a job is closed, and jobs that are closed without an invoice. */
class LateCostsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias");

  @AfterEach
  void theBooksAreRight() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private Visitor.Answer bill(String cost) {
    return gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/other-costs",
            Map.of("supplier", "Quay Hire", "description", "Lift for a day", "cost", cost));
  }

  private String visit() {
    return "/api/visits/" + visitSheet().path("id").asLong();
  }

  private JsonNode visitSheet() {
    return gate.sheet().path("visits").path(0);
  }

  private long actual(int rung) {
    return gate.sheet().path("cost").path("rungs").path(rung).path("actualMinor").asLong();
  }

  private long margin() {
    return gate.sheet().path("cost").path("marginMinor").asLong();
  }

  private JsonNode newestEntry() {
    return gate.sheet().path("journal").path(0);
  }

  private void newestEntryIs(String event, String... lines) {
    JsonNode entry = newestEntry();
    assertThat(entry.path("event").asString()).isEqualTo(event);
    assertThat(entry.path("lines"))
        .map(
            line ->
                line.path("accountName").asString()
                    + " "
                    + (line.path("debitMinor").asLong() - line.path("creditMinor").asLong()))
        .containsExactly(lines);
  }

  private int unreleased() {
    return program
        .database()
        .fetchCount(
            COST_FACT, COST_FACT.JOB_ID.eq(gate.job()).and(COST_FACT.COST_RELEASE_ID.isNull()));
  }

  @Test
  void an_invoice_takes_every_cost_of_its_job_out_of_work_in_progress() {
    gate.checked();
    bill("50");
    assertThat(unreleased()).isPositive();
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(unreleased()).isZero();
    assertThat(texts(newestEntry().path("lines"), "accountName")).contains("Cost of sales, other");
  }

  @Test
  void a_suppliers_bill_that_comes_after_the_invoice_lowers_the_margin_and_changes_no_invoice() {
    gate.billed();
    long margin = margin();
    JsonNode invoice = gate.invoice();
    assertThat(bill("50").status()).isEqualTo(200);
    newestEntryIs(
        "supplier_billed", "Cost of sales, other 5000", "Input VAT 1000", "Trade creditors -6000");
    assertThat(margin()).isEqualTo(margin - 5000);
    assertThat(gate.invoice()).isEqualTo(invoice);
  }

  private long addTime(String from, String to) {
    Visitor.Answer added =
        gate.office()
            .post(
                visit() + "/time-entries",
                Map.of(
                    "version",
                    0,
                    "kind",
                    "labour",
                    "from",
                    from,
                    "to",
                    to,
                    "reason",
                    "Forgot to clock"));
    assertThat(added.status()).as(added.text()).isEqualTo(200);
    return added.json().path("id").asLong();
  }

  @Test
  void time_that_nobody_wrote_down_before_the_invoice_is_cost_of_sales_at_once() {
    gate.billed();
    long labour = actual(0);
    addTime("12:00", "13:00");
    newestEntryIs("time_approved", "Cost of sales, labour 2306", "Payroll clearing -2306");
    assertThat(actual(0)).isEqualTo(labour + 23_06);
    assertThat(unreleased()).isZero();
  }

  @Test
  void late_time_is_put_right_and_taken_off_and_its_cost_follows() {
    gate.billed();
    long labour = actual(0);
    long entry = addTime("12:00", "13:00");
    var half =
        gate.office()
            .put(
                "/api/time-entries/" + entry,
                Map.of(
                    "version",
                    version(entry),
                    "from",
                    "12:00",
                    "to",
                    "12:30",
                    "miles",
                    "",
                    "reason",
                    "Half an hour"));
    assertThat(half.status()).as(half.text()).isEqualTo(200);
    newestEntryIs("time_approved", "Cost of sales, labour 1153", "Payroll clearing -1153");
    assertThat(actual(0)).isEqualTo(labour + 11_53);
    gate.office()
        .post(
            "/api/time-entries/" + entry + "/remove",
            Map.of("version", version(entry), "reason", "Not on this job"));
    newestEntryIs("time_taken_back", "Cost of sales, labour -1153", "Payroll clearing 1153");
    assertThat(actual(0)).isEqualTo(labour);
  }

  private int version(long entry) {
    for (JsonNode time : visitSheet().path("times")) {
      if (time.path("id").asLong() == entry) {
        return time.path("version").asInt();
      }
    }
    throw new AssertionError("No entry " + entry);
  }

  @Test
  void a_part_used_after_the_invoice_is_cost_of_sales_and_goes_back_from_there() {
    gate.billed();
    long parts = actual(2);
    var added =
        gate.office()
            .post(visit() + "/parts", Map.of("partId", gate.part("PHO-02"), "quantity", "1"));
    assertThat(added.status()).as(added.text()).isEqualTo(200);
    assertThat(newestEntry().path("lines").path(0).path("accountName").asString())
        .isEqualTo("Cost of sales, parts");
    long cost = actual(2) - parts;
    assertThat(cost).isPositive();
    var off =
        gate.office()
            .post(
                "/api/visit-parts/" + added.json().path("id").asLong() + "/remove",
                Map.of("version", 1, "reason", "Taken back to the van"));
    assertThat(off.status()).as(off.text()).isEqualTo(200);
    newestEntryIs("reversal", "Cost of sales, parts " + -cost, "Stock " + cost);
    assertThat(actual(2)).isEqualTo(parts);
  }

  @Test
  void what_comes_late_for_a_job_that_is_not_charged_is_warranty_and_goodwill() {
    gate.checked();
    choose("not_charged");
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    bill("50");
    newestEntryIs(
        "supplier_billed", "Warranty and goodwill 5000", "Input VAT 1000", "Trade creditors -6000");
  }

  private void choose(String basis) {
    var form = new HashMap<String, Object>(Map.of("version", gate.version(), "basis", basis));
    form.put("reason", "Our own fault");
    gate.office().put("/api/jobs/" + gate.job() + "/basis", form);
  }

  private Visitor.Answer callOff() {
    return gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/call-off",
            Map.of("version", gate.version(), "reason", "The gate was sold"));
  }

  @Test
  void a_job_with_a_suppliers_bill_that_is_called_off_leaves_its_cost_where_it_is_seen() {
    gate.planned();
    bill("80");
    assertThat(callOff().status()).isEqualTo(200);
    newestEntryIs("job_called_off", "Cost of work called off 8000", "Work in progress -8000");
    assertThat(unreleased()).isZero();
    assertThat(margin()).isEqualTo(-80_00);
    bill("20");
    newestEntryIs(
        "supplier_billed",
        "Cost of work called off 2000",
        "Input VAT 400",
        "Trade creditors -2400");
  }

  @Test
  void a_job_that_is_called_off_before_it_cost_anything_posts_nothing() {
    gate.planned();
    assertThat(callOff().status()).isEqualTo(200);
    assertThat(gate.sheet().path("journal")).isEmpty();
  }

  @Test
  void a_drive_in_vain_is_cost_of_work_called_off_when_the_job_is() {
    gate.planned();
    gate.tap("drive", Map.of());
    gate.at("14:40");
    gate.tap("arrive", Map.of("miles", "12"));
    var visit = visitSheet();
    gate.office()
        .post(
            visit() + "/not-this-time",
            Map.of("version", visit.path("version").asInt(), "reason", "Nobody there"));
    long driven = actual(1);
    assertThat(driven).isPositive();
    assertThat(callOff().status()).isEqualTo(200);
    newestEntryIs(
        "job_called_off", "Cost of work called off " + driven, "Work in progress " + -driven);
  }
}
