package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class FaultTalksTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  private static Map<String, Object> question(int number, String text, Object... answers) {
    return Map.of("number", number, "text", text, "answers", List.of(answers));
  }

  private static Map<String, Object> ask(String text, int next) {
    return Map.of("text", text, "leadsTo", "question", "next", next);
  }

  private static Map<String, Object> solve(String text) {
    return Map.of("text", text, "leadsTo", "solved", "solution", "Do that.", "faultCode", "POWER");
  }

  private static Map<String, Object> visit(String text) {
    return Map.of("text", text, "leadsTo", "visit", "priority", "urgent", "expected", "1:30");
  }

  private int version(int kind) {
    return office.get("/api/fault-talks/" + kind).json().path("version").asInt();
  }

  @Test
  void the_office_writes_a_talk_of_its_own_and_it_is_asked_as_written() {
    var questions =
        List.of(
            question(1, "Does it hum?", ask("Yes", 2), visit("No")),
            question(2, "Is the bolt drawn?", solve("No"), visit("Yes")));
    var answer =
        office.put("/api/fault-talks/4", Map.of("version", version(4), "questions", questions));
    assertThat(answer.status()).isEqualTo(200);
    JsonNode talk = office.get("/api/fault-talks/4").json();
    assertThat(texts(talk.path("questions"), "text"))
        .containsExactly("Does it hum?", "Is the bolt drawn?");
    assertThat(talk.path("questions").path(1).path("answers").path(0).path("solution").asString())
        .isEqualTo("Do that.");
  }

  @Test
  void a_talk_in_which_somebody_could_get_lost_is_refused_and_the_old_one_stays() {
    JsonNode before = office.get("/api/fault-talks/1").json();
    var circle =
        List.of(
            question(1, "Once?", ask("Yes", 2), visit("No")),
            question(2, "Again?", ask("Yes", 1), visit("No")));
    var answer =
        office.put("/api/fault-talks/1", Map.of("version", version(1), "questions", circle));
    assertThat(answer.rule()).isEqualTo("LEADS_IN_A_CIRCLE");
    assertThat(office.get("/api/fault-talks/1").json()).isEqualTo(before);
  }

  @Test
  void every_fault_of_a_talk_is_told_at_its_place() {
    var questions =
        List.of(
            question(1, "", ask("Yes", 7), visit("")),
            question(
                2, "Nobody gets here?", Map.of("text", "So", "leadsTo", "solved", "solution", "")));
    var answer =
        office.put("/api/fault-talks/5", Map.of("version", version(5), "questions", questions));
    assertThat(texts(answer.json().path("errors"), "pointer"))
        .contains(
            "/questions/0/text",
            "/questions/0/answers/0/next",
            "/questions/0/answers/1/text",
            "/questions/1/text",
            "/questions/1/answers/0/solution");
  }

  @Test
  void a_talk_saved_over_a_colleagues_is_refused() {
    var questions = List.of(question(1, "Does it hum?", visit("No")));
    office.put("/api/fault-talks/6", Map.of("version", version(6), "questions", questions));
    var stale = office.put("/api/fault-talks/6", Map.of("version", 0, "questions", questions));
    assertThat(stale.rule()).isEqualTo("STALE_VERSION");
  }

  @Test
  void a_code_out_of_use_stays_known() {
    office.put("/api/codes/faults/OLD-ONE", Map.of("name", "Once a fault", "active", true));
    office.put("/api/codes/faults/OLD-ONE", Map.of("name", "Once a fault", "active", false));
    assertThat(texts(office.get("/api/codes").json().path("faults"), "code"))
        .last()
        .isEqualTo("OLD-ONE");
  }

  @Test
  void a_code_that_nobody_could_read_out_is_refused() {
    assertThat(
            office
                .put("/api/codes/causes/lower", Map.of("name", "Something", "active", true))
                .pointer())
        .isEqualTo("/code");
  }
}
