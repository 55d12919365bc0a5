package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

class CallsTest {
  private static final long TANSY = 4;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  @BeforeEach
  void tuesdayMorning() {
    program.clock().set("2026-11-24T10:00");
  }

  private JsonNode card() {
    return office.get("/api/customers/" + TANSY).json();
  }

  private Map<String, @Nullable Object> call(String outcome) {
    JsonNode site = card().path("sites").path(0);
    var form = new HashMap<String, @Nullable Object>();
    form.put("customerId", TANSY);
    form.put("siteId", site.path("id").asLong());
    form.put("equipmentId", site.path("equipment").path(0).path("id").asLong());
    form.put("about", "Gate beeps and stays open");
    form.put("outcome", outcome);
    return form;
  }

  private static Map<String, Object> repair(String priority) {
    return Map.of("kindOfJobId", 1, "priority", priority, "expected", "1:30");
  }

  @Test
  void a_job_straight_from_a_call_carries_what_was_said_and_by_when_somebody_is_there() {
    var form = call("job");
    form.put("job", repair("urgent"));
    JsonNode taken = office.post("/api/calls", form).json();
    JsonNode job = office.get("/api/jobs/" + taken.path("jobId").asLong()).json();
    assertThat(job.path("title").asString()).isEqualTo("Gate beeps and stays open");
    assertThat(job.path("promises")).isEmpty();
    assertThat(job.path("response").path("by").asString()).isEqualTo("2026-11-25T07:30:00");
    assertThat(job.path("visits").path(0).path("expectedMinutes").asInt()).isEqualTo(90);
    assertThat(job.path("billing").path("basis").asString()).isEqualTo("time_and_parts");
  }

  @Test
  void a_job_without_a_quote_cannot_be_billed_at_a_fixed_price() {
    var form = call("job");
    form.put("job", repair("low"));
    long job = office.post("/api/calls", form).json().path("jobId").asLong();
    var answer =
        office.put("/api/jobs/" + job + "/basis", Map.of("version", 1, "basis", "fixed_price"));
    assertThat(answer.rule()).isEqualTo("NO_LINES");
  }

  @Test
  void a_job_that_nobody_came_to_in_time_is_late_on_its_list_until_somebody_is_on_site() {
    var form = call("job");
    form.put("job", repair("emergency"));
    long job = office.post("/api/calls", form).json().path("jobId").asLong();
    program.clock().set("2026-11-24T14:01");
    assertThat(response(job).path("late").asBoolean()).isTrue();
    assertThat(response(job).path("minutesLeft").asInt()).isEqualTo(-1);
  }

  private JsonNode response(long job) {
    for (JsonNode row : office.get("/api/worklists/won").json().path("rows")) {
      if (row.path("id").asLong() == job && row.path("kind").asString().equals("job")) {
        return row.path("response");
      }
    }
    throw new AssertionError("Job " + job + " is not among the won");
  }

  @Test
  void a_call_that_was_solved_is_kept_with_what_solved_it_and_makes_no_job() {
    // The newest of all calls of this customer.
    program.clock().set("2030-01-08T10:00");
    var form = call("solved");
    form.put("about", "Remote of the caretaker is dead");
    form.put("faultCode", "REMOTE");
    form.put("talk", "What does the gate do? Only the remote does nothing");
    form.put("solution", "Change the battery.");
    JsonNode taken = office.post("/api/calls", form).json();
    assertThat(taken.path("jobId").isNull()).isTrue();
    assertThat(card().path("calls").path(0).path("solution").asString())
        .isEqualTo("Change the battery.");
  }

  private JsonNode quoteLike(long job) {
    program.clock().set("2026-11-24T10:00");
    var form = call("quote");
    form.put("quote", Map.of("kindOfJobId", 1, "likeJobId", job));
    long quote = office.post("/api/calls", form).json().path("quoteId").asLong();
    return office.get("/api/quotes/" + quote).json();
  }

