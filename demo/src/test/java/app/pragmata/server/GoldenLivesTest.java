package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Whole lives of a job over HTTP; the laws of the books are proved after every step of each. */
class GoldenLivesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private int steps;

  private SwingGate proven(SwingGate gate) {
    return gate.afterEachStep(
        () -> {
          steps++;
          assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
        });
  }

  private static JsonNode close(SwingGate gate) {
    gate.check(
        gate.office()
            .post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version())));
    return gate.sheet();
  }

  private static void choose(SwingGate gate, String basis, String reason) {
    gate.check(
        gate.office()
            .put(
                "/api/jobs/" + gate.job() + "/basis",
                Map.of("version", gate.version(), "basis", basis, "reason", reason)));
  }

  private static void receive(SwingGate gate, Map<String, Object> money) {
    gate.check(gate.office().post("/api/receipts", money));
  }

  private static void callOff(SwingGate gate) {
    gate.check(
        gate.office()
            .post(
                "/api/jobs/" + gate.job() + "/call-off",
                Map.of("version", gate.version(), "reason", "The gate was sold")));
  }

  private static void workAnHour(SwingGate gate) {
    gate.at("14:20");
    gate.check(gate.tap("drive", Map.of()));
    gate.at("15:00");
    gate.check(gate.tap("arrive", Map.of("miles", "18.4")));
    gate.check(gate.tap("start-work", Map.of()));
    gate.at("16:00");
    gate.check(gate.tap("finish", Map.of("note", "Handed over.")));
    gate.check(
        gate.office()
            .post(
                "/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion())));
  }

  @Test
  void a_stage_work_a_stage_the_rest_a_late_bill_and_a_credit() {
    var staged = new StagedGate(program);
    SwingGate gate = proven(staged.gate()).planned();
    gate.check(StagedGate.post(gate, StagedGate.bill(gate, "stage")));
    workAnHour(gate);
    gate.check(staged.spend("500"));
    gate.check(StagedGate.post(gate, StagedGate.bill(gate, "stage")));
    Visitor.Answer last = gate.check(StagedGate.post(gate, StagedGate.bill(gate, "final")));
    assertThat(gate.sheet().path("cost").path("netMinor").asLong()).isEqualTo(10_000_00);
    long margin = gate.sheet().path("cost").path("marginMinor").asLong();
    gate.check(staged.spend("50"));
    assertThat(gate.sheet().path("cost").path("marginMinor").asLong()).isEqualTo(margin - 50_00);
    gate.check(
        StagedGate.credit(
            gate,
            StagedGate.posted(last),
            "price",
            Map.of("lines", List.of(Map.of("position", 1, "amount", "100.00")))));
    assertThat(gate.sheet().path("cost").path("marginMinor").asLong()).isEqualTo(margin - 150_00);
    assertThat(steps).isGreaterThan(14);
  }

  @Test
  void a_deposit_that_comes_in_part_and_the_rest_after_the_bill() {
    SwingGate gate = proven(new SwingGate(program, "imre").agree("deposit", "25%"));
    gate.accepted();
    receive(gate, Map.of("amount", "100.00", "quoteId", gate.quote()));
    gate.answered().checked();
    close(gate);
    assertThat(gate.invoice().path("owedMinor").asLong()).isEqualTo(541_19 - 100_00);
    gate.check(gate.receive(Map.of("amount", "441.19")));
    assertThat(gate.invoice().path("owedMinor").asLong()).isZero();
    assertThat(steps).isGreaterThan(15);
  }

  @Test
  void not_more_than_with_a_line_out_of_warranty() {
    SwingGate gate = proven(new SwingGate(program, "imre").agree("promise", "not_more_than"));
    gate.agree(
        "lines",
        List.of(
            Map.of("category", "parts", "partId", gate.part("RAM-230"), "quantity", "1"),
            Map.of("category", "labour", "time", "4:00")));
    gate.checked();
    long promised = gate.sheet().path("billing").path("promised").path("netMinor").asLong();
    long ram = gate.sheet().path("visits").path(0).path("parts").path(0).path("id").asLong();
    gate.check(
        gate.office()
            .post(
                "/api/visit-parts/" + ram + "/warranty",
                Map.of("version", 1, "reason", "Driven into")));
    assertThat(gate.sheet().path("billing").path("promised").path("netMinor").asLong())
        .isEqualTo(promised + 191_16);
    close(gate);
    assertThat(gate.invoice().path("netMinor").asLong()).isEqualTo(582_88);
    assertThat(steps).isGreaterThan(15);
  }

  @Test
  void work_that_is_not_charged() {
    SwingGate gate = proven(new SwingGate(program, "imre")).checked();
    choose(gate, "not_charged", "Our own fault from the last visit");
    JsonNode sheet = close(gate);
    assertThat(sheet.path("billing").path("invoices")).isEmpty();
    assertThat(sheet.path("cost").path("marginMinor").asLong()).isEqualTo(-353_36);
    assertThat(steps).isGreaterThan(15);
  }

  @Test
  void a_job_that_is_called_off_after_a_drive_in_vain() {
    SwingGate gate = proven(new SwingGate(program, "imre")).planned();
    gate.check(gate.tap("drive", Map.of()));
    gate.at("14:40");
    gate.check(gate.tap("arrive", Map.of("miles", "12")));
    var notNow = new HashMap<String, Object>(Map.of("reason", "Nobody there"));
    notNow.put("version", gate.visitVersion());
    gate.check(gate.office().post("/api/visits/" + gate.visit() + "/not-this-time", notNow));
    gate.check(StagedGate.spend(gate, "80"));
    callOff(gate);
    gate.check(StagedGate.spend(gate, "20"));
    assertThat(gate.sheet().path("cost").path("marginMinor").asLong()).isLessThan(-100_00);
    assertThat(steps).isGreaterThan(9);
  }
}
