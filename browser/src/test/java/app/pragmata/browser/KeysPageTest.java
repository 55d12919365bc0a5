package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import org.junit.jupiter.api.Test;

/** The office's main acts with keys alone, and where the focus is after each. */
class KeysPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void the_first_tab_leads_past_everything_to_the_work() {
    Page desk = open("/settings");
    desk.keyboard().press("Tab");
    assertThat(focused(desk)).hasText("To the work");
    desk.keyboard().press("Enter");
    assertThat(desk.locator("main:focus")).hasCount(1);
  }

  @Test
  void a_new_page_gives_the_focus_to_its_heading_and_the_arrows_go_on_from_there() {
    Page desk = open("/worked");
    desk.locator("[data-stage=billed]").focus();
    desk.keyboard().press("Enter");
    assertThat(desk.locator("h1:focus")).hasText("Billed, money to come");
    desk.locator("[role=option][aria-selected=true]").waitFor();
    desk.keyboard().press("ArrowDown");
    assertThat(desk.locator("[role=listbox]:focus")).hasCount(1);
    assertThat(desk.locator("[role=option]").nth(1)).hasAttribute("aria-selected", "true");
  }

  @Test
  void enter_on_the_heading_of_a_list_checks_nothing() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = open("/worked/job-" + gate.job());
    desk.locator("[aria-keyshortcuts=Enter]").waitFor();
    desk.locator("main h1").focus();
    desk.keyboard().press("Enter");
    desk.keyboard().press("ArrowUp");
    assertThat(desk.locator("[role=listbox]:focus")).hasCount(1);
    assertThat(gate.sheet().path("state").asString()).isEqualTo("worked");
  }

  @Test
  void home_and_end_go_to_the_first_and_the_last_row() {
    Page desk = open("/checked");
    desk.locator("[role=option][aria-selected=true]").waitFor();
    desk.keyboard().press("End");
    assertThat(desk.locator("[role=option]").last()).hasAttribute("aria-selected", "true");
    desk.keyboard().press("Home");
    assertThat(desk.locator("[role=option]").first()).hasAttribute("aria-selected", "true");
  }

  @Test
  void what_was_checked_is_announced_and_the_announcement_takes_it_back() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = open("/worked/job-" + gate.job() + "?filter=Swing gate, ram replaced");
    desk.locator("[data-sheet='job-" + gate.job() + "'] [aria-keyshortcuts=Enter]").waitFor();
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("Checked: visit of");
    button(desk, "Take the check back").focus();
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("The check is taken back.");
    assertThat(gate.sheet().path("state").asString()).isEqualTo("worked");
  }

  @Test
  void after_the_last_row_is_checked_the_focus_is_in_the_list() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = open("/worked/job-" + gate.job());
    desk.locator("[data-sheet='job-" + gate.job() + "'] [aria-keyshortcuts=Enter]").focus();
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("Checked: visit of");
    assertThat(desk.locator("[role=listbox]:focus")).hasCount(1);
  }

  @Test
  void a_check_on_a_sheet_that_stands_alone_leaves_the_focus_on_its_heading() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = open(gate.jobAddress());
    Locator check = desk.getByRole(AriaRole.BUTTON, named("Check"));
    check.focus();
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("Checked: visit of");
    assertThat(desk.locator("h1:focus")).hasCount(1);
  }

  @Test
  void time_is_added_by_keys_and_the_focus_goes_back_to_what_opened_the_form() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = open(gate.jobAddress());
    Locator opener = desk.locator("#add-time-" + gate.visit());
    opener.focus();
    desk.keyboard().press("Enter");
    assertThat(desk.locator("form :focus")).isVisible();
    desk.keyboard().type("13:00");
    desk.keyboard().press("Tab");
    desk.keyboard().type("13:20");
    desk.getByLabel("Reason").focus();
    desk.keyboard().type("Forgot the clock");
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("The time is added.");
    assertThat(opener).isFocused();
  }

  @Test
  void a_visit_is_planned_by_keys() {
    var gate = new SwingGate(program, "tobias").accepted();
    Page desk = open(gate.quoteAddress());
    desk.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Make the job")).focus();
    desk.keyboard().press("Enter");
    assertThat(desk.locator("h1:focus")).hasText("Won, no time yet");
    button(desk, "Plan this visit").focus();
    desk.keyboard().press("Enter");
    desk.keyboard().type("imre");
    desk.locator(".ant-select-item-option-active").getByText("Imre Vasko").waitFor();
    desk.keyboard().press("Enter");
    desk.getByLabel("Day", new Page.GetByLabelOptions().setExact(true)).focus();
    desk.keyboard().type(gate.nextWorkingDay().toString());
    desk.keyboard().press("Tab");
    desk.keyboard().type("8:30");
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("The visit is planned.");
    assertThat(desk.locator(":focus")).hasCount(1);
  }

  @Test
  void a_quote_is_accepted_by_keys_and_the_question_does_nothing_without_an_answer() {
    var gate = new SwingGate(program, "tobias").sent();
    Page desk = open(gate.quoteAddress());
    button(desk, "Accepted…").focus();
    desk.keyboard().press("Enter");
    assertThat(desk.getByLabel("By whom?")).isFocused();
    desk.keyboard().press("Enter");
    assertThat(desk.getByLabel("By whom?")).isFocused();
    desk.keyboard().type("Mara Okafor");
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("Accepted: quote");
    assertThat(desk.locator("article header")).containsText("by Mara Okafor");
    assertThat(desk.locator(":focus")).hasCount(1);
  }

  @Test
  void money_is_recorded_by_keys() {
    var gate = new SwingGate(program, "tobias").billed();
    Page desk = open(gate.jobAddress());
    desk.getByLabel("Amount", new Page.GetByLabelOptions().setExact(true)).focus();
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("received");
    assertThat(desk.locator("[data-section=receipts]")).containsText("Settled");
    assertThat(desk.locator(":focus")).hasCount(1);
  }

  @Test
  void leaving_a_correction_gives_the_focus_back_to_the_figure_that_was_to_be_corrected() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = open(gate.jobAddress());
    Locator figure = desk.locator("[id^='part-']").first();
    String name = figure.innerText();
    figure.focus();
    desk.keyboard().press("Enter");
    assertThat(desk.locator("form :focus")).isVisible();
    desk.keyboard().press("Escape");
    assertThat(focused(desk)).hasText(name);
  }

  @Test
  void a_question_is_asked_in_its_place_and_leaving_it_goes_back_to_its_button() {
    var gate = new SwingGate(program, "tobias").planned();
    Page desk = open(gate.jobAddress());
    Locator asks = button(desk, "Not this time…");
    asks.focus();
    desk.keyboard().press("Enter");
    assertThat(asks).hasAttribute("aria-expanded", "true");
    desk.keyboard().type("Nobody there");
    assertThat(focused(desk)).hasValue("Nobody there");
    desk.keyboard().press("Escape");
    assertThat(asks).isFocused();
    assertThat(gate.sheet().path("visits").get(0).path("state").asString()).isEqualTo("planned");
  }

  @Test
  void
      a_refusal_is_announced_with_its_field_and_the_field_has_the_focus_and_is_tied_to_its_fault() {
    Page desk = open("/quotes/new");
    desk.getByLabel("Customer and site").waitFor();
    button(desk, "Save draft").focus();
    desk.keyboard().press("Enter");
    assertThat(said(desk)).containsText("Customer and site: Choose the site where the work is.");
    Locator field = desk.getByLabel("Customer and site");
    assertThat(field).isFocused();
    assertThat(field).hasAttribute("aria-invalid", "true");
    assertThat(field).hasAttribute("aria-required", "true");
    assertThat(desk.locator("[id='" + field.getAttribute("aria-describedby") + "']"))
        .containsText("Choose the site where the work is.");
  }

  @Test
  void a_quote_is_written_with_keys_alone() {
    Page desk = open("/quotes/new");
    markTheSite(desk);
    desk.keyboard().press("Enter");
    assertThat(desk.locator("article")).containsText("Tansy Row");
    desk.keyboard().press("Tab");
    desk.keyboard().type("Gate after the storm");
    assertThat(desk.getByLabel("What is to be done")).hasValue("Gate after the storm");
    desk.keyboard().press("Tab");
    assertThat(desk.getByLabel("Kind of job")).isFocused();
    desk.keyboard().type("repair");
    assertThat(desk.getByLabel("Kind of job")).hasAttribute("aria-expanded", "true");
    desk.locator(".ant-select-item-option-active").getByText("Repair").waitFor();
    desk.keyboard().press("Enter");
    button(desk, "Save draft").focus();
    desk.keyboard().press("Enter");
    desk.waitForURL(address -> address.matches(".*/quotes/\\d+"));
    assertThat(desk.locator("h1:focus")).hasText("Gate after the storm");
  }

  @Test
  void tab_takes_what_is_marked_in_an_open_list_and_goes_on() {
    Page desk = open("/quotes/new");
    markTheSite(desk);
    desk.keyboard().press("Tab");
    desk.keyboard().type("Gate after the storm");
    assertThat(desk.getByLabel("What is to be done")).hasValue("Gate after the storm");
    assertThat(desk.locator("article")).containsText("Tansy Row");
  }

  @Test
  void a_tab_at_once_after_enter_leaves_the_list_that_enter_closed() {
    Page desk = open("/quotes/new");
    markTheSite(desk);
    Object leaves =
        desk.evaluate(
            """
            async () => {
              const press = (key, keyCode) => document.activeElement.dispatchEvent(
                new KeyboardEvent("keydown", { key, keyCode, bubbles: true, cancelable: true }));
              press("Enter", 13);
              // What React does at the end of a key is done here; what was put off for later is not.
              await null;
              return press("Tab", 9);
            }
            """);
    assertThat(leaves).isEqualTo(true);
  }

  @Test
  void a_line_that_is_moved_keeps_the_focus_so_that_it_can_be_moved_on() {
    Page desk = open("/quotes/new");
    button(desk, "Add labour").click();
    button(desk, "Move line 3 up").focus();
    desk.keyboard().press("Enter");
    assertThat(button(desk, "Move line 2 up")).isFocused();
    desk.keyboard().press("Enter");
    assertThat(button(desk, "Move line 1 down")).isFocused();
  }

  @Test
  void a_line_that_is_removed_can_be_put_back() {
    Page desk = open("/quotes/new");
    desk.getByLabel("Description of line 1").fill("Set the limits");
    button(desk, "Remove line 1").focus();
    desk.keyboard().press("Enter");
    assertThat(desk.locator("[data-line]")).hasCount(1);
    button(desk, "Put it back").focus();
    desk.keyboard().press("Enter");
    assertThat(desk.getByLabel("Description of line 1")).hasValue("Set the limits");
    assertThat(desk.locator("[data-line]")).hasCount(2);
  }

  @Test
  void what_is_found_is_followed_by_a_screen_reader() {
    Page desk = open("/worked");
    Chromium.button(desk, "Find or do anything").click();
    desk.getByLabel("Find").fill("tansy");
    desk.locator("#find-hits [role=option]").getByText("Tansy Row").first().waitFor();
    desk.keyboard().press("ArrowDown");
    String followed = desk.getByLabel("Find").getAttribute("aria-activedescendant");
    assertThat(desk.locator("#" + followed)).hasAttribute("aria-selected", "true");
  }

  @Test
  void whoever_goes_where_something_was_found_is_on_its_heading() {
    Page desk = open("/worked");
    desk.keyboard().press("Control+k");
    desk.getByLabel("Find", new Page.GetByLabelOptions().setExact(true)).fill("journal");
    desk.keyboard().press("Enter");
    desk.waitForURL("**/books/journal");
    desk.locator("[role=dialog]").waitFor(Chromium.HIDDEN);
    assertThat(desk.locator("h1:focus")).hasText("Journal");
  }

  @Test
  void a_question_mark_lists_the_keys() {
    Page desk = open("/worked");
    desk.keyboard().press("?");
    Locator keys =
        desk.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Keys and what"));
    assertThat(keys).containsText("what goes into the books for good");
  }

  @Test
  void bare_letters_can_be_switched_off_and_the_others_still_act() {
    Page desk = open("/billed");
    desk.keyboard().press("?");
    desk.getByLabel("Letters and signs act by themselves").uncheck();
    button(desk, "Close").click();
    desk.locator("[role=dialog]").waitFor(Chromium.HIDDEN);
    desk.locator("[role=listbox]").focus();
    desk.keyboard().press("j");
    desk.keyboard().press("/");
    assertThat(desk.locator("[role=option]").first()).hasAttribute("aria-selected", "true");
    assertThat(desk.getByLabel("Find", new Page.GetByLabelOptions().setExact(true))).hasCount(0);
    desk.keyboard().press("ArrowDown");
    assertThat(desk.locator("[role=option]").nth(1)).hasAttribute("aria-selected", "true");
    desk.evaluate("localStorage.clear()");
  }

  @Test
  void a_bare_sign_does_not_act_from_a_button_or_a_link() {
    Page desk = open("/worked");
    for (Locator control : new Locator[] {desk.locator("main a").first(), button(desk, "Check")}) {
      control.focus();
      desk.keyboard().press("/");
      assertThat(desk.locator("[role=dialog]")).hasCount(0);
    }
  }

  private static void markTheSite(Page desk) {
    desk.getByLabel("Customer and site").focus();
    desk.keyboard().type("tansy row");
    desk.locator(".ant-select-item-option-active").getByText("Tansy Row").first().waitFor();
  }

  private Page open(String path) {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(path);
    desk.locator("main h1").first().waitFor();
    return desk;
  }

  private static Locator said(Page desk) {
    return desk.locator("[role=status][aria-live]");
  }

  private static Locator focused(Page desk) {
    return desk.locator(":focus");
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }
}
