package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.TO_DO;
import static app.pragmata.server.generated.Tables.VISIT_MESSAGE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import app.pragmata.server.telling.ToldKind;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** Visits that end, or begin, other than planned, as their technicians say. */
class NotAsPlannedTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");

  private Visitor.Answer finish(String outcome, String reason) {
    return gate.tap("finish", Map.of("note", "", "outcome", outcome, "reason", reason));
  }

  private JsonNode visits() {
    return gate.sheet().path("visits");
  }

  private List<String> toDos() {
    return program
        .database()
        .select(TO_DO.WHAT)
        .from(TO_DO)
        .where(TO_DO.JOB_ID.eq(gate.job()))
        .fetch(TO_DO.WHAT);
  }

  private Visitor.Answer check() {
    return gate.office()
        .post("/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion()));
  }

  private SwingGate arrived() {
    gate.planned();
    gate.at("14:20");
    gate.tap("drive", Map.of());
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "8"));
    return gate;
  }

  @Test
  void whoever_has_to_come_again_leaves_a_visit_to_be_planned_and_the_job_open() {
    gate.onSite();
    gate.at("16:00");
    assertThat(finish("come_again", "Hinge is bent, needs two people").status()).isEqualTo(200);
    assertThat(texts(visits(), "state")).containsExactlyInAnyOrder("finished", "unplanned");
    assertThat(visits().path(0).path("outcome").asString()).isEqualTo("come_again");
    assertThat(visits().path(0).path("reason").asString()).contains("Hinge is bent");
    assertThat(check().status()).isEqualTo(200);
    assertThat(gate.sheet().path("state").asString()).isNotEqualTo("checked");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @ParameterizedTest
  @CsvSource({"not_let_in, could not get in", "declined, customer declined"})
  void a_way_for_nothing_is_told_to_the_office_at_once(String outcome, String told) {
    arrived();
    assertThat(finish(outcome, "Nobody at the gate").status()).isEqualTo(200);
    assertThat(toDos())
        .anyMatch(what -> what.contains(told) && what.contains("Nobody at the gate"));
    assertThat(visits().path(0).path("outcome").asString()).isEqualTo(outcome);
  }

  @Test
  void a_long_reason_stands_whole_on_the_visit_and_is_cut_in_the_to_do() {
    arrived();
    String why = "Nobody at the gate. ".repeat(15).strip();
    assertThat(finish("not_let_in", why).status()).isEqualTo(200);
    assertThat(visits().path(0).path("reason").asString()).isEqualTo(why);
    assertThat(toDos()).anyMatch(what -> what.length() == 300 && what.endsWith("…"));
  }

  @Test
  void a_visit_on_which_nothing_was_done_is_not_checked_as_if_it_were() {
    arrived();
    finish("not_let_in", "Nobody at the gate");
    assertThat(check().rule()).isEqualTo("VISIT_NOT_DONE");
    Visitor.Answer dropped =
        gate.office()
            .post(
                "/api/visits/" + gate.visit() + "/not-this-time",
                Map.of("version", gate.visitVersion(), "reason", "Gate was locked"));
    assertThat(dropped.status()).as(dropped.text()).isEqualTo(200);
    assertThat(texts(visits(), "state")).containsExactlyInAnyOrder("not_this_time", "unplanned");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_diagnosis_that_the_customer_declined_is_checked_and_charged() {
    gate.onSite();
    gate.at("15:40");
    finish("declined", "Too dear for an old gate");
    assertThat(check().status()).isEqualTo(200);
  }

  @ParameterizedTest
  @ValueSource(strings = {"come_again", "not_let_in", "declined"})
  void whatever_is_not_done_says_why(String outcome) {
    gate.onSite();
    gate.at("15:40");
    Visitor.Answer refused = finish(outcome, " ");
    assertThat(refused.pointer()).isEqualTo("/reason");
    assertThat(visits().path(0).path("state").asString()).isEqualTo("on_site");
    finish("done", "");
  }

  @Test
  void a_visit_that_is_handed_back_waits_for_somebody_else_and_the_office_knows_why() {
    gate.planned();
    String path = "/api/pocket/visits/" + gate.visit() + "/hand-back";
    assertThat(gate.technician().post(path, Map.of()).pointer()).isEqualTo("/reason");
    Visitor.Answer back = gate.technician().post(path, Map.of("reason", "The van does not start"));
    assertThat(back.status()).as(back.text()).isEqualTo(200);
    assertThat(visits().path(0).path("state").asString()).isEqualTo("unplanned");
    assertThat(toDos()).anyMatch(what -> what.contains("The van does not start"));
    assertThat(gate.technician().get("/api/pocket/visits/" + gate.visit()).status()).isEqualTo(404);
  }

  @Test
  void a_visit_that_has_begun_is_not_handed_back() {
    gate.onSite();
    assertThat(
            gate.technician()
                .post("/api/pocket/visits/" + gate.visit() + "/hand-back", Map.of("reason", "x"))
                .rule())
        .isEqualTo("VISIT_BEGUN");
    gate.at("16:00");
    finish("done", "");
  }

  @Test
  void a_visit_that_its_technician_accepts_says_so_until_it_is_planned_anew() {
    gate.planned();
    gate.at("09:00");
    assertThat(gate.tap("accept", Map.of()).json().path("accepted").asBoolean()).isTrue();
    gate.at("09:30");
    gate.tap("accept", Map.of());
    assertThat(visits().path(0).path("acceptedAt").asString()).endsWith("T09:00:00");
    gate.planFor("piet", "16:00");
    assertThat(visits().path(0).path("acceptedAt").isNull()).isTrue();
  }

  @Test
  void nobody_accepts_what_has_begun() {
    arrived();
    assertThat(gate.tap("accept", Map.of()).rule()).isEqualTo("VISIT_BEGUN");
  }

  @Test
  void the_customer_is_told_that_it_gets_later() {
    gate.planned();
    program
        .database()
        .execute(
            """
            update customer set coming_told_by = 'mail', email = 'gate@example.com'
              where id = (select customer_id from job where id = ?)
            """,
            gate.job());
    gate.at("14:00");
    assertThat(gate.tap("late", Map.of("late", "40")).status()).isEqualTo(200);
    assertThat(visits().path(0).path("lateMinutes").asInt()).isEqualTo(40);
    RunningPragmata.until(
        () ->
            program
                .database()
                .fetchExists(
                    VISIT_MESSAGE,
                    VISIT_MESSAGE
                        .VISIT_ID
                        .eq(gate.visit())
                        .and(VISIT_MESSAGE.KIND.eq(ToldKind.LATE))));
  }

  @ParameterizedTest
  @CsvSource({"3, EXCEEDS_LIMIT", "9:00, EXCEEDS_LIMIT", "'', MISSING"})
  void nobody_is_late_by_nothing_or_by_a_day(String late, String rule) {
    gate.planned();
    gate.at("14:00");
    assertThat(gate.tap("late", Map.of("late", late)).rule()).isEqualTo(rule);
  }

  @Test
  void nobody_is_late_for_a_visit_of_another_day() {
    gate.planned();
    gate.nextDayAt("09:00");
    assertThat(gate.tap("late", Map.of("late", "20")).rule()).isEqualTo("VISIT_BEGUN");
  }
}
