package app.pragmata.server;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.select;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.StreamSupport;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Parts that are missing on site, until they are fitted. */
class PartsWantedTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate gate;
  private Visitor office;

  @BeforeEach
  void prepare() {
    gate = new SwingGate(program, "piet").onSite();
    office = gate.office();
  }

  @AfterEach
  void theDayIsOver() {
    finish();
  }

  private void finish() {
    if (visit(gate.visit()).path("state").asString().equals("on_site")) {
      gate.at("18:20");
      gate.check(
          gate.technician()
              .post("/api/pocket/visits/" + gate.visit() + "/finish", Map.of("note", "")));
    }
  }

  private void finishAndCheck() {
    finish();
    gate.check(
        office.post(
            "/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion())));
  }

  private Visitor.Answer want(Map<String, Object> form) {
    return gate.technician().post("/api/pocket/visits/" + gate.visit() + "/missing-parts", form);
  }

  /** Wants a ram; gives how it stands. */
  private JsonNode wantRam() {
    Visitor.Answer answer =
        want(Map.of("partId", gate.part("RAM-230"), "quantity", "1", "urgent", false));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return wanted();
  }

  private JsonNode wanted() {
    JsonNode all = office.get("/api/jobs/" + gate.job() + "/parts-wanted").json();
    return all.path(all.size() - 1);
  }

  private Visitor.Answer step(String step, Object... more) {
    JsonNode part = wanted();
    var form = new HashMap<String, Object>();
    form.put("version", part.path("version").asInt());
    for (int i = 0; i < more.length; i += 2) {
      form.put((String) more[i], more[i + 1]);
    }
    return office.post("/api/parts-wanted/" + part.path("id").asLong() + "/" + step, form);
  }

  private void done(String step, Object... more) {
    Visitor.Answer answer = step(step, more);
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
  }

  private JsonNode visit(long id) {
    return visits().stream()
        .filter(visit -> visit.path("id").asLong() == id)
        .findFirst()
        .orElseThrow();
  }

  private List<JsonNode> visits() {
    return StreamSupport.stream(gate.sheet().path("visits").spliterator(), false).toList();
  }

  private @Nullable JsonNode toDo() {
    return StreamSupport.stream(
            office.get("/api/to-dos?whose=all").json().path("rows").spliterator(), false)
        .filter(row -> row.path("jobId").asLong() == gate.job())
        .reduce((first, last) -> last)
        .orElse(null);
  }

  @Test
  void the_office_has_a_to_do_as_soon_as_a_part_is_wanted() {
    wantRam();
    JsonNode toDo = toDo();
    assertThat(toDo).isNotNull();
    assertThat(toDo.path("what").asString()).startsWith("Part wanted: 1 ").contains("by Piet");
    assertThat(toDo.path("daysLate").asInt()).isZero();
    assertThat(toDo.path("due").asString()).isGreaterThan(gate.day().toString());
  }

  @Test
  void an_urgent_part_is_to_be_seen_to_the_same_day() {
    want(Map.of("words", "the long bolt", "urgent", true));
    assertThat(toDo().path("due").asString()).isEqualTo(gate.day().toString());
    assertThat(toDo().path("what").asString()).startsWith("Urgent part wanted: 1 the long bolt");
  }

  /** Puts another piece on record at some site; gives its id. */
  private long stands(long siteId, String model) {
    return program
        .database()
        .insertInto(EQUIPMENT)
        .set(EQUIPMENT.SITE_ID, siteId)
        .set(EQUIPMENT.MODEL, model)
        .set(EQUIPMENT.SERIAL_NUMBER, UUID.randomUUID().toString())
        .set(EQUIPMENT.FITTED_ON, gate.day())
        .returning(EQUIPMENT.ID)
        .fetchSingle()
        .getId();
  }

  private long site() {
    return program.database().fetchValue(JOB.SITE_ID, JOB.ID.eq(gate.job()));
  }

  @Test
  void a_part_may_be_wanted_for_other_equipment_that_stands_at_the_site() {
    long barrier = stands(site(), "Yard barrier");
    JsonNode others =
        gate.technician().get("/api/pocket/visits/" + gate.visit()).json().path("otherEquipment");
    assertThat(others.valueStream().map(piece -> piece.path("id").asLong())).contains(barrier);
    Visitor.Answer answer = want(Map.of("words", "arm", "equipmentId", barrier, "urgent", false));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    assertThat(wanted().path("equipment").asString()).startsWith("Yard barrier");
  }

  @Test
  void a_part_for_equipment_of_another_site_is_refused_at_its_field() {
    long elsewhere =
        program.database().fetchValue(select(min(SITE.ID)).from(SITE).where(SITE.ID.ne(site())));
    long other = stands(elsewhere, "Roller shutter");
    Visitor.Answer answer = want(Map.of("words", "arm", "equipmentId", other, "urgent", false));
    assertThat(answer.rule()).isEqualTo("NOT_FOUND");
    assertThat(answer.pointer()).isEqualTo("/equipmentId");
  }

  @Test
  void everything_may_be_left_blank() {
    assertThat(want(Map.of("urgent", false)).status()).isEqualTo(200);
    assertThat(wanted().path("quantity").decimalValue()).isEqualByComparingTo("1");
    assertThat(toDo().path("what").asString()).contains("of we do not know what");
  }

  @ParameterizedTest
  @CsvSource({"quantity, 0, /quantity", "quantity, many, /quantity"})
  void what_cannot_be_read_is_refused_at_its_field(String field, String typed, String pointer) {
    Visitor.Answer refused = want(Map.of(field, typed, "urgent", false));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.pointer()).isEqualTo(pointer);
    assertThat(wanted().isMissingNode()).isTrue();
  }

  @Test
  void a_part_that_is_not_on_the_price_list_is_refused() {
    Visitor.Answer refused = want(Map.of("partId", 999_999_999, "urgent", false));
    assertThat(refused.pointer()).isEqualTo("/partId");
  }

  @Test
  void a_part_that_is_sent_twice_is_wanted_once() {
    String key = UUID.randomUUID().toString();
    String path = "/api/pocket/visits/" + gate.visit() + "/missing-parts";
    Map<String, Object> form = Map.of("words", "a hinge", "urgent", false);
    gate.technician().post(path, form, key);
    gate.technician().post(path, form, key);
    assertThat(office.get("/api/jobs/" + gate.job() + "/parts-wanted").json()).hasSize(1);
  }

  @Test
  void a_job_whose_part_is_wanted_is_not_done_when_its_visits_are_checked() {
    wantRam();
    finishAndCheck();
    assertThat(gate.sheet().path("state").asString()).isEqualTo("open");
    done("drop", "reason", "The old one was mended");
    assertThat(gate.sheet().path("state").asString()).isEqualTo("checked");
  }

  @Test
  void a_part_that_has_arrived_puts_a_visit_on_the_shelf() {
    wantRam();
    finishAndCheck();
    done("order", "supplier", "Harrow & Lyle", "expected", "tomorrow");
    assertThat(visits()).hasSize(1);
    done("arrive");
    JsonNode next = visit(wanted().path("nextVisitId").asLong());
    assertThat(next.path("state").asString()).isEqualTo("unplanned");
    assertThat(next.path("awaitedPart").asString()).startsWith("1 ");
    assertThat(next.path("partArrived").asBoolean()).isTrue();
  }

  @Test
  void a_part_that_comes_during_a_visit_and_is_not_fitted_waits_for_the_next_one() {
    wantRam();
    done("arrive");
    assertThat(visits()).hasSize(1);
    finish();
    assertThat(visits()).hasSize(2);
    assertThat(visit(wanted().path("nextVisitId").asLong()).path("partArrived").asBoolean())
        .isTrue();
  }

  @Test
  void a_visit_that_was_planned_around_a_part_hears_that_it_has_come() {
    finishAndCheck();
    office.post(
        "/api/jobs/" + gate.job() + "/waiting-visits", Map.of("version", 0, "expected", "1:00"));
    office.post(
        "/api/jobs/" + gate.job() + "/parts-wanted", Map.of("words", "a winch", "urgent", false));
    JsonNode waits = visits().getLast();
    assertThat(waits.path("awaitedPart").asString()).isEqualTo("1 a winch");
    gate.check(
        office.put(
            "/api/visits/" + waits.path("id").asLong() + "/plan",
            Map.of(
                "version",
                waits.path("version").asInt(),
                "technicianId",
                program.person("piet"),
                "day",
                gate.day().plusDays(6).toString(),
                "start",
                "9",
                "expected",
                "1:00",
                "overruled",
                SwingGate.ANYTHING)));
    done("arrive");
    assertThat(visits()).hasSize(2);
    assertThat(visits().getLast().path("partArrived").asBoolean()).isTrue();
  }

  @Test
  void a_visit_waits_no_more_for_a_part_that_nobody_wants_any_more() {
    wantRam();
    finishAndCheck();
    done("arrive");
    long next = wanted().path("nextVisitId").asLong();
    done("take-back");
    done("drop", "reason", "The old one was mended");
    assertThat(visit(next).path("awaitedPart").asString()).isEmpty();
    assertThat(visit(next).path("notBefore").isNull()).isTrue();
  }

  @Test
  void two_parts_that_arrive_are_fitted_on_one_visit() {
    wantRam();
    finishAndCheck();
    done("arrive");
    office.post(
        "/api/jobs/" + gate.job() + "/parts-wanted", Map.of("words", "a bracket", "urgent", false));
    done("arrive");
    assertThat(visits()).hasSize(2);
  }

  @Test
  void a_visit_on_the_shelf_waits_for_what_its_job_does_until_the_last_part_is_there() {
    wantRam();
    finishAndCheck();
    done("arrive");
    long next = wanted().path("nextVisitId").asLong();
    office.post(
        "/api/jobs/" + gate.job() + "/parts-wanted", Map.of("words", "a bracket", "urgent", false));
    assertThat(visit(next).path("awaitedPart").asString()).endsWith(", 1 a bracket");
    assertThat(visit(next).path("partArrived").asBoolean()).isFalse();
    done("order", "supplier", "", "expected", gate.day().plusDays(6).toString());
    assertThat(visit(next).path("notBefore").asString())
        .isEqualTo(gate.day().plusDays(6).toString());
    done("arrive");
    assertThat(visit(next).path("partArrived").asBoolean()).isTrue();
  }

  @Test
  void what_arrives_for_a_visit_on_the_shelf_has_arrived_in_the_list_of_parts() {
    wantRam();
    finishAndCheck();
    done("arrive");
    long next = wanted().path("nextVisitId").asLong();
    done("take-back");
    office.put(
        "/api/visits/" + next + "/part-arrival",
        Map.of("version", visit(next).path("version").asInt(), "arrived", true));
    assertThat(wanted().path("state").asString()).isEqualTo("arrived");
  }

  @Test
  void an_arrival_that_was_none_leaves_the_visit_waiting_for_its_part() {
    wantRam();
    finishAndCheck();
    done("arrive");
    long next = wanted().path("nextVisitId").asLong();
    done("take-back");
    assertThat(wanted().path("state").asString()).isEqualTo("wanted");
    assertThat(visit(next).path("partArrived").asBoolean()).isFalse();
  }

  @Test
  void what_is_ordered_settles_the_to_do_and_taking_it_back_opens_it() {
    wantRam();
    done("order", "supplier", "", "expected", "");
    assertThat(toDo()).isNull();
    done("take-back");
    assertThat(toDo()).isNotNull();
    assertThat(wanted().path("orderedAt").isNull()).isTrue();
  }

  @Test
  void a_part_from_the_van_fits_what_was_wanted_and_putting_it_back_wants_it_again() {
    wantRam();
    JsonNode stop =
        gate.technician()
            .post(
                "/api/pocket/visits/" + gate.visit() + "/parts",
                Map.of("partId", gate.part("RAM-230"), "quantity", "1"))
            .json();
    assertThat(wanted().path("state").asString()).isEqualTo("fitted");
    long use = stop.path("parts").path(stop.path("parts").size() - 1).path("id").asLong();
    gate.technician().delete("/api/pocket/visits/" + gate.visit() + "/parts/" + use);
    assertThat(wanted().path("state").asString()).isEqualTo("wanted");
  }

  @Test
  void a_part_of_the_price_list_that_is_fitted_is_taken_from_the_van_and_costed() {
    JsonNode part = wantRam();
    Visitor.Answer fitted =
        gate.technician()
            .post(
                "/api/pocket/visits/"
                    + gate.visit()
                    + "/missing-parts/"
                    + part.path("id").asLong()
                    + "/fit",
                Map.of("version", part.path("version").asInt()));
    assertThat(fitted.status()).as(fitted.text()).isEqualTo(200);
    assertThat(fitted.json().path("parts")).hasSize(1);
    assertThat(fitted.json().path("missingParts")).isEmpty();
    assertThat(step("take-back").rule()).isEqualTo("PART_MOVED_ON");
  }

  @Test
  void the_office_fits_a_part_of_the_price_list_by_adding_it_to_a_visit() {
    wantRam();
    done("arrive");
    assertThat(step("fit").rule()).isEqualTo("WRONG_KIND");
    assertThat(wanted().path("state").asString()).isEqualTo("arrived");
    gate.check(
        office.post(
            "/api/visits/" + gate.visit() + "/parts",
            Map.of("partId", gate.part("RAM-230"), "quantity", "1")));
    assertThat(wanted().path("state").asString()).isEqualTo("fitted");
  }

  @Test
  void nothing_is_wanted_again_for_a_job_that_is_billed() {
    wantRam();
    done("drop", "reason", "The old one was mended");
    finishAndCheck();
    gate.check(
        office.post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version())));
    assertThat(step("take-back").rule()).isEqualTo("JOB_CLOSED");
  }

  @Test
  void only_what_nobody_has_seen_to_is_withdrawn_on_the_phone() {
    JsonNode part = wantRam();
    done("order", "supplier", "", "expected", "");
    Visitor.Answer late =
        gate.technician()
            .post(
                "/api/pocket/visits/"
                    + gate.visit()
                    + "/missing-parts/"
                    + part.path("id").asLong()
                    + "/withdraw",
                Map.of("version", wanted().path("version").asInt()));
    assertThat(late.rule()).isEqualTo("PART_MOVED_ON");
  }

  @Test
  void another_technician_cannot_want_a_part_on_it() {
    Visitor other = Visitor.signedIn(program, "tobias");
    Visitor.Answer refused =
        other.post(
            "/api/pocket/visits/" + gate.visit() + "/missing-parts",
            Map.of("words", "a bolt", "urgent", false));
    assertThat(refused.status()).isEqualTo(404);
  }

  @Test
  void two_desks_do_not_order_the_same_part_twice() {
    JsonNode part = wantRam();
    Map<String, Object> form =
        Map.of("version", part.path("version").asInt(), "supplier", "", "expected", "");
    String path = "/api/parts-wanted/" + part.path("id").asLong() + "/order";
    assertThat(office.post(path, form).status()).isEqualTo(200);
    assertThat(office.post(path, form).status()).isEqualTo(409);
  }

  @Test
  void a_day_that_has_passed_is_no_day_to_expect_a_part_on() {
    wantRam();
    Visitor.Answer refused = step("order", "supplier", "", "expected", "yesterday");
    assertThat(refused.pointer()).isEqualTo("/expected");
    assertThat(refused.json().path("errors").path(0).path("rule").asString())
        .isEqualTo("DAY_PASSED");
  }

  @Test
  void the_list_of_parts_wanted_is_by_age_and_counts_those_that_are_late() {
    wantRam();
    done("order", "supplier", "Harrow & Lyle", "expected", "tomorrow");
    int late = office.get("/api/parts-wanted/count").json().path("late").asInt();
    program.clock().set(gate.day().plusDays(3) + "T09:00");
    assertThat(office.get("/api/parts-wanted/count").json().path("late").asInt())
        .isGreaterThan(late);
    JsonNode rows = office.get("/api/parts-wanted").json().path("rows");
    assertThat(rows.findValuesAsString("wantedAt")).isSorted();
    assertThat(rows.path(rows.size() - 1).path("late").asBoolean()).isTrue();
  }

  @Test
  void what_was_dropped_is_found_among_the_closed_with_its_reason() {
    wantRam();
    done("drop", "reason", "It fitted after all");
    JsonNode first = office.get("/api/parts-wanted?state=closed").json().path("rows").path(0);
    assertThat(first.path("jobId").asLong()).isEqualTo(gate.job());
    assertThat(first.path("reason").asString()).isEqualTo("It fitted after all");
  }
}
