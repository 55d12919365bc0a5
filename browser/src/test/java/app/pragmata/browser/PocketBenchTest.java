package app.pragmata.browser;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.google.gson.JsonObject;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Response;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * Measures a technician's page on a phone that is four times slower than this machine, on a line of
 * 1.6 Mbit/s; the floor is the same phone as fast as this machine, with no line to wait for.
 */
@Tag("bench")
class PocketBenchTest {
  private static final int SLOWER = 4;
  private static final int BYTES_A_SECOND = 200_000;
  private static final int ROUND_TRIP_MS = 150;
  private static final int OPENED = 5;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  /**
   * Milliseconds of each try, and the compressed script that came before the page could be used.
   */
  private record Opening(List<Double> first, List<Double> again, long scriptBytes) {}

  @Test
  void the_phone_opened_and_opened_again_without_a_network() throws IOException {
    gate.planned();
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
        slow(phone, slower);
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
        // A browser that is slowed down has conditions of its own and takes no notice of being
        // offline.
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

  private static void slow(Page phone, int slower) {
    if (slower == 1) {
      return;
    }
    CDPSession session = phone.context().newCDPSession(phone);
    var rate = new JsonObject();
    rate.addProperty("rate", slower);
    session.send("Emulation.setCPUThrottlingRate", rate);
    var line = new JsonObject();
    line.addProperty("offline", false);
    line.addProperty("latency", ROUND_TRIP_MS);
    line.addProperty("downloadThroughput", BYTES_A_SECOND);
    line.addProperty("uploadThroughput", BYTES_A_SECOND);
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
