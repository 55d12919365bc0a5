package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static app.pragmata.browser.Chromium.choose;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class QuotingPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void an_empty_price_shows_the_usual_one_and_is_charged_at_it() {
    Page desk = newQuote();
    assertThat(desk.getByLabel("Price of line 1")).hasAttribute("placeholder", "58.00");
    assertThat(desk.getByLabel("Price of line 2")).hasAttribute("placeholder", "45.00");
    assertThat(totals(desk)).containsText("103.00");
    choose(desk, "Hours of line 1", "", "overtime");
    assertThat(desk.getByLabel("Price of line 1")).hasAttribute("placeholder", "87.00");
  }

  @Test
  void a_faulty_line_is_told_in_words_while_the_others_are_still_computed() {
    Page desk = newQuote();
    desk.getByLabel("Time of line 1").fill("soon");
    assertThat(desk.locator("[data-line='0'] p")).containsText("Enter it like 1:30");
    assertThat(totals(desk)).containsText("45.00");
    assertThat(desk.getByLabel("Time of line 1")).hasValue("soon");
    desk.getByLabel("Time of line 1").fill("2h");
    assertThat(totals(desk)).containsText("161.00");
  }

  @Test
  void lines_are_copied_moved_and_removed_and_the_totals_follow() {
    Page desk = newQuote();
    desk.getByLabel("Description of line 1").fill("Set the limits");
    button(desk, "Copy line 1").click();
    assertThat(desk.getByLabel("Description of line 2")).hasValue("Set the limits");
    assertThat(totals(desk)).containsText("161.00");
    button(desk, "Move line 3 up").click();
    assertThat(desk.getByLabel("Miles of line 2")).hasValue("10");
    button(desk, "Remove line 1").click();
    assertThat(desk.locator("[data-line]")).hasCount(2);
    assertThat(totals(desk)).containsText("103.00");
  }

  @Test
  void a_drive_is_charged_by_the_mile_when_its_line_says_so() {
    Page desk = newQuote();
    button(desk, "Discount, VAT and choice of line 2").click();
    choose(desk, "How the drive of line 2 is charged", "", "by the mile");
    desk.getByLabel("Miles of line 2").fill("24");
    desk.getByLabel("Price of line 2").fill("1.15");
    assertThat(desk.locator("[data-line='1']")).containsText("27.60");
    assertThat(totals(desk)).containsText("85.60");
  }

  @Test
  void a_line_typed_in_the_middle_of_a_long_quote_changes_its_own_figures_only() {
    var lines =
        IntStream.range(0, 120)
            .mapToObj(i -> Map.of("category", "labour", "description", "Bay " + i, "time", "1:00"))
            .toList();
    var gate = new SwingGate(program, "tobias").quoted();
    saveOver(gate, Map.of("lines", lines));
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    desk.getByLabel("Time of line 60", exact()).fill("2:00");
    assertThat(desk.locator("[data-line='59']")).containsText("116.00");
    assertThat(desk.locator("[data-line='60']")).containsText("58.00");
    assertThat(totals(desk)).containsText("7,018.00");
    button(desk, "Remove line 1").click();
    assertThat(desk.getByLabel("Time of line 59", exact())).hasValue("2:00");
    assertThat(totals(desk)).containsText("6,960.00");
  }

  private static Page.GetByLabelOptions exact() {
    return new Page.GetByLabelOptions().setExact(true);
  }

  @Test
  void what_is_set_for_quotes_holds_for_the_next_one() {
    Page desk = Chromium.desk(program, "orla");
    desk.navigate("/settings");
    Locator valid = desk.getByLabel("A quote stays valid for");
    assertThat(valid).hasValue("30");
    valid.fill("soon");
    button(desk, "Keep these settings").click();
    assertThat(desk.locator(".fault")).hasText("Enter a whole number from 1 to 365.");
    assertThat(valid).hasValue("soon");
    valid.fill("21");
    button(desk, "Keep these settings").click();
    assertThat(desk.getByText("Kept. It holds from the next quote on.")).isVisible();
    desk.navigate("/quotes/new");
    assertThat(desk.getByLabel("Valid until")).hasAttribute("placeholder", "21 days, or 24 dec");
    desk.navigate("/settings");
    desk.getByLabel("A quote stays valid for").fill("30");
    button(desk, "Keep these settings").click();
    assertThat(desk.getByText("Kept. It holds from the next quote on.")).isVisible();
  }

  @Test
  void of_two_people_at_the_settings_the_second_keeps_what_was_typed() {
    Page orla = Chromium.desk(program, "orla");
    orla.navigate("/settings");
    orla.getByLabel("Without an answer it comes up after").fill("9");
    Page hester = Chromium.desk(program, "hester");
    hester.navigate("/settings");
    hester.getByLabel("A deposit is due within").fill("6");
    button(hester, "Keep these settings").click();
    assertThat(hester.getByText("Kept. It holds from the next quote on.")).isVisible();
    button(orla, "Keep these settings").click();
    assertThat(orla.locator("article [role=alert]")).containsText("What you typed is still here.");
    assertThat(orla.getByLabel("Without an answer it comes up after")).hasValue("9");
    button(orla, "Take theirs").click();
    assertThat(orla.getByLabel("Without an answer it comes up after")).hasValue("7");
    assertThat(orla.getByLabel("A deposit is due within")).hasValue("6");
    orla.getByLabel("A deposit is due within").fill("7");
    button(orla, "Keep these settings").click();
    assertThat(orla.getByText("Kept. It holds from the next quote on.")).isVisible();
  }

  @Test
  void a_bookkeeper_reads_the_settings_and_cannot_change_them() {
    Page desk = Chromium.desk(program, "maud");
    desk.navigate("/settings");
    assertThat(desk.getByLabel("A margin is marked below")).not().isEditable();
    assertThat(button(desk, "Keep these settings")).hasCount(0);
  }

  @Test
  void a_quote_that_was_left_for_another_call_is_found_again_as_it_was() {
    Page desk = newQuote();
    desk.getByLabel("What is to be done").fill("Gate after the storm");
    desk.getByLabel("Time of line 1").fill("3:15");
    desk.keyboard().press("Control+k");
    desk.getByLabel("Find").fill("quillon bakery");
    desk.keyboard().press("Enter");
    assertThat(desk.locator("main h1")).hasText("Quillon Bakery");
    desk.getByText("New quote").first().click();
    assertThat(desk.getByLabel("What is to be done")).hasValue("Gate after the storm");
    assertThat(desk.getByLabel("Time of line 1")).hasValue("3:15");
    button(desk, "Start afresh").click();
    assertThat(desk.getByLabel("What is to be done")).hasValue("");
  }

  @Test
  void all_that_is_missing_is_told_at_its_field_and_what_was_typed_stays() {
    Page desk = newQuote();
    desk.getByLabel("What is to be done").fill("Gate after the storm");
    button(desk, "Save draft").click();
    assertThat(desk.locator("article")).containsText("Choose the site where the work is.");
    assertThat(desk.locator("article")).containsText("Choose the kind of job.");
    assertThat(desk.getByLabel("What is to be done")).hasValue("Gate after the storm");
  }

  @Test
  void a_line_that_was_just_added_is_not_called_faulty_before_it_is_saved() {
    Page desk = newQuote();
    button(desk, "Add other").click();
    desk.getByLabel("Price of line 3").fill("12.34505");
    assertThat(desk.locator("[data-line='2'] p")).hasCount(1);
    button(desk, "Save draft").click();
    assertThat(desk.locator("[data-line='2'] p")).hasCount(2);
  }

  @Test
  void a_colleague_who_saves_the_draft_meanwhile_takes_nothing_away_that_was_typed() {
    var gate = new SwingGate(program, "tobias").quoted();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    desk.getByLabel("Notes to the customer").fill("Mind the dog");
    saveOver(gate, Map.of("title", "Saved by Orla"));
    button(desk, "Save draft").click();
    Locator notice = desk.locator("article [role=alert]");
    assertThat(notice).containsText("Somebody saved this quote while you were typing");
    assertThat(notice.locator("li").first())
        .hasText("What is to be done: “Saved by Orla”, here “Swing gate, ram replaced”");
    assertThat(desk.getByLabel("Notes to the customer")).hasValue("Mind the dog");
    button(desk, "Keep mine").click();
    button(desk, "Save draft").click();
    assertThat(button(desk, "Save draft")).isDisabled();
    desk.reload();
    assertThat(desk.getByLabel("Notes to the customer")).hasValue("Mind the dog");
    assertThat(desk.getByLabel("What is to be done")).hasValue("Saved by Orla");
    assertThat(notice).hasCount(0);
  }

  @Test
  void a_draft_that_was_refused_when_it_was_sent_can_be_mended_and_saved() {
    var gate = new SwingGate(program, "tobias").quoted();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    for (int left = 4; left >= 0; left--) {
      button(desk, "Remove line 1").click();
      assertThat(desk.locator("[data-line]")).hasCount(left);
    }
    button(desk, "Send").click();
    assertThat(desk.locator("[role=status][aria-live]")).containsText("no lines yet");
    button(desk, "Add labour").click();
    button(desk, "Save draft").click();
    assertThat(button(desk, "Save draft")).isDisabled();
    assertThat(desk.locator("article [role=alert]")).hasCount(0);
    assertThat(desk.locator("[data-line]")).hasCount(1);
  }

  @Test
  void somebody_elses_version_can_be_taken_instead_of_ones_own() {
    var gate = new SwingGate(program, "tobias").quoted();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    desk.getByLabel("What is to be done").fill("Mine");
    saveOver(gate, Map.of("title", "Saved by Orla"));
    button(desk, "Save draft").click();
    button(desk, "Take theirs").click();
    assertThat(desk.getByLabel("What is to be done")).hasValue("Saved by Orla");
    assertThat(button(desk, "Save draft")).isDisabled();
  }

  @Test
  void a_declined_quote_asks_why_and_leaves_the_list() {
    var gate = new SwingGate(program, "tobias").quoted();
    gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 1));
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/quoted/quote-" + gate.quote());
    button(desk, "Declined…").click();
    Locator confirm = desk.locator("[role=group] .ant-btn-primary");
    assertThat(confirm).isDisabled();
    desk.getByLabel("Why? It shows later where quotes are lost.").fill("Too dear");
    confirm.click();
    assertThat(desk.locator("[data-row='quote-" + gate.quote() + "']")).hasCount(0);
    desk.navigate(gate.quoteAddress());
    assertThat(desk.locator("article header")).containsText("declined: Too dear");
  }

  private Page newQuote() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/quotes/new");
    desk.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("New quote")).waitFor();
    return desk;
  }

  private static Locator totals(Page desk) {
    return desk.locator("[data-section=totals]");
  }

  /** What a colleague saves over the draft, at the version that she sees. */
  private static void saveOver(SwingGate gate, Map<String, Object> changed) {
    JsonNode quote = gate.office().get("/api/quotes/" + gate.quote()).json();
    var form = new HashMap<String, Object>();
    for (String field :
        List.of("version", "siteId", "equipmentId", "kindOfJobId", "title", "notes", "lines")) {
      form.put(field, quote.path(field));
    }
    form.put("validUntil", quote.path("validUntil").asString());
    form.putAll(changed);
    gate.office().put("/api/quotes/" + gate.quote(), form);
  }

  @Test
  void the_window_is_named_after_the_quote() {
    var gate = new SwingGate(program, "tobias").quoted();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    assertThat(desk).hasTitle(Pattern.compile("Q \\d+ Swing gate, ram replaced · Pragmata"));
  }
}
