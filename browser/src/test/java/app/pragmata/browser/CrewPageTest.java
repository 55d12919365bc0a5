package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static app.pragmata.browser.Chromium.choose;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Several people on a visit, and their way home. */
class CrewPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");

  @AfterEach
  void nobodyDrivesOn() {
    gate.at("23:00");
    gate.technician().post("/api/pocket/clock/stop", Map.of());
  }

  @Test
  void the_office_says_who_comes_along_and_the_sheet_names_them() {
    gate.planned();
    Page desk = desk();
    button(desk, "Move").click();
    choose(desk, "With", "Tobias", "Tobias Quennell");
    button(desk, "Plan").click();
    Locator visit = desk.locator("[data-visit]");
    Locator allTheSame = button(desk, "Plan it there all the same");
    // On Fridays Tobias goes home at two; the times that the open form offers name him too.
    allTheSame.or(desk.locator("[data-visit]:not(:has(form))")).first().waitFor();
    if (allTheSame.isVisible()) {
      allTheSame.click();
    }
    assertThat(visit).containsText("with Tobias Quennell");
    Page phone = phone("tobias");
    assertThat(phone.getByText("Swing gate, ram replaced").first()).isVisible();
  }

  @Test
  void a_job_that_needs_two_says_so_and_finds_times_for_two() {
    gate.waiting();
    Page desk = desk();
    assertThat(desk.getByText("One person can do it.")).isVisible();
    desk.locator("#needs-of-job-" + gate.job()).click();
    choose(desk, "How many go", "2", "2 people");
    button(desk, "Save").click();
    assertThat(desk.getByText("Needs 2 people, not as its kind.")).isVisible();
    button(desk, "Plan this visit").click();
    Locator best = desk.locator("form ol button").first();
    assertThat(best).containsText(" with ");
    best.click();
    desk.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Plan").setExact(true))
        .click();
    // The form, while it is open, says "with" too.
    assertThat(desk.locator("[data-visit] form")).hasCount(0);
    assertThat(desk.locator("[data-visit]")).containsText("with ");
    desk.locator("#needs-of-job-" + gate.job()).click();
    button(desk, "As its kind again").click();
    assertThat(desk.getByText("One person can do it.")).isVisible();
  }

  @Test
  void whoever_comes_along_for_some_hours_has_them_on_the_visit() {
    gate.planned();
    long tobias = program.person("tobias");
    gate.office()
        .put(
            "/api/visits/" + gate.visit() + "/plan",
            Map.of(
                "version", gate.visitVersion(),
                "technicianId", program.person("piet"),
                "companionIds", List.of(tobias),
                "day", gate.day().toString(),
                "start", "10",
                "expected", "4:00",
                "overruled", SwingGate.ANYTHING));
    Page desk = desk();
    desk.locator("#hours-of-%d-%d".formatted(gate.visit(), tobias)).click();
    Locator hours = desk.getByLabel("Hours of Tobias Quennell");
    hours.fill("8 to 9");
    hours.press("Enter");
    assertThat(desk.getByText("The visit is from 10:00 to 14:00.").first()).isVisible();
    assertThat(hours).hasValue("8 to 9");
    hours.fill("10 to 11:30");
    hours.press("Enter");
    // In the demo he may have a visit of his own then.
    Locator allTheSame = button(desk, "Save all the same");
    allTheSame.or(desk.getByText("10:00 to 11:30")).first().waitFor();
    if (allTheSame.isVisible()) {
      allTheSame.click();
    }
    assertThat(desk.locator("[data-visit]")).containsText("Tobias Quennell 10:00 to 11:30");
    desk.navigate("/planner/" + gate.day());
    Locator along =
        desk.getByLabel("Tobias Quennell’s day")
            .locator("[data-visit='%d']".formatted(gate.visit()));
    assertThat(along).hasAttribute("aria-label", Pattern.compile("10:00 to 11:30 .*"));
    along.click();
    assertThat(desk.locator("aside"))
        .containsText("10:00 to 14:00, Piet Osei with Tobias Quennell, planned");
    button(desk, "Take it off the day").click();
    assertThat(along).hasCount(0);
    button(desk, "Put the last step back").click();
    assertThat(along).hasAttribute("aria-label", Pattern.compile("10:00 to 11:30 .*"));
  }

  @Test
  void a_line_that_is_only_delivered_is_told_apart_from_those_that_need_a_visit() {
    gate.planned();
    Page desk = desk();
    desk.getByText("Which visit does what").click();
    Locator lines =
        desk.getByRole(
            AriaRole.TABLE, new Page.GetByRoleOptions().setName("Which visit does what"));
    assertThat(lines).containsText("planned ");
    Locator chosen = lines.getByRole(AriaRole.COMBOBOX).first();
    chosen.click();
    desk.getByTitle("it needs none").click();
    assertThat(lines).containsText("needs no visit");
  }

  @Test
  void the_way_home_has_a_button_and_its_miles() {
    gate.finished();
    Page phone = phone("piet");
    button(phone, "Drive home").click();
    assertThat(phone.locator("main").getByText("Driving, ")).isVisible();
    gate.at("18:55");
    phone.getByLabel("Miles driven").fill("11.5");
    button(phone, "I am there").click();
    assertThat(phone.getByText("On no visit today: 0:35 driven")).isVisible();
  }

  @Test
  void a_persons_day_stands_behind_their_name_and_takes_time_in_the_yard() {
    gate.finished();
    Page desk = desk();
    desk.locator("[data-visit]")
        .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("Piet Osei"))
        .click();
    assertThat(desk.getByText("3:20 labour, 0:40 drive")).isVisible();
    button(desk, "Add time on no visit").click();
    desk.getByLabel("From").fill("9");
    desk.getByLabel("To").fill("10");
    desk.getByLabel("Reason").fill("Van tidied");
    button(desk, "Add").click();
    assertThat(desk.getByText("4:20 labour, 0:40 drive")).isVisible();
    assertThat(desk.getByText("on no visit, borne by no job")).isVisible();
  }

  private Page phone(String username) {
    Page phone = Chromium.phone(program, username);
    phone.navigate("/pocket");
    return phone;
  }

  private Page desk() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    return desk;
  }
}
