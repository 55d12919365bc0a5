package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.TO_DO;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** What was fitted and is on no price list. */
class UnlistedPartsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias");

  private Visitor.Answer note(Map<String, Object> form) {
    return gate.tap("unlisted-parts", form);
  }

  private JsonNode open() {
    return gate.office().get("/api/jobs/" + gate.job() + "/unlisted-parts").json();
  }

  private long hinge() {
    gate.onSite();
    return note(Map.of("name", "Hinge M12, welded", "quantity", "2")).json().path("id").asLong();
  }

  private Visitor.Answer price(long id, Map<String, Object> changed) {
    var form =
        new HashMap<String, Object>(
            Map.of(
                "version", 1,
                "number", "HIN-" + gate.job(),
                "name", "Hinge M12",
                "unitCost", "14.25",
                "unitPrice", "26.90"));
    form.putAll(changed);
    return gate.office().post("/api/unlisted-parts/" + id + "/price", form);
  }

  private String chargedAt() {
    return program
        .database()
        .select(VISIT_PART.UNIT_PRICE)
        .from(VISIT_PART)
        .where(VISIT_PART.VISIT_ID.eq(gate.visit()))
        .fetchSingle(VISIT_PART.UNIT_PRICE)
        .major()
        .stripTrailingZeros()
        .toPlainString();
  }

  private void finish() {
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  private Visitor.Answer check() {
    return gate.office()
        .post("/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion()));
  }

  private String toDo() {
    return program
        .database()
        .select(TO_DO.STATE)
        .from(TO_DO)
        .where(TO_DO.JOB_ID.eq(gate.job()).and(TO_DO.WHAT.contains("Hinge M12, welded")))
        .fetchSingle()
        .get(0)
        .toString();
  }

  @Test
  void it_is_noted_by_its_name_and_the_office_has_a_to_do_at_once() {
    hinge();
    assertThat(texts(open(), "name")).containsExactly("Hinge M12, welded");
    assertThat(toDo()).isEqualToIgnoringCase("open");
    JsonNode seen = gate.technician().get("/api/pocket/visits/" + gate.visit()).json();
    assertThat(texts(seen.path("unlistedParts"), "name")).containsExactly("Hinge M12, welded");
    finish();
  }

  @Test
  void the_visit_is_not_checked_before_it_is_priced() {
    long id = hinge();
    finish();
    Visitor.Answer refused = check();
    assertThat(refused.rule()).isEqualTo("PART_NOT_PRICED");
    assertThat(refused.text()).contains("Hinge M12, welded");
    assertThat(price(id, Map.of()).status()).isEqualTo(200);
    assertThat(check().status()).isEqualTo(200);
  }

  @Test
  void once_priced_the_job_bears_its_cost_and_charges_it_and_the_books_are_in_order() {
    long id = hinge();
    finish();
    Visitor.Answer priced = price(id, Map.of());
    assertThat(priced.status()).as(priced.text()).isEqualTo(200);
    JsonNode part = gate.sheet().path("visits").path(0).path("parts").path(0);
    assertThat(part.path("name").asString()).isEqualTo("Hinge M12");
    assertThat(part.path("costMinor").asLong()).isEqualTo(28_50);
    assertThat(chargedAt()).isEqualTo("26.9");
    assertThat(open()).isEmpty();
    assertThat(toDo()).isEqualToIgnoringCase("done");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void without_a_price_the_usual_markup_makes_one() {
    long id = hinge();
    finish();
    assertThat(price(id, Map.of("unitPrice", "")).status()).isEqualTo(200);
    assertThat(new BigDecimal(chargedAt())).isGreaterThan(new BigDecimal("14.25"));
  }

  @ParameterizedTest
  @CsvSource({
    "number, '', MISSING",
    "number, RAM-230, REPEATED",
    "unitCost, '', MISSING",
    "unitCost, -3, NEGATIVE",
    "unitPrice, dear, UNREADABLE"
  })
  void a_price_that_cannot_be_is_refused_at_its_field(String field, String typed, String rule) {
    long id = hinge();
    finish();
    Visitor.Answer refused = price(id, Map.of(field, typed));
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(open()).hasSize(1);
  }

  @Test
  void two_desks_that_give_two_parts_one_number_list_one_of_them() throws Exception {
    long hinge = hinge();
    long bolt = note(Map.of("name", "Bolt M12", "quantity", "4")).json().path("id").asLong();
    finish();
    assertThat(AtOnce.statuses(2, i -> price(i == 0 ? hinge : bolt, Map.of())))
        .containsExactlyInAnyOrder(200, 422);
    assertThat(open()).hasSize(1);
  }

  @Test
  void what_was_none_is_dropped_with_a_reason_and_is_neither_priced_nor_dropped_again() {
    long id = hinge();
    finish();
    String path = "/api/unlisted-parts/" + id + "/drop";
    assertThat(gate.office().post(path, Map.of("version", 1)).pointer()).isEqualTo("/reason");
    assertThat(
            gate.office().post(path, Map.of("version", 1, "reason", "It is on the list")).status())
        .isEqualTo(200);
    assertThat(open()).isEmpty();
    assertThat(price(id, Map.of("version", 2)).rule()).isEqualTo("PART_MOVED_ON");
    assertThat(check().status()).isEqualTo(200);
  }

  @ParameterizedTest
  @CsvSource({"'', 1, /name", "Hinge, 0, /quantity", "Hinge, many, /quantity"})
  void nothing_or_none_of_it_is_noted(String name, String quantity, String pointer) {
    gate.onSite();
    assertThat(note(Map.of("name", name, "quantity", quantity)).pointer()).isEqualTo(pointer);
    finish();
  }

  @Test
  void it_is_noted_only_while_on_site() {
    gate.planned();
    assertThat(note(Map.of("name", "Hinge", "quantity", "1")).rule()).isEqualTo("NOT_ON_SITE");
  }
}
