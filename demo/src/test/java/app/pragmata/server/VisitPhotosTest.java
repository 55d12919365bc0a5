package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Map;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Photos of visits, from the phone to the sheet. */
class VisitPhotosTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi");

  @BeforeEach
  void on_site() {
    gate.onSite();
  }

  @AfterEach
  void finish() {
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  static byte[] picture(int width, int height) {
    var out = new ByteArrayOutputStream();
    try {
      ImageIO.write(new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB), "jpeg", out);
    } catch (IOException impossible) {
      throw new AssertionError(impossible);
    }
    return out.toByteArray();
  }

  private String address() {
    return "/api/pocket/visits/" + gate.visit() + "/photos";
  }

  private Visitor.Answer take(byte[] content, String query, String key) {
    return gate.technician().photo(address() + query, content, key);
  }

  private Visitor.Answer take(byte[] content) {
    return take(content, "", "photo-" + System.nanoTime());
  }

  private JsonNode ofJob() {
    return gate.office().get("/api/jobs/" + gate.job() + "/photos").json();
  }

  private long taken() {
    return take(picture(40, 30)).json().path("photos").path(0).path("id").asLong();
  }

  @Test
  void a_photo_stands_on_the_jobs_sheet_with_who_took_it_and_its_words() {
    take(picture(40, 30), "?words=Ram%20leaks", "photo-" + gate.visit());
    assertThat(texts(ofJob(), "words")).containsExactly("Ram leaks");
    assertThat(texts(ofJob(), "takenBy")).containsExactly("Ngozi Adair");
  }

  @Test
  void a_part_that_is_on_no_list_shows_what_it_looks_like() {
    gate.tap("unlisted-parts", Map.of("name", "Hinge M12", "quantity", "2"));
    long part =
        gate.office()
            .get("/api/jobs/" + gate.job() + "/unlisted-parts")
            .json()
            .path(0)
            .path("id")
            .asLong();
    take(picture(40, 30), "?unlistedPartId=" + part, "photo-of-part-" + part);
    assertThat(ofJob().path(0).path("unlistedPartId").asLong()).isEqualTo(part);
    assertThat(take(picture(41, 30), "?unlistedPartId=999999999", "photo-of-none").pointer())
        .isEqualTo("/unlistedPartId");
  }

  @Test
  void it_is_kept_in_two_sizes_no_longer_than_they_are_looked_at() throws Exception {
    long id = take(picture(3200, 800)).json().path("photos").path(0).path("id").asLong();
    assertThat(width("/api/visit-photos/" + id)).isEqualTo(1600);
    assertThat(width("/api/visit-photos/" + id + "/small")).isEqualTo(320);
  }

  private int width(String path) throws IOException {
    return ImageIO.read(new ByteArrayInputStream(gate.office().bytes(path))).getWidth();
  }

  @Test
  void the_customers_report_shows_it_with_its_words_and_not_one_that_is_off() throws Exception {
    take(picture(40, 30), "?words=Ram%20leaks", "report-" + gate.visit());
    take(picture(30, 40), "?words=My%20thumb", "thumb-" + gate.visit());
    JsonNode thumb = ofJob().path(1);
    gate.technician()
        .post(
            "/api/pocket/photos/" + thumb.path("id").asLong() + "/remove",
            Map.of("version", thumb.path("version").asInt()));
    byte[] report = gate.office().bytes("/api/visits/" + gate.visit() + "/report");
    assertThat(PrintedText.of(report)).contains("Ram leaks").doesNotContain("My thumb");
    try (var document = org.apache.pdfbox.Loader.loadPDF(report)) {
      assertThat(document.getPage(0).getResources().getXObjectNames()).hasSize(1);
    }
  }

  @Test
  void one_that_is_sent_twice_under_one_key_is_kept_once() {
    take(picture(40, 30), "", "photo-twice-" + gate.visit());
    take(picture(40, 30), "", "photo-twice-" + gate.visit());
    assertThat(ofJob()).hasSize(1);
  }

  @Test
  void one_taken_without_a_network_keeps_when_it_was_taken_by_our_clock() {
    Instant phone = Instant.parse("2020-01-01T10:00:00Z");
    take(
        picture(40, 30),
        "?takenAt=%s&sentAt=%s".formatted(phone, phone.plusSeconds(600)),
        "photo-late-" + gate.visit());
    String now = gate.technician().get("/api/session").json().path("now").asString();
    String taken = ofJob().path(0).path("takenAt").asString();
    assertThat(java.time.LocalDateTime.parse(taken))
        .isEqualTo(java.time.LocalDateTime.parse(now).minusMinutes(10));
  }

  @Test
  void a_file_that_is_no_picture_is_refused_in_words() {
    Visitor.Answer answer = take("not a picture".getBytes(StandardCharsets.UTF_8));
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.text()).contains("no picture");
    assertThat(ofJob()).isEmpty();
  }

  @Test
  void more_than_twenty_megabytes_are_refused_before_they_are_looked_at() {
    Visitor.Answer answer = take(new byte[20_000_001]);
    assertThat(answer.status()).isEqualTo(413);
    assertThat(answer.text()).contains("at most 20 MB");
  }

  @Test
  void a_technician_who_is_not_on_the_visit_neither_lists_nor_adds_any() {
    Visitor other = Visitor.signedIn(program, "piet");
    assertThat(other.get(address()).status()).isEqualTo(404);
    assertThat(other.photo(address(), picture(4, 3), "photo-piet-1").status()).isEqualTo(404);
  }

  @Test
  void whoever_took_it_takes_it_off_again() {
    long id = taken();
    Visitor.Answer answer =
        gate.technician().post("/api/pocket/photos/" + id + "/remove", Map.of("version", 1));
    assertThat(answer.json().path("photos")).isEmpty();
    assertThat(gate.office().get("/api/visit-photos/" + id).status()).isEqualTo(404);
  }

  @Test
  void the_office_takes_one_off_with_a_reason_that_stays() {
    long id = taken();
    assertThat(
            gate.office()
                .post("/api/visit-photos/" + id + "/remove", Map.of("version", 1, "reason", ""))
                .pointer())
        .isEqualTo("/reason");
    gate.office()
        .post(
            "/api/visit-photos/" + id + "/remove",
            Map.of("version", 1, "reason", "Shows a neighbour"));
    assertThat(ofJob()).isEmpty();
    assertThat(gate.history().toString()).contains("photo_removed", "Shows a neighbour");
  }
}
