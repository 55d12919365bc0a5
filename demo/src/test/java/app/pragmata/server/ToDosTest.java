package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

class ToDosTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor orla = Visitor.signedIn(program, "orla");

  @BeforeEach
  void tuesdayMorning() {
    program.clock().set("2026-11-24T10:00");
  }

  private long add(String what, String due) {
    return orla.post("/api/to-dos", Map.of("version", 0, "what", what, "due", due))
        .json()
        .path("id")
        .asLong();
  }

  @Test
  void what_is_overdue_comes_first() {
    add("Due on Friday", "fri");
    add("Due two weeks ago", "10 nov");
    JsonNode rows = orla.get("/api/to-dos").json().path("rows");
    assertThat(texts(rows, "due")).isSorted();
    assertThat(rows.path(0).path("daysLate").asInt()).isEqualTo(14);
    assertThat(orla.get("/api/to-dos/count").json().path("late").asInt()).isPositive();
  }

  @ParameterizedTest
  @CsvSource({"what, ' '", "due, someday", "forPersonId, 4"})
  void a_to_do_that_nobody_could_do_is_refused_at_the_field(String field, String typed) {
    var form =
        new java.util.HashMap<String, Object>(
            Map.of("version", 0, "what", "Ring back", "due", "fri"));
    form.put(field, typed);
    assertThat(orla.post("/api/to-dos", form).pointer()).isEqualTo("/" + field);
  }

  @Test
  void a_to_do_is_not_closed_without_saying_what_came_of_it() {
    long id = add("Ask for the key", "today");
    var answer =
        orla.post(
            "/api/to-dos/" + id + "/close", Map.of("version", 1, "done", true, "outcome", ""));
    assertThat(answer.pointer()).isEqualTo("/outcome");
  }

  @Test
  void a_to_do_closed_by_mistake_is_opened_again() {
    long id = add("Measure the opening", "today");
    orla.post(
        "/api/to-dos/" + id + "/close",
        Map.of("version", 1, "done", false, "outcome", "Not needed"));
    orla.post("/api/to-dos/" + id + "/reopen", Map.of("version", 2));
    JsonNode open = orla.get("/api/to-dos/" + id).json();
    assertThat(open.path("state").asString()).isEqualTo("open");
    assertThat(open.path("outcome").isNull()).isTrue();
  }

  @Test
  void two_who_close_the_same_to_do_are_told_apart() {
    long id = add("Order the sign", "today");
    var close = Map.of("version", 1, "done", true, "outcome", "Ordered");
    assertThat(orla.post("/api/to-dos/" + id + "/close", close).status()).isEqualTo(200);
    assertThat(orla.post("/api/to-dos/" + id + "/close", close).rule()).isEqualTo("STALE_VERSION");
  }

  @Test
  void a_to_do_about_a_job_is_about_its_customer_too() {
    long id =
        orla.post("/api/to-dos", Map.of("version", 0, "what", "Ask for the colour", "jobId", 5))
            .json()
            .path("id")
            .asLong();
    JsonNode toDo = orla.get("/api/to-dos/" + id).json();
    assertThat(toDo.path("customerId").asLong()).isPositive();
    assertThat(toDo.path("jobNumber").asLong()).isEqualTo(2005);
  }

  @Test
  void the_closed_ones_are_paged_newest_first_without_a_gap() {
    var made = new ArrayList<String>();
    for (int i = 0; i < 120; i++) {
      long id = add("Paged " + i, "today");
      program.clock().set("2026-11-24T10:%02d".formatted(i / 2));
      orla.post(
          "/api/to-dos/" + id + "/close", Map.of("version", 1, "done", true, "outcome", "Done"));
      made.addFirst(Long.toString(id));
    }
    JsonNode first = orla.get("/api/to-dos?state=closed&filter=Paged").json();
    JsonNode second =
        orla.get("/api/to-dos?state=closed&filter=Paged&after=" + first.path("next").asString())
            .json();
    var shown = new ArrayList<>(texts(first.path("rows"), "id"));
    shown.addAll(texts(second.path("rows"), "id"));
    assertThat(shown).isEqualTo(made);
  }

  @Test
  void a_technician_has_no_list_of_the_office() {
    assertThat(Visitor.signedIn(program, "imre").get("/api/to-dos").status()).isEqualTo(403);
  }
}
