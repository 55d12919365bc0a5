package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import javax.imageio.ImageIO;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class EquipmentTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");
  private long customer;
  private long site;

  @BeforeEach
  void aCustomerOfItsOwn() {
    program.clock().set("2026-11-24T10:00");
    customer =
        office
            .post(
                "/api/customers",
                Map.of("name", "Equipped Ltd", "phone", "01632 960920", "place", "Kiln Bank"))
            .json()
            .path("id")
            .asLong();
    site = card().path("sites").path(0).path("id").asLong();
  }

  private JsonNode card() {
    return office.get("/api/customers/" + customer).json();
  }

  private Map<String, @Nullable Object> piece(int version, String serial) {
    var form = new HashMap<String, @Nullable Object>();
    form.put("version", version);
    form.put("equipmentKindId", 1);
    form.put("model", "Swing gate, two leaves");
    form.put("serialNumber", serial);
    form.put("fittedOn", "1 mar 2026");
    form.put("partsWarrantyUntil", "1 mar 2028");
    form.put("partsWarrantyPercent", "60");
    return form;
  }

  private long add(String serial) {
    return office
        .post("/api/sites/" + site + "/equipment", piece(0, serial))
        .json()
        .path("id")
        .asLong();
  }

  private JsonNode pieces() {
    return card().path("sites").path(0).path("equipment");
  }

  @Test
  void one_serial_number_entered_by_several_at_once_is_on_record_once() throws Exception {
    var statuses =
        AtOnce.statuses(
            4, i -> office.post("/api/sites/" + site + "/equipment", piece(0, "EQ at once")));
    assertThat(statuses).containsOnlyOnce(200).allMatch(status -> status == 200 || status == 422);
    assertThat(pieces()).hasSize(1);
  }

  @Test
  void a_photo_is_kept_and_told_with_the_pieces_version() throws IOException {
    long id = add("EQ photo");
    var photo = new ByteArrayOutputStream();
    ImageIO.write(new BufferedImage(30, 20, BufferedImage.TYPE_INT_RGB), "png", photo);
    Visitor.Answer kept =
        office.putStream(
            "/api/equipment/" + id + "/photo",
            "image/png",
            () -> new ByteArrayInputStream(photo.toByteArray()));
    assertThat(kept.status()).as(kept.text()).isEqualTo(200);
    assertThat(kept.json().path("version").asInt()).isEqualTo(1);
    assertThat(
            ImageIO.read(new ByteArrayInputStream(office.bytes("/api/equipment/" + id + "/photo"))))
        .isNotNull();
    assertThat(
            office
                .putStream(
                    "/api/equipment/99999999/photo",
                    "image/png",
                    () -> new ByteArrayInputStream(photo.toByteArray()))
                .status())
        .isEqualTo(404);
  }

  @Test
  void a_piece_shows_which_warranty_still_runs_and_what_it_bears() {
    add("EQ 1");
    JsonNode piece = pieces().path(0);
    assertThat(piece.path("parts").path("running").asBoolean()).isTrue();
    assertThat(piece.path("parts").path("percent").asString()).isEqualTo("60");
    assertThat(piece.path("labour").isNull()).isTrue();
  }

  @Test
  void a_warranty_runs_to_the_end_of_its_last_day() {
    add("EQ 2");
    program.clock().set("2028-03-01T23:00");
    assertThat(pieces().path(0).path("parts").path("running").asBoolean()).isTrue();
    program.clock().set("2028-03-02T00:30");
    assertThat(pieces().path(0).path("parts").path("running").asBoolean()).isFalse();
    program.clock().set("2026-11-24T10:00");
  }

  @Test
  void a_serial_number_stands_once_on_record() {
    add("EQ 3");
    var again = office.post("/api/sites/" + site + "/equipment", piece(0, "EQ 3"));
    assertThat(again.pointer()).isEqualTo("/serialNumber");
    assertThat(again.rule()).isEqualTo("REPEATED");
  }

  @Test
  void a_replaced_piece_stays_on_record_and_names_the_one_in_its_place() {
    long old = add("EQ 4");
    office.post("/api/equipment/" + old + "/replace", piece(1, "EQ 5"));
    assertThat(texts(pieces(), "serialNumber")).containsExactly("EQ 5", "EQ 4");
    assertThat(pieces().path(1).path("replacedBy").asString()).isEqualTo("EQ 5");
    assertThat(pieces().path(1).path("removedOn").asString()).isEqualTo("2026-03-01");
  }

  @Test
  void a_piece_that_was_replaced_is_not_replaced_again() {
    long old = add("EQ 6");
    office.post("/api/equipment/" + old + "/replace", piece(1, "EQ 7"));
    var again = office.post("/api/equipment/" + old + "/replace", piece(2, "EQ 8"));
    assertThat(again.rule()).isEqualTo("EQUIPMENT_REPLACED");
  }

  @Test
  void a_piece_moves_to_another_customers_site_and_is_found_there() {
    long piece = add("EQ MOVED 9");
    office.post("/api/equipment/" + piece + "/move", Map.of("version", 1, "siteId", 8));
    assertThat(pieces().size()).isZero();
    assertThat(texts(office.get("/api/find?q=EQ%20MOVED").json(), "detail"))
        .containsExactly("Tansy Row Garages, Shed 5");
  }

  @Test
  void a_piece_that_a_quote_is_about_is_not_deleted() {
    JsonNode piece =
        office.get("/api/customers/4").json().path("sites").path(0).path("equipment").path(0);
    var answer =
        office.delete(
            "/api/equipment/" + piece.path("id").asLong() + "?version=" + piece.path("version"));
    assertThat(answer.rule()).isEqualTo("IN_USE");
  }

  @Test
  void a_part_that_was_fitted_goes_on_record_with_its_warranty_once_for_each() {
    var gate = new SwingGate(program, "dilys");
    long job = gate.finished().job();
    program.clock().set("2026-11-24T10:00");
    var ram =
        program
            .database()
            .select(VISIT_PART.ID, VISIT_PART.PART_ID)
            .from(VISIT_PART)
            .join(VISIT)
            .on(VISIT.ID.eq(VISIT_PART.VISIT_ID))
            .where(VISIT.JOB_ID.eq(job))
            .orderBy(VISIT_PART.ID)
            .limit(1)
            .fetchSingle();
    program
        .database()
        .update(PART)
        .set(PART.EQUIPMENT_KIND_ID, 1L)
        .set(PART.WARRANTY_MONTHS, (short) 24)
        .where(PART.ID.eq(ram.value2()))
        .execute();
    String path = "/api/visit-parts/" + ram.value1() + "/equipment";
    assertThat(office.post(path, Map.of("serialNumber", "RAM " + job)).status()).isEqualTo(200);
    assertThat(office.post(path, Map.of("serialNumber", "RAM2 " + job)).rule())
        .isEqualTo("ALL_ON_RECORD");
    assertThat(texts(office.get("/api/find?q=RAM%20" + job).json(), "kind")).contains("equipment");
  }
}
