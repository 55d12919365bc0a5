package app.pragmata.server;

import static app.pragmata.server.generated.Tables.PLAN_PROPOSAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.planning.ProposalState;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Plans of many visits that the program proposes, taken whole, in part, or not. */
class ProposalsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate first;
  private SwingGate second;
  private Visitor office;

  @BeforeEach
  void prepare() {
    first = new SwingGate(program, "piet").waiting();
    second = new SwingGate(program, "piet").waiting();
    office = second.office();
  }

  private Map<String, Object> form() {
    var form = new HashMap<String, Object>();
    form.put("firstDay", second.day().plusDays(1).toString());
    form.put("lastDay", second.day().plusDays(7).toString());
    form.put("technicianIds", List.of());
    form.put("visitIds", List.of(first.visit(), second.visit()));
    form.put("seconds", 1);
    return form;
  }

  private JsonNode found(Map<String, Object> form) {
    Visitor.Answer made = office.post("/api/planner/proposals", form);
    assertThat(made.status()).as(made.text()).isEqualTo(200);
    long id = made.json().path("id").asLong();
    RunningPragmata.until(
        () ->
            program
                .database()
                .fetchExists(
                    PLAN_PROPOSAL,
                    PLAN_PROPOSAL.ID.eq(id).and(PLAN_PROPOSAL.STATE.eq(ProposalState.FOUND))));
    return office.get("/api/planner/proposals/" + id).json();
  }

  private static List<Map<String, Object>> moves(JsonNode proposal) {
    var moves = new ArrayList<Map<String, Object>>();
    for (JsonNode visit : proposal.path("visits")) {
      var move = new HashMap<String, Object>();
      move.put("visitId", visit.path("visitId").asLong());
      move.put("version", visit.path("version").asInt());
      move.put("technicianId", visit.path("personId").asLong());
      move.put("day", visit.path("day").asString());
      move.put("start", visit.path("start").asString());
      move.put("minutes", visit.path("expectedMinutes").asInt());
      moves.add(move);
    }
    return moves;
  }

  private JsonNode take(List<Map<String, Object>> moves) {
    Visitor.Answer taken = office.post("/api/planner/plans", Map.of("moves", moves));
    assertThat(taken.status()).as(taken.text()).isEqualTo(200);
    return taken.json();
  }

  private String state(SwingGate gate) {
    return gate.sheet().path("visits").path(0).path("state").asString();
  }

  @Test
  void a_proposal_plans_nothing_until_it_is_taken() {
    JsonNode proposal = found(form());
    assertThat(proposal.path("visits")).hasSize(2);
    assertThat(proposal.path("figures").path("unplaced").asInt()).isZero();
    assertThat(state(first)).isEqualTo("unplanned");
    assertThat(take(moves(proposal)).path("planned").asInt()).isEqualTo(2);
    assertThat(state(first)).isEqualTo("planned");
    assertThat(state(second)).isEqualTo("planned");
  }

  @Test
  void a_part_of_a_proposal_can_be_taken() {
    List<Map<String, Object>> moves = moves(found(form()));
    take(moves.stream().filter(move -> move.get("visitId").equals(first.visit())).toList());
    assertThat(state(first)).isEqualTo("planned");
    assertThat(state(second)).isEqualTo("unplanned");
  }

  @Test
  void whoever_planned_one_of_them_meanwhile_wins_and_is_named() {
    JsonNode proposal = found(form());
    first.planned();
    JsonNode taken = take(moves(proposal));
    assertThat(taken.path("planned").asInt()).isOne();
    assertThat(taken.path("left").path(0).path("visitId").asLong()).isEqualTo(first.visit());
    assertThat(first.sheet().path("visits").path(0).path("day").asString())
        .isEqualTo(first.day().toString());
  }

  @Test
  void a_time_that_was_given_away_meanwhile_is_left_to_whoever_has_it() {
    List<Map<String, Object>> moves = moves(found(form()));
    Map<String, Object> wanted =
        moves.stream()
            .filter(move -> move.get("visitId").equals(first.visit()))
            .findFirst()
            .orElseThrow();
    SwingGate other = new SwingGate(program, "piet").waiting();
    Visitor.Answer planned =
        office.put(
            "/api/visits/" + other.visit() + "/plan",
            Map.of(
                "version",
                1,
                "technicianId",
                wanted.get("technicianId"),
                "day",
                wanted.get("day"),
                "start",
                wanted.get("start").toString().substring(0, 5),
                "expected",
                "1:00",
                "overruled",
                SwingGate.ANYTHING));
    assertThat(planned.status()).as(planned.text()).isEqualTo(200);
    JsonNode taken = take(List.of(wanted));
    assertThat(taken.path("planned").asInt()).isZero();
    assertThat(taken.path("left").path(0).path("reason").asString()).contains("given away");
    assertThat(state(first)).isEqualTo("unplanned");
  }

  @Test
  void a_search_that_is_stopped_keeps_the_best_it_has() {
    Map<String, Object> form = form();
    form.put("seconds", 60);
    long id = office.post("/api/planner/proposals", form).json().path("id").asLong();
    assertThat(office.post("/api/planner/proposals/" + id + "/stop", Map.of()).status())
        .isEqualTo(200);
    RunningPragmata.until(
        () ->
            program
                .database()
                .fetchExists(
                    PLAN_PROPOSAL,
                    PLAN_PROPOSAL.ID.eq(id).and(PLAN_PROPOSAL.STATE.eq(ProposalState.FOUND))));
    assertThat(office.get("/api/planner/proposals/" + id).json().path("visits")).hasSize(2);
  }

  @Test
  void what_is_planned_already_can_be_laid_anew() {
    first.planned();
    JsonNode proposal = found(form());
    assertThat(take(moves(proposal)).path("planned").asInt()).isEqualTo(2);
    assertThat(first.sheet().path("visits").path(0).path("day").asString())
        .isNotEqualTo(first.day().toString());
  }

  @Test
  void nobody_sees_what_somebody_else_has_searched_for() {
    long id = found(form()).path("id").asLong();
    assertThat(Visitor.signedIn(program, "maud").get("/api/planner/proposals/" + id).status())
        .isIn(403, 404);
  }

  @ParameterizedTest
  @CsvSource({
    "firstDay, yesterday, DAY_PASSED",
    "firstDay, blursday, UNREADABLE",
    "lastDay, yesterday, ENDS_BEFORE_START",
    "lastDay, 2099-01-01, TOO_LARGE",
    "seconds, 0, EXCEEDS_LIMIT",
    "seconds, 61, EXCEEDS_LIMIT"
  })
  void what_cannot_be_searched_for_says_why(String field, String typed, String rule) {
    Map<String, Object> form = form();
    form.put(field, field.equals("seconds") ? (Object) Integer.valueOf(typed) : typed);
    Visitor.Answer refused = office.post("/api/planner/proposals", form);
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.rule()).isEqualTo(rule);
  }

  @Test
  void a_visit_that_has_begun_is_not_laid_anew() {
    first.finished();
    assertThat(office.post("/api/planner/proposals", form()).rule()).isEqualTo("VISIT_BEGUN");
  }

  @Test
  void a_visit_that_is_taken_off_its_day_waits_again() {
    first.planned();
    String path = "/api/visits/" + first.visit() + "/unplan";
    assertThat(office.post(path, Map.of("version", 1)).status()).isEqualTo(409);
    assertThat(office.post(path, Map.of("version", 2)).status()).isEqualTo(200);
    assertThat(state(first)).isEqualTo("unplanned");
    second.finished();
    assertThat(
            office
                .post(
                    "/api/visits/" + second.visit() + "/unplan",
                    Map.of("version", second.visitVersion()))
                .rule())
        .isEqualTo("VISIT_BEGUN");
  }
}
