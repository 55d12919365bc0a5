package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** The technician's page under a gloved thumb. */
class PocketPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");

  @AfterEach
  void the_clock_is_stopped_so_that_the_next_test_can_start_one() {
    if (gate.sheet().path("visits").path(0).path("state").asString().equals("on_site")) {
      gate.at("18:20");
      gate.tap("finish", Map.of());
    }
  }

  @Test
  void absurd_miles_are_told_and_the_typed_ones_stay() {
    gate.planned();
    gate.at("14:20");
    gate.tap("drive", Map.of());
    gate.at("15:00");
    Page phone = visit();
    button(phone, "Arrive").click();
    phone.getByLabel("Miles driven").fill("2000");
    button(phone, "I have arrived").click();
    assertThat(phone.locator(".fault")).containsText("More than 1,000 miles");
    assertThat(phone.getByLabel("Miles driven")).hasValue("2000");
    phone.getByLabel("Miles driven").fill("20");
    button(phone, "I have arrived").click();
    assertThat(button(phone, "Start work")).isVisible();
  }

  @Test
  void the_stops_stay_where_the_network_went_before_the_rest_of_the_day_had_come() {
    gate.planned();
    // A phone that has nothing of the program yet.
    try (BrowserContext context = Chromium.phoneOver(program, program.address(), "piet")) {
      Page phone = context.newPage();
      phone.route("**/assets/DayParts-*.js", Route::abort);
      phone.navigate("/pocket");
      assertThat(phone.getByText("there is no network")).isVisible();
      assertThat(phone.locator("a.stop").first()).isVisible();
      phone.unroute("**/assets/DayParts-*.js");
      button(phone, "Load them again").click();
      assertThat(button(phone, "Drive home")).isVisible();
    }
  }

  @Test
  void what_nobody_ticked_off_is_not_still_to_do_once_the_visit_is_over() {
    gate.onSite();
    gate.at("16:00");
    Page phone = visit();
    assertThat(phone.getByText("2 of 2 to go")).isVisible();
    gate.tap("finish", Map.of());
    assertThat(phone.getByText("finished.")).isVisible();
    assertThat(phone.getByText("to go")).isHidden();
  }

  @Test
  void where_lines_are_clocked_the_first_tap_starts_one_and_the_next_says_that_it_is_done() {
    gate.onSite();
    gate.changeKind("clockPerLine", true);
    gate.at("15:30");
    Page phone = visit();
    Locator line = phone.locator("button", new Page.LocatorOptions().setHasText("Change the ram"));
    assertThat(line).containsText("tap to start");
    line.click();
    assertThat(line).containsText("on the clock: tap when it is done");
    gate.at("16:10");
    line.click();
    assertThat(line).hasAttribute("aria-pressed", "true");
    assertThat(line).containsText("0:40 of 2:30");
    assertThat(button(phone, "Pause work")).isVisible();
    gate.changeKind("clockPerLine", false);
    assertThat(gate.sheet().path("visits").path(0).path("times").toString())
        .contains("Change the ram");
  }

  @Test
  void a_line_that_is_tapped_twice_in_a_hurry_stays_done() {
    gate.onSite();
    gate.at("15:30");
    Page phone = visit();
    Locator line = phone.locator("button", new Page.LocatorOptions().setHasText("Change the ram"));
    line.click();
    assertThat(line).hasAttribute("aria-pressed", "true");
    assertThat(line).isEnabled();
    line.dispatchEvent("click", Map.of("detail", 2));
    Chromium.quiet(phone);
    assertThat(line).hasAttribute("aria-pressed", "true");
    line.click();
    assertThat(line).hasAttribute("aria-pressed", "false");
  }

  @Test
  void a_clock_that_ran_through_the_night_asks_when_the_work_really_ended() {
    gate.onSite();
    gate.nextDayAt("09:00");
    Page phone = visit();
    button(phone, "Pause work").click();
    Locator ended = phone.getByLabel("When did you really stop");
    ended.fill("17:10");
    button(phone, "Stop the clock then").click();
    assertThat(button(phone, "Go on working")).containsText("2:10");
  }

  @Test
  void what_is_said_stands_where_the_browser_can_write_it_down() {
    gate.onSite();
    gate.at("15:30");
    Page phone = Chromium.phone(program, "piet");
    // Debian's Chromium listens to nobody: the browser's own interface hears this.
    phone.addInitScript(
        """
        window.SpeechRecognition = class {
          start() {
            const said = [{ transcript: " second leaf adjusted" }];
            said.isFinal = true;
            setTimeout(() => this.onresult({ resultIndex: 0, results: [said] }));
          }
          stop() { this.onend(); }
        };
        """);
    phone.navigate("/pocket/" + gate.visit());
    button(phone, "Finish").click();
    phone.getByLabel("What was done").fill("Tested,");
    button(phone, "Speak: the note").click();
    assertThat(phone.getByLabel("What was done")).hasValue("Tested, second leaf adjusted");
    button(phone, "Stop listening: the note").click();
    assertThat(button(phone, "Speak: the note")).isVisible();
  }

  @Test
  void a_part_added_by_mistake_is_put_back() {
    gate.onSite();
    gate.tap("parts", Map.of("partId", gate.part("PHO-02"), "quantity", "2"));
    Page phone = visit();
    button(phone, "Put back Photocell pair").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Used so far")))
        .containsText("No parts yet");
    assertThat(gate.sheet().path("visits").path(0).path("parts")).isEmpty();
  }

  @Test
  void what_was_promised_is_added_with_one_tap_and_without_typing() {
    gate.onSite();
    Page phone = visit();
    button(phone, "Add parts").click();
    assertThat(phone.locator(".part-choice").nth(1)).containsText("1 promised");
    button(phone, "Add Gate ram 230 V").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Used so far")))
        .containsText("1 Gate ram 230 V");
    assertThat(phone.locator(".part-choice").first()).containsText("Photocell pair");
  }

  @Test
  void a_visit_without_work_or_parts_is_not_finished_and_the_note_stays() {
    gate.planned();
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    Page phone = visit();
    button(phone, "Finish").click();
    phone.getByLabel("What was done").fill("Nobody at the gate");
    button(phone, "Finish this visit").click();
    assertThat(
            phone
                .locator(".pocket, [role=status][aria-live]")
                .getByText("No work or part is recorded")
                .first())
        .isVisible();
    assertThat(phone.getByLabel("What was done")).hasValue("Nobody at the gate");
    gate.tap("start-work", Map.of());
  }

  @Test
  void why_it_was_wrong_is_told_by_one_tap_when_the_visit_is_finished() {
    gate.onSite();
    gate.giveFault("REMOTE");
    gate.at("17:00");
    Page phone = visit();
    button(phone, "Finish").click();
    button(phone, "Battery flat").click();
    button(phone, "Finish this visit").click();
    assertThat(phone.locator(".pocket")).containsText("finished.");
    assertThat(gate.sheet().path("causeCode").asString()).isEqualTo("BATTERY");
  }

  @Test
  void what_the_office_planned_is_there_with_door_and_telephone() {
    gate.planned();
    Page phone = visit();
    assertThat(phone.locator("a[href^='tel:']")).isVisible();
    assertThat(phone.locator(".pocket")).containsText("Tansy Row Garages");
    assertThat(phone.locator(".pocket")).containsText("1 Gate ram 230 V");
    assertThat(phone.locator(".pocket")).not().containsText("612");
  }

  @Test
  void what_the_office_noted_of_the_job_is_there() {
    gate.agree("ownNotes", "Stops after a hand's breadth. The dog is kept in.").planned();
    assertThat(visit().locator(".pocket")).containsText("The dog is kept in.");
  }

  @Test
  void nothing_is_cut_off_on_a_small_phone() {
    gate.onSite();
    Page phone = visit();
    phone.setViewportSize(360, 640);
    assertThat(
            (Boolean)
                phone.evaluate(
                    "document.documentElement.scrollWidth <= document.documentElement.clientWidth"))
        .isTrue();
  }

  @Test
  void what_a_glove_has_to_hit_is_at_least_48_pixels_high() {
    gate.onSite();
    Page phone = visit();
    assertThat(phone.locator("main button:visible").all())
        .allSatisfy(target -> assertThat(target.boundingBox().height).isGreaterThanOrEqualTo(48));
  }

  private Page visit() {
    Page phone = Chromium.phone(program, "piet");
    phone.navigate("/pocket/" + gate.visit());
    phone.locator(".big").waitFor();
    return phone;
  }
}
