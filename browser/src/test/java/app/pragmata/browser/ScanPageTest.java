package app.pragmata.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Base64;
import java.util.Map;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Parts by the code on their box, with the camera and with a picture. */
class ScanPageTest {
  /** The bars of an EAN-13 symbol's left digits, odd and even, and of its right ones (GS1). */
  private static final String[] ODD = {
    "0001101", "0011001", "0010011", "0111101", "0100011", "0110001", "0101111", "0111011",
    "0110111", "0001011"
  };

  private static final String[] PARITY = {
    "OOOOOO", "OOEOEE", "OOEEOE", "OOEEEO", "OEOOEE", "OEEOOE", "OEEEOO", "OEOEOE", "OEOEEO",
    "OEEOEO"
  };

  private static final int BAR = 4;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");
  private Page phone;

  @BeforeEach
  void at_the_parts_of_a_visit() {
    gate.onSite();
    gate.at("15:30");
    phone = Chromium.phone(program, "dilys");
  }

  @AfterEach
  void over() {
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  private void scan() {
    phone.navigate("/pocket/" + gate.visit());
    Chromium.button(phone, "Add parts").click();
    Chromium.button(phone, "Scan a code").click();
  }

  private static String odd(int digit) {
    return ODD[digit];
  }

  private static String right(int digit) {
    return odd(digit).replace('0', 'x').replace('1', '0').replace('x', '1');
  }

  private static String even(int digit) {
    return new StringBuilder(right(digit)).reverse().toString();
  }

  /** The bars of a code of thirteen digits. */
  private static byte[] picture(String code) throws IOException {
    var bars = new StringBuilder("101");
    String parity = PARITY[code.charAt(0) - '0'];
    for (int i = 1; i <= 6; i++) {
      int digit = code.charAt(i) - '0';
      bars.append(parity.charAt(i - 1) == 'O' ? odd(digit) : even(digit));
    }
    bars.append("01010");
    for (int i = 7; i <= 12; i++) {
      bars.append(right(code.charAt(i) - '0'));
    }
    bars.append("101");
    var picture = new BufferedImage(640, 480, BufferedImage.TYPE_INT_RGB);
    var pen = picture.createGraphics();
    pen.setColor(Color.WHITE);
    pen.fillRect(0, 0, 640, 480);
    pen.setColor(Color.BLACK);
    for (int i = 0; i < bars.length(); i++) {
      if (bars.charAt(i) == '1') {
        pen.fillRect(120 + i * BAR, 140, BAR, 200);
      }
    }
    pen.dispose();
    var png = new ByteArrayOutputStream();
    ImageIO.write(picture, "png", png);
    return png.toByteArray();
  }

  @Test
  void a_code_that_the_camera_sees_is_remembered_with_the_part_that_is_added() throws IOException {
    // No machine of ours has a camera: what it would see is drawn.
    phone.addInitScript(
        """
        navigator.mediaDevices.getUserMedia = async () => {
          const canvas = document.createElement("canvas");
          canvas.width = 640;
          canvas.height = 480;
          const seen = new Image();
          seen.src = "data:image/png;base64,%s";
          await seen.decode();
          setInterval(() => canvas.getContext("2d").drawImage(seen, 0, 0), 50);
          return canvas.captureStream(20);
        };
        """
            .formatted(Base64.getEncoder().encodeToString(picture("5012345678900"))));
    scan();
    assertThat(phone.locator("main")).containsText("Scanned: 5012345678900.");
    phone.getByLabel("Find a part").fill("photocell");
    phone.getByLabel("Add Photocell pair").first().click();
    assertThat(phone.getByText("Scanned:")).not().isVisible();
    scan();
    assertThat(phone.locator("main")).containsText("Scanned: 5012345678900.");
    assertThat(phone.locator(".part-choice")).hasCount(1);
    assertThat(phone.locator(".part-choice")).containsText("Photocell pair");
  }

  @Test
  void without_a_camera_a_picture_of_the_code_will_do() throws IOException {
    phone.addInitScript(
        "navigator.mediaDevices.getUserMedia = async () => { throw new Error('none'); };");
    scan();
    assertThat(phone.locator("main")).containsText("The camera cannot be used here.");
    phone
        .locator("input[capture]")
        .setInputFiles(new FilePayload("code.png", "image/png", picture("4006381333931")));
    assertThat(phone.locator("main")).containsText("Scanned: 4006381333931.");
  }

  @Test
  void a_picture_without_a_code_is_told() throws IOException {
    phone.addInitScript(
        "navigator.mediaDevices.getUserMedia = async () => { throw new Error('none'); };");
    scan();
    var empty = new BufferedImage(200, 200, BufferedImage.TYPE_INT_RGB);
    var png = new ByteArrayOutputStream();
    ImageIO.write(empty, "png", png);
    phone
        .locator("input[capture]")
        .setInputFiles(new FilePayload("code.png", "image/png", png.toByteArray()));
    assertThat(phone.locator("main")).containsText("There is no code on that picture");
  }
}
