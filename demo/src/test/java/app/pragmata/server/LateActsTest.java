package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.LATE_ACT;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.TO_DO;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.laws.Laws;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** What phones keep while they have no network, and send afterwards. */
class LateActsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");
  private final Visitor imre = gate.technician();
  private int keys;

  @AfterEach
  void nothingRunsOnAndNothingWaits() {
    gate.at("23:30");
    imre.post("/api/pocket/clock/stop", Map.of());
    for (JsonNode visit : gate.office().get("/api/late-acts").json()) {
      refuse(ids(visit));
    }
  }

  private Instant moment(String time) {
    return LocalDateTime.parse(gate.day() + "T" + time)
        .atZone(ZoneId.of("Europe/London"))
        .toInstant();
  }

  /** Sends what was tapped at a time of the gate's day, under a key of its own. */
  private JsonNode late(String step, String tapped, String sent, Map<String, Object> form) {
    keys++;
    return late("late-" + gate.visit() + "-" + keys, step, tapped, sent, form);
  }

  private JsonNode late(
      String key, String step, String tapped, String sent, Map<String, Object> form) {
    JsonNode came = imre.late(key, body(step, tapped, sent, form));
    assertThat(came.path("state").isNull()).as(came.toString()).isFalse();
    return came;
  }

  private Map<String, Object> body(
      String step, String tapped, String sent, Map<String, Object> form) {
    var body = new HashMap<String, Object>();
    body.put("step", step);
    body.put("visitId", step.endsWith("clock") ? null : gate.visit());
    body.put("tappedAt", moment(tapped));
    body.put("sentAt", moment(sent));
    body.put("form", form);
    return body;
  }

  /** An afternoon without a network, sent at 18:30. */
  private void afternoon() {
    gate.at("18:30");
    late("drive", "14:20", "18:30", Map.of());
    late("arrive", "15:00", "18:30", Map.of("miles", "18.4"));
    late("start_work", "15:00", "18:30", Map.of());
    late("use_part", "15:30", "18:30", Map.of("partId", part(), "quantity", "1"));
    late("finish", "18:00", "18:30", Map.of("note", "Ram changed"));
  }

  private long part() {
    return gate.office().get("/api/parts?q=RAM-230").json().path(0).path("id").asLong();
  }

  private JsonNode waiting() {
    return gate.office()
        .get("/api/late-acts")
        .json()
        .valueStream()
        .filter(visit -> visit.path("visitId").asLong() == gate.visit())
        .findFirst()
        .orElseThrow();
  }

  private static List<Long> ids(JsonNode visit) {
    return visit.path("taps").valueStream().map(tap -> tap.path("id").asLong()).toList();
  }

  private Visitor.Answer writeDown(Map<String, Object> more) {
    var form = new HashMap<String, Object>(more);
    form.put("lateActIds", ids(waiting()));
    return gate.office().post("/api/late-acts/write-down", form);
  }

  private Visitor.Answer refuse(List<Long> ids) {
    return gate.office()
        .post("/api/late-acts/refuse", Map.of("lateActIds", ids, "reason", "Piet was there"));
  }

  private List<String> times(JsonNode visit) {
    return visit
        .path("times")
        .valueStream()
        .map(
            time ->
                "%s %s %s %d %s"
                    .formatted(
                        time.path("person").asString().replaceFirst(" .*", ""),
                        time.path("kind").asString(),
                        time.path("from").asString().substring(0, 5),
                        time.path("minutes").asInt(),
                        time.path("miles").asString()))
        .toList();
  }

  private JsonNode visits() {
    return gate.sheet().path("visits");
  }

  private JsonNode visitOf(String technician) {
    return visits()
        .valueStream()
        .filter(visit -> visit.path("technician").asString().startsWith(technician))
        .findFirst()
        .orElseThrow();
  }

  private void givenToPiet() {
    gate.planFor("piet", "15");
  }

  private void calledOff() {
    gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/call-off",
            Map.of("version", gate.visitVersion(), "reason", "Customer rang"));
  }

  private void holds() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void an_afternoon_without_a_network_counts_at_the_moments_of_its_taps() {
    gate.planned();
    afternoon();
    assertThat(times(visits().path(0)))
        .containsExactly(
            "Imre drive 14:20 40 18.4", "Imre labour 15:00 150 0.0", "Imre labour 17:30 30 0.0");
    assertThat(visits().path(0).path("state").asString()).isEqualTo("finished");
    holds();
  }

  @Test
  void a_message_that_was_longer_on_its_way_does_not_count_after_what_was_tapped_later() {
    gate.planned();
    gate.at("18:30");
    late("drive", "14:20", "18:30", Map.of());
    late("arrive", "15:00", "18:29:50", Map.of("miles", "18.4"));
    assertThat(late("start_work", "15:00:05", "18:30", Map.of()).path("state").asString())
        .isEqualTo("taken");
    late("finish", "18:00", "18:30", Map.of("note", "Ram changed"));
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("finished");
  }

  @Test
  void what_is_sent_twice_has_one_effect() {
    gate.onSite();
    gate.at("16:00");
    var part = Map.<String, Object>of("partId", part(), "quantity", "1");
    String key = "twice-" + gate.visit();
    assertThat(late(key, "use_part", "15:30", "16:00", part).path("state").asString())
        .isEqualTo("taken");
    assertThat(late(key, "use_part", "15:30", "16:00", part).path("state").asString())
        .isEqualTo("taken");
    assertThat(visits().path(0).path("parts")).hasSize(1);
  }

  @Test
  void what_was_done_and_not_heard_of_is_not_done_again() {
    gate.onSite();
    var part = Map.<String, Object>of("partId", part(), "quantity", "1");
    String key = "unheard-" + gate.visit();
    imre.post("/api/pocket/visits/" + gate.visit() + "/parts", part, key);
    assertThat(late(key, "use_part", "15:30", "16:00", part).path("state").asString())
        .isEqualTo("taken");
    assertThat(visits().path(0).path("parts")).hasSize(1);
  }

  @Test
  void a_key_is_not_taken_for_something_else() {
    gate.onSite();
    String key = "other-" + gate.visit();
    late(key, "pause", "15:30", "16:00", Map.of());
    JsonNode other = imre.late(key, body("start_work", "15:30", "16:00", Map.of()));
    assertThat(other.path("state").isNull()).isTrue();
    assertThat(other.path("detail").asString()).isNotEmpty();
  }

  @Test
  void why_a_part_came_too_late_is_said_for_whoever_is_not_at_the_visit() {
    gate.finished();
    var part = Map.<String, Object>of("partId", part(), "quantity", "1");
    late("use_part", "15:30", "18:40", part);
    assertThat(waiting().path("taps").path(0).path("detail").asString())
        .isEqualTo("This visit is over, and parts are recorded while somebody is on site.");
  }

  @Test
  void a_part_that_came_in_after_the_check_goes_onto_its_visit_which_is_to_be_checked_again() {
    gate.checked();
    int parts = visits().path(0).path("parts").size();
    lateKeySwitch();
    assertThat(writeDown(Map.of()).status()).isEqualTo(200);
    assertThat(visits()).hasSize(1);
    assertThat(visits().path(0).path("parts")).hasSize(parts + 1);
    assertThat(visits().path(0).path("state").asString()).isEqualTo("finished");
    holds();
  }

  @Test
  void time_that_came_in_after_the_check_is_of_its_visit_and_charged_with_that() {
    gate.checked();
    gate.at("20:00");
    late("start_work", "18:30", "20:00", Map.of());
    late("finish", "18:50", "20:00", Map.of("note", "Swept up"));
    assertThat(writeDown(Map.of()).status()).isEqualTo(200);
    assertThat(visits()).hasSize(1);
    assertThat(times(visits().path(0))).contains("Imre labour 18:30 20 0.0");
    assertThat(visits().path(0).path("state").asString()).isEqualTo("finished");
    holds();
  }

  @Test
  void a_part_that_came_in_after_the_bill_is_a_late_cost_of_its_visit() {
    gate.billed();
    int parts = visits().path(0).path("parts").size();
    lateKeySwitch();
    assertThat(writeDown(Map.of()).status()).isEqualTo(200);
    assertThat(visits().path(0).path("parts")).hasSize(parts + 1);
    assertThat(visits().path(0).path("state").asString()).isEqualTo("checked");
    holds();
  }

  @Test
  void a_part_of_a_visit_that_was_called_off_is_told_where_it_belongs() {
    gate.planned();
    gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/call-off",
            Map.of("version", gate.visitVersion(), "reason", "Nobody there"));
    lateKeySwitch();
    assertThat(writeDown(Map.of()).json().path("detail").asString()).contains("Write the time");
  }

  private void lateKeySwitch() {
    gate.at("19:30");
    var part = Map.<String, Object>of("partId", gate.part("KEY-SW"), "quantity", "1");
    late("use_part", "15:30", "19:30", part);
  }

  @Test
  void the_office_sees_that_the_clock_of_the_phone_was_wrong() {
    gate.planned();
    givenToPiet();
    gate.at("18:30");
    late("drive", "15:20", "19:30", Map.of());
    JsonNode tap = waiting().path("taps").path(0);
    assertThat(tap.path("at").asString()).endsWith("T14:20:00");
    assertThat(tap.path("clockAheadMinutes").asInt()).isEqualTo(60);
  }

  @Test
  void what_was_given_to_somebody_else_meanwhile_waits_for_the_office() {
    gate.planned();
    givenToPiet();
    afternoon();
    JsonNode waiting = waiting();
    assertThat(waiting.path("technician").asString()).startsWith("Piet");
    assertThat(texts(waiting.path("taps"), "step"))
        .containsExactly("drive", "arrive", "start_work", "use_part", "finish");
    assertThat(texts(waiting.path("times"), "minutes")).containsExactly("40", "180");
    assertThat(
            program
                .database()
                .select(TO_DO.WHAT)
                .from(TO_DO)
                .where(TO_DO.JOB_ID.eq(gate.job()))
                .fetch(TO_DO.WHAT))
        .filteredOn(what -> what.startsWith("Came in late from Imre"))
        .hasSize(1);
    assertThat(visits()).hasSize(1);
    assertThat(gate.office().get("/api/late-acts").text())
        .contains("The visit was not theirs any more.")
        .doesNotContain("Go back to today's stops");
  }

  @Test
  void what_counts_is_a_visit_of_its_own_and_the_planned_one_stays() {
    gate.planned();
    givenToPiet();
    afternoon();
    Visitor.Answer written = writeDown(Map.of());
    assertThat(written.status()).as(written.text()).isEqualTo(200);
    assertThat(visitOf("Piet").path("state").asString()).isEqualTo("planned");
    JsonNode own = visitOf("Imre");
    assertThat(own.path("state").asString()).isEqualTo("finished");
    assertThat(own.path("note").asString()).isEqualTo("Ram changed");
    assertThat(times(own))
        .containsExactly(
            "Imre drive 14:20 40 18.4", "Imre labour 15:00 150 0.0", "Imre labour 17:30 30 0.0");
    assertThat(texts(own.path("parts"), "quantity")).containsExactly("1");
    assertThat(
            program
                .database()
                .fetchCount(
                    TO_DO,
                    TO_DO
                        .JOB_ID
                        .eq(gate.job())
                        .and(TO_DO.WHAT.startsWith("Came in late"))
                        .and(TO_DO.OUTCOME.eq("Written down"))))
        .isEqualTo(1);
    holds();
  }

  @Test
  void work_on_a_visit_that_was_called_off_can_still_count() {
    gate.planned();
    calledOff();
    afternoon();
    Visitor.Answer written = writeDown(Map.of());
    assertThat(written.status()).as(written.text()).isEqualTo(200);
    assertThat(texts(visits(), "state")).containsExactlyInAnyOrder("called_off", "finished");
    holds();
  }

  @Test
  void what_does_not_count_is_kept_with_the_reason_and_its_person_reads_it() {
    gate.planned();
    calledOff();
    afternoon();
    assertThat(refuse(ids(waiting())).status()).isEqualTo(200);
    assertThat(texts(visits(), "state")).containsExactly("called_off");
    assertThat(texts(imre.get("/api/pocket/day").json().path("lateActs"), "reason"))
        .containsOnly("Piet was there");
    assertThat(program.database().fetchCount(LATE_ACT, LATE_ACT.VISIT_ID.eq(gate.visit())))
        .isEqualTo(5);
  }

  @Test
  void what_is_answered_is_not_answered_again() {
    gate.planned();
    calledOff();
    afternoon();
    List<Long> ids = ids(waiting());
    refuse(ids);
    assertThat(refuse(ids).rule()).isEqualTo("LATE_ACT_ANSWERED");
  }

  @Test
  void work_of_which_no_tap_says_when_it_ended_is_asked_for() {
    gate.planned();
    givenToPiet();
    gate.at("18:30");
    late("start_work", "15:00", "18:30", Map.of());
    Visitor.Answer asked = writeDown(Map.of());
    assertThat(asked.pointer()).isEqualTo("/ends");
    assertThat(asked.text()).contains("began at 15:00");
    long tap = ids(waiting()).getFirst();
    Visitor.Answer written =
        writeDown(Map.of("ends", List.of(Map.of("lateActId", tap, "endedAt", "16:30"))));
    assertThat(written.status()).as(written.text()).isEqualTo(200);
    assertThat(times(visitOf("Imre"))).containsExactly("Imre labour 15:00 90 0.0");
  }

  @Test
  void a_phone_that_is_an_hour_ahead_is_put_right_and_both_moments_are_kept() {
    gate.onSite();
    gate.at("16:00");
    late("pause", "16:30", "17:00", Map.of());
    assertThat(times(visits().path(0))).contains("Imre labour 15:00 30 0.0");
    assertThat(
            program
                .database()
                .selectFrom(LATE_ACT)
                .where(LATE_ACT.VISIT_ID.eq(gate.visit()))
                .fetchSingle())
        .satisfies(
            kept -> {
              assertThat(kept.getTappedAt()).isEqualTo(moment("16:30"));
              assertThat(kept.getCountedAt()).isEqualTo(moment("15:30"));
            });
  }

  @Test
  void what_waited_longer_than_is_believed_is_put_before_the_office() {
    gate.planned();
    gate.nextDayAt("09:00");
    program.clock().set(gate.day().plusDays(4) + "T09:00");
    keys++;
    var body = body("start_work", "15:00", "15:00", Map.of());
    body.put("sentAt", program.clock().instant());
    JsonNode came = imre.late("long-ago-" + gate.visit(), body);
    assertThat(came.path("state").asString()).isEqualTo("waiting");
    assertThat(came.path("detail").asString()).contains("two days");
    Visitor.Answer written =
        writeDown(
            Map.of(
                "ends",
                List.of(Map.of("lateActId", ids(waiting()).getFirst(), "endedAt", "16:00"))));
    assertThat(written.status()).as(written.text()).isEqualTo(200);
    assertThat(times(visits().path(0))).containsExactly("Imre labour 15:00 60 0.0");
    assertThat(visits()).hasSize(1);
  }

  @Test
  void parts_without_any_time_are_not_written_down_on_a_day_that_nobody_knows() {
    gate.planned();
    givenToPiet();
    gate.at("18:30");
    late("use_part", "15:30", "18:30", Map.of("partId", part(), "quantity", "1"));
    assertThat(writeDown(Map.of()).rule()).isEqualTo("MISSING");
    assertThat(ids(waiting())).hasSize(1);
  }

  @ParameterizedTest
  @ValueSource(longs = {0, 999_999})
  void nobody_is_given_time_who_does_not_work_in_the_field(long unknown) {
    gate.planned();
    long mate = unknown == 0 ? program.person("hester") : unknown;
    givenToPiet();
    gate.at("18:30");
    late("start_work", "15:00", "18:30", Map.of("crewIds", List.of(mate)));
    late("pause", "16:00", "18:30", Map.of("crewIds", List.of(mate)));
    assertThat(gate.office().get("/api/late-acts").status()).isEqualTo(200);
    assertThat(writeDown(Map.of()).status()).isBetween(400, 422);
    assertThat(visits()).hasSize(1);
  }

  @Test
  void a_break_without_a_network_is_one_of_the_day() {
    gate.at("13:30");
    late("start_clock", "12:30", "13:30", Map.of("kind", "break"));
    late("stop_clock", "13:00", "13:30", Map.of());
    assertThat(imre.get("/api/pocket/day").json().path("offVisits").path("breaks").asInt())
        .isEqualTo(30);
  }

  @ParameterizedTest
  @ValueSource(strings = {"visitId", "tappedAt", "sentAt", "step"})
  void what_says_too_little_is_refused_and_nothing_is_kept(String left) {
    gate.planned();
    var body = body("drive", "14:20", "14:30", Map.of());
    body.remove(left);
    JsonNode came = imre.late("little-" + gate.visit(), body);
    assertThat(came.path("state").isNull()).isTrue();
    assertThat(came.path("detail").asString()).startsWith("Say ");
    assertThat(program.database().fetchCount(LATE_ACT, LATE_ACT.VISIT_ID.eq(gate.visit())))
        .isZero();
  }

  @ParameterizedTest
  @ValueSource(strings = {"1970-01-01T00:00:00Z", "9999-12-31T23:00:00Z", "+99999-01-01T00:00:00Z"})
  void a_phone_whose_clock_is_off_by_years_is_told_so(String tapped) {
    gate.planned();
    var body = body("drive", "14:20", "14:30", Map.of());
    body.put("tappedAt", tapped);
    assertThat(imre.late("years-" + gate.visit(), body).path("detail").asString())
        .contains("off by years");
  }

  private List<String> paid() {
    return imre.get("/api/pocket/visits/" + gate.visit() + "/money")
        .json()
        .path("taken")
        .valueStream()
        .map(
            one ->
                "%d %s %s"
                    .formatted(
                        one.path("amountMinor").asLong(),
                        one.path("method").asString(),
                        one.path("receivedOn").asString()))
        .toList();
  }

  @Test
  void cash_taken_without_a_network_came_in_on_its_day_and_once() {
    gate.onSite();
    gate.nextDayAt("08:00");
    Map<String, Object> form = Map.of("amount", "120", "method", "cash", "receiptTo", "");
    String sent = gate.day().plusDays(1) + "T08:00";
    var body = body("take_money", "16:40", "16:40", form);
    body.put("sentAt", LocalDateTime.parse(sent).atZone(ZoneId.of("Europe/London")).toInstant());
    String key = "cash-of-" + gate.visit();
    for (int attempt = 0; attempt < 2; attempt++) {
      assertThat(imre.late(key, body).path("state").asString()).isEqualTo("taken");
    }
    assertThat(paid()).containsExactly("12000 cash " + gate.day());
  }

  @Test
  void the_number_of_a_card_is_never_kept() {
    gate.onSite();
    for (Map<String, Object> form :
        List.<Map<String, Object>>of(
            Map.of("amount", "120", "method", "card"),
            Map.of("amount", "120", "method", "cash", "card", "4242424242424242"))) {
      JsonNode came =
          imre.late(
              "card-" + gate.visit() + "-" + form.size(),
              body("take_money", "16:40", "16:45", form));
      assertThat(came.path("state").isNull()).isTrue();
      assertThat(came.path("detail").asString()).contains("Nothing of it was kept");
    }
    assertThat(program.database().fetchExists(LATE_ACT, LATE_ACT.FORM.contains("4242424242424242")))
        .isFalse();
  }

  @Test
  void money_from_a_visit_that_was_given_to_somebody_else_counts_where_the_office_says_so() {
    gate.planned();
    givenToPiet();
    gate.at("18:30");
    JsonNode came =
        late("take_money", "16:00", "18:30", Map.of("amount", "80", "method", "cheque"));
    assertThat(came.path("state").asString()).isEqualTo("waiting");
    assertThat(texts(waiting().path("taps"), "said")).containsExactly("80 cheque");
    assertThat(writeDown(Map.of()).status()).isEqualTo(200);
    assertThat(gate.sheet().path("receipts").path(0).path("amountMinor").asLong()).isEqualTo(80_00);
  }

  @Test
  void a_week_is_signed_off_without_a_network() {
    // A week in which no other test leaves a clock in doubt.
    String monday = gate.monday().minusWeeks(52).toString();
    gate.at("17:30");
    var body = body("sign_week_off", "17:00", "17:30", Map.of("monday", monday));
    body.put("visitId", null);
    assertThat(imre.late("week-" + gate.visit(), body).path("state").asString()).isEqualTo("taken");
    JsonNode week = imre.get("/api/pocket/weeks/" + monday).json();
    assertThat(week.path("signedOff").path("changedSince").asBoolean()).isFalse();
  }

  @Test
  void a_form_that_no_step_takes_is_refused() {
    gate.planned();
    JsonNode came =
        imre.late("wings-" + gate.visit(), body("drive", "14:20", "14:30", Map.of("wings", 2)));
    assertThat(came.path("detail").asString()).contains("cannot be read");
  }

  private Map<String, Object> keyed(String key, Map<String, Object> tap) {
    var kept = new HashMap<String, Object>(tap);
    kept.put("key", key + "-" + gate.visit());
    return kept;
  }

  @Test
  void what_is_sent_together_is_taken_in_its_order_and_once_however_often_it_is_sent() {
    gate.planned();
    gate.at("18:30");
    var sent =
        Map.of(
            "acts",
            List.of(
                keyed("together-1", body("drive", "14:20", "18:30", Map.of())),
                keyed("together-2", body("arrive", "15:00", "18:30", Map.of("miles", "18.4"))),
                keyed("together-3", body("start_work", "15:00", "18:30", Map.of())),
                keyed("together-4", body("pause", "16:00", "18:30", Map.of()))));
    assertThat(texts(imre.post("/api/pocket/late-acts", sent).json(), "state"))
        .containsExactly("taken", "taken", "taken", "taken");
    assertThat(texts(imre.post("/api/pocket/late-acts", sent).json(), "state"))
        .containsExactly("taken", "taken", "taken", "taken");
    assertThat(times(visits().path(0)))
        .containsExactly("Imre drive 14:20 40 18.4", "Imre labour 15:00 60 0.0");
  }

  /** An own time of the gate's day on its visit; the version of an entry that is put right. */
  private Map<String, Object> ownTime(@Nullable JsonNode entry, String from, String to) {
    program.database().update(PERSON).set(PERSON.MAY_BACKDATE, true).execute();
    var time = new HashMap<String, Object>();
    time.put("version", entry == null ? 0 : entry.path("version").asInt());
    time.put("visitId", entry == null ? gate.visit() : null);
    time.put("kind", entry == null ? "labour" : null);
    time.put("from", from);
    time.put("to", to);
    time.put("reason", "Forgot the clock");
    var form = new HashMap<String, Object>();
    form.put("timeEntryId", entry == null ? null : entry.path("id").asLong());
    form.put("day", gate.day().toString());
    form.put("time", time);
    return form;
  }

  private JsonNode labour() {
    return visits()
        .path(0)
        .path("times")
        .valueStream()
        .filter(time -> time.path("kind").asString().equals("labour"))
        .findFirst()
        .orElseThrow();
  }

  private void workedFromThreeToFour() {
    gate.onSite();
    gate.at("16:00");
    gate.tap("pause", Map.of());
    gate.at("17:30");
  }

  @Test
  void a_forgotten_clock_is_written_down_without_a_network_and_once() {
    workedFromThreeToFour();
    var form = ownTime(null, "16:20", "16:50");
    String key = "forgotten-" + gate.visit();
    assertThat(imre.post(daysTimes(), form.get("time"), key).status()).isEqualTo(200);
    assertThat(late(key, "note_time", "16:50", "17:30", form).path("state").asString())
        .isEqualTo("taken");
    assertThat(times(visits().path(0)))
        .containsExactly(
            "Imre drive 14:20 40 18.4", "Imre labour 15:00 60 0.0", "Imre labour 16:20 30 0.0");
  }

  private String daysTimes() {
    return "/api/pocket/days/" + gate.day() + "/time-entries";
  }

  @Test
  void a_clock_is_put_right_without_a_network_and_once() {
    workedFromThreeToFour();
    var form = ownTime(labour(), "15:10", "16:00");
    String key = "put-right-" + gate.visit();
    String path = "/api/pocket/time-entries/" + form.get("timeEntryId");
    assertThat(imre.put(path, form.get("time"), key).status()).isEqualTo(200);
    assertThat(late(key, "note_time", "16:50", "17:30", form).path("state").asString())
        .isEqualTo("taken");
    assertThat(times(visits().path(0)))
        .containsExactly("Imre drive 14:20 40 18.4", "Imre labour 15:10 50 0.0");
  }

  @Test
  void what_the_office_put_right_meanwhile_stays_until_it_says_that_the_later_one_counts() {
    workedFromThreeToFour();
    var form = ownTime(labour(), "15:10", "16:00");
    gate.office()
        .put(
            "/api/time-entries/" + form.get("timeEntryId"),
            Map.of(
                "version", labour().path("version").asInt(),
                "from", "15:00",
                "to", "15:45",
                "reason", "He said so"));
    assertThat(late("note_time", "16:50", "17:30", form).path("state").asString())
        .isEqualTo("waiting");
    assertThat(times(visits().path(0))).contains("Imre labour 15:00 45 0.0");
    assertThat(texts(waiting().path("taps"), "said"))
        .containsExactly(gate.day() + " 15:10 to 16:00 Forgot the clock");
    assertThat(writeDown(Map.of()).status()).isEqualTo(200);
    assertThat(times(visits().path(0))).contains("Imre labour 15:10 50 0.0");
    holds();
  }

  @Test
  void time_on_a_visit_that_is_somebody_elses_by_now_counts_where_the_office_says_so() {
    gate.planned();
    givenToPiet();
    var form = ownTime(null, "15:20", "15:50");
    gate.at("17:30");
    assertThat(late("note_time", "16:50", "17:30", form).path("state").asString())
        .isEqualTo("waiting");
    Visitor.Answer written = writeDown(Map.of());
    assertThat(written.status()).as(written.text()).isEqualTo(200);
    assertThat(times(visitOf("Imre"))).containsExactly("Imre labour 15:20 30 0.0");
    assertThat(visitOf("Piet").path("state").asString()).isEqualTo("planned");
    holds();
  }

  @Test
  void a_break_that_was_noted_on_a_visit_is_written_down_on_its_day() {
    gate.planned();
    var form = ownTime(null, "15:20", "15:50");
    form.put(
        "time",
        Map.of(
            "version", 0, "kind", "break", "from", "15:20", "to", "15:50", "reason", "Forgot it"));
    program.database().update(PERSON).set(PERSON.MAY_BACKDATE, false).execute();
    gate.at("17:30");
    assertThat(late("note_time", "16:50", "17:30", form).path("state").asString())
        .isEqualTo("waiting");
    Visitor.Answer written = writeDown(Map.of());
    assertThat(written.status()).as(written.text()).isEqualTo(200);
    assertThat(visits()).hasSize(1);
    assertThat(
            program
                .database()
                .fetchCount(
                    TIME_ENTRY,
                    TIME_ENTRY
                        .DAY
                        .eq(gate.day())
                        .and(TIME_ENTRY.KIND.eq(TimeEntry.Kind.BREAK))
                        .and(TIME_ENTRY.VISIT_ID.isNull())))
        .isEqualTo(1);
    holds();
  }

  @Test
  void time_that_nobody_can_read_is_not_written_down() {
    gate.planned();
    gate.at("17:30");
    late("note_time", "16:50", "17:30", ownTime(null, "half three", "15:50"));
    assertThat(writeDown(Map.of()).rule()).isEqualTo("UNREADABLE");
    assertThat(waiting().path("taps")).hasSize(1);
  }

  @Test
  void own_time_of_no_day_is_refused() {
    gate.planned();
    var form = ownTime(null, "15:20", "15:50");
    form.remove("day");
    JsonNode came = imre.late("no-day-" + gate.visit(), body("note_time", "16:50", "17:30", form));
    assertThat(came.path("state").isNull()).isTrue();
    assertThat(came.path("detail").asString()).contains("Tell the office what it was");
  }

  @Test
  void one_that_cannot_be_kept_does_not_hold_up_those_that_came_with_it() {
    gate.planned();
    gate.at("18:30");
    var sent =
        Map.of(
            "acts",
            List.of(
                keyed("beside-1", body("drive", "14:20", "18:30", Map.of("wings", 2))),
                keyed("beside-2", body("arrive", "15:00", "18:30", Map.of())),
                keyed("beside-3", body("start_work", "15:00", "18:30", Map.of())),
                keyed("beside-4", body("pause", "16:00", "18:30", Map.of()))));
    JsonNode came = imre.post("/api/pocket/late-acts", sent).json();
    assertThat(came.path(0).path("state").isNull()).isTrue();
    assertThat(came.path(3).path("state").asString()).isEqualTo("taken");
    assertThat(times(visits().path(0))).containsExactly("Imre labour 15:00 60 0.0");
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 51})
  void nothing_and_more_than_goes_at_once_are_refused_before_anything_is_taken(int taps) {
    gate.planned();
    gate.at("18:30");
    var acts =
        IntStream.range(0, taps)
            .mapToObj(tap -> keyed("many-" + tap, body("drive", "14:20", "18:30", Map.of())))
            .toList();
    Visitor.Answer answer = imre.post("/api/pocket/late-acts", Map.of("acts", acts));
    assertThat(answer.pointer()).isEqualTo("/acts");
    assertThat(visits().path(0).path("state").asString()).isEqualTo("planned");
  }

  @Test
  void a_phone_carries_the_visits_of_today_and_of_the_next_day_and_the_parts() {
    gate.planned();
    JsonNode carried = imre.get("/api/pocket/carried").json();
    assertThat(texts(carried.path("visits"), "visitId")).contains(Long.toString(gate.visit()));
    assertThat(texts(carried.path("day").path("later"), "day"))
        .allMatch(day -> day.compareTo(gate.day().toString()) > 0);
    assertThat(texts(imre.get("/api/pocket/carried-parts").json(), "number")).contains("RAM-230");
  }

  /** One thing that a phone keeps, and what came of each time it was sent. */
  private record Kept(String key, String step, Map<String, Object> form, List<String> answers) {}

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void whatever_the_office_does_meanwhile_each_act_is_taken_once_or_put_before_it_once(long seed) {
    var dice = new Random(seed);
    gate.planned();
    gate.at("18:30");
    List<String> steps =
        List.of("drive", "arrive", "start_work", "use_part", "use_part", "pause", "use_part");
    var acts = new ArrayList<Kept>();
    for (int i = 0; i < steps.size(); i++) {
      String step = steps.get(i);
      Map<String, Object> form =
          step.equals("use_part") ? Map.of("partId", part(), "quantity", "1") : Map.of();
      acts.add(new Kept("mixed-" + gate.visit() + "-" + i, step, form, new ArrayList<>()));
    }
    for (int sent = 0; sent < 25; sent++) {
      switch (dice.nextInt(8)) {
        case 0 -> givenToPiet();
        case 1 -> calledOff();
        default -> {
          Kept act = acts.get(Math.min(dice.nextInt(acts.size() + 2), acts.size() - 1));
          String tapped = "15:%02d".formatted(acts.indexOf(act) * 5);
          act.answers()
              .add(
                  late(act.key(), act.step(), tapped, "18:30", act.form())
                      .path("state")
                      .asString());
        }
      }
    }
    List<Kept> known = acts.stream().filter(act -> !act.answers().isEmpty()).toList();
    assertThat(known).allSatisfy(act -> assertThat(Set.copyOf(act.answers())).hasSize(1));
    assertThat(program.database().fetchCount(LATE_ACT, LATE_ACT.VISIT_ID.eq(gate.visit())))
        .isEqualTo(known.size());
    long used =
        known.stream()
            .filter(act -> act.step().equals("use_part") && act.answers().contains("taken"))
            .count();
    assertThat(visits().path(0).path("parts")).hasSize((int) used);
    holds();
  }
}
