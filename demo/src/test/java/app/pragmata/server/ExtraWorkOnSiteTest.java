package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.MAIL;
import static app.pragmata.server.generated.Tables.QUOTE_ACCEPTANCE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Extra work that is found on site, priced, and answered by the customer who stands by. */
class ExtraWorkOnSiteTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");

  @AfterEach
  void theVisitIsOver() {
    gate.at("18:20");
    gate.tap("finish", Map.of());
  }

  private String path() {
    return "/api/pocket/visits/" + gate.visit() + "/extra-work";
  }

  private Map<String, Object> hinge() {
    var form = new HashMap<String, Object>();
    form.put("what", "Second photocell pair");
    form.put("time", "1:00");
    form.put("warrantyExclusion", "Was never part of it");
    form.put("parts", List.of(Map.of("partId", gate.part("PHO-02"), "quantity", "2")));
    return form;
  }

  private JsonNode offered() {
    Visitor.Answer answer = gate.technician().post(path(), hinge());
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return answer.json().path(0);
  }

  private Visitor.Answer answer(JsonNode offer, String answer, Map<String, Object> form) {
    var whole = new HashMap<>(form);
    whole.put("edition", offer.path("edition").asInt());
    return gate.technician()
        .post(path() + "/" + offer.path("quoteId").asLong() + "/" + answer, whole);
  }

  private static Map<String, Object> signed() {
    return Map.of("name", "Mara Quill", "signature", "Mara Quill", "drawn", false);
  }

  @Test
  void the_customer_reads_a_price_of_the_price_list_with_its_vat() {
    gate.onSite();
    JsonNode offer = offered();
    assertThat(texts(offer.path("lines"), "netMinor")).containsExactly("5800", "5380");
    assertThat(offer.path("sum").path("netMinor").asLong()).isEqualTo(11_180);
    assertThat(offer.path("sum").path("grossMinor").asLong()).isEqualTo(13_416);
    assertThat(offer.path("state").asString()).isEqualTo("sent");
  }

  @Test
  void the_warranty_bears_its_share_unless_somebody_says_why_it_does_not() {
    gate.onSite();
    var form = hinge();
    form.remove("warrantyExclusion");
    JsonNode offer = gate.technician().post(path(), form).json().path(0);
    assertThat(texts(offer.path("lines"), "netMinor")).containsExactly("5800", "2152");
  }

  @Test
  void nothing_is_promised_before_the_customer_has_said_yes() {
    gate.onSite();
    offered();
    assertThat(gate.sheet().path("promises")).hasSize(1);
  }

  @Test
  void a_yes_is_signed_and_part_of_what_the_job_promises() {
    gate.onSite();
    JsonNode offer = offered();
    Visitor.Answer yes = answer(offer, "accept", signed());
    assertThat(yes.status()).as(yes.text()).isEqualTo(200);
    assertThat(yes.json().path(0).path("state").asString()).isEqualTo("accepted");
    assertThat(texts(gate.sheet().path("promises"), "quoteNumber"))
        .contains(offer.path("number").asString());
    assertThat(texts(gate.sheet().path("visits"), "state")).containsExactly("on_site");
    assertThat(
            program
                .database()
                .select(QUOTE_ACCEPTANCE.NAME)
                .from(QUOTE_ACCEPTANCE)
                .where(QUOTE_ACCEPTANCE.QUOTE_ID.eq(offer.path("quoteId").asLong()))
                .fetchSingle()
                .value1())
        .isEqualTo("Mara Quill");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_yes_that_is_sent_twice_is_one() {
    gate.onSite();
    JsonNode offer = offered();
    var form = new HashMap<String, Object>(signed());
    form.put("edition", 1);
    String path = path() + "/" + offer.path("quoteId").asLong() + "/accept";
    String key = "said-yes-" + gate.visit();
    assertThat(gate.technician().post(path, form, key).status()).isEqualTo(200);
    assertThat(gate.technician().post(path, form, key).status()).isEqualTo(200);
    assertThat(gate.sheet().path("promises")).hasSize(2);
  }

  @Test
  void a_no_stays_on_record_with_its_reason_and_promises_nothing() {
    gate.onSite();
    JsonNode offer = offered();
    assertThat(answer(offer, "decline", Map.of("reason", "Next year")).status()).isEqualTo(200);
    JsonNode quote = gate.office().get("/api/quotes/" + offer.path("quoteId").asLong()).json();
    assertThat(quote.path("state").asString()).isEqualTo("declined");
    assertThat(quote.path("declineReason").asString()).isEqualTo("Next year");
    assertThat(gate.sheet().path("promises")).hasSize(1);
  }

  @Test
  void what_is_priced_anew_is_the_next_edition_and_the_old_one_is_not_signed_any_more() {
    gate.onSite();
    JsonNode first = offered();
    var form = hinge();
    form.put("quoteId", first.path("quoteId").asLong());
    form.put("time", "0:30");
    JsonNode second = gate.technician().post(path(), form).json().path(0);
    assertThat(second.path("number")).isEqualTo(first.path("number"));
    assertThat(second.path("edition").asInt()).isEqualTo(2);
    assertThat(second.path("sum").path("netMinor").asLong()).isEqualTo(8_280);
    assertThat(answer(first, "accept", signed()).rule()).isEqualTo("STALE_VERSION");
  }

  @Test
  void nothing_goes_out_by_mail_while_the_customer_stands_by() {
    gate.onSite();
    int before = program.database().fetchCount(MAIL);
    offered();
    assertThat(program.database().fetchCount(MAIL)).isEqualTo(before);
  }

  @ParameterizedTest
  @CsvSource({"what, /what", "time, /time", "parts, /parts"})
  void what_is_not_said_is_asked_for(String left, String pointer) {
    gate.onSite();
    var form = hinge();
    switch (left) {
      case "what" -> form.put("what", " ");
      case "time" -> {
        form.put("time", "");
        form.put("parts", List.of());
      }
      default -> form.put("parts", List.of(Map.of("quantity", "1")));
    }
    assertThat(gate.technician().post(path(), form).pointer()).isEqualTo(pointer);
  }

  @Test
  void nobody_prices_extra_work_on_somebody_elses_visit_or_from_afar() {
    gate.planned();
    assertThat(gate.technician().post(path(), hinge()).rule()).isEqualTo("NOT_ON_SITE");
    assertThat(Visitor.signedIn(program, "ngozi").post(path(), hinge()).rule())
        .isEqualTo("NOT_FOUND");
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    gate.tap("start-work", Map.of());
  }
}
