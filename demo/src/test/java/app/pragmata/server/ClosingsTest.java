package app.pragmata.server;

import static app.pragmata.server.StagedGate.spend;
import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Many checked jobs are closed at once. */
class ClosingsTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  /** Checked jobs of one day. */
  private List<SwingGate> checked(int count) {
    var gates = new ArrayList<SwingGate>();
    for (int i = 0; i < count; i++) {
      gates.add(new SwingGate(program, "imre").checked());
    }
    return gates;
  }

  private static Map<String, Object> form(List<SwingGate> gates) {
    return Map.of(
        "jobs",
        gates.stream()
            .map(gate -> Map.of("jobId", gate.job(), "version", gate.version()))
            .toList());
  }

  private static Visitor.Answer close(List<SwingGate> gates) {
    return gates.getFirst().office().post("/api/job-closings", form(gates));
  }

  private static long number(SwingGate gate) {
    return gate.invoice().path("number").asLong();
  }

  @Test
  void each_gets_an_invoice_of_its_own_under_numbers_in_a_row() {
    List<SwingGate> gates = checked(3);
    assertThat(close(gates).json().path("jobs").asInt()).isEqualTo(3);
    long first = number(gates.getFirst());
    assertThat(gates.stream().map(ClosingsTest::number))
        .containsExactly(first, first + 1, first + 2);
    assertThat(gates)
        .allSatisfy(
            gate -> assertThat(gate.invoice().path("grossMinor").asLong()).isEqualTo(541_19));
  }

  @Test
  void the_outcome_of_a_set_is_that_of_one_by_one() {
    List<SwingGate> gates = checked(2);
    var alone = new SwingGate(program, "imre").billed();
    close(gates);
    assertThat(StagedGate.entry(gates.get(1), 0)).isEqualTo(StagedGate.entry(alone, 0));
    for (String figure : List.of("description", "quantity", "netMinor")) {
      assertThat(texts(gates.get(1).invoice().path("lines"), figure))
          .isEqualTo(texts(alone.invoice().path("lines"), figure));
    }
  }

  @Test
  void one_that_is_not_charged_is_closed_beside_those_that_are() {
    List<SwingGate> gates = checked(2);
    SwingGate free = gates.getFirst();
    free.office()
        .put(
            "/api/jobs/" + free.job() + "/basis",
            Map.of("version", free.version(), "basis", "not_charged", "reason", "Our own fault"));
    assertThat(close(gates).status()).isEqualTo(200);
    assertThat(free.sheet().path("billing").path("state").asString()).isEqualTo("settled");
    assertThat(gates.get(1).sheet().path("billing").path("state").asString()).isEqualTo("billed");
  }

  @Test
  void a_deposit_comes_off_the_invoice_of_its_job() {
    List<SwingGate> gates = checked(2);
    gates
        .getFirst()
        .office()
        .post("/api/receipts", Map.of("jobId", gates.get(1).job(), "amount", "100"));
    close(gates);
    assertThat(gates.get(1).invoice().path("owedMinor").asLong()).isEqualTo(441_19);
    assertThat(gates.getFirst().invoice().path("owedMinor").asLong()).isEqualTo(541_19);
  }

  @Test
  void all_or_none_of_them_are_closed() {
    List<SwingGate> gates = checked(2);
    Map<String, Object> seen = form(gates);
    spend(gates.get(1), "5");
    assertThat(gates.getFirst().office().post("/api/job-closings", seen).status()).isEqualTo(409);
    assertThat(gates.getFirst().sheet().path("billing").path("state").asString())
        .isEqualTo("unbilled");
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "20.00"})
  void one_and_several_take_equally_many_statements(String held) {
    List<SwingGate> gates = checked(9);
    if (!held.isEmpty()) {
      gates.forEach(
          gate -> gate.office().post("/api/receipts", Map.of("amount", held, "jobId", gate.job())));
    }
    List<SwingGate> one = gates.subList(0, 1);
    List<SwingGate> eight = gates.subList(1, 9);
    Map<String, Object> formOfOne = form(one);
    Map<String, Object> formOfEight = form(eight);
    Visitor office = gates.getFirst().office();
    int alone = program.statements(() -> office.post("/api/job-closings", formOfOne));
    int together = program.statements(() -> office.post("/api/job-closings", formOfEight));
    assertThat(number(eight.getLast())).isPositive();
    assertThat(together).isEqualTo(alone).isPositive();
  }

  @Test
  void an_empty_list_and_a_job_named_twice_are_refused() {
    List<SwingGate> gates = checked(1);
    assertThat(
            gates.getFirst().office().post("/api/job-closings", Map.of("jobs", List.of())).text())
        .contains("Name a job");
    assertThat(close(List.of(gates.getFirst(), gates.getFirst())).text()).contains("named twice");
  }
}
