package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A part that is missing on site, from the phone to the Planner's shelf. */
class PartsWantedPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate gate;

  @BeforeEach
  void prepare() {
    gate = new SwingGate(program, "piet").onSite();
  }

  @AfterEach
  void theDayIsOver() {
    if (gate.sheet().path("visits").path(0).path("state").asString().equals("on_site")) {
      gate.at("18:20");
      gate.tap("finish", Map.of());
    }
  }

  private Page phone() {
    Page phone = Chromium.phone(program, "piet");
    phone.navigate("/pocket/" + gate.visit());
    return phone;
  }

  private void want(String words) {
    gate.tap("missing-parts", Map.of("words", words, "urgent", false));
  }

  private Page list(String filter) {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/parts-wanted?filter=" + filter);
    desk.locator("[data-row^=part-wanted]").first().waitFor();
    return desk;
  }

  @Test
  void a_missing_part_is_asked_for_with_four_taps_and_the_office_sees_it() {
    Page phone = phone();
    button(phone, "Part wanted").click();
    phone.getByLabel("Which part?").fill("photocell");
    button(phone, "Photocell pair").click();
    button(phone, "More").click();
    button(phone, "It is wanted").click();
    Locator wanted = phone.locator(".fact", new Page.LocatorOptions().setHasText("Parts wanted"));
    assertThat(wanted).containsText("2 Photocell pair");
    assertThat(wanted).containsText("asked for");
    Page desk = list("photocell");
    assertThat(desk.locator("[data-row^=part-wanted]").last()).containsText("2 Photocell pair");
  }

  @Test
  void a_part_that_nobody_can_name_is_asked_for_all_the_same() {
    Page phone = phone();
    button(phone, "Part wanted").click();
    button(phone, "Urgent").click();
    button(phone, "It is wanted").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Parts wanted")))
        .containsText("urgent");
  }

  @Test
  void a_part_that_is_half_asked_for_is_there_after_going_back_and_only_until_it_is_wanted() {
    Page phone = phone();
    button(phone, "Part wanted").click();
    phone.getByLabel("Which part?").fill("the bent rod below the lock");
    button(phone, "Back").click();
    button(phone, "Part wanted").click();
    assertThat(phone.getByLabel("Which part?")).hasValue("the bent rod below the lock");
    button(phone, "It is wanted").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Parts wanted")))
        .containsText("the bent rod below the lock");
    button(phone, "Part wanted").click();
    assertThat(phone.getByLabel("Which part?")).hasValue("");
  }

  @Test
  void what_has_come_is_fitted_with_one_tap_and_stands_among_what_was_used() {
    gate.tap(
        "missing-parts", Map.of("partId", gate.part("PHO-02"), "quantity", "1", "urgent", false));
    Page phone = phone();
    button(phone, "Fitted Photocell pair").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Used so far")))
        .containsText("1 Photocell pair");
    assertThat(button(phone, "Fitted Photocell pair")).hasCount(0);
  }

  @Test
  void with_keys_alone_a_part_is_ordered_and_comes_and_that_is_taken_back() {
    want("odd bracket of the leaf");
    Page desk = list("bracket");
    desk.getByLabel("Parts wanted").first().focus();
    desk.keyboard().press("Enter");
    assertThat(desk.getByLabel("From")).isFocused();
    desk.keyboard().type("Harrow & Lyle");
    desk.keyboard().press("Tab");
    desk.keyboard().type("tomorrow");
    desk.keyboard().press("Enter");
    Locator sheet = desk.locator("[data-sheet^=part-wanted]");
    assertThat(sheet).containsText("from Harrow & Lyle");
    button(desk, "It is there").waitFor();
    desk.getByLabel("Parts wanted").first().focus();
    desk.keyboard().press("Enter");
    assertThat(sheet).containsText("there since");
    button(desk, "Take it back").click();
    assertThat(sheet).containsText("ordered");
  }

  @Test
  void a_part_that_is_dropped_says_why_among_the_closed() {
    want("a bell");
    Page desk = list("bell");
    desk.locator("[data-row^=part-wanted]").last().click();
    button(desk, "No longer wanted").click();
    desk.getByLabel("Why? The reason stays with it.").fill("The old one rings again");
    desk.locator("[data-sheet^=part-wanted] .ant-btn-primary")
        .filter(new Locator.FilterOptions().setHasText("No longer wanted"))
        .click();
    desk.navigate("/parts-wanted?state=closed&filter=bell");
    assertThat(desk.locator("[data-sheet^=part-wanted]")).containsText("The old one rings again");
  }

  @Test
  void the_sheet_of_a_job_says_what_it_waits_for_and_takes_more() {
    want("a longer chain");
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/jobs/" + gate.sheet().path("number").asLong());
    assertThat(desk.locator("[data-part-wanted]")).containsText("1 a longer chain");
    button(desk, "Part wanted").click();
    desk.getByLabel("Or in words").fill("its cover");
    button(desk, "It is wanted").click();
    assertThat(desk.locator("[data-part-wanted]")).hasCount(2);
    assertThat(wanted().path(1).path("words").asString()).isEqualTo("its cover");
  }

  private JsonNode wanted() {
    return gate.office().get("/api/jobs/" + gate.job() + "/parts-wanted").json();
  }

  @Test
  void the_office_says_for_which_equipment_at_the_site_a_part_is() {
    JsonNode pieces = gate.office().get("/api/jobs/" + gate.job() + "/equipment-on-site").json();
    String piece = pieces.path(pieces.size() - 1).path("name").asString();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    button(desk, "Part wanted").click();
    desk.getByLabel("Or in words").fill("its cover");
    Chromium.choose(desk, "For", "", piece);
    button(desk, "It is wanted").click();
    assertThat(desk.locator("[data-part-wanted]")).hasCount(1);
    assertThat(wanted().path(0).path("equipment").asString()).isEqualTo(piece);
  }
}
