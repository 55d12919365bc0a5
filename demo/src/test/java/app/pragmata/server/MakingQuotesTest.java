package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** What a quote can hold, where it comes from, and what comes of it. */
class MakingQuotesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SentQuote offered = new SentQuote();
  private final SwingGate gate = offered.gate();
  private final Visitor customer = offered.customer();

  @ParameterizedTest
  @CsvSource({
    "discount, 201%, EXCEEDS_LIMIT",
    "deposit, 9000, EXCEEDS_LIMIT",
    "discount, 9000, EXCEEDS_LIMIT"
  })
  void what_is_more_than_all_of_it_is_refused_at_its_field(
      String field, String typed, String rule) {
    gate.quoted();
    var form = new HashMap<String, Object>();
    form.put("version", 1);
    JsonNode stored = offered.quote();
    form.put("siteId", stored.path("siteId").asLong());
    form.put("kindOfJobId", stored.path("kindOfJobId").asLong());
    form.put("title", "Too much");
    form.put(field, typed);
    form.put(
        "lines",
        List.of(
            Map.of(
                "category", "other", "description", "Post", "quantity", "1", "price", "100.00")));
    var saved = gate.office().put("/api/quotes/" + gate.quote(), form);
    var refused =
        saved.status() == 200
            ? gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 2))
            : saved;
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(refused.pointer()).isEqualTo("/" + field);
  }

  @Test
  void stages_that_do_not_add_up_are_refused_when_the_quote_is_sent() {
    gate.agree("promise", "fixed_price")
        .agree(
            "stages",
            List.of(
                Map.of("name", "on delivery", "part", "50%"),
                Map.of("name", "when it runs", "part", "40%")))
        .quoted();
    var refused = gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 1));
    assertThat(refused.pointer()).isEqualTo("/stages");
    assertThat(offered.quote().path("state").asString()).isEqualTo("draft");
  }

  @Test
  void alternatives_exclude_each_other() {
    gate.offer(alternative("LMP-F", true)).offer(alternative("PAD-W", false)).sent();
    var both =
        customer.post(gate.offerPath() + "/sum", Map.of("edition", 1, "taken", List.of(5, 6)));
    assertThat(both.text()).contains("Only one of “At the post” can be chosen.");
  }

  private Map<String, Object> alternative(String part, boolean taken) {
    return Map.of(
        "category",
        "parts",
        "partId",
        gate.part(part),
        "quantity",
        "1",
        "choice",
        "alternative",
        "group",
        "At the post",
        "taken",
        taken);
  }

  @Test
  void a_drive_is_quoted_by_the_mile_and_stays_so_when_the_quote_is_copied() {
    gate.offer(
            Map.of(
                "category",
                "drive",
                "description",
                "Lorry",
                "time",
                "1:00",
                "miles",
                "40",
                "charge",
                "per_mile",
                "price",
                "1.15"))
        .sent();
    JsonNode line = offered.page().path("lines").path(SentQuote.LAMP);
    assertThat(line.path("quantity").asString()).isEqualTo("40 miles");
    assertThat(line.path("netMinor").asLong()).isEqualTo(46_00);
    long copy =
        gate.office()
            .post("/api/quotes/" + gate.quote() + "/copy", Map.of())
            .json()
            .path("id")
            .asLong();
    JsonNode copied =
        gate.office().get("/api/quotes/" + copy).json().path("lines").path(SentQuote.LAMP);
    assertThat(copied.path("charge").asString()).isEqualTo("per_mile");
    assertThat(copied.path("price").asString()).isEqualTo("1.15");
  }

  @Test
  void a_drive_by_another_rule_than_the_companys_needs_its_price() {
    JsonNode faults =
        preview(Map.of("category", "drive", "time", "1:00", "miles", "40", "charge", "per_mile"))
            .path("faults");
    assertThat(texts(faults, "field")).containsExactly("lines/0/price");
    assertThat(texts(faults, "message").getFirst()).startsWith("Enter");
  }

  @Test
  void a_word_that_is_none_of_its_vocabulary_is_told_at_its_place_with_those_that_are() {
    var refused =
        gate.office()
            .post(
                "/api/quotes/preview",
                Map.of(
                    "lines",
                    List.of(Map.of("category", "drive", "time", "1:00", "charge", "by_the_yard"))));
    assertThat(refused.rule()).isEqualTo("UNKNOWN_WORD");
    assertThat(refused.pointer()).isEqualTo("/lines/0/charge");
    assertThat(refused.text()).contains("per_call_out, per_hour, per_mile, none");
  }

  @Test
  void a_copied_quote_is_a_draft_of_its_own_with_all_its_terms() {
    offered.sent();
    long copy =
        gate.office()
            .post("/api/quotes/" + gate.quote() + "/copy", Map.of())
            .json()
            .path("id")
            .asLong();
    JsonNode copied = gate.office().get("/api/quotes/" + copy).json();
    assertThat(copied.path("state").asString()).isEqualTo("draft");
    assertThat(copied.path("deposit").asString()).isEqualTo("25%");
    assertThat(texts(copied.path("lines"), "description"))
        .isEqualTo(texts(offered.quote().path("lines"), "description"));
  }

  @Test
  void past_jobs_of_a_kind_say_what_such_jobs_took() {
    JsonNode past = gate.office().get("/api/past-jobs?kindOfJobId=1").json();
    assertThat(past.path("alike").asInt()).isGreaterThanOrEqualTo(5);
    assertThat(past.path("labour").path("median").asLong())
        .isBetween(
            past.path("labour").path("lowerQuartile").asLong(),
            past.path("labour").path("upperQuartile").asLong());
  }

  @Test
  void a_job_that_is_checked_and_not_billed_is_no_past_job() {
    gate.checked();
    assertThat(pastJobs()).doesNotContain(Long.toString(gate.job()));
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(pastJobs()).contains(Long.toString(gate.job()));
  }

  private List<String> pastJobs() {
    return texts(gate.office().get("/api/past-jobs?kindOfJobId=1").json().path("jobs"), "id");
  }

  @Test
  void a_kit_is_kept_without_its_prices_and_unfolds_into_lines() {
    gate.office()
        .post(
            "/api/kits",
            Map.of(
                "name",
                "Ram pair",
                "lines",
                List.of(
                    Map.of(
                        "category",
                        "parts",
                        "partId",
                        gate.part("RAM-230"),
                        "quantity",
                        "2",
                        "price",
                        "1.00"))));
    JsonNode kits = gate.office().get("/api/kits").json();
    JsonNode lines = null;
    for (JsonNode kit : kits) {
      lines = kit.path("name").asString().equals("Ram pair") ? kit.path("lines") : lines;
    }
    assertThat(lines).isNotNull();
    assertThat(lines.path(0).path("quantity").asString()).isEqualTo("2");
    assertThat(lines.path(0).path("price").isNull()).isTrue();
  }

  @Test
  void a_quote_without_an_answer_comes_up_after_a_week() {
    sentWithTheLargestSum();
    assertThat(followUp("unanswered")).doesNotContain(gate.quote());
    program.clock().later(7);
    assertThat(followUp("unanswered")).contains(gate.quote());
  }

  @Test
  void the_file_of_quotes_to_follow_up_has_all_that_the_page_counts() {
    offered.sent();
    program.clock().later(7);
    long counted =
        gate.office().get("/api/quotes/follow-up").json().path("unanswered").path("count").asLong();
    assertThat(gate.office().get("/api/quotes/follow-up/file").text().lines().skip(1).count())
        .isEqualTo(counted)
        .isPositive();
  }

  @Test
  void a_lapsed_quote_comes_up_by_the_day() {
    sentWithTheLargestSum();
    program.clock().later(60);
    assertThat(followUp("lapsed")).contains(gate.quote());
  }

  @Test
  void a_part_whose_cost_changed_since_the_draft_was_saved_is_told() {
    gate.offer(Map.of("category", "parts", "partId", gate.part("BRG-40"), "quantity", "1"))
        .quoted();
    assertThat(offered.quote().path("costChanges")).isEmpty();
    program.keepInStock("BRG-40", 5_000, "99.00");
    JsonNode change = offered.quote().path("costChanges").path(0);
    assertThat(change.path("description").asString()).isEqualTo("Barrel bearing 40 mm");
    assertThat(change.path("now").asLong()).isGreaterThan(change.path("before").asLong());
  }

  @Test
  void a_job_that_was_billed_is_quoted_again_by_what_it_really_took() {
    gate.billed();
    long quote =
        gate.office()
            .post("/api/jobs/" + gate.job() + "/quote", Map.of())
            .json()
            .path("id")
            .asLong();
    JsonNode lines = gate.office().get("/api/quotes/" + quote).json().path("lines");
    assertThat(texts(lines, "time")).contains("2:35", "0:45", "0:40");
    assertThat(texts(lines, "quantity")).contains("1", "2");
  }

  /** Only the largest sums come up, and other tests leave quotes behind. */
  private void sentWithTheLargestSum() {
    gate.offer(
            Map.of(
                "category",
                "parts",
                "partId",
                gate.part("LMP-F"),
                "quantity",
                "900",
                "price",
                "90"))
        .sent();
  }

  private List<Long> followUp(String list) {
    return texts(gate.office().get("/api/quotes/follow-up").json().path(list).path("quotes"), "id")
        .stream()
        .map(Long::valueOf)
        .toList();
  }

  private Visitor.Answer keepKit(String name, String time) {
    List<Map<String, Object>> lines =
        time.isEmpty() ? List.of() : List.of(Map.of("category", "labour", "time", time));
    return gate.office().post("/api/kits", Map.of("name", name, "lines", lines));
  }

  @Test
  void a_kit_kept_under_the_same_name_takes_the_place_of_the_one_before() {
    keepKit("Loop renewed", "1:00");
    keepKit("Loop renewed", "2:15");
    JsonNode kits = gate.office().get("/api/kits").json();
    assertThat(texts(kits, "name")).filteredOn("Loop renewed"::equals).hasSize(1);
    assertThat(kits.findValuesAsString("time")).contains("2:15").doesNotContain("1:00 ");
  }

  @ParameterizedTest
  @CsvSource({"'', 1:00, /name", "Loop renewed, '', /lines"})
  void a_kit_without_a_name_or_a_line_is_not_kept(String name, String time, String pointer) {
    assertThat(keepKit(name, time).pointer()).isEqualTo(pointer);
  }

  @Test
  void the_list_to_follow_up_is_taken_away_as_a_file() {
    offered.sent();
    program.clock().later(7);
    String file = gate.office().get("/api/quotes/follow-up/file?format=csv").text();
    assertThat(file.lines().findFirst().orElseThrow()).contains("Quote", "Customer");
    assertThat(file.lines().count()).isGreaterThan(1);
  }

  @Test
  void a_quote_that_is_free_of_charge_has_no_margin_share_and_is_below_the_floor() {
    JsonNode totals =
        preview(Map.of("category", "labour", "time", "1:00", "discount", "100%")).path("totals");
    assertThat(totals.path("netMinor").asLong()).isZero();
    assertThat(totals.path("marginPercent").isNull()).isTrue();
    assertThat(totals.path("belowFloor").asBoolean()).isTrue();
  }

  @ParameterizedTest
  @CsvSource({"80.00, '', 92.00", "80.00, 85.00, 85.00", "33.33, '', 38.3295", "0, 76.50, 76.50"})
  void what_is_bought_in_is_marked_up_unless_it_has_a_price_of_its_own(
      String cost, String price, BigDecimal unitPrice) {
    JsonNode line =
        preview(
                Map.of(
                    "category",
                    "other",
                    "description",
                    "Lift hire",
                    "quantity",
                    "1",
                    "cost",
                    cost,
                    "price",
                    price))
            .path("lines")
            .path(0);
    assertThat(line.path("unitPrice").asDecimal()).isEqualByComparingTo(unitPrice);
  }

  @Test
  void what_has_neither_a_cost_nor_a_price_is_told_so() {
    JsonNode faults =
        preview(Map.of("category", "other", "description", "Lift hire", "quantity", "1"))
            .path("faults");
    assertThat(texts(faults, "field")).containsExactly("lines/0/price");
  }

  @ParameterizedTest
  @CsvSource({
    "per_call_out, '', 45.00, 4500",
    "per_call_out, 60.00, 60.00, 6000",
    "per_hour, 31.00, 31.00, 2067",
    "per_mile, 1.15, 1.15, 2116",
    "none, '', 0, 0",
    "'', '', 45.00, 4500"
  })
  void a_drive_of_40_minutes_and_18_miles_is_charged_by_its_rule(
      String charge, String price, BigDecimal unitPrice, long netMinor) {
    JsonNode line =
        preview(
                Map.of(
                    "category",
                    "drive",
                    "time",
                    "0:40",
                    "miles",
                    "18.4",
                    "charge",
                    charge,
                    "price",
                    price))
            .path("lines")
            .path(0);
    assertThat(line.path("unitPrice").asDecimal()).isEqualByComparingTo(unitPrice);
    assertThat(line.path("netMinor").asLong()).isEqualTo(netMinor);
  }

  private JsonNode preview(Map<String, Object> line) {
    return gate.office().post("/api/quotes/preview", Map.of("lines", List.of(line))).json();
  }
}
