package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A visit to which somebody comes along. */
class CrewsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");
  private final Visitor dilys = Visitor.signedIn(program, "dilys");

  @AfterEach
  void nobodysClockRunsOn() {
    gate.at("19:00");
    for (String step : List.of("arrive", "pause")) {
      gate.tap(step, Map.of());
      alsoTap(step);
    }
  }

  private Visitor.Answer alsoTap(String step) {
    return dilys.post("/api/pocket/visits/" + gate.visit() + "/" + step, Map.of());
  }

  private JsonNode visit() {
    return gate.sheet().path("visits").path(0);
  }

  private Visitor.Answer plan(Object companions) {
    var form = new HashMap<String, Object>();
    form.put("version", gate.visitVersion());
    form.put("technicianId", program.person("imre"));
    form.put("companionIds", companions);
    form.put("day", visit().path("day").asString());
    form.put("start", "15");
    form.put("expected", "2h30");
    form.put("overruled", SwingGate.ANYTHING);
    return gate.office().put("/api/visits/" + gate.visit() + "/plan", form);
  }

  private void together() {
    gate.planned();
    assertThat(plan(List.of(program.person("dilys"))).status()).isEqualTo(200);
  }

  @Test
  void whoever_comes_along_stands_on_the_visit_and_in_its_history() {
    together();
    assertThat(texts(visit().path("companions"), "name")).containsExactly("Dilys Marrant");
    assertThat(gate.history().path(0).path("fields").toString()).contains("companionIds");
  }

  @Test
  void a_plan_without_them_lets_them_stay_at_home() {
    together();
    plan(List.of());
    assertThat(visit().path("companions")).isEmpty();
  }

  @Test
  void whoever_is_responsible_does_not_come_along_too() {
    gate.planned();
    assertThat(plan(List.of(program.person("imre"))).rule()).isEqualTo("REPEATED");
  }

  @Test
  void only_somebody_who_works_in_the_field_comes_along() {
    gate.planned();
    assertThat(plan(List.of(program.person("maud"))).rule()).isEqualTo("NOT_FOUND");
  }

  @Test
  void the_visit_is_among_the_stops_of_whoever_comes_along_and_of_nobody_else() {
    together();
    String stops = dilys.get("/api/pocket/day").json().path("stops").toString();
    assertThat(stops).contains("\"visitId\":" + gate.visit());
    JsonNode seen = dilys.get("/api/pocket/visits/" + gate.visit()).json();
    assertThat(seen.path("crew").path(0).path("name").asString()).isEqualTo("Imre Vasko");
    assertThat(seen.path("responsible").asBoolean()).isFalse();
    Visitor tobias = Visitor.signedIn(program, "tobias");
    assertThat(tobias.get("/api/pocket/visits/" + gate.visit()).rule()).isEqualTo("NOT_FOUND");
  }

  @Test
  void each_has_their_own_clocks_and_the_crew_s_minutes_are_charged_together() {
    together();
    gate.at("14:20");
    gate.tap("drive", Map.of());
    alsoTap("drive");
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "18.4"));
    alsoTap("arrive");
    gate.tap("start-work", Map.of());
    alsoTap("start-work");
    gate.at("16:05");
    gate.tap("finish", Map.of("note", "Two of us"));
    JsonNode times = visit().path("times");
    assertThat(texts(times, "person"))
        .containsExactlyInAnyOrder("Imre Vasko", "Dilys Marrant", "Imre Vasko", "Dilys Marrant");
    assertThat(texts(times, "minutes")).containsExactlyInAnyOrder("40", "40", "65", "65");
    gate.office()
        .put(
            "/api/jobs/" + gate.job() + "/basis",
            Map.of("version", gate.version(), "basis", "time_and_parts"));
    JsonNode lines = gate.sheet().path("billing").path("draft").path("lines");
    // 130 minutes of both, rounded up once to 135.
    assertThat(lines.path(0).path("fullMinor").asLong()).isEqualTo(130_50);
  }

  @Test
  void whoever_comes_along_stops_their_own_clock_and_the_responsible_one_finishes_the_visit() {
    together();
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    alsoTap("arrive");
    gate.tap("start-work", Map.of());
    alsoTap("start-work");
    gate.at("15:30");
    alsoTap("finish");
    assertThat(visit().path("state").asString()).isEqualTo("on_site");
    gate.at("16:00");
    gate.tap("finish", Map.of());
    assertThat(visit().path("state").asString()).isEqualTo("finished");
    assertThat(texts(visit().path("times"), "minutes")).containsExactlyInAnyOrder("30", "60");
  }

  @Test
  void whoever_is_done_drives_home_while_the_other_one_still_works() {
    together();
    gate.at("15:00");
    alsoTap("arrive");
    alsoTap("start-work");
    gate.at("15:30");
    JsonNode working = dilys.get("/api/pocket/day").json();
    assertThat(texts(working.path("stops"), "running")).contains("true");
    alsoTap("finish");
    assertThat(texts(dilys.get("/api/pocket/day").json().path("stops"), "running"))
        .doesNotContain("true");
    assertThat(dilys.post("/api/pocket/clock", Map.of("kind", "drive")).status()).isEqualTo(200);
    dilys.post("/api/pocket/clock/stop", Map.of());
  }

  @Test
  void a_visit_that_the_other_one_has_begun_is_still_to_start_on_ones_own_phone() {
    together();
    gate.at("14:20");
    gate.tap("drive", Map.of());
    String path = "/api/pocket/visits/" + gate.visit();
    assertThat(dilys.get(path).json().path("state").asString()).isEqualTo("planned");
    alsoTap("drive");
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    assertThat(dilys.get(path).json().path("state").asString()).isEqualTo("driving");
    alsoTap("arrive");
    assertThat(dilys.get(path).json().path("state").asString()).isEqualTo("on_site");
  }

  @Test
  void a_check_waits_until_nobodys_clock_runs() {
    together();
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    gate.tap("start-work", Map.of());
    gate.at("16:00");
    gate.tap("finish", Map.of());
    assertThat(
            gate.office()
                .post(
                    "/api/visits/" + gate.visit() + "/check",
                    Map.of("version", gate.visitVersion()))
                .status())
        .isEqualTo(200);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }
}
