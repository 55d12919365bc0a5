package app.pragmata.browser;

import app.pragmata.server.RunningPragmata;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ReducedMotion;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/** Debian's Chromium without a window, driving the real program as one of the demo people. */
final class Chromium {
  private static final Chromium SHARED = new Chromium();

  private final Browser browser;

  private Chromium() {
    var playwright =
        Playwright.create(
            new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
    browser =
        playwright
            .chromium()
            .launch(
                new BrowserType.LaunchOptions()
                    .setExecutablePath(Path.of("/usr/bin/chromium"))
                    .setArgs(
                        List.of(
                            "--no-sandbox",
                            "--disable-gpu",
                            "--disable-quic",
                            "--no-first-run",
                            "--disable-background-networking",
                            "--disable-component-update",
                            "--disable-sync")));
    PlaywrightAssertions.setDefaultAssertionTimeout(15_000);
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
    BrowserContext context =
        SHARED.browser.newContext(
            new Browser.NewContextOptions()
                .setBaseURL(program.address())
                .setLocale("en-GB")
                .setTimezoneId("Europe/London")
                .setReducedMotion(ReducedMotion.REDUCE)
                .setViewportSize(width, height));
    context.setDefaultTimeout(20_000);
    return context.newPage();
  }

  private static Page signedIn(RunningPragmata program, String username, int width, int height) {
    Page page = window(program, width, height);
    page.navigate("/");
    page.getByLabel("Name").fill(username);
    page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("ostmere");
    button(page, "Sign in").click();
    page.waitForURL(Pattern.compile("/(worked|pocket|books)"));
    return page;
  }

  static Locator button(Page page, String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name)).first();
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
