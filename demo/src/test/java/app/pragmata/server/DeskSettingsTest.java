package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** Promised times, price lists and holidays as the office keeps them. */
class DeskSettingsTest {
  private static final String TERMS = "/api/settings/response-terms";
  private static final String PRICE_LISTS = "/api/settings/price-lists";
  private static final String HOLIDAYS = "/api/settings/holidays";
  private static int made;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");
  private final String name = "Terms " + ++made;

  @BeforeEach
  void tuesdayMorning() {
    program.clock().set("2026-11-24T10:00");
  }

  private long customer() {
    return office
        .post(
            "/api/customers",
            Map.of(
                "name",
                "Customer of " + name,
                "phone",
                "01632 960" + (700 + made),
                "place",
                "Quay 4"))
        .json()
        .path("id")
        .asLong();
  }

  private void give(long customer, String setting, long id) {
    JsonNode card = office.get("/api/customers/" + customer).json();
    var form = new HashMap<String, Object>();
    form.put("version", card.path("version").asInt());
    form.put("name", card.path("name").asString());
    form.put("paymentDays", "30");
    form.put(setting, id);
    assertThat(office.put("/api/customers/" + customer, form).status()).isEqualTo(200);
  }

  private String promised(long customer, String priority) {
    for (JsonNode promise : office.get("/api/customers/" + customer + "/promises").json()) {
      if (promise.path("priority").asString().equals(priority)) {
        return promise.path("by").asString();
      }
    }
    return "";
  }

  private Map<String, Object> terms(int version, String urgent) {
    return Map.of(
        "version",
        version,
        "name",
        name,
        "times",
        List.of(
            time("emergency", "1:00", true),
            time("urgent", urgent, false),
            time("normal", "2h", false),
            time("low", "10:00", true)));
  }

  private static Map<String, Object> time(String priority, String time, boolean aroundTheClock) {
    return Map.of("priority", priority, "time", time, "aroundTheClock", aroundTheClock);
  }

  private JsonNode named(Visitor.Answer answer) {
    for (JsonNode row : answer.json()) {
      if (row.path("name").asString().equals(name)) {
        return row;
      }
    }
    throw new AssertionError(name + " is not in " + answer);
  }

  private Visitor.Answer delete(String path, JsonNode row) {
    return office.delete(
        path + "/" + row.path("id").asLong() + "?version=" + row.path("version").asInt());
  }

  @Test
  void who_has_terms_of_their_own_is_promised_by_these() {
    long customer = customer();
    give(
        customer,
        "responseTermsId",
        named(office.post(TERMS, terms(0, "3:00"))).path("id").asLong());
    assertThat(promised(customer, "emergency")).isEqualTo("2026-11-24T11:00:00");
    assertThat(promised(customer, "urgent")).isEqualTo("2026-11-24T13:00:00");
  }

  @Test
  void a_time_that_was_changed_holds_from_the_next_call_on() {
    long customer = customer();
    JsonNode row = named(office.post(TERMS, terms(0, "3:00")));
    give(customer, "responseTermsId", row.path("id").asLong());
    office.put(TERMS + "/" + row.path("id").asLong(), terms(1, "4:30"));
    assertThat(promised(customer, "urgent")).isEqualTo("2026-11-24T14:30:00");
  }

  @ParameterizedTest
  @CsvSource({
    "soon, not a length of time",
    "0:10, from 15 minutes",
    "1001:00, to 1",
    "-1, cannot be negative",
    "'', Enter"
  })
  void a_time_that_cannot_be_is_told_at_its_field_and_nothing_is_stored(String typed, String told) {
    Visitor.Answer refused = office.post(TERMS, terms(0, typed));
    assertThat(refused.pointer()).isEqualTo("/times/1/time");
    assertThat(refused.text()).contains(told);
    assertThat(texts(office.get(TERMS).json(), "name")).doesNotContain(name);
  }

  @Test
  void terms_without_a_time_for_each_priority_are_refused() {
    Visitor.Answer refused =
        office.post(
            TERMS,
            Map.of("version", 0, "name", name, "times", List.of(time("low", "4:00", false))));
    assertThat(refused.pointer()).isEqualTo("/times");
  }

  @Test
  void terms_that_hold_for_everybody_else_are_not_deleted() {
    Visitor.Answer refused = delete(TERMS, office.get(TERMS).json().path(0));
    assertThat(refused.rule()).isEqualTo("IN_USE");
    assertThat(office.get(TERMS).json().path(0).path("usual").asBoolean()).isTrue();
  }

  @Test
  void terms_of_a_customer_are_deleted_only_after_they_have_others() {
    long customer = customer();
    JsonNode row = named(office.post(TERMS, terms(0, "3:00")));
    give(customer, "responseTermsId", row.path("id").asLong());
    assertThat(delete(TERMS, row).text()).contains("1 customer");
    give(customer, "responseTermsId", office.get(TERMS).json().path(0).path("id").asLong());
    assertThat(delete(TERMS, row).status()).isEqualTo(200);
    assertThat(texts(office.get(TERMS).json(), "name")).doesNotContain(name);
  }