  @Test
  void a_quote_like_last_time_takes_over_what_was_quoted_at_todays_prices() {
    var gate = new SwingGate(program, "tobias").planned();
    JsonNode before = office.get("/api/quotes/" + gate.quote()).json();
    JsonNode draft = quoteLike(gate.job());
    assertThat(draft.path("state").asString()).isEqualTo("draft");
    assertThat(texts(draft.path("lines"), "time")).isEqualTo(texts(before.path("lines"), "time"));
    assertThat(texts(draft.path("lines"), "quantity"))
        .isEqualTo(texts(before.path("lines"), "quantity"));
  }

  @Test
  void a_quote_like_a_job_on_which_nothing_was_done_begins_with_labour_and_a_call_out() {
    var form = call("job");
    form.put("job", repair("normal"));
    long job = office.post("/api/calls", form).json().path("jobId").asLong();
    assertThat(texts(quoteLike(job).path("lines"), "category")).containsExactly("labour", "drive");
  }

  @Test
  void a_quote_like_a_job_that_nobody_knows_is_refused() {
    var form = call("quote");
    form.put("quote", Map.of("kindOfJobId", 1, "likeJobId", 999_999));
    assertThat(office.post("/api/calls", form).rule()).isEqualTo("NOT_FOUND");
  }

  @Test
  void a_to_do_from_a_call_is_closed_by_a_colleague_with_its_outcome() {
    Visitor maud = Visitor.signedIn(program, "maud");
    long maudsId = maud.get("/api/session").json().path("person").path("id").asLong();
    var form = call("to_do");
    form.put("about", "Send the statement of October again");
    form.put("toDo", Map.of("forPersonId", maudsId, "due", "tomorrow"));
    long toDo = office.post("/api/calls", form).json().path("toDoId").asLong();
    assertThat(texts(maud.get("/api/to-dos").json().path("rows"), "id"))
        .contains(Long.toString(toDo));
    maud.post(
        "/api/to-dos/" + toDo + "/close",
        Map.of("version", 1, "done", true, "outcome", "Sent by mail"));
    JsonNode closed = office.get("/api/to-dos/" + toDo).json();
    assertThat(closed.path("closedBy").asString()).isEqualTo("Maud Ferris");
    assertThat(closed.path("outcome").asString()).isEqualTo("Sent by mail");
  }

  @Test
  void taking_the_same_call_twice_makes_one_job() {
    var form = call("job");
    form.put("job", repair("normal"));
    String key = UUID.randomUUID().toString();
    long first = office.post("/api/calls", form, key).json().path("jobId").asLong();
    long second = office.post("/api/calls", form, key).json().path("jobId").asLong();
    assertThat(second).isEqualTo(first);
  }

  @Test
  void everything_that_is_wrong_with_a_call_is_told_together_and_nothing_is_kept() {
    int before = card().path("calls").size();
    var form = call("job");
    form.put("about", " ");
    form.put("siteId", 1);
    form.put("job", Map.of("kindOfJobId", 99, "priority", "", "expected", "0:01"));
    var refused = office.post("/api/calls", form);
    assertThat(texts(refused.json().path("errors"), "pointer"))
        .contains(
            "/siteId",
            "/equipmentId",
            "/about",
            "/job/kindOfJobId",
            "/job/priority",
            "/job/expected");
    assertThat(card().path("calls").size()).isEqualTo(before);
  }

  @ParameterizedTest
  @CsvSource({
    "emergency, 2026-11-27T19:00, 2026-11-27T23:00:00",
    "urgent, 2026-11-27T16:00, 2026-11-30T13:30:00",
    "urgent, 2026-12-24T16:00, 2026-12-28T13:30:00"
  })
  void what_is_promised_follows_the_working_hours_and_the_holidays(
      String priority, String called, String by) {
    program.clock().set(called);
    for (JsonNode promise : office.get("/api/customers/" + TANSY + "/promises").json()) {
      if (promise.path("priority").asString().equals(priority)) {
        assertThat(promise.path("by").asString()).isEqualTo(by);
      }
    }
  }

  @Test
  void a_customer_with_terms_of_its_own_is_promised_more() {
    assertThat(office.get("/api/customers/1/promises").json().path(0).path("by").asString())
        .isEqualTo("2026-11-24T12:00:00");
  }

  @Test
  void nothing_is_promised_to_a_customer_who_does_not_exist() {
    assertThat(office.get("/api/customers/999999/promises").rule()).isEqualTo("NOT_FOUND");
  }
}
