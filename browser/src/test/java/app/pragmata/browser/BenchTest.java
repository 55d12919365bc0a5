package app.pragmata.browser;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;

import app.pragmata.server.PlannerBenchTest;
import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Response;
import com.microsoft.playwright.options.BoundingBox;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * Measures, and asserts nothing: figures depend on the machine, so each stands beside a floor from
 * the same run.
 */
@Tag("bench")
class BenchTest {
  private static final int WARM_UP = 400;
  private static final int REQUESTS = 200;
  private static final int FIRST_LOADS = 7;
  private static final int DRAG_STEPS = 240;

  private final RunningPragmata program = RunningPragmata.at("2026-11-24T10:42");

  @Test
  void lists_and_sheets_at_the_server() {
    Visitor office = Visitor.signedIn(program, "hester");
    long job =
        program
            .database()
            .select(JOB.ID)
            .from(JOB)
            .where(JOB.TITLE.contains("ram replaced"))
            .fetchSingle(JOB.ID);
    long quote = program.database().select(QUOTE.ID).from(QUOTE).limit(1).fetchSingle(QUOTE.ID);
    double floor = percentiles(office, "/api/session").get(1);
    System.out.printf(
        "%nServer, %d warm requests each over loopback; floor = the session's answer%n", REQUESTS);
    System.out.printf("%-34s %8s %8s %8s%n", "", "median", "95th", "x floor");
    var paths =
        new ArrayList<>(
            List.of("/api/session", "/api/money-line", "/api/jobs/" + job, "/api/quotes/" + quote));
    for (String stage : List.of("quoted", "won", "booked", "worked", "checked", "billed", "paid")) {
      paths.add("/api/worklists/" + stage);
    }
    paths.addAll(
        List.of(
            "/api/customers/4",
            "/api/find?q=tansy",
            "/api/books/journal",
            "/api/books/accounts/1050",
            "/api/books/trial-balance"));
    for (String path : paths) {
      List<Double> milliseconds = percentiles(office, path);
      System.out.printf(
          "%-34s %5.1f ms %5.1f ms %7.1f%n",
          path, milliseconds.get(0), milliseconds.get(1), milliseconds.get(1) / floor);
    }
  }

  /** The median and the 95th percentile in milliseconds. */
  private static List<Double> percentiles(Visitor visitor, String path) {
    for (int i = 0; i < WARM_UP; i++) {
      visitor.get(path);
    }
    var times = new ArrayList<Double>();
    for (int i = 0; i < REQUESTS; i++) {
      long start = System.nanoTime();
      visitor.get(path);
      times.add((System.nanoTime() - start) / 1e6);
    }
    times.sort(Double::compareTo);
    return List.of(times.get(REQUESTS / 2), times.get(REQUESTS * 95 / 100));
  }

  /** A full day of the large company drawn, and a visit of it dragged. */
  @Test
  void the_planner_drawn_and_dragged() {
    RunningPragmata large = RunningPragmata.large();
    LocalDate day = PlannerBenchTest.fullDay(large, Visitor.signedIn(large, "hester"));
    var inSight = new ArrayList<Double>();
    var drawn = new ArrayList<Double>();
    for (int i = 0; i < FIRST_LOADS; i++) {
      Page desk = Chromium.desk(large, "hester");
      desk.addInitScript(NOTE_WHEN_DRAWN);
      desk.navigate("/planner/" + day);
      desk.waitForFunction("() => window.drawnAt && performance.now() - window.drawnAt > 500");
      inSight.add(((Number) desk.evaluate(DRAWN_AFTER, "firstDrawnAt")).doubleValue());
      drawn.add(((Number) desk.evaluate(DRAWN_AFTER, "drawnAt")).doubleValue());
      desk.close();
    }
    inSight.sort(Double::compareTo);
    drawn.sort(Double::compareTo);
    Page desk = Chromium.desk(large, "hester");
    desk.navigate("/planner/" + day);
    BoundingBox block = desk.locator("[data-visit]").nth(12).boundingBox();
    desk.evaluate(WATCH_FRAMES);
    desk.mouse().move(block.x + 4, block.y + 10);
    desk.mouse().down();
    for (int i = 0; i < DRAG_STEPS; i++) {
      desk.mouse().move(block.x + 4 + i % 60 * 5, block.y + 10 + i % 40 * 4);
    }
    String frames = String.valueOf(desk.evaluate("() => window.framesSeen()"));
    if (desk.locator("[class*=lifted]").count() == 0) {
      throw new IllegalStateException("Nothing was dragged.");
    }
    desk.keyboard().press("Escape");
    desk.mouse().up();
    System.out.printf(
        "%nThe Planner in Chromium, %s: those in sight drawn, median %.0f ms after the answer (slowest %.0f ms), all %d visits %.0f ms (%.0f ms); dragging: %s%n",
        day,
        inSight.get(FIRST_LOADS / 2),
        inSight.getLast(),
        desk.locator("[data-visit]").count(),
        drawn.get(FIRST_LOADS / 2),
        drawn.getLast(),
        frames);
    desk.close();
  }

