package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** What the customer reads and signs on the technician's phone. */
class ExtraWorkPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");

  @AfterEach
  void theVisitIsOver() {
    gate.at("18:20");
    gate.tap("finish", Map.of());
  }

  private Page phone() {
    gate.onSite();
    Page phone = Chromium.phone(program, "piet");
    phone.navigate("/pocket/" + gate.visit());
    return phone;
  }

  /** Draws something like a name with a finger. */
  static void draw(Page phone) {
    Locator box = phone.locator("canvas");
    box.scrollIntoViewIfNeeded();
    BoundingBox at = box.boundingBox();
    phone.mouse().move(at.x + 20, at.y + 80);
    phone.mouse().down();
    phone.mouse().move(at.x + 180, at.y + 30);
    phone.mouse().move(at.x + 220, at.y + 70);
    phone.mouse().up();
  }

  private static Locator extraWork(Page phone) {
    return phone.locator("form.form");
  }

  private static void priced(Page phone) {
    button(phone, "Extra work").click();
    phone.getByLabel("What else is to be done").fill("Second photocell pair");
    phone.getByLabel("How long it takes").fill("1:00");
    phone.getByLabel("Parts", new Page.GetByLabelOptions().setExact(true)).fill("photocell");
    button(phone, "Photocell pair").click();
    phone.getByLabel("Not under warranty").fill("Was never part of it");
    button(phone, "Price it").click();
    assertThat(extraWork(phone)).containsText("101.88");
  }

  @Test
  void extra_work_is_priced_signed_with_a_finger_and_part_of_the_job() {
    Page phone = phone();
    priced(phone);
    phone.getByLabel("Name of whoever agrees").fill("Mara Quill");
    draw(phone);
    assertThat(extraWork(phone)).containsText("Signed.");
    button(phone, "Agree").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Extra work")))
        .containsText("Second photocell pair: agreed");
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    assertThat(desk.locator("article")).containsText("by Mara Quill");
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("To be done")))
        .containsText("Second photocell pair");
    assertThat(phone.getByLabel("Changed by the office")).hasCount(0);
  }

  @Test
  void a_no_is_said_with_its_reason_and_the_job_stays_as_it_was() {
    Page phone = phone();
    priced(phone);
    button(phone, "Not wanted").click();
    phone.getByLabel("Why not").fill("Next year");
    button(phone, "The customer does not want it").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Extra work")))
        .containsText("Second photocell pair: not wanted");
  }

  @Test
  void cash_that_is_handed_over_is_on_the_job_with_one_figure_and_one_tap() {
    Page phone = phone();
    button(phone, "Take money").click();
    phone.getByLabel("How much do they pay").fill("120");
    button(phone, "It is cash").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Paid so far")))
        .containsText("120.00 cash");
  }

  @Test
  void whoever_is_there_signs_the_end_of_the_visit_and_the_office_sees_how_they_found_it() {
    Page phone = phone();
    gate.at("16:30");
    button(phone, "Finish").click();
    phone.getByLabel("What was done").fill("Ram changed");
    phone.getByLabel("Who signs").fill("Mara Quill");
    draw(phone);
    button(phone, "4").click();
    phone.getByLabel("In their words").fill("Tidy work");
    button(phone, "Finish this visit").click();
    assertThat(phone.locator(".pocket")).containsText("finished.");
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    assertThat(desk.locator("article")).containsText("Signed by Mara Quill, 4 of 5: “Tidy work”");
  }
}
