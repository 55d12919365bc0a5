package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A stranger recomputes what a part cost from what was held of it when it was used. */
class PartCostTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias");

  private JsonNode cost(int at) {
    JsonNode part = gate.sheet().path("visits").path(0).path("parts").path(at);
    return gate.office().get("/api/visit-parts/" + part.path("id").asLong() + "/cost").json();
  }

  @Test
  void held_value_by_held_quantity_times_what_was_used_is_the_cost() {
    gate.finished();
    for (int at : new int[] {0, 1}) {
      JsonNode cost = cost(at);
      BigDecimal expected =
          cost.path("heldMinor")
              .decimalValue()
              .multiply(cost.path("quantity").decimalValue())
              .divide(cost.path("heldQuantity").decimalValue(), 0, RoundingMode.HALF_UP);
      assertThat(cost.path("costMinor").decimalValue()).isEqualByComparingTo(expected);
    }
  }

  @Test
  void the_purchase_before_is_told_with_its_day_and_one_after_is_not() {
    gate.onSite();
    long ram = gate.part("RAM-230");
    String deliveries = "/api/held-parts/" + ram + "/deliveries";
    gate.office().post(deliveries, Map.of("quantity", "3", "unitCost", "212.40"));
    gate.tap("parts", Map.of("partId", ram, "quantity", "1"));
    gate.at("17:59");
    gate.office().post(deliveries, Map.of("quantity", "5", "unitCost", "212.40"));
    JsonNode latest = cost(0).path("purchases").path(0);
    assertThat(latest.path("quantity").asInt()).isEqualTo(3);
    assertThat(latest.path("costMinor").asLong()).isEqualTo(637_20);
    assertThat(latest.path("day").asString()).isEqualTo(gate.day().toString());
    gate.at("18:30");
    gate.tap("finish", Map.of("note", ""));
  }
}
