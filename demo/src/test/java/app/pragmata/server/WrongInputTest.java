package app.pragmata.server;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class WrongInputTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @ParameterizedTest
  @CsvSource({
    "price, 12.34567, UNREADABLE",
    "price, -5, NEGATIVE",
    "quantity, -1, NEGATIVE",
    "quantity, 0, MISSING",
    "quantity, 999999, TOO_LARGE",
    "quantity, two, UNREADABLE"
  })
  void a_wrong_line_of_a_quote_is_named_and_the_others_are_computed_all_the_same(
      String field, String typed, String rule) {
    Visitor office = Visitor.signedIn(program, "hester");
    var wrong =
        new HashMap<String, Object>(
            Map.of("category", "other", "description", "x", "quantity", "1", "price", "10"));
    wrong.put(field, typed);
    JsonNode answer =
        office
            .post(
                "/api/quotes/preview",
                Map.of("lines", List.of(wrong, Map.of("category", "labour", "time", "1:00"))))
            .json();
    assertThat(answer.path("faults").path(0).path("field").asString())
        .isEqualTo("lines/0/" + field);
    assertThat(answer.path("faults").path(0).path("rule").asString()).isEqualTo(rule);
    assertThat(answer.path("totals").path("netMinor").asLong()).isEqualTo(58_00);
  }

  @Test
  void all_faults_of_a_quote_are_told_together() {
    var answer =
        Visitor.signedIn(program, "hester")
            .post(
                "/api/quotes",
                Map.of("version", 0, "lines", List.of(Map.of("category", "drive", "price", "x"))));
    assertThat(WorkedExampleTest.texts(answer.json().path("errors"), "pointer"))
        .containsExactly("/siteId", "/kindOfJobId", "/title", "/lines/0/time", "/lines/0/price");
  }

  @Test
  void an_end_before_the_start_is_refused_and_changes_nothing() {
    var gate = new SwingGate(program, "dilys").finished();
    JsonNode before = gate.sheet();
    var answer =
        gate.correct(entry(gate, 1), Map.of("from", "16:00", "to", "15:00", "reason", "typo"));
    assertThat(answer.rule()).isEqualTo("ENDS_BEFORE_START");
    assertThat(answer.pointer()).isEqualTo("/to");
    assertThat(gate.sheet()).isEqualTo(before);
  }

  @Test
  void a_clock_longer_than_sixteen_hours_is_refused() {
    var gate = new SwingGate(program, "dilys").finished();
    gate.nextDayAt("09:00");
    var answer =
        gate.correct(entry(gate, 1), Map.of("from", "6:00", "to", "23:00", "reason", "typo"));
    assertThat(answer.rule()).isEqualTo("LONGER_THAN_SIXTEEN_HOURS");
  }

  @Test
  void a_technician_whose_clock_ran_too_long_can_say_when_it_ended() {
    var gate = new SwingGate(program, "dilys").onSite();
    gate.nextDayAt("12:00");
    assertThat(gate.tap("pause", Map.of()).rule()).isEqualTo("CLOCK_FORGOTTEN");
    assertThat(gate.tap("pause", Map.of("endedAt", "17:10")).json().path("labourMinutes").asInt())
        .isEqualTo(130);
  }

  @Test
  void overlapping_clocks_of_one_person_are_refused() {
    var gate = new SwingGate(program, "dilys").finished();
    var answer =
        gate.correct(entry(gate, 1), Map.of("from", "14:50", "to", "17:30", "reason", "typo"));
    assertThat(answer.status()).isEqualTo(409);
    assertThat(answer.rule()).isEqualTo("OVERLAPPING_CLOCKS");
  }

  @ParameterizedTest
  @CsvSource({"-3, NEGATIVE", "2000, TOO_LARGE", "far, UNREADABLE"})
  void absurd_miles_are_refused_and_the_drive_goes_on(String miles, String rule) {
    var gate = new SwingGate(program, "ngozi").planned();
    program.clock().advance(java.time.Duration.ofHours(5));
    gate.tap("drive", Map.of());
    assertThat(gate.tap("arrive", Map.of("miles", miles)).rule()).isEqualTo(rule);
    assertThat(gate.tap("arrive", Map.of("miles", "3")).json().path("state").asString())
        .isEqualTo("on_site");
  }

  @Test
  void more_of_a_part_than_anybody_holds_at_once_is_refused() {
    var gate = new SwingGate(program, "dilys").onSite();
    assertThat(
            gate.tap("parts", Map.of("partId", gate.part("CUR-32"), "quantity", "100001")).rule())
        .isEqualTo("TOO_LARGE");
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  @Test
  void a_note_of_ten_thousand_characters_is_refused_with_its_length() {
    var gate = new SwingGate(program, "dilys").onSite();
    gate.at("16:00");
    var answer = gate.tap("finish", Map.of("note", "n".repeat(10_000)));
    assertThat(answer.rule()).isEqualTo("TOO_LONG");
    assertThat(answer.text()).contains("10000");
    gate.tap("finish", Map.of("note", "short"));
  }

  @Test
  void quotes_angle_brackets_and_emoji_come_back_as_they_were_typed() {
    var gate = new SwingGate(program, "dilys").quoted();
    String name = "O'Brien \"Bob\" <b>&amp; 🚪</b>";
    gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 1));
    gate.office()
        .post("/api/quotes/" + gate.quote() + "/accept", Map.of("version", 2, "acceptedBy", name));
    assertThat(
            gate.office().get("/api/quotes/" + gate.quote()).json().path("acceptedBy").asString())
        .isEqualTo(name);
  }

  @ParameterizedTest
  @CsvSource({
    "/api/jobs/999999",
    "/api/quotes/999999",
    "/api/customers/999999",
    "/api/books/accounts/9999",
    "/api/worklists/nowhere"
  })
  void an_unknown_id_is_not_found_and_says_what_to_do(String path) {
    var answer = Visitor.signedIn(program, "hester").get(path);
    assertThat(answer.status()).isEqualTo(404);
    assertThat(answer.json().path("detail").asString()).isNotBlank();
  }

  @Test
  void equipment_of_another_site_is_refused() {
    var gate = new SwingGate(program, "dilys").quoted();
    JsonNode quote = gate.office().get("/api/quotes/" + gate.quote()).json();
    var answer =
        gate.office()
            .put(
                "/api/quotes/" + gate.quote(),
                Map.of(
                    "version",
                    1,
                    "siteId",
                    quote.path("siteId").asLong() + 1,
                    "equipmentId",
                    quote.path("equipmentId").asLong(),
                    "kindOfJobId",
                    quote.path("kindOfJobId").asLong(),
                    "title",
                    "Other site",
                    "lines",
                    List.of()));
    assertThat(answer.pointer()).isEqualTo("/equipmentId");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{'lines': 'none'} | /lines | a list belongs at",
        "{'lines': [{'category': 'parts', 'partId': 'first'}]} | /lines/0/partId | a whole number belongs at “lines/0/partId”, not “first”",
        "{'lines': [], 'customer': 3} | /customer | There is no field “customer” here",
        "{'lines': [[]]} | /lines/0 | an object belongs at",
        "{'lines': [ | '' | cannot be read",
        "[] | '' | cannot be read"
      })
  void a_request_of_another_shape_says_where_and_what_belongs_there(
      String body, String pointer, String detail) {
    var answer =
        Visitor.signedIn(program, "hester").stream(
            "/api/quotes/preview",
            "application/json",
            () -> new ByteArrayInputStream(body.replace('\'', '"').getBytes(UTF_8)));
    assertThat(answer.status()).as(answer.text()).isEqualTo(400);
    assertThat(answer.pointer()).isEqualTo(pointer);
    assertThat(answer.json().path("detail").asString()).contains(detail);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "/api/check-desk?technicianId=imre | /technicianId | a whole number belongs at “technicianId”, not “imre”",
        "/api/jobs/first | /id | a whole number belongs at “id”, not “first”"
      })
  void an_address_that_holds_something_else_says_what_belongs_there(
      String path, String pointer, String detail) {
    var answer = Visitor.signedIn(program, "hester").get(path);
    assertThat(answer.status()).isEqualTo(400);
    assertThat(answer.pointer()).isEqualTo(pointer);
    assertThat(answer.json().path("detail").asString()).contains(detail);
  }

  @Test
  void a_posting_into_nowhere_is_refused_and_nothing_is_billed() {
    var gate = new SwingGate(program, "dilys").checked();
    int version = gate.version();
    var database = program.database();
    database.execute("delete from posting_account where posting_category = 'output_vat'");
    try {
      var answer =
          gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", version));
      assertThat(answer.rule()).isEqualTo("NO_ACCOUNT_FOR_CATEGORY");
    } finally {
      database.execute("insert into posting_account values ('output_vat', '2200')");
    }
    assertThat(gate.sheet().path("state").asString()).isEqualTo("checked");
  }

  private static JsonNode entry(SwingGate gate, int index) {
    return gate.sheet().path("visits").path(0).path("times").path(index);
  }

  /** A list with nothing in a place is a wrong request, and no fault of the program. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          /api/invoices | {"jobs":[null]}
          /api/invoices/preview | {"jobs":[null]}
          /api/invoices | {"jobs":[{"jobId":1,"version":1,"kind":"part","visitIds":[null],"otherCostIds":[null]}]}
          /api/job-closings | {"jobs":[null]}
          /api/invoices/1/credits | {"version":1,"kind":"price","reason":"Too dear","lines":[null]}
          """)
  void nothing_in_a_list_is_refused(String path, String body) {
    Visitor office = Visitor.signedIn(program, "hester");
    assertThat(office.post(path, new JsonMapper().readTree(body)).status()).isBetween(400, 499);
  }
}
