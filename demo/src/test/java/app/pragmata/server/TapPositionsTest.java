package app.pragmata.server;

import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.LATE_ACT;
import static app.pragmata.server.generated.Tables.TAP_POSITION;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.SettingsChanged;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Where phones were when clocks were tapped. */
class TapPositionsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final DSLContext database = program.database();
  private final SwingGate gate = new SwingGate(program, "piet").planned();

  @BeforeEach
  void the_office_knows_where_the_gate_is() {
    gate.isAt(54.0, -1.2);
  }

  @AfterEach
  void nobodys_clock_runs_on() {
    gate.at("20:00");
    gate.technician().post("/api/pocket/clock/stop", Map.of());
    gate.isAt(null, null);
    keepFor(90);
    database.deleteFrom(TAP_POSITION).execute();
  }

  private void keepFor(int days) {
    database.update(COMPANY).set(COMPANY.TAP_POSITION_DAYS, (short) days).execute();
    program.bean(CompanyStore.class).forget(new SettingsChanged());
  }

  /** So many metres north of the gate, as accurate as phones are. */
  private Map<String, Object> north(int metres) {
    return Map.of("latitude", 54 + metres / 111_195.0, "longitude", -1.2, "accuracyMetres", 14.2);
  }

  private void tap(String time, String step, Map<String, Object> position) {
    gate.at(time);
    assertThat(gate.tap(step, Map.of("position", position)).status()).isEqualTo(200);
  }

  private List<String> onSheet() {
    JsonNode taps = gate.office().get("/api/jobs/" + gate.job() + "/tap-positions").json();
    return taps.valueStream()
        .map(
            tap ->
                "%s %s%s"
                    .formatted(
                        tap.path("atStart").asBoolean() ? "start" : "stop",
                        tap.path("miles").asString(),
                        tap.path("away").asBoolean() ? " away" : ""))
        .toList();
  }

  @Test
  void a_clock_that_was_started_far_from_the_site_says_so_and_a_drive_only_by_its_end() {
    tap("08:00", "drive", north(9_000));
    tap("08:30", "arrive", north(150));
    tap("08:31", "start-work", north(3_219));
    assertThat(onSheet()).containsExactly("start 5.6", "stop 0.1", "start 2.0 away");
  }

  @Test
  void what_was_tapped_without_a_network_keeps_its_place() {
    gate.at("08:05");
    gate.tap("arrive", Map.of());
    gate.at("09:00");
    var form = Map.of("position", north(5_000));
    JsonNode came =
        gate.technician()
            .late(
                "late-position-" + gate.visit(),
                Map.of(
                    "step", "start_work",
                    "visitId", gate.visit(),
                    "tappedAt", program.clock().instant().minus(Duration.ofMinutes(40)).toString(),
                    "sentAt", program.clock().instant().toString(),
                    "form", form));
    assertThat(came.path("state").asString()).isEqualTo("taken");
    assertThat(onSheet()).containsExactly("start 3.1 away");
    assertThat(
            database
                .select(LATE_ACT.FORM)
                .from(LATE_ACT)
                .where(LATE_ACT.VISIT_ID.eq(gate.visit()))
                .fetchSingle()
                .toString())
        .doesNotContain("latitude");
  }

  @Test
  void a_company_that_does_not_ask_keeps_nothing() {
    keepFor(0);
    tap("08:00", "drive", north(9_000));
    assertThat(onSheet()).isEmpty();
  }

  private Visitor.Answer photo(String where) {
    return gate.technician()
        .photo(
            "/api/pocket/visits/" + gate.visit() + "/photos?words=Post" + where,
            VisitPhotosTest.picture(40, 30),
            "photo-" + System.nanoTime());
  }

  private List<String> photosOnSheet() {
    JsonNode photos = gate.office().get("/api/jobs/" + gate.job() + "/photos").json();
    return photos
        .valueStream()
        .map(photo -> photo.path("milesFromSite").asString() + " " + photo.path("away").asBoolean())
        .toList();
  }

  @Test
  void a_photo_that_was_taken_elsewhere_says_so_and_forgets_it_with_the_taps() {
    gate.at("08:05");
    gate.tap("arrive", Map.of());
    photo("&latitude=54.045&longitude=-1.2&accuracyMetres=14.2");
    gate.at("08:06");
    photo("");
    assertThat(photosOnSheet()).containsExactly("3.1 true", " false");
    keptWhenOld(91);
    assertThat(photosOnSheet()).containsExactly(" false", " false");
  }

  @Test
  void a_photo_from_nowhere_is_refused_and_not_kept() {
    gate.at("08:05");
    gate.tap("arrive", Map.of());
    assertThat(photo("&latitude=54.045").pointer()).isEqualTo("/position");
    assertThat(photosOnSheet()).isEmpty();
  }

  @Test
  void it_is_kept_for_as_many_days_as_the_company_says() {
    tap("08:00", "drive", north(9_000));
    assertThat(keptWhenOld(89)).isTrue();
    assertThat(keptWhenOld(91)).isFalse();
  }

  /** Whether the one that was tapped is still kept when it is so many days old. */
  private boolean keptWhenOld(int days) {
    Instant then = program.clock().instant().minus(Duration.ofDays(days));
    database.update(TAP_POSITION).set(TAP_POSITION.TAPPED_AT, then).execute();
    program.forget();
    return database.fetchExists(TAP_POSITION);
  }

  @Test
  void a_place_that_is_nowhere_is_refused_and_the_clock_does_not_start() {
    gate.at("08:00");
    Visitor.Answer nowhere =
        gate.tap(
            "drive",
            Map.of("position", Map.of("latitude", 91, "longitude", 0, "accuracyMetres", 5)));
    assertThat(nowhere.pointer()).isEqualTo("/position");
    assertThat(gate.technician().get("/api/pocket/day").json().path("clock").isNull()).isTrue();
  }
}
