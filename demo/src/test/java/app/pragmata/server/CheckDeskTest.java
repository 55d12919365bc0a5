package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What the office checks before it goes home, and what in it is odd. */
class CheckDeskTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  /** Somebody drove, worked three hours and finished. */
  private SwingGate plain() {
    SwingGate gate = new SwingGate(program, "tobias").onSite();
    gate.at("18:00");
    gate.tap("finish", Map.of("note", ""));
    return gate;
  }

  private static JsonNode desk(SwingGate gate, String more) {
    return gate.office()
        .get("/api/check-desk?from=" + gate.day() + "&to=" + gate.day() + more)
        .json();
  }

  private static JsonNode row(SwingGate gate) {
    return desk(gate, "")
        .path("visits")
        .valueStream()
        .filter(visit -> visit.path("visitId").asLong() == gate.visit())
        .findFirst()
        .orElseThrow();
  }

  private static List<String> odd(SwingGate gate) {
    return texts(row(gate).path("odd"), "words");
  }

  @Test
  void a_visit_that_was_worked_as_promised_stands_there_with_its_times_and_nothing_odd() {
    SwingGate gate = plain();
    JsonNode row = row(gate);
    assertThat(row.path("labourMinutes").asInt()).isEqualTo(180);
    assertThat(row.path("driveMinutes").asInt()).isEqualTo(40);
    assertThat(row.path("technician").asString()).isEqualTo("Tobias Quennell");
    assertThat(odd(gate)).isEmpty();
    assertThat(desk(gate, "").path("plain").asInt()).isEqualTo(1);
    assertThat(desk(gate, "").path("plainLabourMinutes").asInt()).isEqualTo(180);
  }

  @Test
  void more_of_a_part_than_promised_is_told_by_its_name() {
    SwingGate gate = new SwingGate(program, "ngozi").finished();
    assertThat(odd(gate)).contains("more than promised of Photocell pair");
  }

  @Test
  void time_that_the_office_put_right_is_odd() {
    SwingGate gate = plain();
    JsonNode labour = gate.sheet().path("visits").path(0).path("times").path(1);
    gate.office()
        .put(
            "/api/time-entries/" + labour.path("id").asLong(),
            Map.of(
                "version", labour.path("version").asInt(),
                "from", "15:10",
                "to", "17:00",
                "reason", "He said so"));
    assertThat(odd(gate)).containsExactly("a time was written by hand");
  }

  @Test
  void a_part_without_a_price_and_one_that_is_wanted_are_odd() {
    SwingGate gate = new SwingGate(program, "tobias").onSite();
    gate.tap("unlisted-parts", Map.of("name", "Hinge M12", "quantity", "2"));
    gate.tap("missing-parts", Map.of("words", "a longer chain", "urgent", false));
    gate.at("18:00");
    gate.tap("finish", Map.of("note", ""));
    assertThat(odd(gate))
        .containsExactly("Hinge M12 is still to be priced", "waits for a longer chain");
  }

  @Test
  void more_than_twice_the_promised_labour_is_odd() {
    SwingGate gate = new SwingGate(program, "tobias").onSite();
    gate.at("23:30");
    gate.tap("finish", Map.of("note", "", "endedAt", "23:20"));
    assertThat(odd(gate)).anyMatch(words -> words.startsWith("8:20 worked where "));
  }

  private static void unsent(SwingGate gate, Object... visits) {
    Visitor.Answer noted =
        gate.technician().put("/api/pocket/unsent", Map.of("visits", List.of(visits)));
    assertThat(noted.status()).isEqualTo(200);
  }

  @Test
  void what_a_phone_still_has_to_send_is_odd_and_on_the_sheet_until_it_is_sent() {
    SwingGate gate = plain();
    unsent(gate, Map.of("visitId", gate.visit(), "things", 3));
    assertThat(odd(gate)).containsExactly("a phone has 3 things to send yet");
    assertThat(gate.sheet().path("visits").path(0).path("unsentThings").asInt()).isEqualTo(3);
    unsent(gate);
    assertThat(odd(gate)).isEmpty();
  }

  @Test
  void what_a_phone_cannot_have_to_send_is_refused_and_of_unknown_visits_nothing_is_kept() {
    SwingGate gate = plain();
    unsent(gate, Map.of("visitId", 999_999_999, "things", 3));
    for (Object wrong :
        List.of(
            Map.of("visits", List.of(Map.of("visitId", gate.visit(), "things", 0))),
            Map.of("visits", Collections.nCopies(101, Map.of("visitId", 1, "things", 1))))) {
      Visitor.Answer refused = gate.technician().put("/api/pocket/unsent", wrong);
      assertThat(refused.pointer()).as(refused.text()).isEqualTo("/visits");
    }
    assertThat(odd(gate)).isEmpty();
  }

  private static JsonNode rules(Visitor office) {
    return office.get("/api/settings/check-rules").json();
  }

  private static Visitor.Answer keep(Visitor owner, Map<?, ?>... rules) {
    return owner.put(
        "/api/settings/check-rules",
        Map.of("version", rules(owner).path("version").asInt(), "rules", List.of(rules)));
  }

  @Test
  void an_oddity_that_is_switched_off_is_not_told_until_it_is_switched_on_again() {
    SwingGate gate = new SwingGate(program, "tobias").onSite();
    gate.tap("missing-parts", Map.of("words", "a longer chain", "urgent", false));
    gate.at("18:00");
    gate.tap("finish", Map.of("note", ""));
    assertThat(odd(gate)).containsExactly("waits for a longer chain");
    Visitor owner = Visitor.signedIn(program, "orla");
    keep(owner, Map.of("oddity", "part_wanted", "watched", false, "limit", ""));
    assertThat(odd(gate)).isEmpty();
    keep(owner);
    assertThat(odd(gate)).containsExactly("waits for a longer chain");
  }

  @Test
  void a_limit_of_nonsense_is_refused_at_its_field_and_nothing_changes() {
    Visitor owner = Visitor.signedIn(program, "orla");
    JsonNode before = rules(owner);
    for (String wrong : List.of("0", "1000000", "-3", "a lot", "0.5")) {
      Visitor.Answer refused =
          keep(owner, Map.of("oddity", "day_gap", "watched", true, "limit", wrong));
      assertThat(refused.status()).as(wrong).isEqualTo(422);
      assertThat(refused.pointer()).isEqualTo("/rules/0/limit");
    }
    assertThat(keep(owner, Map.of("oddity", "no_end", "watched", true, "limit", "3")).pointer())
        .isEqualTo("/rules/0/limit");
    assertThat(
            keep(
                    owner,
                    Map.of("oddity", "no_end", "watched", true, "limit", ""),
                    Map.of("oddity", "no_end", "watched", false, "limit", ""))
                .pointer())
        .isEqualTo("/rules/1/oddity");
    assertThat(rules(owner)).isEqualTo(before);
  }

  @Test
  void only_visits_of_the_kind_the_place_and_the_cost_centre_that_are_asked_for_are_shown() {
    SwingGate gate = plain();
    assertThat(desk(gate, "&district=OS99").path("visits")).isEmpty();
    assertThat(desk(gate, "&costCentre=nowhere").path("visits")).isEmpty();
    assertThat(desk(gate, "&kindOfJobId=999999").path("visits")).isEmpty();
    JsonNode centres = desk(gate, "").path("costCentres");
    assertThat(
            centres
                .valueStream()
                .map(centre -> desk(gate, "&costCentre=" + centre.path("code").asString()))
                .mapToInt(desk -> desk.path("visits").size())
                .sum())
        .isEqualTo(desk(gate, "").path("visits").size());
    assertThat(gate.office().get("/api/check-desk?district=OS1,OS2").pointer())
        .isEqualTo("/district");
  }

  @Test
  void what_the_plain_ones_cost_is_what_checking_them_posts() {
    SwingGate gate = plain();
    JsonNode sheet = gate.sheet();
    assertThat(desk(gate, "").path("plainCostMinor").asLong())
        .isEqualTo(sheet.path("cost").path("actualMinor").asLong());
  }

  @Test
  void time_on_no_clock_before_a_visit_is_told_on_it() {
    SwingGate first = plain();
    SwingGate second = first.beside().planned();
    second.at("19:00");
    second.tap("arrive", Map.of("miles", "1"));
    second.tap("start-work", Map.of());
    second.at("20:00");
    second.tap("finish", Map.of("note", ""));
    assertThat(odd(second)).contains("1:00 before it on no clock");
  }

  /** Another visit of the job, planned; its id. */
  private long another(SwingGate gate, String start) {
    Visitor.Answer added =
        gate.office()
            .post(
                "/api/jobs/" + gate.job() + "/visits",
                Map.of(
                    "version",
                    gate.version(),
                    "technicianId",
                    program.person("tobias"),
                    "day",
                    gate.nextWorkingDay().toString(),
                    "start",
                    start,
                    "expected",
                    "1h",
                    "overruled",
                    SwingGate.ANYTHING));
    assertThat(added.status()).isEqualTo(200);
    return gate.sheet()
        .path("visits")
        .valueStream()
        .mapToLong(one -> one.path("id").asLong())
        .max()
        .orElseThrow();
  }

  private static JsonNode visit(SwingGate gate, long id) {
    return gate.sheet()
        .path("visits")
        .valueStream()
        .filter(one -> one.path("id").asLong() == id)
        .findFirst()
        .orElseThrow();
  }

  private static Visitor.Answer callOffWith(SwingGate gate, long other, int version) {
    return gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/call-off",
            Map.of(
                "version", gate.visitVersion(),
                "reason", "They sold the house",
                "others", List.of(Map.of("visitId", other, "version", version))));
  }

  @Test
  void a_visit_is_called_off_with_the_planned_ones_that_are_to_go_with_it_and_no_others() {
    SwingGate gate = plain();
    long along = another(gate, "9");
    long stays = another(gate, "11");
    Visitor.Answer called = callOffWith(gate, along, visit(gate, along).path("version").asInt());
    assertThat(called.status()).isEqualTo(200);
    assertThat(visit(gate, gate.visit()).path("state").asString()).isEqualTo("called_off");
    assertThat(visit(gate, along).path("state").asString()).isEqualTo("called_off");
    assertThat(visit(gate, along).path("reason").asString()).isEqualTo("They sold the house");
    assertThat(visit(gate, stays).path("state").asString()).isEqualTo("planned");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private Visitor.Answer notThisTime(SwingGate gate, Map<String, Object> parts) {
    var form = new HashMap<String, Object>(parts);
    form.put("version", gate.visitVersion());
    form.put("reason", "The gate was locked");
    return gate.office().post("/api/visits/" + gate.visit() + "/not-this-time", form);
  }

  private static long partsCost(SwingGate gate) {
    return gate.sheet().path("cost").path("rungs").path(2).path("actualMinor").asLong();
  }

  @Test
  void a_visit_that_came_to_nothing_asks_where_its_parts_are_and_puts_them_back() {
    SwingGate gate = new SwingGate(program, "tobias").corrected();
    assertThat(notThisTime(gate, Map.of()).pointer()).isEqualTo("/parts");
    assertThat(partsCost(gate)).isEqualTo(240_90);
    assertThat(notThisTime(gate, Map.of("parts", "back_in_the_van")).status()).isEqualTo(200);
    assertThat(partsCost(gate)).isZero();
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void parts_that_stayed_there_cost_the_job_and_are_charged_to_nobody() {
    SwingGate gate = new SwingGate(program, "tobias").corrected();
    assertThat(notThisTime(gate, Map.of("parts", "stayed_there")).status()).isEqualTo(200);
    assertThat(partsCost(gate)).isEqualTo(240_90);
    assertThat(gate.sheet().path("billing").path("timeAndParts").path("netMinor").asLong())
        .isZero();
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void visits_of_another_job_go_with_none_and_nothing_is_called_off() {
    SwingGate gate = plain();
    SwingGate other = new SwingGate(program, "piet").planned();
    Visitor.Answer refused = callOffWith(gate, other.visit(), other.visitVersion());
    assertThat(refused.text()).contains("Only planned visits of the same job");
    assertThat(visit(gate, gate.visit()).path("state").asString()).isEqualTo("finished");
  }

  @Test
  void the_desk_shows_the_visits_of_one_technician() {
    SwingGate gate = plain();
    String others = "&technicianId=" + program.person("piet");
    assertThat(desk(gate, others).path("visits")).isEmpty();
    String own = "&technicianId=" + program.person("tobias");
    assertThat(desk(gate, own).path("visits")).hasSize(1);
  }

  @Test
  void a_last_day_before_the_first_is_refused() {
    Visitor office = Visitor.signedIn(program, "hester");
    Visitor.Answer refused = office.get("/api/check-desk?from=2026-11-20&to=2026-11-19");
    assertThat(refused.pointer()).isEqualTo("/to");
    assertThat(office.get("/api/check-desk?from=someday").pointer()).isEqualTo("/from");
  }

  private static Map<String, Object> shown(List<SwingGate> gates) {
    return Map.of(
        "visits",
        gates.stream()
            .map(gate -> Map.of("visitId", gate.visit(), "version", gate.visitVersion()))
            .toList());
  }

  @Test
  void what_was_checked_together_is_taken_back_together() {
    List<SwingGate> gates = Stream.generate(this::plain).limit(2).toList();
    Visitor office = gates.getFirst().office();
    Visitor.Answer checked = office.post("/api/visit-checks", shown(gates));
    assertThat(desk(gates.getFirst(), "").path("visits")).isEmpty();
    Visitor.Answer back =
        office.post("/api/visit-checks/take-back", Map.of("visits", checked.json().path("visits")));
    assertThat(back.status()).as(back.text()).isEqualTo(200);
    assertThat(gates).allSatisfy(gate -> assertThat(odd(gate)).isEmpty());
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void all_or_none_of_the_checks_are_taken_back() {
    List<SwingGate> gates = Stream.generate(this::plain).limit(2).toList();
    Visitor office = gates.getFirst().office();
    office.post("/api/visit-checks", shown(gates.subList(0, 1)));
    Visitor.Answer refused = office.post("/api/visit-checks/take-back", shown(gates));
    assertThat(refused.rule()).isEqualTo("VISIT_NOT_CHECKED");
    assertThat(desk(gates.getFirst(), "").path("visits")).isEmpty();
  }

  @Test
  void many_visits_are_read_in_as_many_statements_as_one() {
    List<SwingGate> gates = Stream.generate(this::plain).limit(3).toList();
    Visitor office = gates.getFirst().office();
    String one = "/api/check-desk?from=" + gates.getLast().day() + "&to=" + gates.getLast().day();
    String all = "/api/check-desk?from=" + gates.getFirst().day() + "&to=" + gates.getLast().day();
    assertThat(program.statements(() -> office.get(all)))
        .isEqualTo(program.statements(() -> office.get(one)))
        .isPositive();
  }
}
