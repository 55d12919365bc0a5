package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a technician taps, as it reaches the server. */
class TapTest {
  private static final int MOST_STATEMENTS = 10;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias");

  @AfterEach
  void stop() {
    // A clock that runs on would stand in everybody's way.
    gate.at("18:20");
    gate.tap("arrive", Map.of("miles", ""));
    gate.tap("pause", Map.of());
  }

  private void tap(String step, Map<String, Object> form) {
    tap(step, form, MOST_STATEMENTS);
  }

  private void tap(String step, Map<String, Object> form, int most) {
    List<String> statements =
        Statements.of(
            program.database(), () -> assertThat(gate.tap(step, form).status()).isEqualTo(200));
    assertThat(statements)
        .as("%s: %s", step, String.join("\n", statements))
        .isNotEmpty()
        .hasSizeLessThanOrEqualTo(most);
  }

  @Test
  void a_drive_takes_one_more_for_whom_it_tells_that_somebody_is_on_the_way() {
    gate.planned();
    tap("drive", Map.of(), MOST_STATEMENTS + 1);
  }

  @Test
  void an_arrival_takes_at_most_ten_statements() {
    gate.planned();
    gate.tap("drive", Map.of());
    gate.at("14:40");
    tap("arrive", Map.of("miles", "12"));
  }

  @Test
  void a_start_of_work_takes_at_most_ten_statements() {
    gate.planned();
    gate.tap("arrive", Map.of("miles", ""));
    tap("start-work", Map.of());
  }

  @Test
  void a_pause_takes_at_most_ten_statements() {
    gate.onSite();
    gate.at("16:00");
    tap("pause", Map.of());
  }

  @Test
  void a_finish_takes_two_more_for_what_its_kind_wants_and_for_who_gets_a_report() {
    gate.onSite();
    gate.at("16:00");
    tap("finish", Map.of("note", "Done."), MOST_STATEMENTS + 2);
  }

  @Test
  void a_clock_without_a_minute_on_it_is_no_work_and_the_job_tells_that_it_was_dropped() {
    gate.onSite();
    var refused = gate.tap("finish", Map.of("note", "Nothing to do."));
    assertThat(refused.rule()).isEqualTo("MISSING");
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("on_site");
    gate.tap("pause", Map.of());
    assertThat(gate.sheet().path("visits").path(0).path("times")).hasSize(1);
    assertThat(texts(gate.history(), "event")).startsWith("visit_paused", "time_stopped");
  }

  @Test
  void a_drive_that_is_told_after_the_arrival_starts_no_clock() {
    gate.planned();
    gate.tap("arrive", Map.of("miles", ""));
    assertThat(gate.tap("drive", Map.of()).status()).isEqualTo(200);
    assertThat(gate.sheet().path("visits").path(0).path("times")).isEmpty();
  }

  @Test
  void a_tap_counts_from_the_moment_it_happened_not_when_it_arrived() {
    gate.onSite();
    gate.at("17:00");
    var answer = gate.tap("pause", Map.of("tappedAt", moment("16:15")));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    assertThat(texts(gate.sheet().path("visits").path(0).path("times"), "to")).endsWith("16:15:00");
  }

  @Test
  void a_tap_that_comes_again_late_starts_no_second_clock() {
    gate.planned();
    gate.tap("arrive", Map.of("miles", ""));
    var start = Map.<String, Object>of("tappedAt", moment("15:05"));
    gate.at("15:05");
    tap("start-work", start, "first-start");
    gate.at("15:40");
    gate.tap("pause", Map.of());
    gate.at("15:50");
    assertThat(tap("start-work", start, "first-start").status()).isEqualTo(200);
    assertThat(gate.sheet().path("visits").path(0).path("times")).hasSize(1);
  }

  @ParameterizedTest
  @CsvSource({"23:20, TAPPED_IN_THE_FUTURE", "06:00, ENDS_BEFORE_START"})
  void a_moment_that_cannot_be_is_refused_by_its_rule_and_changes_nothing(
      String time, String rule) {
    gate.planned();
    gate.tap("drive", Map.of());
    var refused = gate.tap("arrive", Map.of("miles", "", "tappedAt", moment(time)));
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("driving");
  }

  private String moment(String time) {
    var now = program.clock().instant().atZone(ZoneId.of("Europe/London"));
    return now.with(LocalTime.parse(time)).toInstant().toString();
  }

  private Visitor.Answer tap(String step, Map<String, Object> form, String key) {
    return gate.technician()
        .post("/api/pocket/visits/" + gate.visit() + "/" + step, form, gate.visit() + key);
  }
}
