package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** What the office sets for all quotes; the settings are as they were after each test. */
class QuotingSettingsTest {
  private final SwingGate gate = new SwingGate(RunningPragmata.forTests(), "imre");
  private final Visitor office = gate.office();
  private Map<String, Object> before = Map.of();

  @BeforeEach
  void remember() {
    before = form();
  }

  @AfterEach
  void putBack() {
    store(Map.copyOf(before));
  }

  private JsonNode stored() {
    return office.get("/api/settings/quoting").json();
  }

  private Map<String, Object> form() {
    var form = new HashMap<String, Object>();
    stored().properties().forEach(value -> form.put(value.getKey(), value.getValue().asString()));
    return form;
  }

  private Visitor.Answer store(Map<String, Object> changed) {
    Map<String, Object> form = form();
    form.putAll(changed);
    form.put("version", stored().path("version").asInt());
    return office.put("/api/settings/quoting", form);
  }

  @Test
  void the_next_quote_is_valid_and_its_deposit_due_as_the_settings_say() {
    assertThat(store(Map.of("quoteValidDays", "14", "depositDueDays", "3")).status())
        .isEqualTo(200);
    gate.quoted();
    JsonNode quote = office.get("/api/quotes/" + gate.quote()).json();
    String today = office.get("/api/session").json().path("now").asString().substring(0, 10);
    assertThat(quote.path("validUntil").asString())
        .isEqualTo(LocalDate.parse(today).plusDays(14).toString());
    assertThat(quote.path("depositDueDays").asInt()).isEqualTo(3);
  }

  @Test
  void the_floor_margin_marks_what_is_below_it() {
    gate.quoted();
    assertThat(totals().path("belowFloor").asBoolean()).isFalse();
    store(Map.of("floorMarginPercent", "80 %"));
    assertThat(totals().path("belowFloor").asBoolean()).isTrue();
  }

  private JsonNode totals() {
    return office.get("/api/quotes/" + gate.quote()).json().path("computed").path("totals");
  }

  private String letter() {
    gate.sent();
    RunningPragmata.forTests().sendMail();
    long number = office.get("/api/quotes/" + gate.quote()).json().path("number").asLong();
    for (JsonNode mail : office.get("/api/mail-stand-in").json()) {
      if (mail.path("subject").asString().startsWith("Quote " + number)) {
        return mail.path("body").asString().replace("\r", "").strip();
      }
    }
    return "";
  }

  @Test
  void a_letter_greets_its_reader_by_name_and_stands_in_the_offices_own_words() {
    store(Map.of("letterOpening", "Thank you for asking us.", "letterClosing", "Hester Lyle"));
    assertThat(letter())
        .startsWith("Dear Ines Tansy,\n\nThank you for asking us.\n\nHere is our quote")
        .endsWith("It is attached as a PDF too.\n\nHester Lyle");
  }

  @Test
  void a_letter_without_own_words_ends_with_the_companys_name() {
    store(Map.of("letterOpening", "", "letterClosing", ""));
    assertThat(letter()).endsWith("\n\nFerrow Gate & Shutter");
  }

  @Test
  void the_days_to_wait_for_an_answer_are_those_of_the_settings() {
    store(Map.of("followUpDays", "1"));
    assertThat(office.get("/api/quotes/follow-up").json().path("afterDays").asInt()).isEqualTo(1);
  }

  @ParameterizedTest
  @CsvSource({
    "quoteValidDays, 0, from 1 to 365",
    "quoteValidDays, soon, from 1 to 365",
    "followUpDays, 91, from 1 to 90",
    "depositDueDays, -1, from 0 to 90",
    "floorMarginPercent, 100, below 100",
    "floorMarginPercent, a third, such as 23"
  })
  void what_cannot_be_is_told_at_its_field_and_nothing_is_stored(
      String field, String typed, String told) {
    Visitor.Answer refused = store(Map.of(field, typed));
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.text()).contains(told);
    assertThat(form().get(field)).isEqualTo(before.get(field));
  }

  @Test
  void words_that_are_too_long_for_a_letter_are_told_at_their_field() {
    Visitor.Answer refused = store(Map.of("letterClosing", "x".repeat(601)));
    assertThat(refused.pointer()).isEqualTo("/letterClosing");
    assertThat(refused.rule()).isEqualTo("TOO_LONG");
  }

  @Test
  void of_two_people_who_change_them_at_once_one_is_told_and_nothing_is_overwritten()
      throws Exception {
    Map<String, Object> mine = form();
    mine.put("version", stored().path("version").asInt());
    mine.put("followUpDays", "5");
    assertThat(AtOnce.statuses(2, i -> office.put("/api/settings/quoting", mine)))
        .containsExactlyInAnyOrder(200, 409);
  }

  @Test
  void a_technician_does_not_see_them() {
    assertThat(gate.technician().get("/api/settings/quoting").status()).isEqualTo(403);
  }

  @Test
  void a_bookkeeper_reads_them_and_changes_nothing() {
    Visitor bookkeeper = Visitor.signedIn(RunningPragmata.forTests(), "maud");
    assertThat(bookkeeper.get("/api/settings/quoting").status()).isEqualTo(200);
    assertThat(bookkeeper.put("/api/settings/quoting", form()).status()).isEqualTo(403);
    assertThat(form()).isEqualTo(before);
  }
}
