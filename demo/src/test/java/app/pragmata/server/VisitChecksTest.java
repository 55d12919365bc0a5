package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Many finished visits are checked at once. */
class VisitChecksTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private List<SwingGate> corrected(int count) {
    var gates = new ArrayList<SwingGate>();
    for (int i = 0; i < count; i++) {
      gates.add(new SwingGate(program, "imre").corrected());
    }
    return gates;
  }

  private static Map<String, Object> form(List<SwingGate> gates) {
    return Map.of(
        "visits",
        gates.stream()
            .map(gate -> Map.of("visitId", gate.visit(), "version", gate.visitVersion()))
            .toList());
  }

  private static Visitor.Answer check(List<SwingGate> gates) {
    return gates.getFirst().office().post("/api/visit-checks", form(gates));
  }

  private static String state(SwingGate gate) {
    return gate.sheet().path("visits").path(0).path("state").asString();
  }

  @Test
  void the_outcome_of_a_set_is_that_of_one_by_one() {
    List<SwingGate> gates = corrected(2);
    var alone = new SwingGate(program, "imre").checked();
    Visitor.Answer answer = check(gates);
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    assertThat(answer.json().path("visits")).hasSize(2);
    for (SwingGate gate : gates) {
      assertThat(state(gate)).isEqualTo("checked");
      assertThat(StagedGate.entry(gate, 0)).isEqualTo(StagedGate.entry(alone, 0));
      assertThat(gate.sheet().path("billing").path("draft").path("netMinor").asLong())
          .isEqualTo(450_99);
      assertThat(gate.sheet().path("cost").path("actualMinor").asLong()).isEqualTo(353_36);
    }
  }

  @Test
  void all_or_none_of_them_are_checked() {
    List<SwingGate> gates = corrected(2);
    Map<String, Object> seen = form(gates);
    gates
        .get(1)
        .office()
        .post(
            "/api/visits/" + gates.get(1).visit() + "/check",
            Map.of("version", gates.get(1).visitVersion()));
    assertThat(gates.getFirst().office().post("/api/visit-checks", seen).status()).isEqualTo(409);
    assertThat(state(gates.getFirst())).isEqualTo("finished");
  }

  @Test
  void the_same_press_twice_checks_once() {
    List<SwingGate> gates = corrected(2);
    Map<String, Object> seen = form(gates);
    Visitor office = gates.getFirst().office();
    String key = "checks-" + gates.getFirst().visit();
    assertThat(office.post("/api/visit-checks", seen, key).status()).isEqualTo(200);
    int version = gates.getFirst().visitVersion();
    assertThat(office.post("/api/visit-checks", seen, key).status()).isEqualTo(200);
    assertThat(gates.getFirst().visitVersion()).isEqualTo(version);
  }

  @Test
  void one_and_several_take_equally_many_statements() {
    List<SwingGate> gates = corrected(7);
    Map<String, Object> one = form(gates.subList(0, 1));
    Map<String, Object> six = form(gates.subList(1, 7));
    Visitor office = gates.getFirst().office();
    int alone = program.statements(() -> office.post("/api/visit-checks", one));
    int together = program.statements(() -> office.post("/api/visit-checks", six));
    assertThat(state(gates.getLast())).isEqualTo("checked");
    assertThat(together).isEqualTo(alone).isPositive();
  }

  @Test
  void an_empty_list_and_a_visit_named_twice_are_refused() {
    List<SwingGate> gates = corrected(1);
    assertThat(
            gates.getFirst().office().post("/api/visit-checks", Map.of("visits", List.of())).text())
        .contains("Name a visit");
    assertThat(check(List.of(gates.getFirst(), gates.getFirst())).text()).contains("named twice");
  }
}
