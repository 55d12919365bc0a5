package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Clocks of technicians, on visits and on none: one at a time for each. */
class ClocksTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");
  private final Visitor imre = gate.technician();
  private final Visitor dilys = Visitor.signedIn(program, "dilys");

  @AfterEach
  void nobodysClockRunsOn() {
    gate.at("23:30");
    for (Visitor person : List.of(imre, dilys)) {
      person.post("/api/pocket/clock/stop", Map.of());
      mend(person);
    }
    program.database().update(PERSON).set(PERSON.MAY_BACKDATE, true).execute();
  }

  /** Nothing is left in doubt for the tests that come after. */
  private static void mend(Visitor person) {
    for (JsonNode entry : person.get("/api/pocket/day").json().path("inDoubt")) {
      person.post(
          "/api/pocket/time-entries/" + entry.path("id").asLong() + "/confirm",
          Map.of("version", entry.path("version").asInt()));
    }
  }

  private Visitor.Answer start(Visitor person, Object... form) {
    return person.post("/api/pocket/clock", form(form));
  }

  private Visitor.Answer stop(Visitor person, Object... form) {
    return person.post("/api/pocket/clock/stop", form(form));
  }

  private static Map<String, Object> form(Object... pairs) {
    var form = new HashMap<String, Object>();
    for (int i = 0; i < pairs.length; i += 2) {
      form.put((String) pairs[i], pairs[i + 1]);
    }
    return form;
  }

  private void together() {
    gate.planned();
    var form =
        form(
            "version", gate.visitVersion(),
            "technicianId", program.person("imre"),
            "companionIds", List.of(program.person("dilys")),
            "day", visit().path("day").asString(),
            "start", "15",
            "expected", "2h30",
            "overruled", SwingGate.ANYTHING);
    gate.office().put("/api/visits/" + gate.visit() + "/plan", form);
  }

  private Map<String, Object> withDilys(Object... more) {
    Map<String, Object> form = form(more);
    form.put("crewIds", List.of(program.person("dilys")));
    return form;
  }

  private JsonNode visit() {
    return gate.sheet().path("visits").path(0);
  }

  private List<String> clocks() {
    return visit()
        .path("times")
        .valueStream()
        .map(
            entry ->
                "%s %s %d"
                    .formatted(
                        entry.path("person").asString().replaceFirst(" .*", ""),
                        entry.path("kind").asString(),
                        entry.path("minutes").asInt()))
        .sorted()
        .toList();
  }

  /** The day of the gate in the week of whoever it is. */
  private JsonNode day(Visitor person) {
    return person
        .get("/api/pocket/weeks/" + gate.monday())
        .json()
        .path("days")
        .path(gate.day().getDayOfWeek().getValue() - 1);
  }

  private JsonNode entryOf(Visitor person, String kind, String from) {
    return day(person)
        .path("entries")
        .valueStream()
        .filter(entry -> entry.path("kind").asString().equals(kind))
        .filter(entry -> entry.path("from").asString().startsWith(from))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void one_tap_counts_for_the_whole_crew_and_the_miles_for_whoever_taps() {
    together();
    gate.at("14:20");
    gate.tap("drive", withDilys());
    gate.at("15:00");
    gate.tap("arrive", withDilys("miles", "18.4"));
    gate.tap("start-work", withDilys());
    gate.at("16:05");
    gate.tap("pause", withDilys());
    assertThat(clocks())
        .containsExactly("Dilys drive 40", "Dilys labour 65", "Imre drive 40", "Imre labour 65");
    assertThat(texts(visit().path("times"), "miles"))
        .containsExactlyInAnyOrder("18.4", "0.0", "0.0", "0.0");
  }

  @Test
  void whoever_is_not_ticked_keeps_their_own_clock() {
    together();
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    gate.tap("start-work", withDilys());
    gate.at("15:30");
    gate.tap("pause", Map.of());
    gate.at("16:00");
    dilys.post("/api/pocket/visits/" + gate.visit() + "/pause", Map.of());
    assertThat(clocks()).containsExactly("Dilys labour 60", "Imre labour 30");
  }

  @Test
  void nobody_taps_for_somebody_who_does_not_come_along() {
    gate.planned();
    gate.at("14:20");
    Visitor.Answer refused = gate.tap("drive", withDilys());
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.pointer()).isEqualTo("/crewIds");
    assertThat(visit().path("state").asString()).isEqualTo("planned");
  }

  @Test
  void the_next_clock_ends_the_one_before_without_a_gap() {
    gate.onSite();
    gate.at("15:45");
    start(imre, "kind", "break");
    gate.at("16:10");
    gate.tap("start-work", Map.of());
    gate.at("17:00");
    start(imre, "kind", "drive");
    gate.at("17:20");
    stop(imre, "miles", "9");
    assertThat(clocks()).containsExactly("Imre drive 40", "Imre labour 45", "Imre labour 50");
    JsonNode hours = day(imre).path("worked");
    assertThat(hours.path("breaks").asInt()).isEqualTo(25);
    assertThat(hours.path("drive").asInt()).isEqualTo(60);
    assertThat(imre.get("/api/pocket/day").json().path("inDoubt")).isEmpty();
  }

  @Test
  void a_break_costs_nothing_and_other_paid_time_stays_off_the_job() {
    gate.onSite();
    gate.at("15:30");
    start(imre, "kind", "break");
    gate.at("16:00");
    start(imre, "kind", "labour", "work", "Yard");
    gate.at("17:00");
    stop(imre);
    JsonNode day =
        gate.office()
            .get(
                "/api/people/" + program.person("imre") + "/days/" + visit().path("day").asString())
            .json();
    assertThat(texts(day.path("entries"), "kind")).endsWith("labour", "break", "labour");
    assertThat(day.path("entries").path(2).path("costMinor").asLong()).isZero();
    assertThat(day.path("entries").path(3).path("costMinor").asLong()).isPositive();
    assertThat(day.path("breakMinutes").asInt()).isEqualTo(30);
    assertThat(clocks()).containsExactly("Imre drive 40", "Imre labour 30");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void other_paid_time_says_what_it_is_for() {
    gate.at("09:00");
    assertThat(start(imre, "kind", "labour").pointer()).isEqualTo("/work");
    assertThat(start(imre).pointer()).isEqualTo("/kind");
  }

  @Test
  void work_elsewhere_asks_when_the_clock_before_it_ended() {
    gate.onSite();
    SwingGate other = gate.beside().planned();
    gate.at("16:00");
    other.tap("arrive", Map.of());
    other.tap("start-work", Map.of());
    JsonNode asked = imre.get("/api/pocket/day").json().path("inDoubt").path(0);
    assertThat(asked.path("to").asString()).startsWith("16:00");
    Visitor.Answer answer =
        imre.put(
            "/api/pocket/time-entries/" + asked.path("id").asLong(),
            form(
                "version", asked.path("version").asInt(),
                "from", "15:00",
                "to", "15:40",
                "reason", "Walked over"));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    assertThat(imre.get("/api/pocket/day").json().path("inDoubt")).isEmpty();
    assertThat(clocks()).containsExactly("Imre drive 40", "Imre labour 40");
    other.tap("pause", Map.of());
  }

  @Test
  void an_end_that_was_right_is_confirmed() {
    gate.onSite();
    SwingGate other = gate.beside().planned();
    gate.at("16:00");
    other.tap("arrive", Map.of());
    other.tap("start-work", Map.of());
    mend(imre);
    assertThat(imre.get("/api/pocket/day").json().path("inDoubt")).isEmpty();
    assertThat(clocks()).containsExactly("Imre drive 40", "Imre labour 60");
    other.tap("pause", Map.of());
  }

  @Test
  void a_clock_forgotten_over_night_is_asked_about_before_the_next_one_starts() {
    gate.onSite();
    gate.at("19:00");
    JsonNode running = imre.get("/api/pocket/day").json().path("clock");
    assertThat(running.path("forgotten").asBoolean()).isTrue();
    gate.nextDayAt("06:30");
    assertThat(start(imre, "kind", "drive").rule()).isEqualTo("CLOCK_FORGOTTEN");
    assertThat(gate.tap("pause", Map.of()).rule()).isEqualTo("CLOCK_FORGOTTEN");
    assertThat(stop(imre).rule()).isEqualTo("CLOCK_FORGOTTEN");
    assertThat(stop(imre, "endedAt", "16:40").status()).isEqualTo(200);
    assertThat(clocks()).containsExactly("Imre drive 40", "Imre labour 100");
    assertThat(start(imre, "kind", "drive").status()).isEqualTo(200);
    gate.nextDayAt("06:50");
    assertThat(stop(imre).status()).isEqualTo(200);
  }

  private Visitor.Answer asOffice(String step, long entry, Object... form) {
    String path = "/api/time-entries/" + entry;
    return step.isEmpty()
        ? gate.office().put(path, form(form))
        : gate.office().post(path + step, form(form));
  }

  @Test
  void the_office_ends_a_clock_that_nobody_stopped() {
    gate.onSite();
    gate.nextDayAt("09:00");
    JsonNode running = visit().path("times").path(1);
    Visitor.Answer ended =
        asOffice(
            "",
            running.path("id").asLong(),
            "version",
            running.path("version").asInt(),
            "from",
            "15:00",
            "to",
            "16:30",
            "reason",
            "He is ill");
    assertThat(ended.status()).as(ended.text()).isEqualTo(200);
    assertThat(clocks()).containsExactly("Imre drive 40", "Imre labour 90");
    assertThat(start(imre, "kind", "break").status()).isEqualTo(200);
    gate.nextDayAt("09:10");
    stop(imre);
  }

  @Test
  void a_clock_that_the_office_takes_off_runs_no_more() {
    gate.onSite();
    gate.at("16:00");
    JsonNode running = visit().path("times").path(1);
    Visitor.Answer removed =
        asOffice(
            "/remove",
            running.path("id").asLong(),
            "version",
            running.path("version").asInt(),
            "reason",
            "Wrong visit");
    assertThat(removed.status()).as(removed.text()).isEqualTo(200);
    assertThat(gate.tap("start-work", Map.of()).status()).isEqualTo(200);
    gate.at("16:20");
    gate.tap("pause", Map.of());
    assertThat(clocks()).containsExactly("Imre drive 40", "Imre labour 20");
  }

  @Test
  void what_was_measured_stays_beside_what_was_put_right() {
    gate.onSite();
    gate.at("16:40");
    gate.tap("pause", Map.of());
    JsonNode labour = entryOf(imre, "labour", "15:00");
    imre.put(
        "/api/pocket/time-entries/" + labour.path("id").asLong(),
        form(
            "version", labour.path("version").asInt(),
            "from", "15:10",
            "to", "16:30",
            "reason", "Tapped late"));
    JsonNode corrected = entryOf(imre, "labour", "15:10");
    assertThat(corrected.path("minutes").asInt()).isEqualTo(80);
    assertThat(corrected.path("measuredFrom").asString()).startsWith("15:00");
    assertThat(corrected.path("measuredTo").asString()).startsWith("16:40");
  }

  @Test
  void a_forgotten_start_is_written_down_with_its_reason_and_was_never_measured() {
    gate.onSite();
    gate.at("16:00");
    gate.tap("pause", Map.of());
    String path = "/api/pocket/days/" + visit().path("day").asString() + "/time-entries";
    var time =
        form(
            "version",
            0,
            "visitId",
            gate.visit(),
            "kind",
            "labour",
            "from",
            "16:00",
            "to",
            "16:20");
    gate.at("16:30");
    assertThat(imre.post(path, time).pointer()).isEqualTo("/reason");
    var noVisit = new HashMap<String, Object>(time);
    noVisit.remove("visitId");
    assertThat(imre.post(path, noVisit).pointer()).isEqualTo("/work");
    time.put("reason", "Back for the remote");
    assertThat(imre.post(path, time).status()).isEqualTo(200);
    JsonNode written = entryOf(imre, "labour", "16:00");
    assertThat(written.path("measuredFrom").isNull()).isTrue();
    assertThat(clocks()).containsExactly("Imre drive 40", "Imre labour 20", "Imre labour 60");
  }

  @Test
  void whoever_may_not_backdate_still_answers_what_they_are_asked() {
    program
        .database()
        .update(PERSON)
        .set(PERSON.MAY_BACKDATE, false)
        .where(PERSON.USERNAME.eq("imre"))
        .execute();
    gate.onSite();
    gate.at("16:00");
    gate.tap("pause", Map.of());
    JsonNode labour = entryOf(imre, "labour", "15:00");
    var form =
        form("version", labour.path("version").asInt(), "from", "15:10", "to", "16", "reason", "x");
    String path = "/api/pocket/time-entries/" + labour.path("id").asLong();
    assertThat(imre.put(path, form).rule()).isEqualTo("NOT_TO_BACKDATE");
    program
        .database()
        .update(TIME_ENTRY)
        .set(TIME_ENTRY.END_IN_DOUBT, true)
        .where(TIME_ENTRY.ID.eq(labour.path("id").asLong()))
        .execute();
    assertThat(imre.put(path, form).status()).isEqualTo(200);
  }

  @Test
  void a_time_is_ones_own_and_stays_as_the_office_has_checked_it() {
    gate.checked();
    JsonNode labour = visit().path("times").path(1);
    var form =
        form("version", labour.path("version").asInt(), "from", "15:10", "to", "16", "reason", "x");
    String path = "/api/pocket/time-entries/" + labour.path("id").asLong();
    assertThat(dilys.put(path, form).rule()).isEqualTo("NOT_FOUND");
    assertThat(imre.put(path, form).rule()).isEqualTo("VISIT_CHECKED");
  }

  @Test
  void a_week_is_signed_off_once_nothing_runs_and_a_change_asks_for_it_again() {
    gate.onSite();
    String path = "/api/pocket/weeks/" + gate.monday() + "/sign-off";
    gate.at("16:00");
    assertThat(imre.post(path, Map.of()).rule()).isEqualTo("CLOCK_RUNNING");
    gate.tap("pause", Map.of());
    assertThat(imre.post(path, Map.of()).json().path("signedOff").path("changedSince").asBoolean())
        .isFalse();
    gate.tap("start-work", Map.of());
    gate.at("16:30");
    gate.tap("pause", Map.of());
    assertThat(ofImre().path("signedOff").path("changedSince").asBoolean()).isTrue();
    imre.post(path, Map.of());
    assertThat(ofImre().path("signedOff").path("changedSince").asBoolean()).isFalse();
    assertThat(ofImre().path("hours").path("waitingForCheck").asInt()).isPositive();
  }

  @Test
  void whoever_has_left_is_in_the_weeks_in_which_they_worked() {
    gate.onSite();
    gate.at("16:00");
    gate.tap("pause", Map.of());
    var active = program.database().update(PERSON).set(PERSON.ACTIVE, false);
    active.where(PERSON.USERNAME.eq("imre")).execute();
    try {
      assertThat(ofImre().path("hours").path("paid").asInt()).isPositive();
    } finally {
      program
          .database()
          .update(PERSON)
          .set(PERSON.ACTIVE, true)
          .where(PERSON.USERNAME.eq("imre"))
          .execute();
    }
  }

  private JsonNode ofImre() {
    return gate.office()
        .get("/api/hours/" + gate.monday())
        .json()
        .path("people")
        .valueStream()
        .filter(person -> person.path("personId").asLong() == program.person("imre"))
        .findFirst()
        .orElseThrow();
  }

  @ParameterizedTest
  @CsvSource({"2026-11-24, NOT_FOUND", "2098-12-29, WEEK_TO_COME"})
  void no_week_that_is_none_or_to_come_is_signed_off(String monday, String rule) {
    assertThat(imre.post("/api/pocket/weeks/" + monday + "/sign-off", Map.of()).rule())
        .isEqualTo(rule);
  }

  @Test
  void two_phones_of_one_account_start_one_clock() throws Exception {
    gate.at("10:00");
    assertThat(
            AtOnce.statuses(4, i -> start(imre, "kind", "labour", "work", i < 2 ? "Yard" : "Van")))
        .allMatch(status -> status == 200 || status == 409);
    assertThat(
            program
                .database()
                .fetchCount(
                    TIME_ENTRY,
                    TIME_ENTRY
                        .PERSON_ID
                        .eq(program.person("imre"))
                        .and(TIME_ENTRY.ENDED_AT.isNull().and(TIME_ENTRY.REMOVED_AT.isNull()))))
        .isEqualTo(1);
  }

  @Test
  void what_the_promise_comes_to_is_seen_by_whoever_may_see_prices() {
    gate.planned();
    String path = "/api/pocket/visits/" + gate.visit();
    assertThat(imre.get(path).json().path("promisedNetMinor").isNull()).isTrue();
    var row = program.database().update(PERSON);
    row.set(PERSON.MAY_SEE_PRICES, true).where(PERSON.USERNAME.eq("imre")).execute();
    assertThat(imre.get(path).json().path("promisedNetMinor").asLong()).isEqualTo(612_00);
    program.database().update(PERSON).set(PERSON.MAY_SEE_PRICES, false).execute();
  }
}
