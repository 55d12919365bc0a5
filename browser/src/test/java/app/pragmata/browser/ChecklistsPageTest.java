package app.pragmata.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Checklists from the office's desk to the phone and back to the job's sheet. */
class ChecklistsPageTest {
  private static final String FORCE = "Closing force";

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");
  private final Line line = new Line(program.address());
  private final BrowserContext context = Chromium.phoneOver(program, line.address(), "dilys");
  private final String name = "List of visit " + System.nanoTime();

  @BeforeEach
  void on_site() {
    gate.onSite();
    gate.at("15:30");
  }

  @AfterEach
  void out_of_use() throws IOException {
    context.close();
    line.close();
    program.database().execute("update checklist set active = false where name = ?", name);
    gate.at("16:00");
    gate.tap("finish", Map.of("outcome", "come_again", "reason", "Test is over"));
  }

  private void asked() {
    gate.office()
        .post(
            "/api/checklists",
            Map.of(
                "version",
                0,
                "name",
                name,
                "kindOfJobId",
                program
                    .database()
                    .fetchSingle("select kind_of_job_id from job where id = ?", gate.job())
                    .get(0),
                "active",
                true,
                "items",
                List.of(
                    Map.of(
                        "question",
                        FORCE,
                        "asks",
                        "measurement",
                        "unit",
                        "N",
                        "most",
                        "400",
                        "required",
                        true,
                        "raisesToDo",
                        true),
                    Map.of(
                        "question",
                        "Hinges",
                        "asks",
                        "choice",
                        "choices",
                        List.of("good", "worn"),
                        "required",
                        true,
                        "raisesToDo",
                        false))));
  }

  private Page phone() {
    Page phone = context.newPage();
    phone.navigate("/pocket/" + gate.visit());
    button(phone, "Pause work").waitFor();
    return phone;
  }

  private static void press(Page page, String name) {
    button(page, name).click();
  }

  private static Locator button(Page page, String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
  }

  private static void measure(Page phone, String force) {
    phone.getByLabel(FORCE + ", in N").fill(force);
    press(phone, "Note: " + FORCE);
  }

