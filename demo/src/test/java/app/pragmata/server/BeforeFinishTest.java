package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What a kind of job wants to be there before a visit of it is finished. */
class BeforeFinishTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");

  @BeforeEach
  void on_site() {
    gate.onSite();
    gate.at("15:30");
    want(List.of("photo", "signature"));
  }

  @AfterEach
  void nothing_is_wanted_any_more() {
    want(List.of());
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  /** What the kind of the gate's job wants from now on. */
  private void want(List<String> captures) {
    gate.changeKind("beforeFinish", captures);
  }

  private Map<String, Object> signed() {
    return Map.of(
        "signed", Map.of("name", "Mr Tansy", "signature", "Mr Tansy", "drawn", false, "words", ""));
  }

  private void photo() {
    gate.technician()
        .photo(
            "/api/pocket/visits/" + gate.visit() + "/photos",
            VisitPhotosTest.picture(40, 30),
            "before-finish-" + gate.visit());
  }

  @Test
  void each_thing_that_is_missing_is_said_at_its_field_and_the_visit_goes_on() {
    Visitor.Answer answer = gate.tap("finish", Map.of());
    assertThat(answer.status()).isEqualTo(422);
    assertThat(texts(answer.json().path("errors"), "pointer")).containsExactly("/photo", "/signed");
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("on_site");
  }

  @Test
  void with_a_photo_and_a_signature_it_is_finished() {
    photo();
    assertThat(gate.tap("finish", signed()).json().path("state").asString()).isEqualTo("finished");
  }

  @Test
  void whoever_has_to_come_again_needs_none_of_it() {
    assertThat(
            gate.tap("finish", Map.of("outcome", "come_again", "reason", "Part missing"))
                .json()
                .path("state")
                .asString())
        .isEqualTo("finished");
  }

  @Test
  void the_phone_is_told_beforehand() {
    JsonNode visit = gate.technician().get("/api/pocket/visits/" + gate.visit()).json();
    assertThat(visit.path("beforeFinish").valueStream().map(JsonNode::asString))
        .containsExactly("photo", "signature");
  }

  @Test
  void what_is_done_and_signed_by_nobody_is_odd_at_the_check() {
    want(List.of());
    gate.tap("finish", Map.of());
    want(List.of("signature"));
    assertThat(gate.oddities()).contains("no_signature");
  }

  @Test
  void what_is_not_done_yet_needs_no_signature_at_the_check() {
    gate.tap("finish", Map.of("outcome", "come_again", "reason", "Part missing"));
    assertThat(gate.oddities()).doesNotContain("no_signature");
  }
}
