package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringReader;
import java.time.LocalDateTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What people are paid for, in classes that nobody chooses, and the file of it. */
class WagesTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  private static String days(SwingGate gate) {
    return "?from=" + gate.day() + "&to=" + gate.day();
  }

  private static JsonNode wages(SwingGate gate) {
    return gate.office().get("/api/wages" + days(gate)).json();
  }

  private static JsonNode of(SwingGate gate, String person) {
    return wages(gate)
        .path("people")
        .valueStream()
        .filter(one -> one.path("person").asString().equals(person))
        .findFirst()
        .orElseThrow();
  }

  private static Map<String, Integer> classes(JsonNode person) {
    return person
        .path("classes")
        .valueStream()
        .collect(
            Collectors.toMap(
                one -> one.path("payClass").asString(), one -> one.path("minutes").asInt()));
  }

  private static List<CSVRecord> file(SwingGate gate) throws Exception {
    return records(gate.office().get("/api/wages/file" + days(gate)).text());
  }

  private static List<CSVRecord> records(String csv) throws Exception {
    return CSVFormat.RFC4180
        .builder()
        .setHeader()
        .setSkipHeaderRecord(true)
        .get()
        .parse(new StringReader(csv))
        .getRecords();
  }

  @Test
  void drive_and_labour_are_paid_by_the_clock_and_past_the_working_hours_as_overtime() {
    SwingGate gate = new SwingGate(program, "tobias").finished();
    // 14:20 to 18:20; normal hours end at half past five.
    assertThat(classes(of(gate, "Tobias Quennell")))
        .isEqualTo(Map.of("normal", 190, "overtime", 50));
  }

  @Test
  void hours_are_not_certain_until_the_office_has_checked_them() throws Exception {
    SwingGate gate = new SwingGate(program, "tobias").finished();
    JsonNode before = of(gate, "Tobias Quennell");
    assertThat(before.path("closed").asBoolean()).isFalse();
    assertThat(before.path("waitingForCheck").asInt()).isEqualTo(240);
    assertThat(file(gate)).noneMatch(row -> row.get("Person").equals("Tobias Quennell"));
    check(gate);
    assertThat(of(gate, "Tobias Quennell").path("closed").asBoolean()).isTrue();
  }

  private static void check(SwingGate gate) {
    Visitor.Answer checked =
        gate.office()
            .post("/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion()));
    assertThat(checked.status()).isEqualTo(200);
  }

  @Test
  void the_file_adds_up_to_the_clocks_by_person_day_class_and_job() throws Exception {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    List<CSVRecord> own =
        file(gate).stream().filter(row -> row.get("Person").equals("Tobias Quennell")).toList();
    assertThat(own).allMatch(row -> row.get("Day").equals(gate.day().toString()));
    assertThat(own).allMatch(row -> row.get("Job").equals(gate.sheet().path("number").asString()));
    int clocked =
        gate.sheet()
            .path("visits")
            .path(0)
            .path("times")
            .valueStream()
            .mapToInt(time -> time.path("minutes").asInt())
            .sum();
    assertThat(own.stream().mapToInt(row -> Integer.parseInt(row.get("Minutes"))).sum())
        .isEqualTo(clocked);
    assertThat(own)
        .filteredOn(row -> row.get("Class").equals("overtime"))
        .allMatch(row -> row.get("Percent").equals("150"));
  }

  private static Visitor.Answer send(SwingGate gate) {
    return gate.office()
        .post(
            "/api/wages/runs", Map.of("from", gate.day().toString(), "to", gate.day().toString()));
  }

  private static List<CSVRecord> went(SwingGate gate, Visitor.Answer sent) throws Exception {
    assertThat(sent.status()).as(sent.text()).isEqualTo(200);
    return records(
            gate.office()
                .get("/api/wages/runs/" + sent.json().path("id").asLong() + "/file")
                .text())
        .stream()
        .filter(row -> row.get("Person").equals("Tobias Quennell"))
        .filter(row -> row.get("Day").equals(gate.day().toString()))
        .toList();
  }

  private static int minutes(List<CSVRecord> rows) {
    return rows.stream().mapToInt(row -> Integer.parseInt(row.get("Minutes"))).sum();
  }

  @Test
  void what_went_out_is_kept_and_does_not_go_out_again() throws Exception {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    assertThat(of(gate, "Tobias Quennell").path("dueMinutes").asInt()).isEqualTo(240);
    assertThat(minutes(went(gate, send(gate)))).isEqualTo(240);
    JsonNode now = of(gate, "Tobias Quennell");
    assertThat(now.path("sentMinutes").asInt()).isEqualTo(240);
    assertThat(now.path("dueMinutes").asInt()).isZero();
    Visitor.Answer again = send(gate);
    assertThat(again.status()).isEqualTo(409);
    assertThat(again.rule()).isEqualTo("NOTHING_TO_SEND");
  }

  @Test
  void a_time_put_right_afterwards_goes_out_as_what_it_differs_by() throws Exception {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    List<CSVRecord> first = went(gate, send(gate));
    Visitor.Answer opened =
        gate.office()
            .post(
                "/api/visits/" + gate.visit() + "/reopen", Map.of("version", gate.visitVersion()));
    assertThat(opened.status()).as(opened.text()).isEqualTo(200);
    assertThat(of(gate, "Tobias Quennell").path("dueMinutes").asInt()).as("unchecked").isZero();
    Visitor.Answer corrected =
        gate.correct(
            gate.sheet().path("visits").path(0).path("times").path(2),
            Map.of(
                "from", "17:35", "to", "17:50", "rateClass", "overtime", "reason", "Left earlier"));
    assertThat(corrected.status()).as(corrected.text()).isEqualTo(200);
    check(gate);
    JsonNode wages = of(gate, "Tobias Quennell");
    assertThat(wages.path("dueMinutes").asInt()).isEqualTo(-30);
    List<CSVRecord> difference = went(gate, send(gate));
    assertThat(difference).hasSize(1);
    assertThat(difference.getFirst().get("Class")).isEqualTo("overtime");
    assertThat(difference.getFirst().get("Minutes")).isEqualTo("-30");
    assertThat(minutes(first)).isEqualTo(240);
  }

  @Test
  void hours_checked_late_come_along_with_those_of_a_later_week() throws Exception {
    send(new SwingGate(program, "dilys").checked());
    SwingGate late = new SwingGate(program, "tobias").finished();
    SwingGate later = new SwingGate(program, "dilys").checked();
    check(late);
    JsonNode due = of(later, "Tobias Quennell");
    assertThat(due.path("earlierDueMinutes").asInt()).isGreaterThanOrEqualTo(240);
    Visitor.Answer sent = send(later);
    assertThat(sent.status()).as(sent.text()).isEqualTo(200);
    String file =
        later.office().get("/api/wages/runs/" + sent.json().path("id").asLong() + "/file").text();
    assertThat(records(file))
        .anyMatch(
            row ->
                row.get("Person").equals("Tobias Quennell")
                    && row.get("Day").equals(late.day().toString()));
    assertThat(of(later, "Tobias Quennell").path("earlierDueMinutes").asInt()).isZero();
  }

  @Test
  void the_same_file_is_a_workbook_where_that_is_asked_for() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    assertThat(gate.office().get("/api/wages/file" + days(gate) + "&format=xlsx").status())
        .isEqualTo(200);
  }

  @Test
  void the_day_and_the_week_are_cut_by_the_company_s_rules_from_their_day_on() {
    try (var company = new FoundedCompany("wages", "2026-11-24T06:00:00Z")) {
      Visitor office = company.office();
      JsonNode terms = office.get("/api/settings/terms").json();
      assertThat(terms.path("pay").path(0).path("weeklyMinutes").asInt()).isEqualTo(2400);
      JsonNode kept =
          FoundedCompany.done(
              office.put(
                  "/api/settings/terms/pay",
                  pay(terms.path("version").asInt(), Map.of("daily", "7:30", "weekly", "38"))));
      JsonNode now = kept.path("pay").path(0);
      assertThat(now.path("dailyMinutes").asInt()).isEqualTo(450);
      assertThat(now.path("weeklyMinutes").asInt()).isEqualTo(38 * 60);
      assertThat(now.path("overtimePercent").decimalValue()).isEqualByComparingTo("150");
    }
  }

  private static Map<String, Object> pay(int version, Map<String, Object> other) {
    var form =
        new HashMap<String, Object>(
            Map.of(
                "version", version,
                "fromDay", "tomorrow",
                "daily", "",
                "weekly", "",
                "weekend", List.of(6, 7),
                "breaksPaid", false,
                "roundingMinutes", "1"));
    form.putAll(
        Map.of(
            "overtimePercent", "150",
            "nightPercent", "200",
            "weekendPercent", "150",
            "holidayPercent", "200"));
    form.putAll(other);
    return form;
  }

  @Test
  void rules_of_pay_that_make_no_sense_are_refused_at_their_field() {
    try (var company = new FoundedCompany("wagerules", "2026-11-24T06:00:00Z")) {
      Visitor office = company.office();
      int version = office.get("/api/settings/terms").json().path("version").asInt();
      for (var wrong :
          Map.of(
                  "daily", "25",
                  "weekly", "170",
                  "roundingMinutes", "0",
                  "overtimePercent", "0")
              .entrySet()) {
        Visitor.Answer refused =
            office.put(
                "/api/settings/terms/pay", pay(version, Map.of(wrong.getKey(), wrong.getValue())));
        assertThat(refused.status()).as(wrong.getKey()).isEqualTo(422);
        assertThat(refused.pointer()).isEqualTo("/" + wrong.getKey());
      }
    }
  }

  @Test
  void more_days_than_two_months_and_days_the_wrong_way_round_are_refused() {
    Visitor office = new SwingGate(program, "tobias").office();
    assertThat(office.get("/api/wages?from=2026-01-01&to=2026-11-01").pointer()).isEqualTo("/from");
    assertThat(office.get("/api/wages?from=2026-11-02&to=2026-11-01").pointer()).isEqualTo("/to");
  }

  @Test
  void whoever_works_in_the_field_does_not_see_what_others_are_paid_for() {
    SwingGate gate = new SwingGate(program, "tobias").planned();
    assertThat(gate.technician().get("/api/wages").status()).isEqualTo(403);
  }

  private static void late(
      SwingGate gate, String step, LocalDateTime tapped, Map<String, Object> form) {
    assertThat(gate.late(step, tapped, form).path("state").asString()).isEqualTo("waiting");
  }

  private static void refuseAllThatWaits(SwingGate gate) {
    for (JsonNode visit : gate.office().get("/api/late-acts").json()) {
      List<Long> ids =
          visit.path("taps").valueStream().map(tap -> tap.path("id").asLong()).toList();
      gate.office().post("/api/late-acts/refuse", Map.of("lateActIds", ids, "reason", "Not so"));
    }
  }

  @Test
  void a_clock_that_came_in_late_keeps_its_week_until_the_office_has_answered() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    gate.at("19:00");
    late(gate, "start_work", gate.day().atTime(18, 30), Map.of());
    assertThat(of(gate, "Tobias Quennell").path("cameInLate").asBoolean()).isTrue();
    refuseAllThatWaits(gate);
    assertThat(of(gate, "Tobias Quennell").path("closed").asBoolean()).isTrue();
  }

  @Test
  void a_clock_of_a_later_week_that_came_in_late_does_not_keep_an_earlier_one() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    // In the week after next, since a clock that ends on a Monday may be of the night before.
    LocalDateTime later = gate.day().plusWeeks(2).atTime(9, 0);
    program.clock().set(later.toString());
    late(gate, "start_work", later, Map.of());
    assertThat(of(gate, "Tobias Quennell").path("closed").asBoolean()).isTrue();
    refuseAllThatWaits(gate);
  }

  @Test
  void a_clock_that_came_in_late_keeps_the_week_of_whoever_came_along() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    refuseAllThatWaits(gate);
    gate.at("19:00");
    List<Long> crew = List.of(program.person("piet"));
    late(gate, "start_work", gate.day().atTime(18, 30), Map.of("crewIds", crew));
    assertThat(of(gate, "Piet Osei").path("cameInLate").asBoolean()).isTrue();
    assertThat(of(gate, "Ngozi Adair").path("cameInLate").asBoolean()).isFalse();
    refuseAllThatWaits(gate);
    assertThat(of(gate, "Piet Osei").path("cameInLate").asBoolean()).isFalse();
  }

  @Test
  void a_part_that_came_in_late_keeps_nobodys_wages() {
    SwingGate gate = new SwingGate(program, "tobias").checked();
    long part = gate.office().get("/api/parts?q=KEY-SW").json().path(0).path("id").asLong();
    gate.at("19:00");
    late(gate, "use_part", gate.day().atTime(18, 30), Map.of("partId", part, "quantity", "1"));
    assertThat(of(gate, "Tobias Quennell").path("closed").asBoolean()).isTrue();
    refuseAllThatWaits(gate);
  }
}
