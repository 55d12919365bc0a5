package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.DRIVE_HOME_SHARE;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The drive home, borne by the visits of its day. */
class DriveHomeTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate first = new SwingGate(program, "piet");
  private final SwingGate second = first.beside();

  /** The demo has visits for him on the first of these days. */
  @BeforeEach
  void nothingElseIsPlannedForHim() {
    LocalDate day = LocalDate.ofInstant(program.clock().instant(), ZoneId.of("Europe/London"));
    program
        .database()
        .update(VISIT)
        .set(VISIT.DAY, day.plusYears(1))
        .where(VISIT.TECHNICIAN_ID.eq(piet()).and(VISIT.DAY.eq(day)))
        .execute();
  }

  @AfterEach
  void nobodyDrivesOn() {
    first.at("23:00");
    first.technician().post("/api/pocket/clock/stop", Map.of());
  }

  /** An hour on the first job, half an hour on the second, and 40 minutes and 12 miles home. */
  private void aDay() {
    aDay(first, second);
  }

  private void aDay(SwingGate one, SwingGate other) {
    work(one, "9:00", "10:00");
    work(other, "11:00", "11:30");
    one.at("11:30");
    tap("", Map.of("kind", "drive"));
    one.at("12:10");
    tap("/stop", Map.of("miles", "12"));
  }

  private void work(SwingGate gate, String from, String to) {
    gate.planned();
    gate.at(padded(from));
    gate.tap("arrive", Map.of());
    gate.tap("start-work", Map.of());
    gate.at(padded(to));
    gate.tap("finish", Map.of());
  }

  private static String padded(String time) {
    return time.length() == 4 ? "0" + time : time;
  }

  private Visitor.Answer tap(String step, Map<String, Object> form) {
    return first.technician().post("/api/pocket/clock" + step, form);
  }

  private static Visitor.Answer check(SwingGate gate) {
    return change(gate, "check");
  }

  private static Visitor.Answer change(SwingGate gate, String step) {
    return gate.office()
        .post("/api/visits/" + gate.visit() + "/" + step, Map.of("version", gate.visitVersion()));
  }

  private static JsonNode home(SwingGate gate) {
    return gate.sheet().path("visits").path(0).path("drivesHome");
  }

  private JsonNode day() {
    return first.office().get("/api/people/" + piet() + "/days/" + today()).json();
  }

  private String today() {
    return first.sheet().path("visits").path(0).path("day").asString();
  }

  private long piet() {
    return program
        .database()
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq("piet"))
        .fetchSingle()
        .value1();
  }

  private void lawsHold() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void the_drives_of_one_and_of_several_days_take_equally_many_statements() {
    aDay();
    var later = new SwingGate(program, "piet");
    var latest = new SwingGate(program, "piet");
    List<SwingGate> further = List.of(later, later.beside(), latest, latest.beside());
    aDay(further.get(0), further.get(1));
    aDay(further.get(2), further.get(3));
    Map<String, Object> one = checks(List.of(first, second));
    Map<String, Object> two = checks(further);
    Visitor office = first.office();
    int alone = program.statements(() -> office.post("/api/visit-checks", one));
    int together = program.statements(() -> office.post("/api/visit-checks", two));
    assertThat(further).allMatch(gate -> home(gate).size() == 1);
    assertThat(together).isEqualTo(alone).isPositive();
  }

  private static Map<String, Object> checks(List<SwingGate> gates) {
    return Map.of(
        "visits",
        gates.stream()
            .map(gate -> Map.of("visitId", gate.visit(), "version", gate.visitVersion()))
            .toList());
  }

  @Test
  void nothing_is_borne_before_the_last_visit_of_the_day_is_checked() {
    aDay();
    check(first);
    assertThat(home(first)).isEmpty();
    assertThat(day().path("entries").path(2).path("approved").asBoolean()).isFalse();
    lawsHold();
  }

  @Test
  void the_check_of_the_last_visit_shares_it_by_the_minutes_on_site() {
    aDay();
    check(first);
    check(second);
    assertThat(texts(home(first), "minutes")).containsExactly("27");
    assertThat(texts(home(second), "minutes")).containsExactly("13");
    assertThat(texts(home(first), "miles")).containsExactly("8.0");
    assertThat(texts(home(second), "miles")).containsExactly("4.0");
    long shared =
        home(first).path(0).path("costMinor").asLong()
            + home(second).path(0).path("costMinor").asLong();
    JsonNode drive = day().path("entries").path(2);
    assertThat(shared).isEqualTo(drive.path("costMinor").asLong()).isPositive();
    assertThat(drive.path("approved").asBoolean()).isTrue();
    lawsHold();
  }

  @Test
  void it_is_a_cost_of_the_job_and_no_charge() {
    aDay();
    long charged = byTimeAndParts(first);
    long cost = driveCost(first);
    check(first);
    check(second);
    assertThat(driveCost(first)).isEqualTo(cost + home(first).path(0).path("costMinor").asLong());
    assertThat(byTimeAndParts(first)).isEqualTo(charged);
  }

  private static long byTimeAndParts(SwingGate gate) {
    return gate.sheet().path("billing").path("timeAndParts").path("netMinor").asLong();
  }

  private static long driveCost(SwingGate gate) {
    return gate.sheet().path("cost").path("rungs").path(1).path("actualMinor").asLong();
  }

  @Test
  void a_drive_home_that_comes_after_the_checks_is_shared_at_once() {
    work(first, "9:00", "10:00");
    check(first);
    first.at("10:00");
    tap("", Map.of("kind", "drive"));
    first.at("10:25");
    tap("/stop", Map.of("miles", "9.5"));
    assertThat(texts(home(first), "minutes")).containsExactly("25");
    lawsHold();
  }

  @Test
  void a_job_that_is_billed_already_bears_its_share_as_cost_of_sales() {
    work(first, "9:00", "10:00");
    check(first);
    first
        .office()
        .post("/api/jobs/" + first.job() + "/invoice", Map.of("version", first.version()));
    long before = driveCost(first);
    first.at("10:00");
    tap("", Map.of("kind", "drive"));
    first.at("10:25");
    tap("/stop", Map.of("miles", "9.5"));
    JsonNode entry = first.sheet().path("journal").path(0);
    assertThat(entry.path("event").asString()).isEqualTo("drive_home_shared");
    assertThat(texts(entry.path("lines"), "accountCode")).doesNotContain("1200");
    assertThat(driveCost(first)).isGreaterThan(before);
    lawsHold();
  }

  @Test
  void a_check_that_is_taken_back_takes_the_shares_back_until_it_is_done_again() {
    aDay();
    check(first);
    check(second);
    change(second, "reopen");
    assertThat(home(first)).isEmpty();
    lawsHold();
    check(second);
    assertThat(texts(home(first), "minutes")).containsExactly("27");
    assertThat(
            program
                .database()
                .fetchCount(DRIVE_HOME_SHARE, DRIVE_HOME_SHARE.VISIT_ID.eq(first.visit())))
        .isEqualTo(3);
    lawsHold();
  }

  @Test
  void a_visit_of_the_day_that_is_called_off_is_waited_for_no_longer() {
    work(first, "9:00", "10:00");
    second.planned();
    first.at("11:30");
    tap("", Map.of("kind", "drive"));
    first.at("12:10");
    tap("/stop", Map.of());
    check(first);
    assertThat(home(first)).isEmpty();
    var calledOff =
        second
            .office()
            .post(
                "/api/visits/" + second.visit() + "/call-off",
                Map.of("version", second.visitVersion(), "reason", "Rang off"));
    assertThat(calledOff.status()).as(calledOff.text()).isEqualTo(200);
    assertThat(texts(home(first), "minutes")).containsExactly("40");
  }

  @Test
  void a_visit_that_is_moved_to_another_day_is_waited_for_no_longer() {
    work(first, "9:00", "10:00");
    second.planned();
    first.at("11:30");
    tap("", Map.of("kind", "drive"));
    first.at("12:10");
    tap("/stop", Map.of());
    check(first);
    var plan =
        new HashMap<String, Object>(
            Map.of("version", second.visitVersion(), "technicianId", piet()));
    String later = SwingGate.takeDay(program).toString();
    plan.putAll(Map.of("day", later, "start", "9", "expected", "1h"));
    plan.put("overruled", SwingGate.ANYTHING);
    assertThat(second.office().put("/api/visits/" + second.visit() + "/plan", plan).status())
        .isEqualTo(200);
    assertThat(texts(home(first), "minutes")).containsExactly("40");
  }

  @Test
  void the_office_puts_a_shared_drive_right_and_what_the_visits_bear_follows() {
    aDay();
    check(first);
    check(second);
    JsonNode drive = day().path("entries").path(2);
    var corrected =
        first.correct(
            drive, Map.of("from", "11:30", "to", "12:00", "miles", "9", "reason", "Stopped late"));
    assertThat(corrected.status()).as(corrected.text()).isEqualTo(200);
    assertThat(texts(home(first), "minutes")).containsExactly("20");
    assertThat(texts(home(second), "miles")).containsExactly("3.0");
    lawsHold();
  }

  @Test
  void a_drive_that_is_taken_off_is_borne_by_nobody() {
    aDay();
    check(first);
    check(second);
    JsonNode drive = day().path("entries").path(2);
    first
        .office()
        .post(
            "/api/time-entries/" + drive.path("id").asLong() + "/remove",
            Map.of("version", drive.path("version").asInt(), "reason", "He went shopping"));
    assertThat(home(first)).isEmpty();
    lawsHold();
  }

  @Test
  void time_in_the_yard_is_costed_and_shown_but_no_job_bears_it() {
    work(first, "9:00", "10:00");
    check(first);
    first.at("18:00");
    first
        .office()
        .post(
            "/api/people/" + piet() + "/days/" + today() + "/time-entries",
            Map.of(
                "version",
                0,
                "kind",
                "labour",
                "from",
                "13",
                "to",
                "14:30",
                "reason",
                "Van tidied"));
    JsonNode yard = day().path("entries").path(1);
    assertThat(yard.path("minutes").asInt()).isEqualTo(90);
    assertThat(yard.path("costMinor").asLong()).isPositive();
    assertThat(yard.path("jobNumber").isNull()).isTrue();
    assertThat(home(first)).isEmpty();
    lawsHold();
  }

  @Test
  void two_checks_at_the_same_moment_share_it_once() throws Exception {
    aDay();
    int before = program.database().fetchCount(DRIVE_HOME_SHARE);
    assertThat(AtOnce.statuses(2, i -> check(i == 0 ? first : second))).containsOnly(200);
    assertThat(program.database().fetchCount(DRIVE_HOME_SHARE)).isEqualTo(before + 2);
    lawsHold();
  }

  @Test
  void an_entry_belongs_to_the_day_on_which_it_began() {
    work(first, "9:00", "10:00");
    first.at("23:40");
    tap("", Map.of("kind", "drive"));
    first.nextDayAt("00:20");
    tap("/stop", Map.of("miles", "20"));
    assertThat(
            program
                .database()
                .select(TIME_ENTRY.DAY)
                .from(TIME_ENTRY)
                .where(TIME_ENTRY.PERSON_ID.eq(piet()).and(TIME_ENTRY.VISIT_ID.isNull()))
                .and(TIME_ENTRY.DAY.ge(LocalDate.parse(today())))
                .orderBy(TIME_ENTRY.STARTED_AT)
                .fetch(TIME_ENTRY.DAY))
        .startsWith(LocalDate.parse(today()), LocalDate.parse(today()).plusDays(1));
  }
}
