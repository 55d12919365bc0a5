package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
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
