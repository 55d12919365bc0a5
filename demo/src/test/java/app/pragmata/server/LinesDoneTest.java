package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What is done is ticked on the promise. */
class LinesDoneTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias").onSite();

  private JsonNode work() {
    return gate.technician().get("/api/pocket/visits/" + gate.visit()).json().path("work");
  }

  private long line(int place) {
    return work().path(place).path("lineId").asLong();
  }

  private Visitor.Answer tick(long line, boolean done) {
    return gate.tap("lines-done", Map.of("lineId", line, "done", done));
  }

  /** How the lines that are work stand on the sheet. */
  private Map<String, String> onSheet() {
    var standings = new HashMap<String, String>();
    for (JsonNode line :
        gate.office().get("/api/jobs/" + gate.job() + "/line-visits").json().path("lines")) {
      standings.put(line.path("description").asString(), line.path("standing").asString());
    }
    standings.keySet().retainAll(texts(work(), "description"));
    return standings;
  }

  private void comeAgain() {
    gate.at("17:00");
    gate.tap(
        "finish", Map.of("note", "", "outcome", "come_again", "reason", "The skip was not there"));
  }

  @Test
  void what_was_promised_as_work_is_there_to_be_ticked_off() {
    assertThat(texts(work(), "description")).containsExactly("Change the ram", "Disposal");
    JsonNode ticked = tick(line(0), true).json().path("work").path(0);
    assertThat(ticked.path("doneBy").asString()).isEqualTo("Tobias Quennell");
    assertThat(ticked.path("doneAt").isNull()).isFalse();
    assertThat(work().path(1).path("doneAt").isNull()).isTrue();
    comeAgain();
  }

  @Test
  void when_somebody_comes_again_only_what_is_not_done_waits_for_it() {
    tick(line(0), true);
    comeAgain();
    gate.office().post("/api/jobs/" + gate.job() + "/waiting-visits", Map.of("expected", "1h"));
    assertThat(onSheet().get("Change the ram")).isEqualTo("done");
    assertThat(onSheet().get("Disposal")).isNotEqualTo("planned").isEqualTo("waiting");
  }

  @Test
  void a_tick_twice_is_one_and_one_that_is_taken_back_is_none() {
    tick(line(0), true);
    tick(line(0), true);
    assertThat(texts(gate.history(), "event"))
        .filteredOn(event -> event.equals("line_done"))
        .hasSize(1);
    tick(line(0), false);
    assertThat(work().path(0).path("doneAt").isNull()).isTrue();
    comeAgain();
  }

  @Test
  void two_phones_that_tick_one_line_at_the_same_moment_tick_it_once() throws Exception {
    long line = line(0);
    List<Visitor> phones = List.of(gate.technician(), Visitor.signedIn(program, "tobias"));
    List<Integer> statuses =
        AtOnce.statuses(
            2,
            phone ->
                phones
                    .get(phone)
                    .post(
                        "/api/pocket/visits/" + gate.visit() + "/lines-done",
                        Map.of("lineId", line, "done", true)));
    assertThat(statuses).containsExactly(200, 200);
    assertThat(texts(gate.history(), "event"))
        .filteredOn(event -> event.equals("line_done"))
        .hasSize(1);
    comeAgain();
  }

  @Test
  void a_line_that_the_job_did_not_promise_is_refused() {
    Visitor.Answer unknown = tick(0, true);
    assertThat(unknown.rule()).isEqualTo("NOT_FOUND");
    assertThat(gate.tap("lines-done", Map.of("done", true)).pointer()).isEqualTo("/lineId");
    comeAgain();
  }

  @Test
  void once_the_visit_is_over_nothing_is_ticked_off_on_it() {
    long line = line(0);
    comeAgain();
    assertThat(tick(line, true).status()).isEqualTo(409);
  }

  @Test
  void what_was_ticked_without_a_network_counts_when_it_comes_in() {
    gate.at("16:00");
    JsonNode came =
        gate.technician()
            .late(
                "late-tick-" + gate.visit(),
                Map.of(
                    "step", "tick_line",
                    "visitId", gate.visit(),
                    "tappedAt", program.clock().instant().minusSeconds(900).toString(),
                    "sentAt", program.clock().instant().toString(),
                    "form", Map.of("lineId", line(1), "done", true)));
    assertThat(came.path("state").asString()).isEqualTo("taken");
    assertThat(onSheet().get("Disposal")).isEqualTo("done");
    comeAgain();
  }
}
