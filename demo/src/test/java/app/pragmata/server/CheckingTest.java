package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** What the office does with a finished visit before and after it says that it is correct. */
class CheckingTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");

  @AfterEach
  void the_books_are_in_order() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void time_that_nobody_clocked_is_added_with_its_reason_and_costs_money() {
    gate.finished();
    long before = costOf("labour");
    addTime(Map.of("from", "13:00", "to", "14:00", "description", "Fetched the ram"));
    assertThat(costOf("labour")).isGreaterThan(before);
    assertThat(texts(gate.history(), "reason")).contains("Forgot the clock");
  }

  @Test
  void added_time_of_a_helper_is_the_helpers_at_the_helpers_wage() {
    gate.finished();
    long before = costOf("labour");
    addTime(Map.of("from", "15:00", "to", "16:00", "personId", person("Piet Osei")));
    assertThat(texts(times(), "person")).contains("Piet Osei");
    assertThat(costOf("labour") - before).isEqualTo(22_02);
  }

  @Test
  void added_time_past_the_working_hours_is_cut_by_the_clock() {
    gate.finished();
    gate.nextDayAt("08:00");
    addTime(Map.of("from", "18:30", "to", "22:30"));
    assertThat(texts(times(), "rateClass"))
        .containsExactly("normal", "normal", "overtime", "overtime", "night");
    assertThat(texts(times(), "minutes")).containsExactly("40", "150", "50", "210", "30");
  }

  @Test
  void added_time_of_a_stated_class_stays_whole() {
    gate.finished();
    gate.nextDayAt("08:00");
    addTime(Map.of("from", "18:30", "to", "19:30", "rateClass", "normal"));
    assertThat(texts(times(), "rateClass"))
        .containsExactly("normal", "normal", "overtime", "normal");
    assertThat(times().path(3).path("byTheClock").asBoolean()).isFalse();
  }

  @Test
  void a_corrected_time_without_a_class_is_cut_anew() {
    gate.finished();
    gate.correct(times().path(2), Map.of("from", "17:45", "to", "18:20", "reason", "Tea"));
    gate.correct(times().path(1), Map.of("from", "15:00", "to", "17:40", "reason", "Tea"));
    assertThat(texts(times(), "minutes")).containsExactly("40", "150", "10", "35");
    assertThat(texts(times(), "rateClass"))
        .containsExactly("normal", "normal", "overtime", "overtime");
  }

  @Test
  void time_past_midnight_is_cut_there_and_each_part_shown_with_its_day() {
    gate.finished();
    gate.nextDayAt("08:00");
    addTime(Map.of("from", "23:00", "to", "1:30 +1"));
    JsonNode evening = times().path(3);
    assertThat(evening.path("minutes").asInt()).isEqualTo(60);
    assertThat(evening.path("fromDaysLater").asInt()).isZero();
    JsonNode morning = times().path(4);
    assertThat(morning.path("minutes").asInt()).isEqualTo(90);
    assertThat(morning.path("fromDaysLater").asInt()).isEqualTo(1);
    assertThat(morning.path("toDaysLater").asInt()).isEqualTo(1);
  }

  @Test
  void a_clock_keeps_its_seconds_and_adjoining_entries_add_up_to_the_whole() {
    gate.planned();
    gate.at("14:20:40");
    gate.tap("drive", Map.of());
    gate.at("15:00:20");
    gate.tap("arrive", Map.of("miles", "18"));
    gate.tap("start-work", Map.of());
    gate.at("15:30:10");
    gate.tap("finish", Map.of());
    assertThat(texts(times(), "minutes")).containsExactly("40", "30");
    assertThat(times().path(0).path("from").asString()).isEqualTo("14:20:40");
  }

  @Test
  void an_entry_of_the_next_morning_keeps_its_day_when_it_is_corrected() {
    gate.finished();
    gate.nextDayAt("08:00");
    addTime(Map.of("from", "6:30 +1", "to", "7:00 +1"));
    gate.correct(
        times().path(3), Map.of("from", "6:40 +1", "to", "7:00 +1", "reason", "Ten minutes late"));
    assertThat(times().path(3).path("fromDaysLater").asInt()).isEqualTo(1);
    assertThat(times().path(3).path("minutes").asInt()).isEqualTo(20);
  }

  @Test
  void time_cannot_be_added_over_another_clock_of_the_same_person() {
    gate.finished();
    var refused = gate.office().post(entries(), reasoned(Map.of("from", "15:30", "to", "16:00")));
    assertThat(refused.rule()).isEqualTo("OVERLAPPING_CLOCKS");
    assertThat(times()).hasSize(3);
  }

  @Test
  void a_correction_without_a_reason_is_refused_and_changes_nothing() {
    gate.finished();
    JsonNode before = gate.sheet();
    var refused = gate.correct(times().path(1), Map.of("from", "15:00", "to", "17:00"));
    assertThat(refused.pointer()).isEqualTo("/reason");
    assertThat(gate.sheet()).isEqualTo(before);
  }

  @Test
  void an_entry_that_somebody_corrected_meanwhile_is_not_corrected_unseen() {
    gate.finished();
    JsonNode shown = times().path(1);
    gate.correct(shown, Map.of("from", "15:00", "to", "17:20", "reason", "First"));
    var refused = gate.correct(shown, Map.of("from", "15:00", "to", "17:10", "reason", "Second"));
    assertThat(refused.rule()).isEqualTo("STALE_VERSION");
    assertThat(times().path(1).path("minutes").asInt()).isEqualTo(140);
  }

  @Test
  void time_on_the_wrong_name_is_put_right_to_whoever_it_was_at_their_wage() {
    gate.finished();
    long before = costOf("labour");
    assertThat(correctTo(person("Piet Osei")).status()).isEqualTo(200);
    assertThat(times().path(1).path("person").asString()).isEqualTo("Piet Osei");
    assertThat(texts(gate.history(), "reason")).contains("It was Piet");
    gate.check(
        gate.office()
            .post(
                "/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion())));
    assertThat(costOf("labour")).isNotEqualTo(before);
  }

  @Test
  void time_is_put_right_to_nobody_who_does_not_work_in_the_field() {
    gate.finished();
    String whose = times().path(1).path("person").asString();
    assertThat(correctTo(program.person("maud")).status()).isBetween(400, 499);
    assertThat(times().path(1).path("person").asString()).isEqualTo(whose);
  }

  private Visitor.Answer correctTo(long personId) {
    return gate.correct(
        times().path(1),
        Map.of("from", "15:00", "to", "17:30", "personId", personId, "reason", "It was Piet"));
  }

  @Test
  void an_entry_that_was_clocked_by_mistake_is_removed_with_its_reason() {
    gate.finished();
    remove("/api/time-entries/", times().path(2), "Went home at 17:30");
    assertThat(times()).hasSize(2);
    assertThat(texts(gate.history(), "reason")).contains("Went home at 17:30");
  }

  @Test
  void a_part_that_nobody_wrote_down_is_added_and_leaves_stock() {
    gate.finished();
    var held = held("PHO-02");
    gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/parts",
            Map.of("partId", gate.part("PHO-02"), "quantity", "1"));
    assertThat(held("PHO-02")).isEqualByComparingTo(held.subtract(BigDecimal.ONE));
    assertThat(texts(parts(), "quantity")).containsExactly("1", "3", "1");
  }

  @Test
  void a_part_taken_off_goes_back_into_stock_at_what_it_cost() {
    gate.finished();
    var held = held("PHO-02");
    remove("/api/visit-parts/", parts().path(1), "Wrong van");
    assertThat(held("PHO-02")).isEqualByComparingTo(held.add(new BigDecimal(3)));
    assertThat(costOf("parts")).isEqualTo(212_40);
  }

  @Test
  void a_part_put_back_into_stock_does_not_change_what_a_supplier_charged_last() {
    gate.finished();
    var charged = lastUnitCost("PHO-02");
    remove("/api/visit-parts/", parts().path(1), "Wrong van");
    assertThat(lastUnitCost("PHO-02")).isEqualByComparingTo(charged);
  }

  private BigDecimal lastUnitCost(String number) {
    return program
        .database()
        .select(PART.LAST_UNIT_COST)
        .from(PART)
        .where(PART.NUMBER.eq(number))
        .fetchSingle(PART.LAST_UNIT_COST);
  }

  @Test
  void what_was_removed_is_shown_no_more_and_kept_for_whoever_asks_later() {
    gate.finished();
    long time = times().path(2).path("id").asLong();
    remove("/api/time-entries/", times().path(2), "Went home at 17:30");
    long part = parts().path(1).path("id").asLong();
    remove("/api/visit-parts/", parts().path(1), "Wrong van");
    assertThat(texts(times(), "id")).doesNotContain(Long.toString(time));
    assertThat(texts(parts(), "id")).doesNotContain(Long.toString(part));
    assertThat(
            program
                .database()
                .select(TIME_ENTRY.REMOVED_AT, VISIT_PART.REMOVED_AT)
                .from(TIME_ENTRY)
                .join(VISIT_PART)
                .on(VISIT_PART.ID.eq(part))
                .where(TIME_ENTRY.ID.eq(time))
                .fetchSingle()
                .intoList())
        .doesNotContainNull();
  }

  @Test
  void a_finished_visit_without_working_time_is_marked_until_some_is_added() {
    gate.onSite();
    gate.tap("parts", Map.of("partId", gate.part("RAM-230"), "quantity", "1"));
    gate.tap("finish", Map.of());
    assertThat(labourMissing()).isTrue();
    gate.at("18:20");
    addTime(Map.of("from", "15:00", "to", "17:00"));
    assertThat(labourMissing()).isFalse();
  }

  private boolean labourMissing() {
    return gate.sheet().path("visits").path(0).path("labourMissing").asBoolean();
  }

  @Test
  void a_promised_part_is_offered_until_it_is_fitted() {
    gate.onSite();
    assertThat(texts(pocket().path("partsToFit"), "name"))
        .containsExactly("Gate ram 230 V", "Photocell pair");
    gate.tap("parts", Map.of("partId", gate.part("RAM-230"), "quantity", "1"));
    assertThat(texts(pocket().path("partsToFit"), "name")).containsExactly("Photocell pair");
    gate.at("18:20");
    gate.tap("finish", Map.of());
  }

  private JsonNode pocket() {
    return gate.technician().get("/api/pocket/visits/" + gate.visit()).json();
  }

  @Test
  void a_part_beyond_the_promise_is_marked_with_how_many() {
    gate.finished();
    assertThat(texts(parts(), "beyondPromise")).containsExactly("0", "2");
  }

  @Test
  void a_part_comes_back_under_the_warranty_when_its_exclusion_is_taken_off() {
    gate.corrected();
    long without = timeAndParts();
    gate.office()
        .post(
            "/api/visit-parts/" + parts().path(1).path("id").asLong() + "/warranty",
            Map.of("version", parts().path(1).path("version").asInt(), "reason", ""));
    assertThat(without - timeAndParts()).isEqualTo(32_28);
  }

  @Test
  void a_visit_that_did_not_happen_is_replaced_by_one_that_says_so() {
    gate.planned();
    drop("not-this-time", "Nobody there");
    JsonNode visits = gate.sheet().path("visits");
    assertThat(visits).hasSize(2);
    assertThat(visits.path(1).path("replacesId").asLong()).isEqualTo(gate.visit());
    assertThat(visits.path(0).path("replacesId").isNull()).isTrue();
  }

  @Test
  void a_visit_that_begins_on_another_day_keeps_the_day_it_was_planned_for() {
    gate.planned();
    String planned = gate.sheet().path("visits").path(0).path("day").asString();
    gate.nextDayAt("09:00");
    gate.tap("arrive", Map.of("miles", ""));
    JsonNode visit = gate.sheet().path("visits").path(0);
    assertThat(visit.path("plannedDay").asString()).isEqualTo(planned);
    assertThat(visit.path("day").asString()).isGreaterThan(planned);
  }

  @Test
  void a_visit_whose_clock_still_runs_cannot_be_dropped() {
    gate.onSite();
    var refused = drop("not-this-time", "Nobody there");
    assertThat(refused.rule()).isEqualTo("CLOCK_RUNNING");
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  @Test
  void a_visit_with_parts_on_it_cannot_be_dropped() {
    gate.finished();
    assertThat(drop("call-off", "Not needed").text()).contains("Parts are recorded");
  }

  @ParameterizedTest
  @ValueSource(strings = {"not-this-time", "call-off"})
  void dropping_a_visit_needs_a_reason(String how) {
    gate.planned();
    assertThat(drop(how, " ").pointer()).isEqualTo("/reason");
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("planned");
  }

  @Test
  void a_visit_that_is_not_finished_cannot_be_checked() {
    gate.planned();
    var refused =
        gate.office()
            .post("/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion()));
    assertThat(refused.rule()).isEqualTo("VISIT_NOT_FINISHED");
    assertThat(refused.text()).contains("planned");
  }

  @Test
  void a_checked_visit_is_not_corrected_until_its_check_is_taken_back() {
    gate.checked();
    var refused =
        gate.correct(times().path(1), Map.of("from", "15:00", "to", "17:00", "reason", "Late"));
    assertThat(refused.text()).contains("Reopen it first");
    gate.office()
        .post("/api/visits/" + gate.visit() + "/reopen", Map.of("version", gate.visitVersion()));
    assertThat(
            gate.correct(times().path(1), Map.of("from", "15:00", "to", "17:00", "reason", "Late"))
                .status())
        .isEqualTo(200);
  }

  @Test
  void the_check_keeps_the_cost_of_its_day_when_the_wage_rises_afterwards() {
    gate.checked();
    long cost = costOf("labour");
    String day = gate.sheet().path("visits").path(0).path("day").asString();
    var database = program.database();
    database.execute(
        "insert into wage select person_id, date '%s', 99, on_cost_share from wage join person on person.id = person_id where username = 'dilys' limit 1"
            .formatted(day));
    try {
      assertThat(costOf("labour")).isEqualTo(cost);
    } finally {
      database.execute("delete from wage where wage_per_hour = 99");
    }
  }

  @Test
  void checking_twice_at_once_posts_the_time_once() throws Exception {
    gate.corrected();
    var form = Map.of("version", gate.visitVersion());
    AtOnce.statuses(4, i -> gate.office().post("/api/visits/" + gate.visit() + "/check", form));
    assertThat(texts(gate.sheet().path("journal"), "event"))
        .filteredOn("time_approved"::equals)
        .hasSize(1);
  }

  private long person(String name) {
    for (JsonNode technician : gate.office().get("/api/choices").json().path("technicians")) {
      if (technician.path("name").asString().equals(name)) {
        return technician.path("id").asLong();
      }
    }
    throw new AssertionError("Nobody is called " + name);
  }

  private void addTime(Map<String, Object> values) {
    var answer = gate.office().post(entries(), reasoned(values));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
  }

  private static Map<String, Object> reasoned(Map<String, Object> values) {
    var form = new HashMap<>(values);
    form.put("version", 0);
    form.put("kind", "labour");
    form.put("reason", "Forgot the clock");
    return form;
  }

  private Visitor.Answer drop(String how, String reason) {
    return gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/" + how,
            Map.of("version", gate.visitVersion(), "reason", reason));
  }

  private void remove(String path, JsonNode record, String reason) {
    var answer =
        gate.office()
            .post(
                path + record.path("id").asLong() + "/remove",
                Map.of("version", record.path("version").asInt(), "reason", reason));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
  }

  private String entries() {
    return "/api/visits/" + gate.visit() + "/time-entries";
  }

  private JsonNode times() {
    return gate.sheet().path("visits").path(0).path("times");
  }

  private JsonNode parts() {
    return gate.sheet().path("visits").path(0).path("parts");
  }

  private long timeAndParts() {
    return gate.sheet().path("billing").path("timeAndParts").path("netMinor").asLong();
  }

  private long costOf(String category) {
    for (JsonNode rung : gate.sheet().path("cost").path("rungs")) {
      if (rung.path("category").asString().equals(category)) {
        return rung.path("actualMinor").asLong();
      }
    }
    throw new AssertionError("No rung " + category);
  }

  private java.math.BigDecimal held(String number) {
    return program
        .database()
        .fetchSingle("select quantity from part where number = ?", number)
        .get(0, java.math.BigDecimal.class);
  }
}
