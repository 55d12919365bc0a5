package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.ROUND_DATE;
import static app.pragmata.server.generated.Tables.SITE;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.server.laws.Laws;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Record3;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Agreements, the days on which their rounds are due, and the jobs that are opened for them. */
class RoundsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");
  private final Visitor office = gate.office();

  /** A customer, a site of theirs and a piece that stands there. */
  private final Record3<Long, Long, Long> place =
      program
          .database()
          .select(SITE.CUSTOMER_ID, SITE.ID, EQUIPMENT.ID)
          .from(EQUIPMENT)
          .join(SITE)
          .on(SITE.ID.eq(EQUIPMENT.SITE_ID))
          .where(EQUIPMENT.REMOVED_ON.isNull())
          .orderBy(EQUIPMENT.ID)
          .limit(1)
          .fetchSingle();

  private long agreement;
  private long round;

  @AfterEach
  void the_books_hold() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private Map<String, Object> terms() {
    var form = new HashMap<String, Object>();
    form.put("version", 0);
    form.put("name", "Service of the gate");
    form.put("from", gate.day().toString());
    form.put("until", "");
    return form;
  }

  private Map<String, Object> monthly() {
    var form = new HashMap<String, Object>();
    form.put("version", 0);
    form.put("siteId", place.value2());
    form.put("equipmentId", place.value3());
    form.put("kindOfJobId", kind());
    form.put("title", "Gate service");
    form.put("expected", "1:30");
    form.put("price", "120");
    form.put("withParts", false);
    form.put("repeats", "every month on the " + gate.day().getDayOfMonth());
    return form;
  }

  private long kind() {
    return office.get("/api/choices").json().path("kindsOfJob").path(0).path("id").asLong();
  }

  private Visitor.Answer make(Map<String, Object> form) {
    return office.post("/api/customers/" + place.value1() + "/agreements", form);
  }

  private Visitor.Answer add(Map<String, Object> form) {
    return office.post("/api/agreements/" + agreement + "/rounds", form);
  }

  /** An agreement from today on, by which the gate is served on this day of each month. */
  private void agree() {
    agreement = make(terms()).json().path("id").asLong();
    Visitor.Answer added = add(monthly());
    assertThat(added.status()).as(added.text()).isEqualTo(200);
    round = added.json().path("id").asLong();
  }

  private List<JsonNode> dates() {
    return office.get("/api/agreements/" + agreement + "/dates").json().valueStream().toList();
  }

  private Visitor.Answer open(LocalDate... days) {
    var dates = new ArrayList<Map<String, Object>>();
    for (LocalDate day : days) {
      dates.add(Map.of("roundId", round, "dueOn", day.toString()));
    }
    return office.post("/api/rounds/make", Map.of("dates", dates));
  }

  /** The job of today's round. */
  private SwingGate opened() {
    agree();
    assertThat(open(gate.day()).json().path("made").asInt()).isEqualTo(1);
    return gate.with(dates().getFirst().path("jobId").asLong());
  }

  private String stateToday() {
    return dates().getFirst().path("state").asString();
  }

  @Test
  void a_round_is_due_on_its_days_for_a_year_ahead() {
    agree();
    assertThat(dates()).hasSizeBetween(12, 13);
    assertThat(dates().getFirst().path("dueOn").asString()).isEqualTo(gate.day().toString());
    assertThat(dates()).extracting(date -> date.path("state").asString()).containsOnly("due");
  }

  @Test
  void a_job_that_is_opened_for_a_day_has_all_that_was_agreed_and_a_visit_to_be_booked() {
    JsonNode sheet = opened().sheet();
    assertThat(sheet.path("title").asString()).isEqualTo("Gate service");
    assertThat(sheet.path("customerId").asLong()).isEqualTo(place.value1());
    assertThat(sheet.path("visits").path(0).path("expectedMinutes").asInt()).isEqualTo(90);
    assertThat(sheet.path("visits").path(0).path("notBefore").asString())
        .isEqualTo(gate.day().minusDays(7).toString());
    assertThat(stateToday()).isEqualTo("to_book");
    gate.planned();
    assertThat(stateToday()).isEqualTo("booked");
    assertThat(dates().getFirst().path("bookedOn").asString()).isEqualTo(gate.day().toString());
  }

  @Test
  void a_round_goes_on_at_the_piece_that_stands_in_the_place_of_what_was_replaced() {
    agree();
    long former = place.value3();
    Long other =
        program
            .database()
            .select(EQUIPMENT.ID)
            .from(EQUIPMENT)
            .where(EQUIPMENT.REMOVED_ON.isNull().and(EQUIPMENT.ID.ne(former)))
            .andNotExists(
                selectOne()
                    .from(EQUIPMENT.as("before"))
                    .where(EQUIPMENT.as("before").REPLACED_BY_ID.eq(EQUIPMENT.ID)))
            .limit(1)
            .fetchOne(EQUIPMENT.ID);
    replaced(former, gate.day(), other);
    try {
      open(gate.day());
      assertThat(equipmentOf(0)).isEqualTo(other);
      replaced(former, gate.day(), null);
      open(gate.day().plusMonths(1));
      assertThat(equipmentOf(1)).isNull();
    } finally {
      replaced(former, null, null);
    }
  }

  private void replaced(long equipment, @Nullable LocalDate on, @Nullable Long by) {
    program
        .database()
        .update(EQUIPMENT)
        .set(EQUIPMENT.REMOVED_ON, on)
        .set(EQUIPMENT.REPLACED_BY_ID, by)
        .where(EQUIPMENT.ID.eq(equipment))
        .execute();
  }

  private @Nullable Long equipmentOf(int date) {
    return program
        .database()
        .select(JOB.EQUIPMENT_ID)
        .from(JOB)
        .where(JOB.ID.eq(dates().get(date).path("jobId").asLong()))
        .fetchSingle(JOB.EQUIPMENT_ID);
  }

  @Test
  void a_month_that_is_made_twice_opens_each_job_once() {
    agree();
    LocalDate next = gate.day().plusMonths(1);
    assertThat(open(gate.day(), next, next).json().path("made").asInt()).isEqualTo(2);
    assertThat(open(gate.day(), next).json().path("made").asInt()).isZero();
    assertThat(program.database().fetchCount(ROUND_DATE, ROUND_DATE.ROUND_ID.eq(round)))
        .isEqualTo(2);
  }

  @Test
  void several_who_make_the_same_month_at_once_open_each_job_once() throws Exception {
    agree();
    LocalDate next = gate.day().plusMonths(1);
    assertThat(AtOnce.statuses(4, i -> open(gate.day(), next))).containsOnly(200);
    assertThat(program.database().fetchCount(ROUND_DATE, ROUND_DATE.ROUND_ID.eq(round)))
        .isEqualTo(2);
  }

  @Test
  void a_day_on_which_a_round_is_not_due_makes_nothing() {
    agree();
    assertThat(open(gate.day().plusDays(1)).rule()).isEqualTo("OUT_OF_LIMITS");
    assertThat(open(gate.day().plusMonths(14)).rule()).isEqualTo("OUT_OF_LIMITS");
    assertThat(open().rule()).isEqualTo("MISSING");
    Visitor.Answer noDay =
        office.post("/api/rounds/make", Map.of("dates", List.of(Map.of("roundId", round))));
    assertThat(noDay.pointer()).isEqualTo("/dates/0/dueOn");
    assertThat(program.database().fetchCount(ROUND_DATE, ROUND_DATE.ROUND_ID.eq(round))).isZero();
  }

  @Test
  void the_list_of_a_month_has_what_is_due_in_it_and_in_the_running_one_what_is_late() {
    agree();
    String next = YearMonth.from(gate.day()).plusMonths(1).toString();
    JsonNode ahead = office.get("/api/rounds/due?month=" + next).json();
    assertThat(ahead.path("month").asString()).isEqualTo(next);
    assertThat(mine(ahead)).hasSize(1);
    assertThat(ahead.path("toMake").asInt()).isPositive();
    int late = late();
    program.clock().set(gate.day().plusMonths(1).plusDays(1) + "T09:00");
    assertThat(late()).isGreaterThanOrEqualTo(late + 2);
    assertThat(mine(office.get("/api/rounds/due").json()))
        .extracting(date -> date.path("late").asBoolean())
        .contains(true)
        .hasSize(2);
  }

  private int late() {
    return office.get("/api/rounds/count").json().path("late").asInt();
  }

  private List<JsonNode> mine(JsonNode month) {
    return month
        .path("dates")
        .valueStream()
        .filter(date -> date.path("roundId").asLong() == round)
        .toList();
  }

  @Test
  void what_was_due_before_a_round_was_written_down_is_nobodys_to_do() {
    var form = terms();
    form.put("from", gate.day().minusYears(2).toString());
    agreement = make(form).json().path("id").asLong();
    round = add(monthly()).json().path("id").asLong();
    assertThat(dates().getFirst().path("dueOn").asString()).isEqualTo(gate.day().toString());
  }

  @Test
  void a_visit_that_does_not_happen_ends_its_job_and_the_round_goes_on_to_the_day_shown_before() {
    opened().planned();
    JsonNode before = office.get("/api/jobs/" + gate.job() + "/round").json().path(0);
    LocalDate next = gate.day().plusMonths(1);
    assertThat(before.path("nextDueOn").asString()).isEqualTo(next.toString());
    assertThat(before.path("onlyVisitId").asLong()).isEqualTo(gate.visit());
    drop("Nobody had the key");
    assertThat(texts(gate.sheet().path("visits"), "state")).containsExactly("not_this_time");
    assertThat(gate.sheet().path("state").asString()).isEqualTo("called_off");
    JsonNode today = dates().getFirst();
    assertThat(today.path("state").asString()).isEqualTo("not_this_time");
    assertThat(today.path("notThisTime").asString()).isEqualTo("Nobody had the key");
    assertThat(dates().get(1).path("dueOn").asString()).isEqualTo(next.toString());
    assertThat(dates().get(1).path("state").asString()).isEqualTo("due");
  }

  private void drop(String reason) {
    Visitor.Answer dropped =
        office.post(
            "/api/visits/" + gate.visit() + "/not-this-time",
            Map.of("version", gate.visitVersion(), "reason", reason));
    assertThat(dropped.status()).as(dropped.text()).isEqualTo(200);
  }

  @Test
  void a_way_for_nothing_stays_a_cost_of_the_job_that_it_ended() {
    opened().onSite();
    gate.at("15:10");
    gate.tap("finish", Map.of("note", "", "outcome", "not_let_in", "reason", "Locked"));
    drop("Nobody had the key");
    JsonNode sheet = gate.sheet();
    assertThat(sheet.path("state").asString()).isEqualTo("called_off");
    assertThat(sheet.path("cost").path("marginMinor").asLong()).isNegative();
    assertThat(sheet.path("journal").path(0).path("lines").toString())
        .contains("Cost of work called off");
  }

  @Test
  void a_job_on_which_somebody_is_still_to_come_goes_on_itself() {
    opened().planned();
    Visitor.Answer further =
        office.post(
            "/api/jobs/" + gate.job() + "/waiting-visits",
            Map.of("version", 0, "expected", "1:00"));
    assertThat(further.status()).as(further.text()).isEqualTo(200);
    JsonNode before = office.get("/api/jobs/" + gate.job() + "/round").json().path(0);
    assertThat(before.path("onlyVisitId").isNull()).isTrue();
    drop("Nobody had the key");
    assertThat(gate.sheet().path("state").asString()).isEqualTo("open");
    assertThat(stateToday()).isEqualTo("to_book");
  }

  @Test
  void the_history_of_an_agreement_says_when_a_round_went_on_and_why() {
    opened().planned();
    drop("Nobody had the key");
    String told = office.get("/api/history/agreement/" + agreement).text();
    assertThat(told).contains("round_went_on", "Nobody had the key", "round_date_made");
  }

  @Test
  void parts_that_the_agreed_price_does_not_pay_for_are_odd() {
    opened().finished();
    assertThat(gate.oddities()).contains("outside_agreement");
    changeRound("withParts", true);
    assertThat(gate.oddities()).doesNotContain("outside_agreement");
  }

  private void changeRound(String field, Object value) {
    Map<String, Object> form = monthly();
    form.put("version", 1);
    form.put(field, value);
    assertThat(office.put("/api/rounds/" + round, form).status()).isEqualTo(200);
  }

  @Test
  void work_after_the_last_day_of_what_was_agreed_is_odd() {
    opened().planned();
    changeRound("until", gate.day().toString());
    Visitor.Answer later =
        office.put(
            "/api/visits/" + gate.visit() + "/plan",
            Map.of(
                "version",
                gate.visitVersion(),
                "technicianId",
                program.person("dilys"),
                "day",
                gate.nextWorkingDay().toString(),
                "start",
                "9",
                "expected",
                "1:30",
                "overruled",
                SwingGate.ANYTHING));
    assertThat(later.status()).as(later.text()).isEqualTo(200);
    program.clock().set(gate.nextWorkingDay() + "T09:00");
    gate.check(gate.tap("drive", Map.of()));
    program.clock().set(gate.nextWorkingDay() + "T09:20");
    gate.check(gate.tap("arrive", Map.of("miles", "5")));
    gate.check(gate.tap("start-work", Map.of()));
    program.clock().set(gate.nextWorkingDay() + "T10:00");
    gate.check(gate.tap("finish", Map.of("note", "")));
    assertThat(
            office
                .get(
                    "/api/check-desk?from="
                        + gate.nextWorkingDay()
                        + "&to="
                        + gate.nextWorkingDay())
                .text())
        .contains("its agreement ended on");
  }

  @Test
  void the_agreed_price_is_what_the_customer_pays_whatever_the_work_took() {
    JsonNode before = opened().sheet().path("billing");
    assertThat(before.path("basis").asString()).isEqualTo("promised_on_site");
    assertThat(before.path("promisedOnSite").path("total").path("netMinor").asLong())
        .isEqualTo(120_00);
    gate.finished();
    assertThat(gate.sheet().path("billing").path("chargedMinor").asLong()).isEqualTo(120_00);
    JsonNode of = office.get("/api/jobs/" + gate.job() + "/round").json().path(0);
    assertThat(of.path("priceMinor").asLong()).isEqualTo(120_00);
  }

  @Test
  void what_has_no_agreed_price_is_charged_by_time_and_parts() {
    agreement = make(terms()).json().path("id").asLong();
    Map<String, Object> form = monthly();
    form.put("price", "");
    round = add(form).json().path("id").asLong();
    open(gate.day());
    gate.with(dates().getFirst().path("jobId").asLong()).finished();
    assertThat(gate.sheet().path("billing").path("basis").asString()).isEqualTo("time_and_parts");
    assertThat(gate.oddities()).doesNotContain("outside_agreement");
  }

  @ParameterizedTest
  @CsvSource({
    "repeats, soon, UNREADABLE",
    "repeats, , MISSING",
    "title, , MISSING",
    "expected, 0:01, EXCEEDS_LIMIT",
    "price, 0, MISSING",
    "price, much, UNREADABLE",
    "siteId, 1000000, NOT_FOUND",
    "equipmentId, 1000000, NOT_FOUND",
    "kindOfJobId, , MISSING",
    "from, 2020-01-01, OUT_OF_LIMITS",
    "until, 2020-01-01, ENDS_BEFORE_START",
    "until, 9999-12-31, OUT_OF_LIMITS",
    "from, +999999999-12-31, OUT_OF_LIMITS",
  })
  void what_is_wrong_with_a_round_is_told_at_its_field(String field, String typed, String rule) {
    agreement = make(terms()).json().path("id").asLong();
    Map<String, Object> form = monthly();
    form.put(field, field.endsWith("Id") && typed != null ? Long.valueOf(typed) : typed);
    Visitor.Answer refused = add(form);
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.text()).contains(rule);
  }

  @Test
  void an_agreement_neither_ends_before_it_begins_nor_before_its_rounds() {
    Map<String, Object> form = terms();
    form.put("until", gate.day().minusDays(1).toString());
    assertThat(make(form).pointer()).isEqualTo("/until");
    agree();
    form.put("version", 1);
    form.put("from", gate.day().minusMonths(2).toString());
    form.put("until", gate.day().minusMonths(1).toString());
    assertThat(office.put("/api/agreements/" + agreement, form).pointer()).isEqualTo("/until");
    form.put("from", gate.day().plusDays(1).toString());
    form.put("until", "");
    assertThat(office.put("/api/agreements/" + agreement, form).pointer()).isEqualTo("/from");
  }

  @Test
  void a_round_that_has_made_jobs_is_given_a_last_day_and_not_taken_away() {
    opened();
    Map<String, Integer> shown = Map.of("version", 1);
    assertThat(office.post("/api/rounds/" + round + "/remove", shown).rule()).isEqualTo("IN_USE");
    Map<String, Object> form = monthly();
    form.put("version", 1);
    form.put("until", gate.day().toString());
    assertThat(office.put("/api/rounds/" + round, form).status()).isEqualTo(200);
    assertThat(dates()).hasSize(1);
    long unused = add(monthly()).json().path("id").asLong();
    assertThat(office.post("/api/rounds/" + unused + "/remove", shown).status()).isEqualTo(200);
  }

  @Test
  void an_agreement_is_found_by_its_number() {
    agree();
    long number = office.get("/api/agreements/" + agreement).json().path("number").asLong();
    assertThat(office.get("/api/find?q=" + number).json().valueStream().toList())
        .anySatisfy(
            hit -> {
              assertThat(hit.path("kind").asString()).isEqualTo("agreement");
              assertThat(hit.path("id").asLong()).isEqualTo(agreement);
            });
  }

  @Test
  void what_somebody_else_changed_meanwhile_is_not_overwritten() {
    agree();
    Map<String, Object> form = terms();
    form.put("version", 1);
    assertThat(office.put("/api/agreements/" + agreement, form).status()).isEqualTo(200);
    assertThat(office.put("/api/agreements/" + agreement, form).rule()).isEqualTo("STALE_VERSION");
  }

  @Test
  void a_repetition_is_read_back_with_its_next_days_before_it_is_agreed() {
    JsonNode read =
        office.get("/api/rounds/reading?repeats=fortnightly+on+wed&from=" + gate.day()).json();
    assertThat(read.path("repeats").asString()).isEqualTo("every 2 weeks on Wednesday");
    assertThat(read.path("days").valueStream().toList()).hasSize(4);
    assertThat(office.get("/api/rounds/reading?repeats=soon").pointer()).isEqualTo("/repeats");
    assertThat(office.get("/api/rounds/reading").pointer()).isEqualTo("/repeats");
  }

  @Test
  void the_agreements_of_a_customer_who_is_merged_go_over() {
    agree();
    assertThat(office.get("/api/agreements/" + agreement).json().path("rounds").size())
        .isEqualTo(1);
    assertThat(
            office
                .get("/api/customers/" + place.value1() + "/agreements")
                .json()
                .path(0)
                .path("id")
                .asLong())
        .isEqualTo(agreement);
  }
}
