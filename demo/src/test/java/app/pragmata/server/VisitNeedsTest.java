package app.pragmata.server;

import static app.pragmata.server.generated.Tables.PERSON;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Visits that wait for a part, or for another visit of their job. */
class VisitNeedsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate gate;

  @BeforeEach
  void prepare() {
    gate = new SwingGate(program, "piet").waiting();
  }

  private static Map<String, Object> needs(int version, Object notBefore, Object followsId) {
    var form = new HashMap<String, Object>();
    form.put("version", version);
    form.put("expected", "5:00");
    form.put("notBefore", notBefore);
    form.put("followsId", followsId);
    return form;
  }

  private String path() {
    return "/api/visits/" + gate.visit() + "/needs";
  }

  private long second() {
    Visitor.Answer made =
        gate.office()
            .post("/api/jobs/" + gate.job() + "/waiting-visits", needs(0, null, gate.visit()));
    assertThat(made.status()).as(made.text()).isEqualTo(200);
    return made.json().path("id").asLong();
  }

  private Visitor.Answer plan(long visit, String day, String start) {
    return gate.office()
        .put(
            "/api/visits/" + visit + "/plan",
            Map.of(
                "version",
                version(visit),
                "technicianId",
                program
                    .database()
                    .select(PERSON.ID)
                    .from(PERSON)
                    .where(PERSON.USERNAME.eq("piet"))
                    .fetchSingle()
                    .value1(),
                "day",
                day,
                "start",
                start,
                "expected",
                "5:00",
                "overruled",
                SwingGate.ANYTHING.stream().filter(clash -> !clash.equals("too_early")).toList()));
  }

  private int version(long visit) {
    return gate.office().get("/api/visits/" + visit + "/needs").json().path("version").asInt();
  }

  @Test
  void a_visit_is_not_planned_before_its_part_arrives() {
    String arrives = gate.day().plusDays(7).toString();
    assertThat(gate.office().put(path(), needs(1, arrives, null)).status()).isEqualTo(200);
    Visitor.Answer refused = plan(gate.visit(), gate.day().plusDays(6).toString(), "8");
    assertThat(refused.rule()).isEqualTo("TOO_EARLY");
    JsonNode times =
        gate.office().get("/api/visits/" + gate.visit() + "/times").json().path("times");
    assertThat(times)
        .isNotEmpty()
        .allSatisfy(
            time -> assertThat(time.path("day").asString()).isGreaterThanOrEqualTo(arrives));
    assertThat(plan(gate.visit(), arrives, "8").status()).isEqualTo(200);
  }

  private Visitor.Answer arrived(boolean there) {
    return gate.office()
        .put(
            "/api/visits/" + gate.visit() + "/part-arrival",
            Map.of("version", version(gate.visit()), "arrived", there));
  }

  private JsonNode waiting() {
    for (JsonNode visit :
        gate.office().get("/api/planner/days/" + gate.day()).json().path("waiting")) {
      if (visit.path("visitId").asLong() == gate.visit()) {
        return visit;
      }
    }
    throw new AssertionError("It does not wait.");
  }

  @Test
  void a_visit_whose_part_has_no_day_waits_until_it_has_arrived() {
    Map<String, Object> form = needs(1, null, null);
    form.put("part", "Ram FQ 24");
    assertThat(gate.office().put(path(), form).status()).isEqualTo(200);
    String day = gate.day().plusDays(3).toString();
    assertThat(plan(gate.visit(), day, "8").rule()).isEqualTo("TOO_EARLY");
    assertThat(gate.office().get("/api/visits/" + gate.visit() + "/times").json().path("times"))
        .isEmpty();
    assertThat(arrived(true).status()).isEqualTo(200);
    assertThat(waiting().path("awaitedPart").asString()).isEqualTo("Ram FQ 24");
    assertThat(waiting().path("partArrived").asBoolean()).isTrue();
    assertThat(plan(gate.visit(), day, "8").status()).isEqualTo(200);
  }

  @Test
  void a_part_that_comes_early_is_waited_for_no_longer_and_may_be_awaited_again() {
    Map<String, Object> form = needs(1, gate.day().plusDays(30).toString(), null);
    form.put("part", "Ram FQ 24");
    gate.office().put(path(), form);
    assertThat(arrived(true).status()).isEqualTo(200);
    assertThat(waiting().path("notBefore").isMissingNode() || waiting().path("notBefore").isNull())
        .isTrue();
    assertThat(arrived(false).status()).isEqualTo(200);
    assertThat(waiting().path("notBefore").asString()).startsWith(gate.day().plusDays(30) + "T");
    arrived(true);
    form.put("version", version(gate.visit()));
    form.put("part", "Hinge");
    gate.office().put(path(), form);
    assertThat(waiting().path("partArrived").asBoolean()).as("another part").isFalse();
  }

  @Test
  void a_visit_that_waits_for_no_part_hears_of_none() {
    assertThat(arrived(true).rule()).isEqualTo("NOT_FOUND");
  }

  @Test
  void a_visit_that_follows_another_waits_until_that_one_is_over() {
    long second = second();
    String day = gate.day().plusDays(3).toString();
    assertThat(plan(second, day, "8").rule()).isEqualTo("TOO_EARLY");
    assertThat(plan(gate.visit(), day, "8").status()).isEqualTo(200);
    assertThat(plan(second, day, "12:30").rule()).isEqualTo("TOO_EARLY");
    assertThat(plan(second, day, "13").status()).isEqualTo(200);
    assertThat(gate.sheet().path("visits")).hasSize(2);
  }

  @Test
  void no_visit_waits_for_itself_by_way_of_another_or_for_one_of_another_job() {
    long second = second();
    Visitor.Answer circle = gate.office().put(path(), needs(1, null, second));
    assertThat(circle.pointer()).isEqualTo("/followsId");
    assertThat(circle.rule()).isEqualTo("LEADS_IN_A_CIRCLE");
    assertThat(gate.office().put(path(), needs(1, null, gate.visit())).rule())
        .isEqualTo("LEADS_IN_A_CIRCLE");
    SwingGate other = new SwingGate(program, "piet").waiting();
    assertThat(gate.office().put(path(), needs(1, null, other.visit())).rule())
        .isEqualTo("UNREACHABLE");
  }

  @ParameterizedTest
  @CsvSource({
    "expected, '', MISSING",
    "expected, 0:01, EXCEEDS_LIMIT",
    "expected, 40:00, EXCEEDS_LIMIT",
    "notBefore, blursday, UNREADABLE",
    "notBefore, 2150-01-01, TOO_LARGE"
  })
  void what_cannot_be_waited_for_says_why(String field, String typed, String rule) {
    Map<String, Object> form = needs(1, null, null);
    form.put(field, typed);
    Visitor.Answer refused = gate.office().put(path(), form);
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.rule()).isEqualTo(rule);
  }

  @Test
  void whoever_changed_the_visit_first_wins_and_what_has_begun_waits_for_nothing() {
    assertThat(gate.office().put(path(), needs(1, "tomorrow", null)).status()).isEqualTo(200);
    assertThat(gate.office().put(path(), needs(1, null, null)).status()).isEqualTo(409);
    SwingGate begun = new SwingGate(program, "tobias").finished();
    assertThat(
            begun
                .office()
                .put(
                    "/api/visits/" + begun.visit() + "/needs",
                    needs(begun.visitVersion(), null, null))
                .rule())
        .isEqualTo("VISIT_BEGUN");
  }
}