  /**
   * Notes the first and the last time at which visits were put on the page, once they are painted.
   */
  private static final String NOTE_WHEN_DRAWN =
      """
      new MutationObserver((changes) => {
        const blocks = changes.some((change) => [...change.addedNodes].some(
          (node) => node.querySelector?.("[data-visit]") || node.dataset?.visit));
        if (blocks) {
          requestAnimationFrame(() => setTimeout(() => {
            window.drawnAt = performance.now();
            window.firstDrawnAt ??= window.drawnAt;
          }));
        }
      }).observe(document, { childList: true, subtree: true });
      """;

  private static final String DRAWN_AFTER =
      """
      (moment) => window[moment] - performance.getEntriesByType("resource")
        .filter((each) => each.name.includes("/api/planner/days/")).at(-1).responseEnd
      """;

  private static final String WATCH_FRAMES =
      """
      () => {
        const times = [];
        const long = [];
        new PerformanceObserver((list) => long.push(...list.getEntries().map((each) => each.duration)))
          .observe({ type: "longtask" });
        const frame = (time) => { times.push(time); requestAnimationFrame(frame); };
        requestAnimationFrame(frame);
        window.framesSeen = () => {
          const seconds = (times.at(-1) - times[0]) / 1000;
          const longest = Math.max(...times.slice(1).map((time, i) => time - times[i]));
          return `${(times.length / seconds).toFixed(0)} frames a second, longest ${longest.toFixed(0)} ms, `
            + `${long.length} tasks over 50 ms (${long.map(Math.round).join(" ")})`;
        };
      }
      """;

  /** In windows that have nothing in their cache, as on a first visit. */
  @Test
  void first_load() {
    var usable = new ArrayList<Double>();
    var sheet = new ArrayList<Double>();
    long bytes = 0;
    for (int i = 0; i < FIRST_LOADS; i++) {
      Page page = Chromium.window(program, 1280, 800);
      List<Response> scripts = new ArrayList<>();
      page.onResponse(
          response -> {
            if (response.url().endsWith(".js")) {
              scripts.add(response);
            }
          });
      long start = System.nanoTime();
      page.navigate("/");
      page.getByLabel("Name").waitFor();
      usable.add((System.nanoTime() - start) / 1e6);
      page.getByLabel("Name").fill("hester");
      page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("ostmere");
      long signIn = System.nanoTime();
      Chromium.button(page, "Sign in").click();
      page.locator("article header [data-home]").waitFor();
      sheet.add((System.nanoTime() - signIn) / 1e6);
      bytes =
          scripts.stream().mapToLong(response -> response.request().sizes().responseBodySize).sum();
      page.context().close();
    }
    usable.sort(Double::compareTo);
    sheet.sort(Double::compareTo);
    System.out.printf(
        "%nFirst load, median of %d: sign-in page usable after %.0f ms (slowest %.0f ms); worklist and sheet %.0f ms after signing in; %d kB of compressed script in all%n",
        FIRST_LOADS,
        usable.get(FIRST_LOADS / 2),
        usable.getLast(),
        sheet.get(FIRST_LOADS / 2),
        bytes / 1024);
  }
}
