package app.pragmata.server;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.generated.tables.records.SiteRecord;
import java.time.LocalTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** At which hours somebody can get in where the work is. */
class SiteHoursTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate gate;
  private Visitor office;

  @BeforeEach
  void prepare() {
    gate = new SwingGate(program, "piet").waiting();
    office = gate.office();
  }

  @AfterEach
  void openAtAllHours() {
    open("");
  }

  private SiteRecord site() {
    return program
        .database()
        .select(SITE)
        .from(SITE)
        .join(JOB)
        .on(JOB.SITE_ID.eq(SITE.ID))
        .where(JOB.ID.eq(gate.job()))
        .fetchSingle()
        .value1();
  }

  private Visitor.Answer open(String hours) {
    SiteRecord site = site();
    var form = new HashMap<String, Object>();
    form.put("version", site.getVersion());
    form.put("name", site.getName());
    form.put("address", site.getAddress());
    form.put("postcode", site.getPostcode());
    form.put("area", site.getArea());
    form.put(
        "position",
        site.getLatitude() == null
            ? ""
            : "%s, %s".formatted(site.getLatitude(), site.getLongitude()));
    form.put("open", hours);
    form.put("accessNotes", site.getAccessNotes());
    return office.put("/api/sites/" + site.getId(), form);
  }

  private Visitor.Answer plan(String start, List<String> overruled) {
    return office.put(
        "/api/visits/" + gate.visit() + "/plan",
        Map.of(
            "version",
            gate.visitVersion(),
            "technicianId",
            program.person("piet"),
            "day",
            gate.day().plusDays(1).toString(),
            "start",
            start,
            "expected",
            "1:00",
            "overruled",
            overruled));
  }

  @Test
  void every_time_that_is_found_ends_before_the_site_closes() {
    assertThat(open("9 to 11:30").status()).isEqualTo(200);
    var times = office.get("/api/visits/" + gate.visit() + "/times").json().path("times");
    assertThat(times).isNotEmpty();
    assertThat(times)
        .allSatisfy(
            time -> {
              assertThat(time.path("closes").asString()).isEqualTo("11:30:00");
              assertThat(LocalTime.parse(time.path("start").asString())).isAfterOrEqualTo("09:00");
              assertThat(LocalTime.parse(time.path("end").asString())).isBeforeOrEqualTo("11:30");
            });
  }

  @Test
  void a_visit_to_a_closed_site_is_refused_unless_the_planner_overrules() {
    open("8 to 15:30");
    List<String> allButThat =
        SwingGate.ANYTHING.stream().filter(clash -> !clash.equals("site_closed")).toList();
    Visitor.Answer refused = plan("15", allButThat);
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.text())
        .contains("SITE_CLOSED", "Piet Osei would be there while the site is closed.");
    assertThat(plan("14:30", allButThat).status()).isEqualTo(200);
    assertThat(plan("15", SwingGate.ANYTHING).status()).isEqualTo(200);
    assertThat(office.get("/api/planner/days/" + gate.day().plusDays(1)).text())
        .as("it stays marked")
        .contains("site_closed");
  }

  @Test
  void hours_that_end_before_they_begin_are_refused_and_those_before_stay() {
    open("8 to 15:30");
    Visitor.Answer refused = open("16 to 8");
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.text()).contains("/open", "ENDS_BEFORE_START");
    assertThat(site().getCloses()).isEqualTo("15:30");
  }
}
