package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Base64;
import java.util.HashMap;
import java.util.Map;
import javax.imageio.ImageIO;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** What whoever was there signs at the end of a visit, and what they get of it. */
class VisitSignatureTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");

  private Visitor.Answer finish(Map<String, Object> signed) {
    gate.at("16:30");
    return gate.tap("finish", Map.of("note", "Ram changed, gate runs true", "signed", signed));
  }

  private static Map<String, Object> signed() {
    return new HashMap<>(
        Map.of(
            "name",
            "Mara Quill",
            "signature",
            "Mara Quill",
            "drawn",
            false,
            "rating",
            4,
            "words",
            "Tidy work"));
  }

  private JsonNode kept() {
    return gate.office().get("/api/jobs/" + gate.job() + "/signatures").json().path(0);
  }

  private byte[] report() {
    return gate.office().bytes("/api/visits/" + gate.visit() + "/report");
  }

  private static String drawing() throws IOException {
    var picture = new BufferedImage(340, 110, BufferedImage.TYPE_INT_ARGB);
    var pen = picture.createGraphics();
    pen.setColor(Color.BLACK);
    pen.drawLine(10, 90, 300, 20);
    pen.dispose();
    var png = new ByteArrayOutputStream();
    ImageIO.write(picture, "png", png);
    return "data:image/png;base64," + Base64.getEncoder().encodeToString(png.toByteArray());
  }

  @Test
  void the_name_the_rating_and_its_words_are_kept_with_the_visit() {
    gate.onSite();
    assertThat(finish(signed()).status()).isEqualTo(200);
    assertThat(kept().path("name").asString()).isEqualTo("Mara Quill");
    assertThat(kept().path("rating").asInt()).isEqualTo(4);
    assertThat(kept().path("ratingWords").asString()).isEqualTo("Tidy work");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @ParameterizedTest
  @CsvSource({"1, true", "2, true", "3, false"})
  void somebody_who_is_not_content_is_called(int rating, boolean called) {
    gate.onSite();
    var form = signed();
    form.put("rating", rating);
    finish(form);
    assertThat(gate.toDos().stream().anyMatch(what -> what.contains("“Tidy work”. Call them.")))
        .isEqualTo(called);
  }

  @Test
  void a_visit_with_nobody_there_is_finished_unsigned() {
    gate.onSite();
    gate.at("16:30");
    assertThat(gate.tap("finish", Map.of("note", "")).status()).isEqualTo(200);
    assertThat(kept().isMissingNode()).isTrue();
  }

  @Test
  void the_report_says_what_was_done_and_nothing_of_what_it_costs() throws IOException {
    gate.onSite();
    gate.tap("parts", Map.of("partId", gate.part("RAM-230"), "quantity", "1"));
    var drawn = signed();
    drawn.put("signature", drawing());
    drawn.put("drawn", true);
    assertThat(finish(drawn).status()).isEqualTo(200);
    try (var document = Loader.loadPDF(report())) {
      String said = new PDFTextStripper().getText(document);
      assertThat(said)
          .contains("Ram changed, gate runs true", "Gate ram 230 V", "1:30", "Signed by Mara Quill")
          .doesNotContain("212.40", "318.60", "58.00");
      assertThat(document.getPage(0).getResources().getXObjectNames()).isNotEmpty();
    }
  }

  @ParameterizedTest
  @CsvSource({"name, ' ', /name", "signature, '', /signature", "rating, 6, /rating"})
  void what_is_wrong_with_a_signature_is_told_at_its_field_and_the_visit_runs_on(
      String field, String value, String pointer) {
    gate.onSite();
    var form = signed();
    form.put(field, field.equals("rating") ? Integer.valueOf(value) : value);
    assertThat(finish(form).pointer()).isEqualTo(pointer);
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("on_site");
    finish(signed());
  }

  @Test
  void a_drawing_that_is_no_picture_is_refused_in_words() {
    gate.onSite();
    var form = signed();
    form.put("drawn", true);
    form.put("signature", "data:image/png;base64,AAAA");
    assertThat(finish(form).text()).contains("Draw your name in the box, or type it.");
    finish(signed());
  }
}
