package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** A technician says that a visit goes, or went, otherwise than planned. */
class NotAsPlannedPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi");

  private Page phone() {
    Page phone = Chromium.phone(program, "ngozi");
    phone.navigate("/pocket/" + gate.visit());
    return phone;
  }

  private Locator visits() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    return desk.locator("[data-visit]");
  }

  @Test
  void whoever_could_not_get_in_says_why_and_the_office_reads_it() {
    gate.planned();
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    Page phone = phone();
    button(phone, "Finish").click();
    button(phone, "Could not get in").click();
    button(phone, "Finish: could not get in").click();
    assertThat(phone.locator(".pocket [role=alert]")).containsText("Enter a value");
    phone.getByLabel("Why? The office reads it.").fill("Nobody at the gate");
    button(phone, "Finish: could not get in").click();
    assertThat(phone.getByText("Could not get in.")).isVisible();
    assertThat(visits().first()).containsText("Could not get in: Nobody at the gate");
  }

  @Test
  void whoever_has_to_come_again_leaves_a_visit_on_the_sheet_that_waits_to_be_planned() {
    gate.onSite();
    gate.at("16:00");
    Page phone = phone();
    button(phone, "Finish").click();
    button(phone, "Come again").click();
    phone.getByLabel("Why? The office reads it.").fill("Hinge is bent");
    button(phone, "Finish: come again").click();
    assertThat(phone.getByText("Come again.")).isVisible();
    assertThat(visits()).hasCount(2);
  }

  @Test
  void a_part_on_no_list_is_noted_on_the_phone_and_priced_on_the_sheet() {
    gate.onSite();
    Page phone = phone();
    button(phone, "Add parts").click();
    phone.getByLabel("Find a part").fill("Hinge M12");
    button(phone, "Note it").click();
    button(phone, "Done with parts").click();
    assertThat(phone.getByText("1 Hinge M12 on no list yet")).isVisible();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    button(desk, "Price it").click();
    desk.getByLabel("Number on the price list").fill("HIN-" + gate.job());
    desk.getByLabel("What one costs us").fill("14.25");
    button(desk, "Put it on the list and on the visit").click();
    assertThat(desk.locator("[data-unlisted]")).hasCount(0);
    assertThat(desk.locator("[data-visit]").first()).containsText("Hinge M12");
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  @Test
  void a_visit_is_accepted_with_one_tap_and_the_sheet_says_so() {
    gate.planned();
    gate.at("09:00");
    Page phone = phone();
    button(phone, "Accept it").click();
    assertThat(button(phone, "Accepted")).isDisabled();
    assertThat(visits().first()).containsText("has accepted it");
  }

  @Test
  void a_visit_is_handed_back_with_a_word() {
    gate.planned();
    gate.at("13:00");
    Page phone = phone();
    button(phone, "Hand it back").click();
    phone.getByLabel("Why can you not go?").fill("The van does not start");
    button(phone, "Hand it back").click();
    assertThat(phone).hasURL(Pattern.compile(".*/pocket$"));
    assertThat(visits().first()).containsText("unplanned");
  }

  @Test
  void one_tap_says_that_it_gets_half_an_hour_later() {
    gate.planned();
    gate.at("14:00");
    Page phone = phone();
    button(phone, "I am late").click();
    button(phone, "0:30 later").click();
    assertThat(phone.getByText("Told to come 0:30 later.")).isVisible();
    assertThat(visits().first()).containsText("Comes 0:30 later than planned.");
  }
}
