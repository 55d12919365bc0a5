package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What the store and the vans hold, also below zero, and how parts go from hand to hand. */
class StoresTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias");
  private final Visitor office = gate.office();
  private long part;
  private long van;
  private long store;
  private long differencesBefore;

  /** A part of its own, of which ten came in for 10.00 each and none is left. */
  @BeforeEach
  void a_part_of_its_own() {
    program
        .database()
        .execute(
            "insert into part (number, name, unit, price, vat_code) values (?, ?, '', 30, 'standard')",
            "ST-" + gate.day(),
            "Stop bolt of " + gate.day());
    part = id("select id from part where number = ?", "ST-" + gate.day());
    van = id("select id from stock_place where person_id = ?", program.person("tobias"));
    store = id("select id from stock_place where person_id is null");
    deliver("10", "10.00");
    count(store, "0");
    differencesBefore = differences();
  }

  private long id(String query, Object... values) {
    return program.database().fetchSingle(query, values).get(0, Long.class);
  }

  private Visitor.Answer deliver(String quantity, String unitCost) {
    return office.post(
        "/api/held-parts/" + part + "/deliveries",
        Map.of("quantity", quantity, "unitCost", unitCost));
  }

  private Visitor.Answer count(long place, String counted) {
    return office.post(
        "/api/held-parts/" + part + "/counts",
        Map.of("placeId", place, "counted", counted, "reason", "Counted"));
  }

  private Visitor.Answer use(String quantity) {
    return gate.tap("parts", Map.of("partId", part, "quantity", quantity));
  }

  private JsonNode held() {
    return office.get("/api/held-parts/" + part).json();
  }

  private String level(long place) {
    for (JsonNode level : held().path("levels")) {
      if (level.path("placeId").asLong() == place) {
        return level.path("quantity").asString();
      }
    }
    return "0";
  }

  /** What stock differences have been credited with. */
  private long differences() {
    return id(
        """
        select coalesce(sum(credit_minor - debit_minor), 0)::bigint from journal_line
          where posting_category = 'stock_differences'
        """);
  }

  private long borne() {
    return differences() - differencesBefore;
  }

  private long costOfUse() {
    return id(
        "select sum(cost_minor)::bigint from visit_part where part_id = ? and removed_at is null",
        part);
  }

  private void finish() {
    gate.at("16:00");
    gate.tap("finish", Map.of());
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_part_that_no_place_holds_is_used_at_its_last_cost_and_marked() {
    gate.onSite();
    assertThat(use("2").status()).isEqualTo(200);
    assertThat(costOfUse()).isEqualTo(20_00);
    assertThat(borne()).isEqualTo(20_00);
    JsonNode held = held();
    assertThat(held.path("held").asInt()).isEqualTo(-2);
    assertThat(held.path("unexplained").asInt()).isEqualTo(2);
    assertThat(held.path("unexplainedMinor").asLong()).isEqualTo(20_00);
    assertThat(level(van)).isEqualTo("-2");
    assertThat(texts(office.get("/api/held-parts?which=below_zero").json().path("rows"), "number"))
        .contains("ST-" + gate.day());
    finish();
  }

  @Test
  void the_delivery_that_explains_it_is_reversed_in_stock_differences() {
    gate.onSite();
    use("2");
    deliver("5", "12.00");
    JsonNode held = held();
    assertThat(held.path("held").asInt()).isEqualTo(3);
    assertThat(held.path("valueMinor").asLong()).isEqualTo(40_00);
    assertThat(held.path("unexplained").asInt()).isZero();
    assertThat(borne()).isZero();
    assertThat(texts(office.get("/api/held-parts/" + part + "/movements").json(), "kind"))
        .startsWith("explained", "received", "used", "beyond_stock");
    finish();
  }

  @Test
  void a_van_below_zero_while_the_store_holds_enough_costs_the_average_and_no_difference() {
    deliver("4", "12.50");
    gate.onSite();
    use("3");
    assertThat(costOfUse()).isEqualTo(37_50);
    assertThat(borne()).isZero();
    assertThat(level(van)).isEqualTo("-3");
    assertThat(level(store)).isEqualTo("4");
    finish();
  }

  @Test
  void what_is_held_goes_at_its_average_and_only_the_rest_at_the_last_cost() {
    deliver("1", "9.00");
    gate.onSite();
    use("3");
    assertThat(costOfUse()).isEqualTo(27_00);
    assertThat(borne()).isEqualTo(18_00);
    finish();
  }

  @Test
  void a_part_put_back_that_was_used_beyond_the_stock_leaves_everything_as_it_was() {
    gate.onSite();
    use("2");
    long use = id("select max(id) from visit_part where part_id = ?", part);
    gate.technician().delete("/api/pocket/visits/" + gate.visit() + "/parts/" + use);
    assertThat(held().path("held").asInt()).isZero();
    assertThat(held().path("unexplained").asInt()).isZero();
    assertThat(borne()).isZero();
    finish();
  }

  @Test
  void a_count_that_finds_less_is_borne_by_stock_differences_at_average_cost() {
    deliver("4", "12.50");
    JsonNode held = count(store, "1").json();
    assertThat(held.path("held").asInt()).isEqualTo(1);
    assertThat(held.path("valueMinor").asLong()).isEqualTo(12_50);
    assertThat(borne()).isEqualTo(-37_50);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_count_of_the_van_brings_it_up_from_below_zero() {
    gate.onSite();
    use("2");
    JsonNode held = count(van, "0").json();
    assertThat(held.path("held").asInt()).isZero();
    assertThat(held.path("unexplained").asInt()).isZero();
    assertThat(held.path("valueMinor").asLong()).isZero();
    finish();
  }

  @Test
  void a_delivery_sent_twice_under_one_key_comes_in_once() {
    var form = Map.of("quantity", "4", "unitCost", "12.50");
    office.post("/api/held-parts/" + part + "/deliveries", form, "delivery-" + part);
    JsonNode held =
        office.post("/api/held-parts/" + part + "/deliveries", form, "delivery-" + part).json();
    assertThat(held.path("held").asInt()).isEqualTo(4);
  }

  @Test
  void a_delivery_without_a_cost_or_of_nothing_is_refused_with_both_faults() {
    var answer = office.post("/api/held-parts/" + part + "/deliveries", Map.of("quantity", "0"));
    assertThat(answer.status()).isEqualTo(422);
    assertThat(texts(answer.json().path("errors"), "pointer"))
        .containsExactlyInAnyOrder("/quantity", "/unitCost");
  }

  private JsonNode handOver(Visitor who, Map<String, Object> form) {
    return who.post("/api/pocket/handovers", form).json();
  }

  private Map<String, Object> toDilys(String quantity) {
    return Map.of("partId", part, "toPlaceId", dilysVan(), "quantity", quantity);
  }

  private long dilysVan() {
    return id("select id from stock_place where person_id = ?", program.person("dilys"));
  }

  @Test
  void parts_go_from_van_to_van_with_the_yes_of_whoever_takes_them() {
    deliver("4", "12.50");
    JsonNode asked = handOver(gate.technician(), toDilys("3")).path("waiting");
    long handover = asked.path(asked.size() - 1).path("id").asLong();
    assertThat(level(van)).isEqualTo("0");
    Visitor dilys = Visitor.signedIn(program, "dilys");
    assertThat(
            gate.technician()
                .post("/api/pocket/handovers/" + handover + "/agree", Map.of("version", 1))
                .rule())
        .isEqualTo("NOT_FOUND");
    dilys.post("/api/pocket/handovers/" + handover + "/agree", Map.of("version", 1));
    assertThat(level(van)).isEqualTo("-3");
    assertThat(level(dilysVan())).isEqualTo("3");
    assertThat(held().path("valueMinor").asLong()).isEqualTo(50_00);
    assertThat(
            dilys
                .post("/api/pocket/handovers/" + handover + "/refuse", Map.of("version", 2))
                .rule())
        .isEqualTo("HANDOVER_ANSWERED");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void what_goes_to_the_store_waits_for_the_office_which_has_a_to_do() {
    handOver(gate.technician(), Map.of("partId", part, "toPlaceId", store, "quantity", "2"));
    JsonNode waiting = office.get("/api/handovers").json();
    JsonNode last = waiting.path(waiting.size() - 1);
    assertThat(last.path("yours").asBoolean()).isTrue();
    String toDo = "select state from to_do where what like ? order by id desc limit 1";
    String what = "2 Stop bolt of " + gate.day() + "%";
    assertThat(program.database().fetchSingle(toDo, what).get(0)).hasToString("open");
    office.post("/api/handovers/" + last.path("id").asLong() + "/agree", Map.of("version", 1));
    assertThat(level(store)).isEqualTo("2");
    assertThat(program.database().fetchSingle(toDo, what).get(0)).hasToString("done");
  }

  @Test
  void what_the_office_puts_into_a_van_waits_for_its_technician_and_may_be_withdrawn() {
    var form = Map.of("partId", part, "fromPlaceId", store, "toPlaceId", van, "quantity", "1");
    office.post("/api/handovers", form);
    JsonNode waiting = gate.technician().get("/api/pocket/van").json().path("waiting");
    JsonNode last = waiting.path(waiting.size() - 1);
    assertThat(last.path("yours").asBoolean()).isTrue();
    assertThat(
            office
                .post(
                    "/api/handovers/" + last.path("id").asLong() + "/withdraw",
                    Map.of("version", 1))
                .status())
        .isEqualTo(200);
    assertThat(level(van)).isEqualTo("0");
  }

  @Test
  void nobody_moves_parts_between_places_of_others() {
    var answer =
        gate.technician()
            .post(
                "/api/pocket/handovers",
                Map.of(
                    "partId",
                    part,
                    "fromPlaceId",
                    store,
                    "toPlaceId",
                    dilysVan(),
                    "quantity",
                    "1"));
    assertThat(answer.status()).isEqualTo(422);
  }
}
