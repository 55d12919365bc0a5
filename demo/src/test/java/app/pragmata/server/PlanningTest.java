package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

class PlanningTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi");

  @Test
  void a_planned_visit_stands_in_its_technicians_day() {
    gate.planned();
    assertThat(stops(gate.technician())).contains(Long.toString(gate.visit()));
  }

  @Test
  void a_moved_visit_leaves_the_first_technicians_day_for_the_seconds() {
    gate.planned();
    gate.office()
        .put(
            plan(),
            form(Map.of("version", 2, "day", "today", "technicianId", program.person("piet"))));
    assertThat(stops(gate.technician())).doesNotContain(Long.toString(gate.visit()));
    assertThat(stops(Visitor.signedIn(program, "piet"))).contains(Long.toString(gate.visit()));
  }

  private static List<String> stops(Visitor technician) {
    return WorkedExampleTest.texts(
        technician.get("/api/pocket/day").json().path("stops"), "visitId");
  }

  @ParameterizedTest
  @CsvSource({
    "day, 2019-01-01, TOO_LARGE",
    "day, 2031-01-01, TOO_LARGE",
    "day, blursday, UNREADABLE",
    "start, 25:00, UNREADABLE",
    "expected, 0:01, EXCEEDS_LIMIT",
    "expected, 17h, EXCEEDS_LIMIT",
    "expected, -1:00, NEGATIVE"
  })
  void a_plan_with_a_fault_names_its_field_and_plans_nothing(
      String field, String typed, String rule) {
    gate.accepted();
    long job =
        gate.office()
            .post("/api/quotes/" + gate.quote() + "/job", Map.of())
            .json()
            .path("id")
            .asLong();
    JsonNode visit = gate.office().get("/api/jobs/" + job).json().path("visits").path(0);
    var refused =
        gate.office()
            .put(
                "/api/visits/" + visit.path("id").asLong() + "/plan",
                form(Map.of("version", 1, field, typed)));
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(gate.office().get("/api/jobs/" + job).json().path("visits").path(0))
        .isEqualTo(visit);
  }

  @Test
  void somebody_who_is_no_technician_cannot_be_sent() {
    gate.planned();
    var refused =
        gate.office()
            .put(plan(), form(Map.of("version", 2, "technicianId", program.person("maud"))));
    assertThat(refused.status()).isIn(404, 422);
    assertThat(gate.sheet().path("visits").path(0).path("technician").asString())
        .isEqualTo("Ngozi Adair");
  }

  @Test
  void a_visit_that_has_begun_is_not_moved() {
    gate.onSite();
    var refused = gate.office().put(plan(), form(Map.of("version", gate.visitVersion())));
    assertThat(refused.rule()).isEqualTo("VISIT_BEGUN");
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  @Test
  void a_visit_that_somebody_moved_meanwhile_is_not_moved_again_unseen() {
    gate.planned();
    gate.office().put(plan(), form(Map.of("version", 2, "start", "9")));
    var refused = gate.office().put(plan(), form(Map.of("version", 2, "start", "11")));
    assertThat(refused.rule()).isEqualTo("STALE_VERSION");
    assertThat(gate.sheet().path("visits").path(0).path("start").asString()).startsWith("09:00");
  }

  @Test
  void a_second_visit_is_made_once_however_often_it_is_asked_for() {
    gate.planned();
    var form = form(Map.of("version", 0, "start", "10"));
    String visits = "/api/jobs/" + gate.job() + "/visits";
    var first = gate.office().post(visits, form, "second-visit-1");
    var again = gate.office().post(visits, form, "second-visit-1");
    assertThat(again).isEqualTo(first);
    assertThat(gate.sheet().path("visits")).hasSize(2);
  }

  @Test
  void a_visit_called_off_leaves_the_job_open_and_keeps_its_reason() {
    gate.planned();
    gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/call-off",
            Map.of("version", 2, "reason", "Gate sold"));
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("state").asString()).isEqualTo("open");
    assertThat(sheet.path("visits").path(0).path("reason").asString()).isEqualTo("Gate sold");
  }

  @Test
  void a_job_is_called_off_with_its_visits_before_anything_was_done() {
    gate.planned();
    var answer =
        gate.office()
            .post(
                "/api/jobs/" + gate.job() + "/call-off",
                Map.of("version", gate.version(), "reason", "Premises sold"));
    assertThat(answer.status()).isEqualTo(200);
    assertThat(gate.sheet().path("state").asString()).isEqualTo("called_off");
    assertThat(WorkedExampleTest.texts(gate.sheet().path("visits"), "state"))
        .containsExactly("called_off");
  }

  private Map<String, Object> needs(int version, String part, @Nullable Long follows) {
    var form = new HashMap<String, Object>();
    form.put("version", version);
    form.put("expected", "1h");
    form.put("part", part);
    form.put("followsId", follows);
    return form;
  }

  @Test
  void a_visit_in_the_place_of_one_that_did_not_happen_takes_over_what_it_waits_for() {
    gate.planned();
    Visitor office = gate.office();
    office.put(
        "/api/visits/" + gate.visit() + "/needs", needs(gate.visitVersion(), "gearbox", null));
    long follower =
        office
            .post("/api/jobs/" + gate.job() + "/waiting-visits", needs(0, "", gate.visit()))
            .json()
            .path("id")
            .asLong();
    Visitor.Answer dropped =
        office.post(
            "/api/visits/" + gate.visit() + "/not-this-time",
            Map.of("version", gate.visitVersion(), "reason", "Nobody in"));
    assertThat(dropped.status()).as(dropped.text()).isEqualTo(200);
    long instead =
        office.get("/api/visits/" + follower + "/needs").json().path("followsId").asLong();
    assertThat(instead).isNotEqualTo(gate.visit());
    assertThat(office.get("/api/visits/" + instead + "/needs").json().path("part").asString())
        .isEqualTo("gearbox");
  }

  @Test
  void a_job_called_off_calls_off_its_visit_that_nobody_had_planned_yet() {
    gate.planned();
    gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/not-this-time",
            Map.of("version", gate.visitVersion(), "reason", "Nobody in"));
    gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/call-off",
            Map.of("version", gate.version(), "reason", "Premises sold"));
    assertThat(WorkedExampleTest.texts(gate.sheet().path("visits"), "state"))
        .containsExactlyInAnyOrder("not_this_time", "called_off");
  }

  @Test
  void work_of_a_past_day_that_nobody_planned_is_planned_and_written_down_afterwards() {
    gate.planned();
    gate.nextDayAt("17:00");
    var planned =
        gate.office()
            .post(
                "/api/jobs/" + gate.job() + "/visits",
                form(
                    Map.of(
                        "version", 0, "day", "yesterday", "technicianId", program.person("piet"))));
    assertThat(planned.status()).as(planned.text()).isEqualTo(200);
    JsonNode visit = gate.sheet().path("visits").path(1);
    var added =
        gate.office()
            .post("/api/visits/" + visit.path("id").asLong() + "/time-entries", WRITTEN_DOWN);
    assertThat(added.status()).as(added.text()).isEqualTo(200);
    assertThat(WorkedExampleTest.texts(gate.sheet().path("visits"), "state"))
        .containsExactlyInAnyOrder("planned", "finished");
  }

  @Test
  void a_part_noted_before_the_technician_goes_does_not_finish_the_visit() {
    gate.planned();
    var refused =
        gate.office()
            .post(
                "/api/visits/" + gate.visit() + "/parts",
                Map.of("partId", gate.part("PHO-02"), "quantity", "1"));
    assertThat(refused.rule()).isEqualTo("VISIT_TAKES_NO_RECORDS");
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("planned");
  }

  @Test
  void a_visit_whose_day_is_still_to_come_takes_no_time() {
    gate.planned();
    gate.office().put(plan(), form(Map.of("version", 2)));
    var refused = gate.office().post("/api/visits/" + gate.visit() + "/time-entries", WRITTEN_DOWN);
    assertThat(refused.rule()).isEqualTo("VISIT_TAKES_NO_RECORDS");
  }

  private static final Map<String, Object> WRITTEN_DOWN =
      Map.of(
          "version", 0, "kind", "labour", "from", "9:00", "to", "10:00", "reason", "On paper only");

  @Test
  void a_job_on_which_work_has_begun_is_not_called_off() {
    gate.onSite();
    var refused =
        gate.office()
            .post(
                "/api/jobs/" + gate.job() + "/call-off",
                Map.of("version", gate.version(), "reason", "Premises sold"));
    assertThat(refused.rule()).isEqualTo("JOB_BEGUN");
    gate.at("16:00");
    gate.tap("finish", Map.of());
    assertThat(gate.sheet().path("state").asString()).isEqualTo("worked");
  }

  @Test
  void a_job_on_which_nothing_is_recorded_has_not_begun_to_cost() {
    gate.planned();
    assertThat(gate.sheet().path("cost").path("begun").asBoolean()).isFalse();
    gate.at("14:20");
    gate.tap("drive", Map.of());
    assertThat(gate.sheet().path("cost").path("begun").asBoolean()).isFalse();
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "18.4"));
    assertThat(gate.sheet().path("cost").path("begun").asBoolean()).isTrue();
    gate.tap("start-work", Map.of());
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  @Test
  void a_technicians_day_shows_what_is_already_planned_there() {
    gate.planned();
    String day = gate.sheet().path("visits").path(0).path("day").asString();
    var stops =
        gate.office().get("/api/technicians/" + program.person("ngozi") + "/day?day=" + day).json();
    assertThat(stops.toString()).contains("Tansy Row Garages").contains("15:00");
  }

  @Test
  void a_visit_that_begins_on_another_day_than_planned_is_one_of_that_day() {
    gate.planned();
    gate.nextDayAt("09:00");
    gate.tap("drive", Map.of());
    gate.nextDayAt("09:30");
    gate.tap("arrive", Map.of("miles", "3"));
    gate.tap("start-work", Map.of());
    gate.nextDayAt("10:00");
    gate.tap("finish", Map.of());
    JsonNode visit = gate.sheet().path("visits").path(0);
    assertThat(WorkedExampleTest.texts(visit.path("times"), "fromDaysLater"))
        .containsExactly("0", "0");
  }

  private String plan() {
    return "/api/visits/" + gate.visit() + "/plan";
  }

  private Map<String, Object> form(Map<String, Object> changes) {
    var form =
        new HashMap<String, Object>(
            Map.of(
                "version",
                1,
                "technicianId",
                program.person("ngozi"),
                "day",
                "tomorrow",
                "start",
                "8:30",
                "expected",
                "2:30",
                "overruled",
                SwingGate.ANYTHING));
    form.putAll(changes);
    return form;
  }

  @Test
  void technicians_are_offered_by_name_and_nobody_else_is() {
    List<String> names =
        WorkedExampleTest.texts(
            gate.office().get("/api/choices").json().path("technicians"), "name");
    assertThat(names).hasSize(5).contains("Imre Vasko").doesNotContain("Maud Ferris");
  }
}
