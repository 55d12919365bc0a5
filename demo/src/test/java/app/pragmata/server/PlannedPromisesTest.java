package app.pragmata.server;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT_MESSAGE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.planning.Districts;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** What customers were told and promised, and where technicians go. */
class PlannedPromisesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate gate;
  private Visitor office;
  private long customer;

  @BeforeEach
  void prepare() {
    gate = new SwingGate(program, "piet").waiting();
    office = gate.office();
    customer =
        program
            .database()
            .select(JOB.CUSTOMER_ID)
            .from(JOB)
            .where(JOB.ID.eq(gate.job()))
            .fetchSingle(JOB.CUSTOMER_ID);
  }

  @AfterEach
  void everybodyGoesEverywhereAndTellsNobody() {
    area("", null);
    toldBy("nobody");
  }

  private long piet() {
    return program
        .database()
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq("piet"))
        .fetchSingle(PERSON.ID);
  }

  private void toldBy(String plan) {
    office.put(
        "/api/customers/" + customer + "/told-by",
        Map.of("plan", plan, "coming", "nobody", "reportCopy", "none"));
  }

  private Visitor.Answer plan(String start, String... mayClash) {
    var form = new HashMap<String, Object>();
    form.put("version", gate.visitVersion());
    form.put("technicianId", piet());
    form.put("day", gate.day().plusDays(1).toString());
    form.put("start", start);
    form.put("expected", "1:00");
    form.put(
        "overruled",
        SwingGate.ANYTHING.stream()
            .filter(
                clash ->
                    List.of(mayClash).contains(clash)
                        || !List.of("window_broken", "out_of_area").contains(clash))
            .toList());
    return office.put("/api/visits/" + gate.visit() + "/plan", form);
  }

  private void told() {
    program
        .database()
        .update(CUSTOMER)
        .set(CUSTOMER.EMAIL, "gates@harbour.example")
        .where(CUSTOMER.ID.eq(customer))
        .execute();
    toldBy("mail");
    assertThat(plan("10:15").status()).isEqualTo(200);
    RunningPragmata.until(
        () ->
            program.database().fetchExists(VISIT_MESSAGE, VISIT_MESSAGE.VISIT_ID.eq(gate.visit())));
  }

  @Test
  void a_visit_moves_within_what_its_customer_was_told_and_out_of_it_when_the_planner_overrules() {
    told();
    assertThat(plan("10:45").status()).as("within 10 to 11").isEqualTo(200);
    Visitor.Answer refused = plan("13");
    assertThat(refused.rule()).isEqualTo("WINDOW_BROKEN");
    assertThat(refused.text()).contains("when the customer was told");
    assertThat(plan("13", "window_broken").status()).isEqualTo(200);
  }

  @Test
  void times_that_are_found_say_when_the_customer_was_told_another() {
    told();
    String later = gate.day().plusDays(8).toString();
    JsonNode times =
        office.get("/api/visits/" + gate.visit() + "/times?from=" + later).json().path("times");
    assertThat(times)
        .isNotEmpty()
        .allSatisfy(time -> assertThat(time.path("notAsTold").asBoolean()).isTrue());
  }

  @Test
  void a_customer_who_was_told_nothing_is_promised_nothing() {
    assertThat(plan("10:15").status()).isEqualTo(200);
    assertThat(plan("13").status()).isEqualTo(200);
  }

  private Visitor.Answer area(String districts, String base) {
    JsonNode known = office.get("/api/settings/availability").json();
    String as = base;
    for (JsonNode technician : known.path("technicians")) {
      if (as == null && technician.path("personId").asLong() == piet()) {
        as = technician.path("base").asString();
      }
    }
    return office.put(
        "/api/settings/availability/" + piet() + "/area",
        Map.of("version", known.path("version").asInt(), "districts", districts, "base", as));
  }

  private String district() {
    return Districts.of(
        program
            .database()
            .select(SITE.POSTCODE)
            .from(SITE)
            .join(JOB)
            .on(JOB.SITE_ID.eq(SITE.ID))
            .where(JOB.ID.eq(gate.job()))
            .fetchSingle(SITE.POSTCODE));
  }

  @Test
  void nobody_is_sent_where_they_do_not_go_unless_the_planner_overrules() {
    assertThat(area("zz1, zz2", null).status()).isEqualTo(200);
    assertThat(plan("10").rule()).isEqualTo("OUT_OF_AREA");
    assertThat(plan("10", "out_of_area").status()).isEqualTo(200);
    assertThat(area("ZZ1 " + district(), null).status()).isEqualTo(200);
    assertThat(plan("11").status()).isEqualTo(200);
  }

  @Test
  void only_whoever_goes_there_is_offered_and_it_is_said() {
    area("ZZ1", null);
    String path = "/api/visits/" + gate.visit() + "/times?technicianId=" + piet();
    assertThat(office.get(path).json().path("times")).isEmpty();
    area("ZZ1, " + district(), null);
    assertThat(office.get(path).json().path("times").path(0).path("district").asString())
        .isEqualTo(district());
  }

  @ParameterizedTest
  @CsvSource({
    "'OS1, the harbour!', OS1, /districts, UNREADABLE",
    "OS1, ZZ99, /base, NOT_FOUND",
  })
  void an_area_that_nobody_knows_is_refused_at_its_field(
      String districts, String base, String pointer, String rule) {
    Visitor.Answer refused = area(districts, base);
    assertThat(refused.pointer()).isEqualTo(pointer);
    assertThat(refused.rule()).isEqualTo(rule);
  }

  @Test
  void where_a_day_begins_can_be_said_and_taken_back() {
    String before = base();
    assertThat(area("", "os2").status()).isEqualTo(200);
    assertThat(base()).isEqualTo("OS2");
    assertThat(area("", "").status()).isEqualTo(200);
    assertThat(base()).isEmpty();
    assertThat(area("", before.isEmpty() ? "OS1" : before).status()).isEqualTo(200);
  }

  private String base() {
    for (JsonNode each : office.get("/api/settings/availability").json().path("technicians")) {
      if (each.path("personId").asLong() == piet()) {
        return each.path("base").asString();
      }
    }
    throw new AssertionError("not listed");
  }

  private JsonNode promised() {
    return office.get("/api/jobs/" + gate.job() + "/line-visits").json();
  }

  private Visitor.Answer choose(long line, boolean needed, Long visit) {
    var form = new HashMap<String, Object>();
    form.put("version", gate.version());
    form.put("needed", needed);
    form.put("visitId", visit);
    return office.put("/api/jobs/" + gate.job() + "/line-visits/" + line, form);
  }

  @Test
  void a_promised_line_waits_and_is_planned_with_its_visit() {
    assertThat(promised().path("missing").asInt()).isZero();
    assertThat(standing()).isEqualTo("waiting");
    gate.planned();
    assertThat(standing()).isEqualTo("planned");
    assertThat(promised().path("lines").path(0).path("day").asString())
        .isEqualTo(gate.day().toString());
  }

  private String standing() {
    return promised().path("lines").path(0).path("standing").asString();
  }

  @Test
  void a_line_that_is_only_delivered_needs_no_visit() {
    long line = promised().path("lines").path(0).path("lineId").asLong();
    assertThat(choose(line, false, null).status()).isEqualTo(200);
    assertThat(standing()).isEqualTo("not_needed");
    assertThat(choose(line, true, gate.visit()).status()).isEqualTo(200);
    assertThat(promised().path("lines").path(0).path("chosenId").asLong()).isEqualTo(gate.visit());
    assertThat(choose(line, true, null).status()).isEqualTo(200);
    assertThat(promised().path("lines").path(0).path("chosenId").isNull()).isTrue();
  }

  @Test
  void a_line_is_done_by_a_visit_of_its_own_job() {
    long line = promised().path("lines").path(0).path("lineId").asLong();
    SwingGate other = new SwingGate(program, "piet").waiting();
    assertThat(choose(line, true, other.visit()).status()).isEqualTo(404);
    assertThat(
            office
                .put(
                    "/api/jobs/" + other.job() + "/line-visits/" + line,
                    Map.of("version", other.version(), "needed", false))
                .status())
        .isEqualTo(404);
  }
}