  @Test
  void of_two_changes_made_from_the_same_picture_one_is_told() {
    JsonNode row = named(office.post(TERMS, terms(0, "3:00")));
    String path = TERMS + "/" + row.path("id").asLong();
    assertThat(office.put(path, terms(1, "4:00")).status()).isEqualTo(200);
    assertThat(office.put(path, terms(1, "5:00")).rule()).isEqualTo("STALE_VERSION");
  }

  @Test
  void a_press_that_is_repeated_makes_one() {
    office.post(TERMS, terms(0, "3:00"), "the-same-key-" + name);
    office.post(TERMS, terms(0, "3:00"), "the-same-key-" + name);
    assertThat(texts(office.get(TERMS).json(), "name")).containsOnlyOnce(name);
  }

  private Map<String, Object> priceList(String percent) {
    return Map.of("version", 0, "name", name, "partsDiscountPercent", percent);
  }

  private long quotedPrice(long customer) {
    JsonNode site = office.get("/api/customers/" + customer).json().path("sites").path(0);
    long part = new SwingGate(program, "imre").part("PHO-02");
    program.clock().set("2026-11-24T10:00");
    return office
        .post(
            "/api/quotes/preview",
            Map.of(
                "siteId",
                site.path("id").asLong(),
                "lines",
                List.of(Map.of("category", "parts", "partId", part, "quantity", "1"))))
        .json()
        .path("lines")
        .path(0)
        .path("netMinor")
        .asLong();
  }

  @Test
  void a_part_is_quoted_at_what_the_customers_price_list_leaves() {
    long customer = customer();
    assertThat(quotedPrice(customer)).isEqualTo(2690);
    give(
        customer,
        "priceListId",
        named(office.post(PRICE_LISTS, priceList("12.5 %"))).path("id").asLong());
    assertThat(quotedPrice(customer)).isEqualTo(2354);
  }

  @ParameterizedTest
  @ValueSource(strings = {"a tenth", "101", "-5", ""})
  void a_share_that_cannot_be_is_told_at_its_field(String typed) {
    assertThat(office.post(PRICE_LISTS, priceList(typed)).pointer())
        .isEqualTo("/partsDiscountPercent");
  }

  @Test
  void a_second_price_list_of_the_same_name_is_refused() {
    office.post(PRICE_LISTS, priceList("10"));
    assertThat(office.post(PRICE_LISTS, priceList("20")).pointer()).isEqualTo("/name");
  }

  @Test
  void a_price_list_that_nobody_has_is_deleted() {
    JsonNode row = named(office.post(PRICE_LISTS, priceList("10")));
    assertThat(delete(PRICE_LISTS, row).status()).isEqualTo(200);
    assertThat(texts(office.get(PRICE_LISTS).json(), "name")).doesNotContain(name);
  }

  private Visitor.Answer close(String day, String holiday) {
    return office.post(HOLIDAYS, Map.of("day", day, "name", holiday));
  }

  @Test
  void a_holiday_moves_what_is_promised_behind_it() {
    long customer = customer();
    String before = promised(customer, "urgent");
    close("25 nov", "Stocktaking");
    String moved = promised(customer, "urgent");
    office.delete(HOLIDAYS + "/2026-11-25");
    assertThat(before).startsWith("2026-11-25");
    assertThat(moved).startsWith("2026-11-26");
    assertThat(promised(customer, "urgent")).isEqualTo(before);
  }

  @Test
  void the_same_holiday_again_does_nothing_and_another_on_its_day_is_refused() {
    assertThat(close("25 dec 2026", "Christmas Day").status()).isEqualTo(200);
    Visitor.Answer refused = close("25 dec 2026", "Stocktaking");
    assertThat(refused.pointer()).isEqualTo("/day");
    assertThat(refused.text()).contains("Christmas Day");
  }

  @Test
  void a_day_that_has_passed_is_neither_added_nor_removed() {
    assertThat(close("2026-11-20", "Stocktaking").pointer()).isEqualTo("/day");
    assertThat(office.delete(HOLIDAYS + "/2026-08-31").rule()).isEqualTo("DAY_PASSED");
  }

  @ParameterizedTest
  @ValueSource(strings = {TERMS, PRICE_LISTS, HOLIDAYS})
  void a_bookkeeper_reads_and_changes_nothing_and_a_technician_sees_nothing(String path) {
    Visitor bookkeeper = Visitor.signedIn(program, "maud");
    assertThat(bookkeeper.get(path).status()).isEqualTo(200);
    assertThat(bookkeeper.post(path, Map.of()).status()).isEqualTo(403);
    assertThat(Visitor.signedIn(program, "imre").get(path).status()).isEqualTo(403);
  }
}
