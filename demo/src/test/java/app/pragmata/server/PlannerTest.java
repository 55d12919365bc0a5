package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** A day of everybody, the best times for a visit, and what technicians know and when they work. */
class PlannerTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias");
  private final Visitor office = gate.office();
  private final long tobias = program.person("tobias");
  private final List<Long> absences = new ArrayList<>();

  @AfterEach
  void everybodyIsThereAgain() {
    absences.forEach(id -> office.delete("/api/absences/" + id));
  }

  private JsonNode ribbon() {
    return ribbon(gate.day().toString());
  }

  private JsonNode ribbon(String on) {
    JsonNode day = office.get("/api/planner/days/" + on).json();
    for (JsonNode ribbon : day.path("ribbons")) {
      if (ribbon.path("personId").asLong() == tobias) {
        return ribbon;
      }
    }
    throw new AssertionError("not a technician: " + day);
  }

  private JsonNode block() {
    return block(gate.day().toString());
  }

  private JsonNode block(String on) {
    for (JsonNode block : ribbon(on).path("blocks")) {
      if (block.path("visitId").asLong() == gate.visit()) {
        return block;
      }
    }
    throw new AssertionError("not on the ribbon");
  }

  private List<String> clashes() {
    return texts(block().path("clashes"));
  }

  private static List<String> texts(JsonNode list) {
    var texts = new ArrayList<String>();
    list.forEach(text -> texts.add(text.asString()));
    return texts;
  }

  private JsonNode times(String query) {
    Visitor.Answer answer = office.get("/api/visits/" + gate.visit() + "/times" + query);
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return answer.json().path("times");
  }

  private Visitor.Answer beAway(Map<String, Object> differing) {
    var form = new HashMap<String, Object>();
    form.put("kind", "training");
    form.put("firstDay", gate.day().toString());
    form.put("lastDay", "");
    form.put("starts", "");
    form.put("ends", "");
    form.put("note", "");
    form.putAll(differing);
    Visitor.Answer answer = office.post("/api/technicians/" + tobias + "/absences", form);
    if (answer.status() == 200) {
      absences.add(answer.json().path("id").asLong());
    }
    return answer;
  }

  @Test
  void a_planned_visit_stands_on_its_ribbon_with_the_drives_to_it_and_home() {
    gate.planned();
    JsonNode block = block();
    assertThat(block.path("state").asString()).isEqualTo("planned");
    assertThat(block.path("jobNumber").asLong()).isPositive();
    JsonNode drive = null;
    int minutes = 0;
    for (JsonNode each : ribbon().path("drives")) {
      drive = each.path("toVisitId").asLong() == gate.visit() ? each : drive;
      minutes += each.path("minutes").asInt();
    }
    assertThat(drive.path("from").asInt() + drive.path("minutes").asInt())
        .isEqualTo(block.path("at").path("from").asInt());
    assertThat(ribbon().path("drivingMinutes").asInt()).isEqualTo(minutes);
  }

  @Test
  void a_day_is_asked_for_as_people_type_it() {
    assertThat(office.get("/api/planner/days/tomorrow").json().path("day").asString())
        .isEqualTo(gate.day().plusDays(1).toString());
  }

  @Test
  void a_visit_without_a_time_waits_until_it_has_one() {
    gate.waiting();
    assertThat(waits()).isTrue();
    gate.planned();
    assertThat(waits()).isFalse();
  }

  private boolean waits() {
    for (JsonNode visit : office.get("/api/planner/days/" + gate.day()).json().path("waiting")) {
      if (visit.path("visitId").asLong() == gate.visit()) {
        return true;
      }
    }
    return false;
  }

  @Test
  void a_time_that_was_found_can_be_taken_and_clashes_with_nothing() {
    gate.waiting();
    JsonNode best = times("?technicianId=" + tobias + "&from=" + gate.day()).get(0);
    Visitor.Answer planned =
        office.put(
            "/api/visits/" + gate.visit() + "/plan",
            Map.of(
                "version", 1,
                "technicianId", best.path("personId").asLong(),
                "companionIds", List.of(),
                "day", best.path("day").asString(),
                "start", best.path("start").asString().substring(0, 5),
                "expected", "1:30"));
    assertThat(planned.status()).as(planned.text()).isEqualTo(200);
    assertThat(block(best.path("day").asString()).path("clashes")).isEmpty();
  }

  @Test
  void three_times_are_offered_the_best_first_and_each_says_what_it_adds() {
    gate.waiting();
    JsonNode times = times("");
    assertThat(times).hasSize(3);
    for (JsonNode time : times) {
      assertThat(time.path("person").asString()).isNotEmpty();
      assertThat(time.path("lateMinutes").asInt()).isZero();
    }
  }

  @Test
  void the_afternoon_begins_at_noon() {
    gate.waiting();
    for (JsonNode time : times("?part=afternoon")) {
      assertThat(time.path("start").asString()).isGreaterThanOrEqualTo("12:00");
    }
  }

  @Test
  void whoever_is_away_is_not_offered_and_what_was_planned_for_then_is_marked() {
    gate.planned();
    assertThat(clashes()).doesNotContain("absent");
    assertThat(beAway(Map.of()).status()).isEqualTo(200);
    assertThat(clashes()).contains("absent");
    assertThat(ribbon().path("away").get(0).path("kind").asString()).isEqualTo("training");
    for (JsonNode time : times("?technicianId=" + tobias + "&from=" + gate.day())) {
      assertThat(time.path("day").asString()).isNotEqualTo(gate.day().toString());
    }
  }

  @Test
  void an_absence_that_is_taken_back_was_none() {
    gate.planned();
    beAway(Map.of());
    String path = "/api/absences/" + absences.getFirst();
    assertThat(office.delete(path).status()).isEqualTo(200);
    assertThat(clashes()).doesNotContain("absent");
    assertThat(office.delete(path).status()).as("the same press again").isEqualTo(200);
  }

  @Test
  void a_part_of_a_day_away_leaves_the_rest() {
    gate.planned();
    beAway(Map.of("starts", "6:00", "ends", "7:00"));
    assertThat(clashes()).doesNotContain("absent");
    assertThat(beAway(Map.of("starts", "7:00", "ends", "17:00")).status())
        .as("right after it")
        .isEqualTo(200);
    assertThat(clashes()).contains("absent");
  }

  @ParameterizedTest
  @CsvSource({
    "lastDay, 2026-11-02, /lastDay",
    "starts, 13:00, /ends",
    "ends, 13:00, /starts",
    "firstDay, 2099-01-01, /firstDay",
    "firstDay, someday, /firstDay",
    "lastDay, 2099-01-01, /lastDay",
  })
  void an_absence_that_makes_no_sense_is_refused_at_its_field(
      String field, String value, String pointer) {
    Visitor.Answer refused = beAway(Map.of(field, value));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.pointer()).isEqualTo(pointer);
  }

  @Test
  void nobody_is_away_twice_at_the_same_time() {
    beAway(Map.of("starts", "8:00", "ends", "12:00"));
    Visitor.Answer again = beAway(Map.of());
    assertThat(again.status()).isEqualTo(422);
    assertThat(again.text()).contains("They are away then already");
  }

  @Test
  void an_absence_of_somebody_in_the_office_is_none_of_the_planners() {
    Visitor.Answer refused =
        office.post(
            "/api/technicians/" + program.person("maud") + "/absences",
            Map.of("kind", "illness", "firstDay", "today"));
    assertThat(refused.status()).isEqualTo(404);
  }

  @Test
  void what_clashes_is_said_before_it_is_done() {
    gate.planned();
    String asked =
        "/api/visits/%d/clashes?technicianId=%d&day=%s&minutes=60&start="
            .formatted(gate.visit(), tobias, gate.day());
    assertThat(texts(office.get(asked + "10:00").json().path("clashes")))
        .doesNotContain("outside_hours");
    assertThat(texts(office.get(asked + "03:00").json().path("clashes"))).contains("outside_hours");
  }

  @ParameterizedTest
  @CsvSource({
    "/api/planner/days/2099-01-01, 422",
    "/api/planner/days/soon, 422",
    "/api/planner/weeks/2099-01-01, 422",
    "/api/planner/months/soon, 400",
    "/api/visits/999999999/times, 404",
    "/api/visits/VISIT/times?part=night, 422",
    "/api/visits/VISIT/times?from=whenever, 422",
    "/api/visits/VISIT/times?expected=40:00, 422",
    "/api/visits/VISIT/clashes?technicianId=1&day=DAY&start=08:00&minutes=0, 422",
    "/api/visits/VISIT/clashes?technicianId=1&day=DAY&start=08:00&minutes=60, 404",
  })
  void what_cannot_be_answered_is_refused(String path, int status) {
    gate.planned();
    String asked =
        path.replace("VISIT", String.valueOf(gate.visit())).replace("DAY", gate.day().toString());
    assertThat(office.get(asked).status()).isEqualTo(status);
  }

  private JsonNode availability() {
    return office.get("/api/settings/availability").json();
  }

  private int version() {
    return availability().path("version").asInt();
  }

  private JsonNode tobiasOf(JsonNode availability) {
    for (JsonNode technician : availability.path("technicians")) {
      if (technician.path("personId").asLong() == tobias) {
        return technician;
      }
    }
    throw new AssertionError("not listed");
  }

  @Test
  void whoever_lacks_what_the_kind_of_job_asks_for_is_not_offered_and_is_marked() {
    gate.planned();
    long repair = 0;
    for (JsonNode kind : office.get("/api/settings/kinds-of-job").json().path("kinds")) {
      repair = kind.path("name").asString().equals("Repair") ? kind.path("id").asLong() : repair;
    }
    JsonNode added =
        office
            .post(
                "/api/settings/skills",
                Map.of(
                    "version", version(),
                    "name", "Rope access " + gate.visit(),
                    "kindOfJobIds", List.of(repair)))
            .json();
    long skill = 0;
    for (JsonNode each : added.path("skills")) {
      skill = each.path("name").asString().startsWith("Rope") ? each.path("id").asLong() : skill;
    }
    JsonNode before = tobiasOf(added).path("skills");
    assertThat(clashes()).contains("skill_missing");
    assertThat(times("")).isEmpty();

    know(before, Map.of("skillId", skill, "until", gate.day().toString()));
    assertThat(clashes()).as("on its last day").doesNotContain("skill_missing");
    know(before, Map.of("skillId", skill, "until", gate.day().minusDays(1).toString()));
    assertThat(clashes()).as("run out").contains("skill_missing");

    Visitor.Answer used = office.delete("/api/settings/skills/" + skill + "?version=" + version());
    assertThat(used.status()).isEqualTo(422);
    know(before, null);
    office.put(
        "/api/settings/skills/" + skill,
        Map.of("version", version(), "name", "Rope access", "kindOfJobIds", List.of()));
    assertThat(office.delete("/api/settings/skills/" + skill + "?version=" + version()).status())
        .isEqualTo(200);
  }

  /** Tobias knows what he knew, and one thing more. */
  private void know(JsonNode before, Map<String, Object> more) {
    var skills = new ArrayList<Map<String, Object>>();
    before.forEach(
        held ->
            skills.add(
                Map.of(
                    "skillId", held.path("skillId").asLong(),
                    "until", held.path("until").asString(""))));
    if (more != null) {
      skills.add(more);
    }
    Visitor.Answer kept =
        office.put(
            "/api/settings/availability/" + tobias + "/skills",
            Map.of("version", version(), "skills", skills));
    assertThat(kept.status()).as(kept.text()).isEqualTo(200);
  }

  private Map<String, Object> week(String fromDay, String everyDay) {
    var form = new HashMap<String, Object>();
    form.put("version", version());
    form.put("fromDay", fromDay);
    for (String day : List.of("monday", "tuesday", "wednesday", "thursday", "friday")) {
      form.put(day, everyDay);
    }
    return form;
  }

  @Test
  void a_week_holds_from_its_day_until_the_next_one() {
    gate.planned();
    String path = "/api/settings/availability/" + tobias + "/week";
    assertThat(office.put(path, week(gate.day().toString(), "20:00 to 22:00")).status())
        .isEqualTo(200);
    assertThat(clashes()).contains("outside_hours");
    assertThat(office.put(path, week(gate.day().toString(), "8:00 to 18:00")).status())
        .isEqualTo(200);
    assertThat(clashes()).doesNotContain("outside_hours");
    JsonNode first = ribbon().path("working").get(0);
    assertThat(first.path("from").asInt()).isEqualTo(480);
    assertThat(first.path("to").asInt()).isEqualTo(1080);
  }

  @ParameterizedTest
  @CsvSource({
    "monday, 17 to 8, /monday",
    "sunday, all day, /sunday",
    "fromDay, 2026-01-01, /fromDay"
  })
  void a_week_that_cannot_be_read_is_refused_at_its_field(
      String field, String value, String pointer) {
    Map<String, Object> form = week("today", "8 to 17");
    form.put(field, value);
    Visitor.Answer refused = office.put("/api/settings/availability/" + tobias + "/week", form);
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.pointer()).isEqualTo(pointer);
  }

  @Test
  void nobody_changes_a_week_from_an_old_picture() {
    Map<String, Object> form = week("today", "8 to 17");
    form.put("version", version() - 1);
    assertThat(office.put("/api/settings/availability/" + tobias + "/week", form).status())
        .isEqualTo(409);
  }

  private JsonNode move(JsonNode proposal) {
    for (JsonNode move : proposal.path("moves")) {
      if (move.path("visitId").asLong() == gate.visit()) {
        return move;
      }
    }
    throw new AssertionError("nothing is proposed for it: " + proposal);
  }

  private static Map<String, Object> taken(JsonNode move) {
    return Map.of(
        "visitId", move.path("visitId").asLong(),
        "version", move.path("version").asInt(),
        "technicianId", move.path("found").path("personId").asLong(),
        "day", move.path("found").path("day").asString(),
        "start", move.path("found").path("start").asString(),
        "minutes", move.path("expectedMinutes").asInt());
  }

  @Test
  void the_day_of_whoever_is_ill_is_laid_on_the_others_and_the_calls_are_noted() {
    gate.planned();
    beAway(Map.of("kind", "illness"));
    JsonNode proposal =
        office.get("/api/technicians/" + tobias + "/days/" + gate.day() + "/relay").json();
    JsonNode move = move(proposal);
    assertThat(move.path("found").path("personId").asLong()).isNotEqualTo(tobias);
    Visitor.Answer relaid =
        office.post(
            "/api/planner/relays",
            Map.of("moves", List.of(taken(move))),
            "relay of " + gate.visit());

    assertThat(relaid.status()).as(relaid.text()).isEqualTo(200);
    JsonNode visit = gate.sheet().path("visits").get(0);
    assertThat(visit.path("technicianId").asLong())
        .isEqualTo(move.path("found").path("personId").asLong());
    assertThat(visit.path("day").asString()).isEqualTo(move.path("found").path("day").asString());
    assertThat(relaid.json().path("calls").asInt())
        .isEqualTo(move.path("ring").asBoolean() ? 1 : 0);
    assertThat(
            office
                .post(
                    "/api/planner/relays",
                    Map.of("moves", List.of(taken(move))),
                    "relay of " + gate.visit())
                .text())
        .as("the same press again")
        .isEqualTo(relaid.text());
  }

  @Test
  void whoever_cannot_be_placed_is_rung() {
    gate.planned();
    Visitor.Answer relaid =
        office.post("/api/planner/relays", Map.of("unplaced", List.of(gate.visit())));
    assertThat(relaid.json().path("calls").asInt()).isEqualTo(1);
    assertThat(office.get("/api/to-dos?filter=nobody can come".replace(" ", "%20")).text())
        .contains("nobody can come as planned");
  }

  @Test
  void a_plan_that_somebody_changed_meanwhile_wins_over_the_whole_proposal() {
    gate.planned();
    JsonNode move =
        move(office.get("/api/technicians/" + tobias + "/days/" + gate.day() + "/relay").json());
    var stale = new HashMap<>(taken(move));
    stale.put("version", move.path("version").asInt() - 1);
    assertThat(office.post("/api/planner/relays", Map.of("moves", List.of(stale))).status())
        .isEqualTo(409);
    assertThat(gate.sheet().path("visits").get(0).path("technicianId").asLong()).isEqualTo(tobias);
  }

  @Test
  void no_visit_is_moved_twice_in_one_proposal() {
    gate.planned();
    assertThat(
            office
                .post(
                    "/api/planner/relays", Map.of("unplaced", List.of(gate.visit(), gate.visit())))
                .status())
        .isEqualTo(422);
  }

  private JsonNode load(String view) {
    JsonNode loads = office.get("/api/planner/" + view + "/" + gate.day()).json();
    for (JsonNode technician : loads.path("technicians")) {
      for (JsonNode day : technician.path("days")) {
        if (technician.path("personId").asLong() == tobias
            && day.path("day").asString().equals(gate.day().toString())) {
          return day;
        }
      }
    }
    throw new AssertionError("no such day: " + loads);
  }

  @ParameterizedTest
  @CsvSource({"weeks", "months"})
  void a_day_is_as_full_as_its_visits_and_drives(String view) {
    gate.planned();
    JsonNode ribbon = ribbon();
    int work = 0;
    for (JsonNode block : ribbon.path("blocks")) {
      work += block.path("at").path("to").asInt() - block.path("at").path("from").asInt();
    }
    JsonNode load = load(view);
    assertThat(load.path("workMinutes").asInt()).isEqualTo(work);
    assertThat(load.path("drivingMinutes").asInt())
        .isEqualTo(ribbon.path("drivingMinutes").asInt());
    double percent =
        100.0
            * (load.path("workMinutes").asInt() + load.path("drivingMinutes").asInt())
            / load.path("atWorkMinutes").asInt();
    assertThat(load.path("percent").asInt()).isEqualTo((int) Math.floor(percent + 0.5));
    assertThat(load.path("count").asInt()).isEqualTo(ribbon.path("blocks").size());
  }

  @Test
  void a_day_away_has_no_share_and_its_visits_are_to_be_looked_at() {
    gate.planned();
    beAway(Map.of());
    JsonNode load = load("weeks");
    assertThat(load.path("percent").isNull()).isTrue();
    assertThat(load.path("away").asString()).isEqualTo("training");
    assertThat(load.path("clashing").asInt()).isPositive();
  }

  @Test
  void a_week_begins_on_monday_and_a_month_on_its_first() {
    program.clock().set("2026-11-24T10:00");
    JsonNode week = office.get("/api/planner/weeks/2026-12-02").json();
    assertThat(week.path("from").asString()).isEqualTo("2026-11-30");
    assertThat(week.path("to").asString()).isEqualTo("2026-12-06");
    JsonNode month = office.get("/api/planner/months/2026-12-02").json();
    assertThat(month.path("from").asString()).isEqualTo("2026-12-01");
    assertThat(month.path("to").asString()).isEqualTo("2026-12-31");
  }

  @Test
  void the_map_has_every_end_of_every_road() {
    JsonNode map = office.get("/api/planner/map").json();
    var ids = new ArrayList<Integer>();
    map.path("junctions").forEach(junction -> ids.add(junction.path("id").asInt()));
    assertThat(ids).hasSizeGreaterThan(200);
    for (JsonNode road : map.path("roads")) {
      assertThat(ids).contains(road.path("from").asInt(), road.path("to").asInt());
    }
  }
}
