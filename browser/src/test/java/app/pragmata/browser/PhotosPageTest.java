package app.pragmata.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.FilePayload;
import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Map;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Photos from the phone to the job's sheet. */
class PhotosPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");
  private final Line line = new Line(program.address());
  private final BrowserContext context = Chromium.phoneOver(program, line.address(), "dilys");

  @BeforeEach
  void onSite() {
    gate.onSite();
  }

  @AfterEach
  void theDayIsOver() throws IOException {
    context.close();
    line.close();
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  private Page phone() {
    Page phone = context.newPage();
    phone.navigate("/pocket/" + gate.visit());
    photos(phone).waitFor();
    return phone;
  }

  static Locator photos(Page phone) {
    return phone.getByLabel("Photos", new Page.GetByLabelOptions().setExact(true));
  }

  static void take(Page phone, int count) {
    phone
        .getByLabel("Take photos", new Page.GetByLabelOptions().setExact(true))
        .setInputFiles(
            IntStream.range(0, count)
                .mapToObj(i -> new FilePayload("gate.jpg", "image/jpeg", picture(new Color(9 * i))))
                .toArray(FilePayload[]::new));
  }

  private static byte[] picture(Color color) {
    var picture = new BufferedImage(1800, 900, BufferedImage.TYPE_INT_RGB);
    picture.createGraphics().setBackground(color);
    var out = new ByteArrayOutputStream();
    try {
      ImageIO.write(picture, "jpeg", out);
    } catch (IOException impossible) {
      throw new AssertionError(impossible);
    }
    return out.toByteArray();
  }

  private int onTheJob() {
    return gate.office().get("/api/jobs/" + gate.job() + "/photos").json().size();
  }

  @Test
  void several_are_taken_at_a_time_and_stand_on_the_sheet_with_their_words() {
    Page phone = phone();
    phone.getByLabel("What the next photos show").fill("Ram, left leaf");
    take(phone, 3);
    assertThat(photos(phone).getByAltText("Ram, left leaf, Dilys")).hasCount(3);
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    assertThat(desk.getByAltText("Ram, left leaf, Dilys")).hasCount(3);
    assertThat(
            (Boolean)
                desk.getByAltText("Ram, left leaf, Dilys")
                    .first()
                    .evaluate("image => image.decode().then(() => image.naturalWidth === 320)"))
        .isTrue();
  }

  @Test
  void what_the_office_writes_while_a_photo_is_on_its_way_shows_as_soon_as_it_is_sent() {
    Page phone = phone();
    write("Park behind the hall");
    Locator messages = phone.getByLabel("Messages", new Page.GetByLabelOptions().setExact(true));
    assertThat(messages).containsText("Park behind the hall");
    phone.route(
        "**/api/pocket/visits/*/photos?*",
        route -> {
          write("They close at four");
          route.resume();
        });
    phone.getByLabel("What the next photos show").fill("The hall");
    take(phone, 1);
    assertThat(messages)
        .containsText(
            "They close at four", new LocatorAssertions.ContainsTextOptions().setTimeout(6_000));
  }

  private void write(String text) {
    gate.office().post("/api/jobs/" + gate.job() + "/messages", Map.of("text", text));
  }

  @Test
  void one_taken_without_a_network_is_kept_over_a_reload_and_sent_once() {
    Page phone = phone();
    phone.evaluate("() => navigator.serviceWorker.ready.then(() => true)");
    Chromium.quiet(phone);
    line.cut();
    context.setOffline(true);
    take(phone, 1);
    assertThat(photos(phone)).containsText("waits");
    phone.reload();
    assertThat(phone.getByLabel("Not sent yet")).containsText("1 photo waits");
    assertThat(onTheJob()).isZero();
    context.setOffline(false);
    line.mend();
    assertThat(phone.getByLabel("Not sent yet")).isHidden();
    assertThat(photos(phone).getByAltText("Photo, Dilys")).hasCount(1);
    assertThat(onTheJob()).isEqualTo(1);
  }

  @Test
  void those_that_wait_for_a_network_are_seen_and_counted() {
    Page phone = phone();
    phone.getByLabel("What the next photos show").fill("Left post");
    line.cut();
    context.setOffline(true);
    take(phone, 3);
    assertThat(photos(phone).getByText("waits", new Locator.GetByTextOptions().setExact(true)))
        .hasCount(3);
    assertThat(phone.getByLabel("Not sent yet")).containsText("3 photos wait");
    phone.waitForFunction(
        """
        () => [...document.querySelectorAll("img[alt$='not sent yet']")]
          .filter((image) => image.naturalWidth > 0).length === 3
        """);
    context.setOffline(false);
    line.mend();
    assertThat(photos(phone).getByAltText("Left post, Dilys")).hasCount(3);
  }

  @Test
  void a_file_that_is_no_picture_says_so_and_can_be_dropped() {
    Page phone = phone();
    phone
        .getByLabel("Take photos", new Page.GetByLabelOptions().setExact(true))
        .setInputFiles(
            new FilePayload(
                "gate.jpg",
                "image/jpeg",
                "no picture".getBytes(java.nio.charset.StandardCharsets.UTF_8)));
    assertThat(photos(phone)).containsText("no picture that can be read");
    Chromium.button(phone, "Drop it").click();
    assertThat(photos(phone).getByText("no picture")).hasCount(0);
  }
}
