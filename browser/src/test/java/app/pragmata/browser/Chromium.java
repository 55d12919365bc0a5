package app.pragmata.browser;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.Cookie;
import com.microsoft.playwright.options.ReducedMotion;
import com.microsoft.playwright.options.WaitForSelectorState;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Debian's Chromium, built to have no window, driving the real program as one of the demo people.
 */
final class Chromium {
  static final Locator.WaitForOptions HIDDEN =
      new Locator.WaitForOptions().setState(WaitForSelectorState.HIDDEN);

  private static final Chromium SHARED = new Chromium();

  private final Browser browser;
  private final Map<String, BrowserContext> contexts = new HashMap<>();

  private Chromium() {
    var playwright =
        Playwright.create(
            new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
    browser =
        playwright
            .chromium()
            .launch(
                new BrowserType.LaunchOptions()
                    .setExecutablePath(Path.of("/usr/bin/chromium-headless-shell"))
                    .setArgs(
                        List.of(
                            "--no-sandbox",
                            "--disable-gpu",
                            "--disable-quic",
                            "--no-first-run",
                            "--disable-background-networking",
                            "--disable-component-update",
                            "--disable-sync")));
    PlaywrightAssertions.setDefaultAssertionTimeout(25_000);
  }

  /** A desk of 1280 x 800 with this person signed in. */
  static Page desk(RunningPragmata program, String username) {
    return signedIn(program, username, 1280, 800);
  }

  /** A phone of 390 x 844 with this technician signed in. */
  static Page phone(RunningPragmata program, String username) {
    return signedIn(program, username, 390, 844);
  }

  /** A window with nobody signed in. */
  static Page window(RunningPragmata program, int width, int height) {
    return context(program, width, height).newPage();
  }

  /** A phone of its own that reaches the server over a line, with this technician signed in. */
  static BrowserContext phoneOver(RunningPragmata program, String line, String username) {
    BrowserContext context = context(line, 390, 844);
    signIn(context, program, line, username);
    return context;
  }

  private static BrowserContext context(RunningPragmata program, int width, int height) {
    return context(program.address(), width, height);
  }

  private static BrowserContext context(String address, int width, int height) {
    BrowserContext context =
        SHARED.browser.newContext(
            new Browser.NewContextOptions()
                .setBaseURL(address)
                .setLocale("en-GB")
                .setTimezoneId("Europe/London")
                .setReducedMotion(ReducedMotion.REDUCE)
                .setViewportSize(width, height));
    context.setDefaultTimeout(30_000);
    return context;
  }

  /**
   * Each person has one window, so that scripts are fetched once; whatever it showed before is
   * closed, and a session that has ended is taken up anew.
   */
  private static Page signedIn(RunningPragmata program, String username, int width, int height) {
    BrowserContext context =
        SHARED.contexts.computeIfAbsent(username, name -> context(program, width, height));
    context.pages().forEach(Page::close);
    if (!context.request().get("/api/money-line").ok()
        && !context.request().get("/api/pocket/day").ok()) {
      signIn(context, program, program.address(), username);
    }
    return context.newPage();
  }

  private static void signIn(
      BrowserContext context, RunningPragmata program, String address, String username) {
    context.clearCookies();
    Visitor.signedIn(program, username)
        .cookies()
        .forEach(
            (name, value) ->
                context.addCookies(List.of(new Cookie(name, value).setUrl(address + "/"))));
  }

  /**
   * Waits until nothing has been answered for a while; a page is never idle as Playwright has it,
   * for its stream stays open.
   */
  static void quiet(Page page) {
    page.waitForFunction(
        """
        () => {
          const answered = performance.getEntriesByType("resource").length;
          if (window.answered !== answered) {
            window.answered = answered;
            window.answeredAt = performance.now();
          }
          return performance.now() - window.answeredAt > 500 && document.fonts.status === "loaded";
        }
        """);
  }

  static Locator button(Page page, String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name)).first();
  }

  /** Types into the one field and opens the first hit. */
  static void find(Page page, String said) {
    page.keyboard().press("Control+k");
    page.getByLabel("Find").fill(said);
    page.keyboard().press("Enter");
  }

  /** Ticks one part of the price list and puts it into the quote. */
  static void addPart(Page page, String typed, String name) {
    button(page, "Add parts").click();
    page.getByLabel("Find parts").fill(typed);
    // A list that changes under the pointer takes no press.
    quiet(page);
    page.locator("[role=dialog] label")
        .filter(new Locator.FilterOptions().setHasText(name))
        .click();
    button(page, "Add 1 part").click();
    page.locator("[role=dialog]").waitFor(HIDDEN);
  }

  /** Chooses from a list that opens, by a part of the option's text. */
  static void choose(Page page, String label, String typed, String option) {
    Locator select = page.getByLabel(label, new Page.GetByLabelOptions().setExact(true));
    select.click();
    if (!typed.isEmpty()) {
      select.fill(typed);
    }
    page.locator(".ant-select-item-option", new Page.LocatorOptions().setHasText(option))
        .first()
        .click();
  }
}
