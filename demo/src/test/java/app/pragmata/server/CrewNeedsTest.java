package app.pragmata.server;

import static app.pragmata.server.generated.Tables.BOOKING;
import static app.pragmata.server.generated.Tables.PLAN_PROPOSAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.planning.ProposalState;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Jobs to which several go together, for all of the visit or for some hours of it. */
class CrewNeedsTest {
  private static final ZoneId ZONE = ZoneId.of("Europe/London");
  private static final DateTimeFormatter IN_CALENDAR =
      DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

  private final RunningPragmata program = RunningPragmata.forTests();

  /** All that may be put up with but what these tests are about. */
  private static final List<String> NOT_AT_TWO_PLACES =
      SwingGate.ANYTHING.stream()
          .filter(clash -> !List.of("crew_too_small", "overlap").contains(clash))
          .toList();

  private SwingGate gate;
  private Visitor office;

  @BeforeEach
  void prepare() {
    // Beyond what the demo has planned.
    do {
      gate = new SwingGate(program, "piet");
    } while (gate.day().isBefore(LocalDate.of(2026, 12, 20)));
    gate.waiting();
    office = gate.office();
  }

  @AfterEach
  void everybodyIsFreeAgain() {
    office.post("/api/visits/" + gate.visit() + "/unplan", Map.of("version", gate.visitVersion()));
  }

  private Visitor.Answer need(Integer crewSize, List<Long> skillIds) {
    var form = new HashMap<String, Object>();
    form.put("version", gate.version());
    form.put("crewSize", crewSize);
    form.put("skillIds", skillIds);
    return office.put("/api/jobs/" + gate.job() + "/needs", form);
  }

  private Map<String, Object> form(SwingGate of, String start, List<Long> companions) {
    var form = new HashMap<String, Object>();
    form.put("version", of.visitVersion());
    form.put("technicianId", program.person("piet"));
    form.put("companionIds", companions);
    form.put("day", gate.day().plusDays(1).toString());
    form.put("start", start);
    form.put("expected", "4:00");
    form.put("overruled", NOT_AT_TWO_PLACES);
    return form;
  }

  private Visitor.Answer plan(SwingGate of, String start, List<Long> companions) {
    return office.put("/api/visits/" + of.visit() + "/plan", form(of, start, companions));
  }

  private JsonNode times(String query) {
    Visitor.Answer answer = office.get("/api/visits/" + gate.visit() + "/times" + query);
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return answer.json().path("times");
  }

  @Test
  void a_job_that_needs_two_is_not_planned_with_one_unless_the_planner_overrules() {
    assertThat(need(2, List.of()).status()).isEqualTo(200);
    Visitor.Answer refused = plan(gate, "8", List.of());
    assertThat(refused.rule()).isEqualTo("CREW_TOO_SMALL");
    assertThat(plan(gate, "8", List.of(program.person("dilys"))).status()).isEqualTo(200);
  }

  @Test
  void a_job_needs_what_its_kind_does_again_when_nothing_is_said() {
    need(3, List.of());
    JsonNode own = office.get("/api/jobs/" + gate.job() + "/needs").json();
    assertThat(own.path("crewSize").asInt()).isEqualTo(3);
    assertThat(own.path("asKind").asBoolean()).isFalse();
    assertThat(need(null, List.of()).status()).isEqualTo(200);
    JsonNode again = office.get("/api/jobs/" + gate.job() + "/needs").json();
    assertThat(again.path("crewSize").asInt()).isOne();
    assertThat(again.path("asKind").asBoolean()).isTrue();
  }

  @ParameterizedTest
  @CsvSource({"0, 1, EXCEEDS_LIMIT", "11, 1, EXCEEDS_LIMIT", "2, 999999, NOT_FOUND"})
  void needs_that_nobody_can_have_are_refused(int crewSize, long skill, String rule) {
    Visitor.Answer refused = need(crewSize, skill == 1 ? List.of() : List.of(skill));
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(office.get("/api/jobs/" + gate.job() + "/needs").json().path("asKind").asBoolean())
        .isTrue();
  }

  @Test
  void more_skills_than_a_crew_is_searched_for_are_refused() {
    List<Long> seven = List.of(1L, 2L, 3L, 4L, 5L, 6L, 7L);
    assertThat(need(2, seven).text()).contains("At most six skills");
  }

