package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class FaultFiguresTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  @BeforeEach
  void aDayOfItsOwn() {
    program.clock().set("2026-11-24T10:00");
  }

  private JsonNode call(String outcome, String fault) {
    var form = new HashMap<String, @Nullable Object>();
    form.put("customerId", 4);
    form.put("siteId", 8);
    form.put("about", "Counted by the figures");
    form.put("outcome", outcome);
    form.put("faultCode", fault);
    form.put("solution", "Grease it.");
    form.put("job", Map.of("kindOfJobId", 1, "priority", "normal", "expected", "1:00"));
    return office.post("/api/calls", form).json();
  }

  private @Nullable JsonNode figures(String fault, String cause) {
    for (JsonNode row : office.get("/api/figures/faults").json().path("rows")) {
      if (row.path("fault").asString().equals(fault)
          && row.path("cause").asString("").equals(cause)) {
        return row;
      }
    }
    return null;
  }

  @Test
  void a_fault_counts_its_calls_those_solved_on_the_phone_and_its_jobs() {
    call("solved", "NOISE");
    call("job", "NOISE");
    JsonNode noise = figures("Grinds or bangs", "");
    assertThat(noise).isNotNull();
    assertThat(noise.path("calls").asInt()).isEqualTo(2);
    assertThat(noise.path("solved").asInt()).isEqualTo(1);
    assertThat(noise.path("jobs").asInt()).isEqualTo(1);
  }

  @Test
  void a_job_whose_cause_was_found_brings_its_cost_and_its_net_to_the_figures() {
    var gate = new SwingGate(program, "imre").billed();
    var put =
        office.put(
            "/api/jobs/" + gate.job() + "/codes",
            Map.of("version", gate.version(), "faultCode", "SPRING", "causeCode", "OBSTACLE"));
    assertThat(put.status()).isEqualTo(200);
    JsonNode spring = figures("Hangs crooked or heavy", "Something in the way");
    assertThat(spring).isNotNull();
    assertThat(spring.path("costMinor").asLong()).isEqualTo(35_336);
    assertThat(spring.path("netMinor").asLong()).isEqualTo(45_099);
    assertThat(spring.path("labourMinutes").asInt()).isEqualTo(200);
  }

  @Test
  void a_code_that_does_not_exist_is_refused_at_its_field() {
    long job = call("job", "NOISE").path("jobId").asLong();
    var refused =
        office.put("/api/jobs/" + job + "/codes", Map.of("version", 1, "causeCode", "MOON"));
    assertThat(refused.pointer()).isEqualTo("/causeCode");
  }
}
