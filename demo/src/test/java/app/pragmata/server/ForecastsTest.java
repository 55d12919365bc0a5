package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What a job comes to at its end, while something can still be done about it. */
class ForecastsTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  private static JsonNode forecast(SwingGate gate) {
    return gate.sheet().path("forecast");
  }

  private static long labour(SwingGate gate) {
    return forecast(gate).path("rungs").path(0).path("costMinor").asLong();
  }

  private void plan(SwingGate gate, String start, String expected) {
    Visitor.Answer planned =
        gate.office()
            .put(
                "/api/visits/" + gate.visit() + "/plan",
                Map.of(
                    "version",
                    gate.visitVersion(),
                    "technicianId",
                    program.person("imre"),
                    "day",
                    gate.day().toString(),
                    "start",
                    start,
                    "expected",
                    expected,
                    "overruled",
                    SwingGate.ANYTHING));
    assertThat(planned.status()).isEqualTo(200);
  }

  /** Twelve hours at what was promised to take two and a half. */
  private SwingGate losing() {
    SwingGate gate = new SwingGate(program, "imre").agree("promise", "fixed_price").waiting();
    plan(gate, "06:30", "12h");
    return gate;
  }

  private static JsonNode row(SwingGate gate) {
    return gate.office()
        .get("/api/worklists/booked?filter=" + gate.sheet().path("number").asLong())
        .json()
        .path("rows")
        .path(0);
  }

  @Test
  void before_it_is_begun_it_comes_to_what_it_was_quoted_at() {
    SwingGate gate = new SwingGate(program, "imre").agree("promise", "fixed_price").waiting();
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("forecast").path("costMinor").asLong())
        .isEqualTo(sheet.path("cost").path("quotedMinor").asLong());
    assertThat(sheet.path("forecast").path("netMinor").asLong()).isEqualTo(612_00);
    assertThat(sheet.path("forecast").path("belowFloor").asBoolean()).isFalse();
  }

  @Test
  void a_visit_past_the_working_hours_is_reckoned_at_the_wage_and_class_of_whoever_goes() {
    SwingGate gate = new SwingGate(program, "imre").waiting();
    plan(gate, "16:00", "2:30");
    // 1:30 at 24.108, and an hour after half past five at half as much again.
    assertThat(labour(gate)).isEqualTo(36_16 + 36_16);
  }

  @Test
  void what_is_done_is_to_come_no_more() {
    SwingGate gate = new SwingGate(program, "imre").finished();
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("forecast").path("ahead")).isEmpty();
    assertThat(sheet.path("forecast").path("costMinor").asLong())
        .isEqualTo(sheet.path("cost").path("actualMinor").asLong());
  }

  @Test
  void one_below_the_floor_says_why_and_what_can_be_done() {
    JsonNode forecast = forecast(losing());
    // 0:30 and 1:00 at half as much again as 24.108, 10:30 at it; a drive of 17.75, parts of
    // 226.65.
    assertThat(forecast.path("costMinor").asLong())
        .isEqualTo(18_08 + 253_13 + 36_16 + 17_75 + 226_65);
    assertThat(forecast.path("marginPercent").decimalValue()).isEqualByComparingTo("9.84");
    assertThat(forecast.path("reasons").valueStream().map(JsonNode::asString))
        .containsExactly("labour costs 247.10 more, 9:30 longer than quoted");
    assertThat(forecast.path("remedy").asString()).startsWith("Quote what was not promised");
  }

  @Test
  void it_is_marked_on_its_list_on_the_money_line_and_for_the_planner_until_it_is_no_more() {
    SwingGate gate = losing();
    assertThat(row(gate).path("belowFloor").asBoolean()).isTrue();
    assertThat(row(gate).path("forecastPercent").decimalValue()).isEqualByComparingTo("9.84");
    assertThat(gate.office().get("/api/jobs-below-floor").json().valueStream())
        .anyMatch(job -> job.path("jobId").asLong() == gate.job());
    long marked = booked(gate);
    plan(gate, "09:00", "2h");
    assertThat(row(gate).path("belowFloor").asBoolean()).isFalse();
    assertThat(gate.office().get("/api/jobs-below-floor").json().valueStream())
        .noneMatch(job -> job.path("jobId").asLong() == gate.job());
    assertThat(booked(gate)).isEqualTo(marked - 1);
  }

  private static long booked(SwingGate gate) {
    return gate.office()
        .get("/api/money-line")
        .json()
        .valueStream()
        .filter(stage -> stage.path("stage").asString().equals("booked"))
        .findFirst()
        .orElseThrow()
        .path("belowFloor")
        .asLong();
  }

  @Test
  void the_technician_knows_how_many_of_the_promised_minutes_are_used_up() {
    SwingGate gate = new SwingGate(program, "tobias").finished();
    JsonNode seen = gate.technician().get("/api/pocket/visits/" + gate.visit()).json();
    assertThat(seen.path("promisedMinutes").asInt()).isEqualTo(150);
    assertThat(seen.path("jobLabourMinutes").asInt()).isEqualTo(200);
  }

  @Test
  void a_part_that_the_technician_takes_is_on_the_list_at_once() {
    SwingGate gate = new SwingGate(program, "imre").agree("promise", "fixed_price").onSite();
    long before = row(gate).path("rungs").path(2).path("actualMinor").asLong();
    gate.tap("parts", Map.of("partId", gate.part("PHO-02"), "quantity", "3"));
    assertThat(row(gate).path("rungs").path(2).path("actualMinor").asLong()).isGreaterThan(before);
    gate.at("18:00");
    gate.tap("finish", Map.of("note", ""));
  }

  @Test
  void a_time_on_the_sheet_says_from_which_rates_its_cost_follows() {
    SwingGate gate = new SwingGate(program, "imre").finished();
    JsonNode drive = gate.sheet().path("visits").path(0).path("times").path(0);
    JsonNode costed = drive.path("costed");
    assertThat(costed.path("wagePerHour").decimalValue()).isEqualByComparingTo("19.60");
    assertThat(costed.path("onCostPercent").decimalValue()).isEqualByComparingTo("23");
    assertThat(costed.path("costPerHour").decimalValue()).isEqualByComparingTo("24.108");
    assertThat(costed.path("costPerMile").decimalValue()).isEqualByComparingTo("0.38");
    assertThat(costed.path("timeMinor").asLong()).isEqualTo(16_07);
    assertThat(costed.path("distanceMinor").asLong()).isEqualTo(6_99);
    assertThat(drive.path("costMinor").asLong()).isEqualTo(16_07 + 6_99);
    assertThat(costed.path("asApproved").asBoolean()).isFalse();
  }

  @Test
  void a_job_that_is_billed_has_no_end_to_forecast() {
    assertThat(forecast(new SwingGate(program, "imre").billed()).isObject()).isFalse();
  }
}
