package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static app.pragmata.browser.Chromium.choose;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Several people on a visit, and their way home. */
class CrewPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");

  @AfterEach
  void nobodyDrivesOn() {
    gate.at("23:00");
    gate.technician().post("/api/pocket/drive-home/end", Map.of());
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
    // On Fridays Tobias goes home at two.
    allTheSame.or(visit.getByText("with Tobias Quennell")).first().waitFor();
    if (allTheSame.isVisible()) {
      allTheSame.click();
    }
    assertThat(visit).containsText("with Tobias Quennell");
    Page phone = phone("tobias");
    assertThat(phone.getByText("Swing gate, ram replaced").first()).isVisible();
  }

  @Test
  void the_way_home_has_a_button_and_its_miles() {
    gate.finished();
    Page phone = phone("piet");
    button(phone, "Drive home").click();
    assertThat(phone.locator("main").getByText("Driving home")).isVisible();
    gate.at("18:55");
    phone.getByLabel("Miles driven").fill("11.5");
    button(phone, "I am home").click();
    assertThat(phone.getByText("0:35 driven home today")).isVisible();
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
