package app.pragmata.browser;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.google.gson.JsonObject;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Response;
import com.microsoft.playwright.options.FilePayload;
import com.microsoft.playwright.options.WaitForSelectorState;
import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * Measures a technician's page on a phone that is four times slower than this machine, on a line of
 * 1.6 Mbit/s; the floor is the same phone as fast as this machine, with no line to wait for. A day
 * without a network is caught up on that line and on an ordinary one.
 */
@Tag("bench")
class PocketBenchTest {
  private static final int SLOWER = 4;
  private static final int OPENED = 5;
  private static final int TAPS = 60;
  private static final int PHOTOS = 12;
  private static final int DAYS_BEFORE = 8;
  private static final int PATIENCE_MS = 180_000;

  /** By its own clock the phone has worked for some time before the pause, or for none. */
  private static final String GO_ON = "Go on working|Start work";

  /** How a phone is connected. */
  private enum Connection {
    POOR(200_000, 150),
    ORDINARY(1_250_000, 60);

    final int bytesPerSecond;
    final int roundTripMilliseconds;

    Connection(int bytesPerSecond, int roundTripMilliseconds) {
      this.bytesPerSecond = bytesPerSecond;
      this.roundTripMilliseconds = roundTripMilliseconds;
    }
  }

  private final RunningPragmata program = RunningPragmata.forTests();

  /**
   * Milliseconds of each try, and the compressed script that came before the page could be used.
   */
  private record Opening(List<Double> first, List<Double> again, long scriptBytes) {}

  @Test
  void the_phone_opened_and_opened_again_without_a_network() throws IOException {
    new SwingGate(program, "imre").planned();
    Opening floor = open(1);
    Opening slow = open(SLOWER);
    System.out.printf(
        "%nPocket opened for the first time, median of %d: %.0f ms (slowest %.0f ms), x%.1f the floor of %.0f ms; %d kB of compressed script before it can be used%n",
        OPENED,
        median(slow.first()),
        slow.first().getLast(),
        median(slow.first()) / median(floor.first()),
        median(floor.first()),
        slow.scriptBytes() / 1024);
    System.out.printf(
        "Pocket opened again without a network, median of %d: %.0f ms (slowest %.0f ms), x%.1f the floor of %.0f ms%n",
        OPENED,
        median(slow.again()),
        slow.again().getLast(),
        median(slow.again()) / median(floor.again()),
        median(floor.again()));
  }

  private Opening open(int slower) throws IOException {
    var first = new ArrayList<Double>();
    var again = new ArrayList<Double>();
    long bytes = 0;
    for (int i = 0; i < OPENED; i++) {
      try (Line line = new Line(program.address());
          BrowserContext context = Chromium.phoneOver(program, line.address(), "imre")) {
        Page phone = context.newPage();
        slow(phone, slower, Connection.POOR);
        List<Response> scripts = new ArrayList<>();
        phone.onResponse(
            response -> {
              if (response.url().endsWith(".js")) {
                scripts.add(response);
              }
            });
        first.add(millis(() -> showStops(phone)));
        bytes =
            List.copyOf(scripts).stream()
                .mapToLong(response -> response.request().sizes().responseBodySize)
                .sum();
        phone.evaluate("() => navigator.serviceWorker.ready.then(() => true)");
        Chromium.quiet(phone);
        phone.reload();
        phone.locator("a.stop").first().waitFor();
        Chromium.quiet(phone);
        line.cut();
        again.add(millis(() -> showStops(phone)));
      }
    }
    first.sort(Double::compareTo);
    again.sort(Double::compareTo);
    return new Opening(first, again, bytes);
  }

  private static void showStops(Page phone) {
    phone.navigate("/pocket");
    phone.locator("a.stop").first().waitFor();
  }

  /** The server has taken some days before, and a first round of the browser is not counted. */
  @Test
  void a_day_of_taps_without_a_network_and_its_catching_up() throws IOException {
    for (int day = 0; day < DAYS_BEFORE; day++) {
      dayBefore(new SwingGate(program, "dilys"), day);
    }
    for (Connection connection :
        List.of(Connection.ORDINARY, Connection.ORDINARY, Connection.ORDINARY, Connection.POOR)) {
      catchUp(connection, new SwingGate(program, "dilys"));
    }
  }

  /** The same day's taps and photos, without a browser. */
  private void dayBefore(SwingGate gate, int day) {
    gate.onSite();
    Instant began = program.clock().instant();
    gate.at("16:30");
    Instant sent = program.clock().instant();
    List<Map<String, Object>> taps =
        IntStream.range(0, TAPS)
            .<Map<String, Object>>mapToObj(
                tap ->
                    Map.of(
                        "key", "day-before-%d-%d".formatted(day, tap),
                        "step", tap % 2 == 0 ? "pause" : "start_work",
                        "visitId", gate.visit(),
                        "tappedAt", began.plusSeconds(tap),
                        "sentAt", sent,
                        "form", Map.of()))
            .toList();
    gate.technician().post("/api/pocket/late-acts", Map.of("acts", taps.subList(0, TAPS / 2)));
    gate.technician().post("/api/pocket/late-acts", Map.of("acts", taps.subList(TAPS / 2, TAPS)));
    for (int i = 0; i < PHOTOS; i++) {
      gate.technician()
          .photo(
              "/api/pocket/visits/%d/photos".formatted(gate.visit()),
              photo(i).buffer,
              "day-before-photo-%d-%d".formatted(day, i));
    }
    gate.tap("finish", Map.of());
  }