  @Test
  void times_are_found_at_which_as_many_can_come_as_are_needed_and_can_be_taken() {
    need(2, List.of());
    JsonNode best = times("?from=" + gate.day().plusDays(1) + "&expected=4:00").path(0);
    assertThat(best.path("companions")).hasSize(1);
    Map<String, Object> form =
        form(
            gate,
            best.path("start").asString().substring(0, 5),
            List.of(best.path("companions").path(0).path("id").asLong()));
    form.put("technicianId", best.path("personId").asLong());
    form.put("day", best.path("day").asString());
    form.put("overruled", List.of());
    Visitor.Answer planned = office.put("/api/visits/" + gate.visit() + "/plan", form);
    assertThat(planned.status()).as(planned.text()).isEqualTo(200);
  }

  @Test
  void whoever_is_wanted_comes_with_the_others() {
    need(2, List.of());
    long dilys = program.person("dilys");
    JsonNode times = times("?technicianId=" + dilys);
    assertThat(times)
        .isNotEmpty()
        .allSatisfy(
            time ->
                assertThat(
                        time.path("personId").asLong() == dilys
                            || time.path("companions").path(0).path("id").asLong() == dilys)
                    .isTrue());
    assertThat(times("?crewSize=1").path(0).path("companions")).isEmpty();
    assertThat(office.get("/api/visits/" + gate.visit() + "/times?crewSize=0").status())
        .isEqualTo(422);
  }

  @Test
  void a_proposal_sends_as_many_as_are_needed() {
    need(2, List.of());
    Visitor.Answer made =
        office.post(
            "/api/planner/proposals",
            Map.of(
                "firstDay", gate.day().plusDays(1).toString(),
                "lastDay", gate.day().plusDays(7).toString(),
                "technicianIds", List.of(),
                "visitIds", List.of(gate.visit()),
                "seconds", 1));
    long id = made.json().path("id").asLong();
    RunningPragmata.until(
        () ->
            program
                .database()
                .fetchExists(
                    PLAN_PROPOSAL,
                    PLAN_PROPOSAL.ID.eq(id).and(PLAN_PROPOSAL.STATE.eq(ProposalState.FOUND))));
    JsonNode visit = office.get("/api/planner/proposals/" + id).json().path("visits").path(0);
    long companion = visit.path("companions").path(0).path("id").asLong();
    assertThat(companion).isPositive();
    JsonNode taken =
        office
            .post(
                "/api/planner/plans",
                Map.of(
                    "moves",
                    List.of(
                        Map.of(
                            "visitId", gate.visit(),
                            "version", visit.path("version").asInt(),
                            "technicianId", visit.path("personId").asLong(),
                            "companionIds", List.of(companion),
                            "day", visit.path("day").asString(),
                            "start", visit.path("start").asString(),
                            "minutes", visit.path("expectedMinutes").asInt()))))
            .json();
    assertThat(taken.path("planned").asInt()).isOne();
    assertThat(gate.sheet().path("visits").path(0).path("companions").path(0).path("id").asLong())
        .isEqualTo(companion);
  }

  private Visitor.Answer hours(String typed) {
    return office.put(
        "/api/visits/" + gate.visit() + "/crew/" + program.person("dilys") + "/hours",
        Map.of("version", gate.visitVersion(), "hours", typed, "overruled", NOT_AT_TWO_PLACES));
  }

  private JsonNode companion() {
    return gate.sheet().path("visits").path(0).path("companions").path(0);
  }

  @Test
  void whoever_comes_for_some_hours_is_free_for_another_visit_before_and_after() {
    plan(gate, "8", List.of(program.person("dilys")));
    SwingGate other = new SwingGate(program, "piet").waiting();
    Map<String, Object> alone = form(other, "8", List.of());
    alone.put("technicianId", program.person("dilys"));
    alone.put("expected", "1:00");
    assertThat(office.put("/api/visits/" + other.visit() + "/plan", alone).rule())
        .isEqualTo("OVERLAP");
    assertThat(hours("9:30 to 11").status()).isEqualTo(200);
    assertThat(companion().path("from").asString()).isEqualTo("09:30:00");
    assertThat(office.put("/api/visits/" + other.visit() + "/plan", alone).status()).isEqualTo(200);
    assertThat(hours("").rule()).as("all of it again").isEqualTo("OVERLAP");
  }

