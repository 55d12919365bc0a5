package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What a technician knows of a visit before they are there. */
class PocketVisitTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  private static JsonNode seen(SwingGate gate) {
    return gate.technician().get("/api/pocket/visits/" + gate.visit()).json();
  }

  @Test
  void who_was_here_before_what_they_did_and_what_they_fitted() {
    SwingGate first = new SwingGate(program, "ngozi").finished();
    SwingGate next = new SwingGate(program, "ngozi").planned();
    JsonNode before = seen(next).path("earlier").path(0);
    assertThat(before.path("day").asString()).isEqualTo(first.day().toString());
    assertThat(before.path("technician").asString()).isEqualTo("Ngozi Adair");
    assertThat(before.path("note").asString()).startsWith("Second leaf adjusted");
    assertThat(before.path("parts").toString()).contains("Gate ram 230 V");
  }

  @Test
  void how_far_it_is_from_where_one_was_last_by_the_roads() {
    SwingGate gate = new SwingGate(program, "ngozi").planned();
    gate.at("08:00");
    JsonNode fromHome = seen(gate).path("suggestedMiles");
    assertThat(fromHome.decimalValue()).isPositive();
    SwingGate before = gate.beside().onSite();
    before.at("16:00");
    before.tap("finish", java.util.Map.of());
    assertThat(seen(gate).path("suggestedMiles").decimalValue()).isZero();
  }
}