  private void catchUp(Connection connection, SwingGate gate) throws IOException {
    gate.onSite();
    gate.at("15:30");
    try (Line line = new Line(program.address());
        BrowserContext context = Chromium.phoneOver(program, line.address(), "dilys")) {
      Page phone = context.newPage();
      phone.navigate("/pocket/" + gate.visit());
      phone.getByText("Pause work").waitFor();
      Chromium.quiet(phone);
      slow(phone, SLOWER, connection);
      line.cut();
      var taps = new ArrayList<Double>();
      for (int i = 0; i < TAPS / 2; i++) {
        taps.add(tap(phone, "Pause work", GO_ON));
        taps.add(tap(phone, GO_ON, "Pause work"));
      }
      phone
          .locator("section[aria-label=Photos] input[type=file]")
          .setInputFiles(
              IntStream.range(0, PHOTOS)
                  .mapToObj(PocketBenchTest::photo)
                  .toArray(FilePayload[]::new));
      phone
          .getByText(PHOTOS + " of " + PHOTOS + " not sent yet")
          .waitFor(new Locator.WaitForOptions().setTimeout(PATIENCE_MS));
      long began = System.nanoTime();
      line.mend();
      phone.evaluate("() => window.dispatchEvent(new Event('online'))");
      phone.getByText("taps wait").waitFor(hidden());
      double taken = (System.nanoTime() - began) / 1e6;
      phone.getByText("not sent yet").first().waitFor(hidden());
      phone.getByLabel("Not sent yet").waitFor(hidden());
      double caughtUp = (System.nanoTime() - began) / 1e6;
      taps.sort(Double::compareTo);
      System.out.printf(
          "%nPocket, a tap until it is written down on the phone, of %d: median %.0f ms, 95th percentile %.0f ms (slowest %.0f ms)%n",
          TAPS, median(taps), taps.get(TAPS * 95 / 100), taps.getLast());
      System.out.printf(
          "Pocket, an offline day of %d taps caught up at %.1f Mbit/s after %.0f ms, with its %d photos after %.0f ms; the line alone needs %.0f ms for them%n",
          TAPS,
          8 * connection.bytesPerSecond / 1e6,
          taken,
          PHOTOS,
          caughtUp,
          1000.0 * photoBytes(gate.visit()) / connection.bytesPerSecond);
    }
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  /** How large the photos of the visit are. */
  private long photoBytes(long visit) {
    return program
        .database()
        .fetchSingle(
            "select sum(length(large)) from visit_photo_content join visit_photo on id = photo_id where visit_id = ?",
            visit)
        .get(0, Long.class);
  }

  private static Locator.WaitForOptions hidden() {
    return new Locator.WaitForOptions()
        .setState(WaitForSelectorState.HIDDEN)
        .setTimeout(PATIENCE_MS);
  }

  /**
   * How long it takes from a tap until the page shows what follows, which it does once it is kept.
   */
  private static double tap(Page phone, String name, String then) {
    return ((Number)
            phone.evaluate(
                """
                ([name, then]) => new Promise((seen) => {
                  const find = (word) => [...document.querySelectorAll("button")]
                    .find((button) => new RegExp(`^(${word})`).test(button.textContent));
                  const began = performance.now();
                  new MutationObserver((changes, observer) => {
                    if (find(then) && !find(then).classList.contains("ant-btn-loading")) {
                      observer.disconnect();
                      seen(performance.now() - began);
                    }
                  }).observe(document, {
                    childList: true, subtree: true, characterData: true, attributes: true });
                  find(name).click();
                })
                """,
                List.of(name, then)))
        .doubleValue();
  }

  private static FilePayload photo(int number) {
    var picture = new BufferedImage(1600, 1200, BufferedImage.TYPE_INT_RGB);
    var random = new Random(number);
    var pen = picture.createGraphics();
    for (int i = 0; i < 400; i++) {
      pen.setColor(new Color(random.nextInt(0x1000000)));
      pen.fillRect(random.nextInt(1600), random.nextInt(1200), 200, 150);
    }
    pen.dispose();
    var jpeg = new ByteArrayOutputStream();
    try {
      ImageIO.write(picture, "jpeg", jpeg);
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return new FilePayload("photo" + number + ".jpg", "image/jpeg", jpeg.toByteArray());
  }

  private static void slow(Page phone, int slower, Connection connection) {
    if (slower == 1) {
      return;
    }
    CDPSession session = phone.context().newCDPSession(phone);
    var rate = new JsonObject();
    rate.addProperty("rate", slower);
    session.send("Emulation.setCPUThrottlingRate", rate);
    var line = new JsonObject();
    line.addProperty("offline", false);
    line.addProperty("latency", connection.roundTripMilliseconds);
    line.addProperty("downloadThroughput", connection.bytesPerSecond);
    line.addProperty("uploadThroughput", connection.bytesPerSecond);
    session.send("Network.enable");
    session.send("Network.emulateNetworkConditions", line);
  }

  private static double millis(Runnable work) {
    long began = System.nanoTime();
    work.run();
    return (System.nanoTime() - began) / 1e6;
  }

  private static double median(List<Double> sorted) {
    return sorted.get(sorted.size() / 2);
  }
}