  @Test
  void whoever_comes_for_some_hours_sees_those_on_their_phone_and_in_their_calendar() {
    plan(gate, "8", List.of(program.person("dilys")));
    assertThat(hours("9:30 to 11").status()).isEqualTo(200);
    Visitor dilys = Visitor.signedIn(program, "dilys");
    JsonNode visit = dilys.get("/api/pocket/visits/" + gate.visit()).json();
    assertThat(visit.path("start").asString()).isEqualTo("09:30:00");
    assertThat(visit.path("expectedMinutes").asInt()).isEqualTo(90);
    gate.nextDayAt("07:00");
    JsonNode stops = dilys.get("/api/pocket/day").json().path("stops");
    assertThat(stops)
        .anySatisfy(
            stop -> {
              assertThat(stop.path("visitId").asLong()).isEqualTo(gate.visit());
              assertThat(stop.path("start").asString()).isEqualTo("09:30:00");
            });
    String calendar =
        dilys.post("/api/pocket/calendar", Map.of()).json().path("address").asString();
    assertThat(dilys.get(calendar.substring(calendar.indexOf("/api/"))).text())
        .contains(
            "DTSTART:" + IN_CALENDAR.format(gate.day().plusDays(1).atTime(9, 30).atZone(ZONE)));
  }

  @Test
  void the_hours_of_whoever_comes_along_move_with_the_visit_and_end_with_it() {
    plan(gate, "8", List.of(program.person("dilys")));
    hours("9:30 to 11:30");
    plan(gate, "10", List.of(program.person("dilys")));
    assertThat(companion().path("from").asString()).isEqualTo("11:30:00");
    Map<String, Object> shorter = form(gate, "10", List.of(program.person("dilys")));
    shorter.put("expected", "2:00");
    assertThat(office.put("/api/visits/" + gate.visit() + "/plan", shorter).status())
        .isEqualTo(200);
    assertThat(companion().path("to").asString()).isEqualTo("12:00:00");
    shorter.put("version", gate.visitVersion());
    shorter.put("expected", "1:00");
    office.put("/api/visits/" + gate.visit() + "/plan", shorter);
    assertThat(companion().path("from").isNull()).isTrue();
    List<LocalDateTime> ends =
        program
            .database()
            .selectFrom(BOOKING)
            .where(BOOKING.VISIT_ID.eq(gate.visit()))
            .fetch(BOOKING.ENDS);
    assertThat(ends).hasSize(2).containsOnly(gate.day().plusDays(1).atTime(11, 0));
  }

  @ParameterizedTest
  @CsvSource({"7 to 9, EXCEEDS_LIMIT", "11 to 9, ENDS_BEFORE_START", "soon, UNREADABLE"})
  void hours_that_make_no_sense_are_refused_at_their_field(String typed, String rule) {
    Map<String, Object> form = form(gate, "8", List.of(program.person("dilys")));
    form.put("overruled", SwingGate.ANYTHING);
    office.put("/api/visits/" + gate.visit() + "/plan", form);
    Visitor.Answer refused = hours(typed);
    assertThat(refused.status()).as(refused.text()).isEqualTo(422);
    assertThat(refused.pointer()).isEqualTo("/hours");
    assertThat(refused.rule()).isEqualTo(rule);
  }

  @Test
  void whoever_does_not_come_along_has_no_hours() {
    plan(gate, "8", List.of());
    assertThat(hours("9 to 10").status()).isEqualTo(404);
  }

  @Test
  void a_crew_of_which_somebody_is_ill_gets_somebody_else_for_all_days_of_the_illness() {
    need(2, List.of());
    plan(gate, "8", List.of(program.person("dilys")));
    long dilys = program.person("dilys");
    String path = "/api/technicians/" + dilys + "/days/" + gate.day() + "/relay";
    assertThat(moves(office.get(path).json())).as("of the first day alone").isEmpty();
    JsonNode proposal = office.get(path + "?until=" + gate.day().plusDays(3)).json();
    assertThat(moves(proposal)).hasSize(1);
    JsonNode found = moves(proposal).getFirst().path("found");
    List<Long> crew = new ArrayList<>(List.of(found.path("personId").asLong()));
    found.path("companions").forEach(each -> crew.add(each.path("id").asLong()));
    assertThat(crew).hasSize(2).doesNotContain(dilys);
    assertThat(found.path("day").asString())
        .isGreaterThanOrEqualTo(gate.day().plusDays(1).toString());
    assertThat(office.get(path + "?until=" + gate.day().plusDays(40)).status()).isEqualTo(422);
    assertThat(office.get(path + "?until=" + gate.day().minusDays(1)).status()).isEqualTo(422);
  }

  private List<JsonNode> moves(JsonNode proposal) {
    var moves = new ArrayList<JsonNode>();
    for (JsonNode move : proposal.path("moves")) {
      if (move.path("visitId").asLong() == gate.visit()) {
        moves.add(Objects.requireNonNull(move));
      }
    }
    return moves;
  }
}
