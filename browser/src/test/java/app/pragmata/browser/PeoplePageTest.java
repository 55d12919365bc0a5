package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class PeoplePageTest {
  private static final Page.GetByLabelOptions EXACTLY = new Page.GetByLabelOptions().setExact(true);

  private final RunningPragmata program = RunningPragmata.forTests();
  private Page desk;

  @BeforeEach
  void atTheSettings() {
    program.clock().set("2026-11-24T10:00");
    desk = Chromium.desk(program, "orla");
    desk.navigate("/settings");
    // The page moves under the pointer while its sections come in.
    Chromium.quiet(desk);
  }

  private Locator row(String name) {
    return desk.locator("section")
        .filter(new Locator.FilterOptions().setHasText("Signs in as"))
        .locator("tr")
        .filter(new Locator.FilterOptions().setHasText(name))
        .first();
  }

  private void add(String name, String username) {
    desk.locator("section")
        .filter(new Locator.FilterOptions().setHasText("Signs in as"))
        .getByText("add")
        .click();
    desk.getByRole(AriaRole.DIALOG)
        .getByLabel("Name", new Locator.GetByLabelOptions().setExact(true))
        .fill(name);
    desk.getByLabel("Name to sign in with").fill(username);
    desk.getByLabel("Wage per hour, of a technician").fill("17.25");
    desk.getByLabel("On-costs in percent, of a technician").fill("23");
    button(desk, "Add person").click();
  }

  @Test
  void a_starter_opens_the_link_sets_a_password_and_begins() {
    add("Sanna Brandt", "sanna");
    assertThat(row("Sanna Brandt")).containsText("no password yet");
    desk.getByLabel("password link for Sanna Brandt").click();
    button(desk, "Make the link").click();
    String link = desk.locator("output b").innerText();
    Page phone = Chromium.window(program, 390, 844);
    phone.navigate(link);
    phone.getByLabel("Password", EXACTLY).fill("password1234");
    button(phone, "Set it and sign in").click();
    assertThat(phone.locator("main .fault")).containsText("among the first");
    phone.getByLabel("Password", EXACTLY).fill("harbour teapot seven");
    button(phone, "Set it and sign in").click();
    assertThat(phone).hasURL(Pattern.compile(".*/pocket"));
    phone.close();
  }

  @Test
  void whoever_leaves_stays_on_the_list_with_the_last_day() {
    add("Otto Ross", "otto");
    desk.getByLabel("leaves: Otto Ross").click();
    button(desk, "Note that they left").click();
    assertThat(row("Otto Ross")).containsText("left 24 Nov");
  }

  @Test
  void the_last_owner_is_told_why_she_cannot_leave() {
    desk.getByLabel("leaves: Orla Ferrow").click();
    button(desk, "Note that they left").click();
    assertThat(desk.locator("[role=status][aria-live]").first())
        .containsText("Make somebody else an owner first");
  }
}
