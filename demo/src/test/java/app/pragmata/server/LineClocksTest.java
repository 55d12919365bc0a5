package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The lines of a promise are clocked one by one. */
class LineClocksTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre").onSite();

  @AfterEach
  void the_clock_is_stopped() {
    gate.at("17:20");
    gate.tap("finish", Map.of("outcome", "come_again", "reason", "More to do"));
  }

  private JsonNode pocket() {
    return gate.technician().get("/api/pocket/visits/" + gate.visit()).json();
  }

  private JsonNode work(int place) {
    return pocket().path("work").path(place);
  }

  private long line(int place) {
    return work(place).path("lineId").asLong();
  }

  private Visitor.Answer startOn(String time, long line) {
    gate.at(time);
    return gate.tap("start-work", Map.of("lineId", line));
  }

  /** Labour on the sheet: what it was for, from when, and for how long. */
  private List<String> labour() {
    return gate.sheet()
        .path("visits")
        .path(0)
        .path("times")
        .valueStream()
        .filter(time -> time.path("kind").asString().equals("labour"))
        .map(
            time ->
                "%s %s %d"
                    .formatted(
                        time.path("description").asString(),
                        time.path("from").asString().substring(0, 5),
                        time.path("minutes").asInt()))
        .toList();
  }

  @Test
  void a_line_that_is_started_ends_the_one_before_and_each_has_its_minutes() {
    startOn("15:10", line(0));
    startOn("16:00", line(1));
    assertThat(work(1).path("onClock").asBoolean()).isTrue();
    gate.at("16:20");
    gate.tap("pause", Map.of());
    assertThat(labour())
        .containsExactly(" 15:00 10", "Change the ram 15:10 50", "Disposal 16:00 20");
    assertThat(pocket().path("work").valueStream())
        .extracting(
            line -> line.path("description").asString(),
            line -> line.path("promisedMinutes").asInt(0),
            line -> line.path("workedMinutes").asInt())
        .containsExactly(tuple("Change the ram", 150, 50), tuple("Disposal", 0, 20));
  }

  @Test
  void whoever_ticks_the_line_off_that_they_work_on_works_on_without_a_gap() {
    startOn("15:10", line(0));
    gate.at("16:00");
    gate.tap("lines-done", Map.of("lineId", line(0), "done", true));
    assertThat(work(0).path("onClock").asBoolean()).isFalse();
    assertThat(pocket().path("runningSince").isNull()).isFalse();
    gate.at("16:05");
    gate.tap("pause", Map.of());
    assertThat(labour()).containsExactly(" 15:00 10", "Change the ram 15:10 50", " 16:00 5");
  }

  @Test
  void starting_the_line_that_runs_already_and_work_on_no_line_leave_the_clock_as_it_is() {
    startOn("15:10", line(0));
    startOn("15:20", line(0));
    gate.tap("start-work", Map.of());
    gate.at("15:30");
    gate.tap("pause", Map.of());
    assertThat(labour()).containsExactly(" 15:00 10", "Change the ram 15:10 20");
  }

  @Test
  void a_line_that_the_job_did_not_promise_is_refused_and_the_clock_runs_on() {
    assertThat(startOn("15:10", 0).rule()).isEqualTo("NOT_FOUND");
    assertThat(pocket().path("runningSince").isNull()).isFalse();
    assertThat(labour()).hasSize(1);
  }

  @Test
  void the_office_sees_how_long_a_line_took_of_what_was_promised() {
    gate.at("15:00");
    startOn("15:00", line(0));
    gate.at("17:15");
    gate.tap("pause", Map.of());
    JsonNode promised =
        gate.office().get("/api/jobs/" + gate.job() + "/line-visits").json().path("lines").path(0);
    assertThat(promised.path("workedMinutes").asInt()).isEqualTo(135);
    assertThat(promised.path("promisedMinutes").asInt()).isEqualTo(150);
  }

  @Test
  void what_was_tapped_without_a_network_counts_for_its_line_from_when_it_was_tapped() {
    long ram = line(0);
    gate.at("17:00");
    late("start_work", "15:20", Map.of("lineId", ram));
    late("tick_line", "16:10", Map.of("lineId", ram, "done", true));
    late("pause", "16:20", Map.of());
    assertThat(labour()).containsExactly(" 15:00 20", "Change the ram 15:20 50", " 16:10 10");
    assertThat(work(0).path("doneAt").asString()).contains("T16:10");
  }

  private void late(String step, String tapped, Map<String, Object> form) {
    var body = new HashMap<String, Object>();
    body.put("step", step);
    body.put("visitId", gate.visit());
    body.put("tappedAt", moment(tapped));
    body.put("sentAt", moment("17:00"));
    body.put("form", form);
    JsonNode came = gate.technician().late("late-" + step + "-" + gate.visit(), body);
    assertThat(came.path("state").asString()).as(came.toString()).isEqualTo("taken");
  }

  private String moment(String time) {
    return LocalDateTime.parse(gate.day() + "T" + time)
        .atZone(ZoneId.of("Europe/London"))
        .toInstant()
        .toString();
  }

  @Test
  void a_kind_of_job_says_that_its_lines_are_clocked_one_by_one() {
    assertThat(pocket().path("clockPerLine").asBoolean()).isFalse();
    gate.changeKind("clockPerLine", true);
    assertThat(pocket().path("clockPerLine").asBoolean()).isTrue();
    gate.changeKind("clockPerLine", false);
    assertThat(texts(pocket().path("work"), "description")).contains("Change the ram");
  }
}
