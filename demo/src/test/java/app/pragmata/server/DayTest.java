package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** All time of somebody's day, as the office sees and corrects it. */
class DayTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi");

  private String path() {
    String day = gate.sheet().path("visits").path(0).path("day").asString();
    long ngozi =
        program
            .database()
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.USERNAME.eq("ngozi"))
            .fetchSingle()
            .value1();
    return "/api/people/" + ngozi + "/days/" + day;
  }

  private JsonNode day() {
    return gate.office().get(path()).json();
  }

  private Visitor.Answer add(Map<String, Object> changed) {
    var form = new HashMap<String, Object>(Map.of("version", 0, "kind", "labour"));
    form.putAll(Map.of("from", "9", "to", "10:30", "reason", "Training"));
    form.putAll(changed);
    return gate.office().post(path() + "/time-entries", form);
  }

  @Test
  void a_day_shows_time_on_visits_with_their_job_and_time_on_none() {
    gate.finished();
    add(Map.of());
    JsonNode day = day();
    assertThat(texts(day.path("entries"), "kind"))
        .containsExactly("labour", "drive", "labour", "labour");
    assertThat(day.path("entries").path(0).path("jobNumber").isNull()).isTrue();
    assertThat(day.path("entries").path(1).path("jobNumber").isNumber()).isTrue();
    assertThat(day.path("labourMinutes").asInt()).isEqualTo(90 + 200);
    assertThat(day.path("driveMinutes").asInt()).isEqualTo(40);
  }

  @Test
  void time_over_the_end_of_the_working_hours_is_cut_there() {
    gate.finished();
    gate.at("20:00");
    add(Map.of("from", "18:30", "to", "19"));
    gate.nextDayAt("09:00");
    JsonNode entries = day().path("entries");
    assertThat(entries.path(entries.size() - 1).path("rateClass").asString()).isEqualTo("overtime");
  }

  @ParameterizedTest
  @CsvSource({
    "from, '', MISSING",
    "to, 8, ENDS_BEFORE_START",
    "reason, '', MISSING",
    "from, sometime, UNREADABLE"
  })
  void a_wrong_form_is_refused_with_its_field(String field, String typed, String rule) {
    gate.finished();
    var refused = add(Map.of(field, typed));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.text()).contains("\"rule\":\"" + rule + "\"");
    assertThat(day().path("entries")).hasSize(3);
  }

  @Test
  void nothing_is_written_down_on_a_day_of_years_ago() {
    gate.finished();
    String longAgo = path().replaceAll("days/.*", "days/1999-12-31");
    var form =
        Map.<String, Object>of(
            "version", 0, "kind", "drive", "from", "9", "to", "10", "reason", "Training");
    assertThat(gate.office().post(longAgo + "/time-entries", form).text())
        .contains("more than a year ago");
    assertThat(gate.office().get(longAgo).json().path("entries")).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({"-999999999-01-01", "+999999999-12-31", "9999-12-31"})
  void a_day_of_no_calendar_is_refused_and_not_computed_with(String absurd) {
    gate.finished();
    String path = path().replaceAll("days/.*", "days/" + absurd);
    assertThat(gate.office().get(path).rule()).isEqualTo("NOT_FOUND");
    var form =
        Map.<String, Object>of(
            "version", 0, "kind", "drive", "from", "9", "to", "10", "reason", "x");
    assertThat(gate.office().post(path + "/time-entries", form).rule()).isEqualTo("NOT_FOUND");
  }

  @Test
  void two_times_of_one_person_do_not_overlap() {
    gate.finished();
    assertThat(add(Map.of("from", "15:10", "to", "15:20")).rule()).isEqualTo("OVERLAPPING_CLOCKS");
  }

  @Test
  void somebody_who_is_not_there_has_no_day() {
    gate.finished();
    String nobodys = path().replaceAll("/people/\\d+/", "/people/999999/");
    assertThat(gate.office().get(nobodys).rule()).isEqualTo("NOT_FOUND");
  }

  @Test
  void a_correction_that_somebody_else_made_before_is_told() {
    gate.finished();
    add(Map.of());
    JsonNode entry = day().path("entries").path(0);
    var form = Map.<String, Object>of("from", "9", "to", "10", "reason", "Shorter");
    assertThat(gate.correct(entry, form).status()).isEqualTo(200);
    assertThat(gate.correct(entry, form).rule()).isEqualTo("STALE_VERSION");
    assertThat(day().path("entries").path(0).path("minutes").asInt()).isEqualTo(60);
  }
}