  private Page desk() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    return desk;
  }

  private static Locator faults(Page desk) {
    return desk.locator("article .fault");
  }

  @Test
  void the_office_writes_a_list_and_changes_it() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/checklists/new");
    desk.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(name);
    press(desk, "Add question");
    press(desk, "Save checklist");
    assertThat(faults(desk)).containsText(new String[] {"Say on which work", "Enter a value"});
    desk.getByLabel("On jobs of the kind").click();
    desk.keyboard().type("Repair");
    desk.keyboard().press("Enter");
    desk.getByLabel("Text of question 1").fill("Stops at an obstacle");
    press(desk, "Save checklist");
    desk.waitForURL(address -> address.matches(".*/checklists/\\d+"));
    desk.getByLabel("Text of question 1").fill("Stops and opens again at an obstacle");
    press(desk, "Save checklist");
    assertThat(desk.getByText("Saved: " + name)).isVisible();
    desk.reload();
    assertThat(desk.getByLabel("Text of question 1"))
        .hasValue("Stops and opens again at an obstacle");
  }

  @Test
  void what_was_typed_into_a_list_is_still_there_after_another_page() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/checklists/new");
    desk.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(name);
    desk.getByText("Books", new Page.GetByTextOptions().setExact(true)).click();
    desk.waitForURL(address -> address.contains("/books/journal"));
    desk.goBack();
    assertThat(desk.getByLabel("Name", new Page.GetByLabelOptions().setExact(true))).hasValue(name);
  }

  @Test
  void what_is_out_of_limits_takes_a_word_on_the_phone_and_stands_out_on_the_sheet() {
    asked();
    Page phone = phone();
    press(phone, "Checklist 0 of 2");
    org.assertj.core.api.Assertions.assertThat(AccessibilityTest.seriousViolations(phone))
        .isEmpty();
    measure(phone, "412");
    phone.getByLabel("412 N is out of limits").fill("Limiter set anew");
    press(phone, "Note it");
    assertThat(phone.getByText("412 N, out of limits", new Page.GetByTextOptions().setExact(true)))
        .isVisible();
    Page desk = desk();
    assertThat(desk.getByText("out of limits: at most 400 N")).isVisible();
    assertThat(desk.getByText("“Limiter set anew”")).isVisible();
  }

  @Test
  void the_end_says_what_is_missing_with_a_tap_to_it() {
    asked();
    Page phone = phone();
    press(phone, "Finish");
    assertThat(phone.getByText("Not answered yet: Closing force; Hinges.")).isVisible();
    press(phone, "Go through the checklist");
    measure(phone, "380");
    press(phone, "Worn: Hinges");
    press(phone, "Back to the visit");
    assertThat(button(phone, "Checklist 2 of 2")).isVisible();
    press(phone, "Finish");
    press(phone, "Finish this visit");
    assertThat(phone.getByText("Finished.").first()).isVisible();
  }

  @Test
  void an_answer_that_still_wants_its_word_is_there_after_another_panel() {
    asked();
    Page phone = phone();
    press(phone, "Checklist 0 of 2");
    measure(phone, "412");
    phone.getByLabel("412 N is out of limits").fill("Limiter set");
    press(phone, "Back to the visit");
    press(phone, "Checklist 0 of 2");
    assertThat(phone.getByLabel("412 N is out of limits")).hasValue("Limiter set");
    press(phone, "Note it");
    assertThat(phone.getByText("412 N, out of limits", new Page.GetByTextOptions().setExact(true)))
        .isVisible();
  }

  @Test
  void
      what_was_typed_for_the_end_is_there_after_the_checklist_and_over_a_reload_until_it_is_sent() {
    asked();
    Page phone = phone();
    press(phone, "Finish");
    phone.getByLabel("What was done").fill("Hinge pins changed");
    phone.getByLabel("Who signs?").fill("M. Okafor");
    press(phone, "Go through the checklist");
    measure(phone, "380");
    press(phone, "Worn: Hinges");
    phone.reload();
    press(phone, "Finish");
    assertThat(phone.getByLabel("What was done")).hasValue("Hinge pins changed");
    assertThat(phone.getByLabel("Who signs?")).hasValue("M. Okafor");
    press(phone, "Finish this visit");
    assertThat(phone.getByText("Finished.").first()).isVisible();
    org.assertj.core.api.Assertions.assertThat(
            phone.evaluate(
                "() => Object.keys(sessionStorage).filter((key) => key.startsWith('finish'))"))
        .isEqualTo(List.of());
  }

  @Test
  void answers_without_a_network_stay_over_a_reload_and_are_sent_once() {
    asked();
    Page phone = phone();
    phone.evaluate("() => navigator.serviceWorker.ready.then(() => true)");
    Chromium.quiet(phone);
    line.cut();
    context.setOffline(true);
    press(phone, "Checklist 0 of 2");
    measure(phone, "380");
    assertThat(phone.getByText("380 N", new Page.GetByTextOptions().setExact(true))).isVisible();
    phone.reload();
    assertThat(button(phone, "Checklist 1 of 2")).isVisible();
    context.setOffline(false);
    line.mend();
    assertThat(phone.getByLabel("Not sent yet")).isHidden();
    Page desk = desk();
    desk.getByText(name).click();
    assertThat(desk.getByText("380 N")).isVisible();
  }

  @Test
  void what_no_instrument_shows_is_told_before_anything_is_sent() {
    asked();
    Page phone = phone();
    press(phone, "Checklist 0 of 2");
    measure(phone, "about 400");
    assertThat(phone.getByText("Enter what was measured")).isVisible();
    assertThat(phone.getByLabel(FORCE + ", in N")).hasValue("about 400");
  }
}
