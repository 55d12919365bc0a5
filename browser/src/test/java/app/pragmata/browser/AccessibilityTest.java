package app.pragmata.browser;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.deque.html.axecore.playwright.AxeBuilder;
import com.deque.html.axecore.results.Rule;
import com.microsoft.playwright.Page;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class AccessibilityTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @ParameterizedTest
  @ValueSource(
      strings = {
        "/quoted",
        "/worked",
        "/checked",
        "/billed?filter=bakery",
        "/quotes/new",
        "/quotes/follow-up",
        "/settings",
        "/planner",
        "/mail-stand-in",
        "/customers/4",
        "/customers?sort=owed",
        "/customers/new?said=01632%20960121",
        "/checklists/1",
        "/fault-talks/1",
        "/imports",
        "/to-dos?whose=all",
        "/parts-wanted",
        "/rounds",
        "/stores?which=below_zero",
        "/hours/2026-11-23",
        "/came-in-late",
        "/check-desk",
        "/books/journal",
        "/books/1050"
      })
  void an_office_page_has_no_serious_violation(String path) {
    program.clock().set("2026-11-24T10:00");
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(path);
    desk.locator("article header, main h1, main h2").first().waitFor();
    assertThat(seriousViolations(desk)).isEmpty();
  }

  @Test
  void the_sign_in_page_has_no_serious_violation() {
    Page window = Chromium.window(program, 1280, 800);
    window.navigate("/");
    window.getByLabel("Name").waitFor();
    assertThat(seriousViolations(window)).isEmpty();
  }

  @Test
  void a_sent_quote_has_no_serious_violation() {
    var gate = new SwingGate(program, "piet").agree("deposit", "25%").sent();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    desk.locator("article header [data-home]").first().waitFor();
    assertThat(seriousViolations(desk)).isEmpty();
  }

  @Test
  void the_customers_page_has_no_serious_violation() {
    var gate = new SwingGate(program, "piet").agree("deposit", "25%").sent();
    Page phone = Chromium.window(program, 390, 844);
    phone.navigate(gate.offerPath().replace("/api/offers/", "/offer/"));
    phone.locator("main h1").waitFor();
    assertThat(seriousViolations(phone)).isEmpty();
  }

  @Test
  void the_technicians_pages_have_no_serious_violation() {
    var gate = new SwingGate(program, "piet").onSite();
    Page phone = Chromium.phone(program, "piet");
    phone.navigate("/");
    phone.locator("a.stop").first().waitFor();
    assertThat(seriousViolations(phone)).isEmpty();
    phone.navigate("/pocket/" + gate.visit());
    phone.locator(".big").waitFor();
    assertThat(seriousViolations(phone)).isEmpty();
    for (String panel : List.of("Extra work", "Take money", "Add parts", "Part wanted")) {
      phone.navigate("/pocket/" + gate.visit());
      phone.getByText(panel, new Page.GetByTextOptions().setExact(true)).click();
      phone.locator(".body form, .body section").first().waitFor();
      assertThat(seriousViolations(phone)).as(panel).isEmpty();
    }
    phone.navigate("/pocket/week/" + gate.monday());
    phone.locator("[data-day] form, [data-day] button").first().waitFor();
    assertThat(seriousViolations(phone)).isEmpty();
    phone.navigate("/pocket/van");
    phone.locator(".fact").first().waitFor();
    assertThat(seriousViolations(phone)).isEmpty();
    gate.at("17:00");
    gate.tap("finish", java.util.Map.of());
  }

  static List<String> seriousViolations(Page page) {
    return new AxeBuilder(page)
            // No page has frames: one look at it is enough.
            .setLegacyMode(true)
            .withTags(List.of("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"))
            .analyze()
            .getViolations()
            .stream()
            .filter(rule -> List.of("serious", "critical").contains(rule.getImpact()))
            .map(AccessibilityTest::described)
            .toList();
  }

  private static String described(Rule rule) {
    return rule.getId()
        + " at "
        + rule.getNodes().stream()
            .map(node -> String.valueOf(node.getTarget()) + node.getHtml())
            .limit(4)
            .toList();
  }
}
