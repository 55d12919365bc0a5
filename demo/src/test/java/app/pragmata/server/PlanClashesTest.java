package app.pragmata.server;

import static app.pragmata.server.generated.Tables.BOOKING;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** What speaks against a plan, and times that are held. */
class PlanClashesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate first;
  private SwingGate second;

  @BeforeEach
  void prepare() {
    first = new SwingGate(program, "piet").waiting();
    second = new SwingGate(program, "piet").waiting();
  }

  private Map<String, Object> form(String start, Object... overruled) {
    var form = new HashMap<String, Object>();
    form.put("version", 1);
    form.put("technicianId", program.person("piet"));
    form.put("day", second.day().toString());
    form.put("start", start);
    form.put("expected", "1:30");
    form.put("overruled", List.of(overruled));
    return form;
  }

  private Visitor.Answer plan(SwingGate gate, Map<String, Object> form) {
    return gate.office().put("/api/visits/" + gate.visit() + "/plan", form);
  }

  private static List<String> rules(Visitor.Answer refused) {
    return faults(refused).map(fault -> fault.path("rule").asString()).toList();
  }

  private static Stream<JsonNode> faults(Visitor.Answer refused) {
    return StreamSupport.stream(refused.json().path("errors").spliterator(), false);
  }

  @Test
  void nobody_is_planned_at_two_places_unless_the_planner_overrules() {
    assertThat(plan(first, form("10")).status()).isEqualTo(200);
    Visitor.Answer refused = plan(second, form("11"));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.pointer()).isEqualTo("/overruled");
    assertThat(rules(refused)).containsExactly("OVERLAP");
    assertThat(refused.text()).contains("Piet");
    assertThat(second.sheet().path("visits").path(0).path("state").asString())
        .isEqualTo("unplanned");
    assertThat(plan(second, form("11", "overlap")).status()).isEqualTo(200);
    assertThat(block(second).path("overruled").path(0).asString()).isEqualTo("overlap");
  }

  private JsonNode block(SwingGate gate) {
    JsonNode day = gate.office().get("/api/planner/days/" + second.day()).json();
    for (JsonNode ribbon : day.path("ribbons")) {
      for (JsonNode block : ribbon.path("blocks")) {
        if (block.path("visitId").asLong() == gate.visit()) {
          return block;
        }
      }
    }
    throw new AssertionError("The visit is on nobody's day");
  }

  @ParameterizedTest
  @CsvSource({"21:00, OUTSIDE_HOURS", "6:00, OUTSIDE_HOURS"})
  void nobody_is_planned_outside_their_hours_unless_the_planner_overrules(
      String start, String rule) {
    assertThat(rules(plan(first, form(start)))).containsExactly(rule);
    assertThat(plan(first, form(start, rule.toLowerCase(java.util.Locale.ROOT))).status())
        .isEqualTo(200);
  }

  @Test
  void to_overrule_one_reason_is_not_to_overrule_another() {
    assertThat(plan(first, form("20")).status()).isEqualTo(422);
    plan(first, form("20", "outside_hours"));
    assertThat(rules(plan(second, form("20", "outside_hours")))).containsExactly("OVERLAP");
  }

  @Test
  void whoever_comes_along_is_not_planned_at_two_places_either() {
    plan(first, form("10"));
    Map<String, Object> crew = form("10:30");
    crew.put("technicianId", program.person("tobias"));
    crew.put("companionIds", List.of(program.person("piet")));
    Visitor.Answer refused = plan(second, crew);
    assertThat(rules(refused)).contains("OVERLAP");
    assertThat(refused.text()).contains("Piet");
  }

  @Test
  void the_database_itself_books_nobody_twice() {
    plan(first, form("10"));
    plan(second, form("13"));
    assertThatThrownBy(
            () ->
                program
                    .database()
                    .update(VISIT)
                    .set(VISIT.START_TIME, java.time.LocalTime.of(10, 30))
                    .where(VISIT.ID.eq(second.visit()))
                    .execute())
        .hasMessageContaining("booked_once");
  }

  @Test
  void what_is_over_takes_nobodys_time_any_longer() {
    plan(first, form("10"));
    first
        .office()
        .post("/api/visits/" + first.visit() + "/call-off", Map.of("version", 2, "reason", "Sold"));
    assertThat(plan(second, form("10")).status()).isEqualTo(200);
  }

  @ParameterizedTest
  @CsvSource({"2028-03-26, 1:30", "2028-10-29, 1:30"})
  void an_hour_that_the_clocks_skip_or_show_twice_is_no_start(String day, String start) {
    Map<String, Object> form = form(start, SwingGate.ANYTHING.toArray());
    form.put("day", day);
    Visitor.Answer refused = plan(first, form);
    assertThat(refused.pointer()).isEqualTo("/start");
    assertThat(refused.rule()).isEqualTo("NO_SUCH_TIME");
  }

  @Test
  void what_takes_three_days_is_planned_as_several_visits() {
    Map<String, Object> form = form("8");
    form.put("expected", "24:00");
    Visitor.Answer refused = plan(first, form);
    assertThat(refused.pointer()).isEqualTo("/expected");
    assertThat(refused.text()).contains("a visit for each day");
  }

  private Visitor.Answer hold(SwingGate gate, String at) {
    return gate.office()
        .post(
            "/api/planner/holds",
            Map.of("personId", program.person("piet"), "day", second.day().toString(), "at", at));
  }

  @Test
  void a_time_that_is_held_is_kept_from_others_and_given_to_its_own_visit() {
    long hold = hold(first, "9-11").json().path("id").asLong();
    assertThat(rules(plan(second, form("10")))).containsExactly("HELD");
    assertThat(rules(hold(second, "10-12"))).containsExactly("HELD");
    Map<String, Object> its = form("9");
    its.put("holdId", hold);
    assertThat(plan(first, its).status()).isEqualTo(200);
    assertThat(program.database().fetchCount(BOOKING, BOOKING.ID.eq(hold))).isZero();
  }

  @Test
  void a_hold_ends_by_itself_and_then_says_so() {
    long hold = hold(first, "9-11").json().path("id").asLong();
    program.clock().advance(Duration.ofMinutes(6));
    assertThat(plan(second, form("9:30")).status()).isEqualTo(200);
    Map<String, Object> late = form("9");
    late.put("holdId", hold);
    assertThat(rules(plan(first, late))).containsExactly("OVERLAP");
  }

  @Test
  void whoever_holds_a_time_sees_it_wherever_they_are_and_may_hold_it_longer() {
    Visitor office = first.office();
    long hold = hold(first, "9-11").json().path("id").asLong();
    JsonNode own = office.get("/api/planner/holds").json().path("holds").path(0);
    assertThat(own.path("holdId").asLong()).isEqualTo(hold);
    assertThat(own.path("start").asString()).isEqualTo("09:00:00");
    assertThat(Visitor.signedIn(program, "orla").get("/api/planner/holds").json().path("holds"))
        .isEmpty();
    program.clock().advance(Duration.ofMinutes(4));
    assertThat(office.post("/api/planner/holds/" + hold + "/longer", Map.of()).status())
        .isEqualTo(200);
    program.clock().advance(Duration.ofMinutes(4));
    assertThat(rules(plan(second, form("10")))).containsExactly("HELD");
    program.clock().advance(Duration.ofMinutes(2));
    assertThat(office.post("/api/planner/holds/" + hold + "/longer", Map.of()).rule())
        .isEqualTo("HOLD_EXPIRED");
    assertThat(plan(second, form("10")).status()).isEqualTo(200);
  }

  @Test
  void of_two_planners_who_move_one_visit_at_the_same_moment_one_wins_and_the_other_is_told()
      throws Exception {
    assertThat(plan(first, form("10")).status()).isEqualTo(200);
    List<Visitor> desks = List.of(first.office(), Visitor.signedIn(program, "orla"));
    List<Integer> statuses =
        AtOnce.statuses(
            2,
            desk -> {
              Map<String, Object> form = form(desk == 0 ? "12" : "14");
              form.put("version", 2);
              return desks.get(desk).put("/api/visits/" + first.visit() + "/plan", form);
            });
    assertThat(statuses).containsExactlyInAnyOrder(200, 409);
    assertThat(block(first).path("at").path("from").asInt()).isIn(12 * 60, 14 * 60);
  }

  @Test
  void two_who_take_the_same_time_at_the_same_moment_do_not_both_get_it() throws Exception {
    List<SwingGate> gates = List.of(first, second);
    List<Visitor> desks = List.of(first.office(), Visitor.signedIn(program, "orla"));
    List<Integer> statuses =
        AtOnce.statuses(
            2,
            desk ->
                desks
                    .get(desk)
                    .put("/api/visits/" + gates.get(desk).visit() + "/plan", form("10")));
    assertThat(statuses).containsExactlyInAnyOrder(200, 422);
  }

  @Test
  void nobody_ends_what_somebody_else_holds() {
    long hold = hold(first, "9-11").json().path("id").asLong();
    Visitor owner = Visitor.signedIn(program, "orla");
    assertThat(owner.delete("/api/planner/holds/" + hold).status()).isEqualTo(200);
    Map<String, Object> theirs = form("9");
    theirs.put("holdId", hold);
    assertThat(rules(owner.put("/api/visits/" + second.visit() + "/plan", theirs)))
        .containsExactly("HELD");
  }

  @Test
  void a_hold_can_be_given_back_twice() {
    long hold = hold(first, "9-11").json().path("id").asLong();
    assertThat(first.office().delete("/api/planner/holds/" + hold).status()).isEqualTo(200);
    assertThat(first.office().delete("/api/planner/holds/" + hold).status()).isEqualTo(200);
    assertThat(plan(second, form("10")).status()).isEqualTo(200);
  }

  @ParameterizedTest
  @CsvSource({
    "tomorrowish, 9-11, /day",
    "'', 9-11, /day",
    "2099-01-01, 9-11, /day",
    "yesterday, 9-11, /day"
  })
  void a_hold_of_a_day_that_is_none_says_which_day(String day, String at, String pointer) {
    Visitor.Answer refused =
        first
            .office()
            .post(
                "/api/planner/holds",
                Map.of("personId", program.person("piet"), "day", day, "at", at));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.pointer()).isEqualTo(pointer);
  }
}
