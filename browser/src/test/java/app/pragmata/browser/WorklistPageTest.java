package app.pragmata.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.io.IOException;
import java.nio.file.Files;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class WorklistPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void the_list_is_worked_with_the_keyboard_alone() {
    Page desk = list("/billed");
    desk.keyboard().press("j");
    desk.keyboard().press("j");
    desk.keyboard().press("k");
    Locator second = desk.locator("[role=option]").nth(1);
    assertThat(desk.locator("article header"))
        .containsText("J " + second.locator("> span").first().innerText());
    assertThat(second).hasAttribute("aria-selected", "true");
  }

  @Test
  void keys_that_come_faster_than_pages_are_drawn_are_all_counted() {
    Page desk = list("/billed");
    for (int i = 0; i < 12; i++) {
      desk.keyboard().press("j");
    }
    for (int i = 0; i < 5; i++) {
      desk.keyboard().press("k");
    }
    assertThat(desk.locator("[role=option]").nth(7)).hasAttribute("aria-selected", "true");
  }

  @Test
  void the_list_ends_at_both_ends() {
    Page desk = list("/checked");
    desk.keyboard().press("ArrowUp");
    assertThat(desk.locator("[role=option]").first()).hasAttribute("aria-selected", "true");
    int rows = desk.locator("[role=option]").count();
    for (int i = 0; i < rows + 2; i++) {
      desk.keyboard().press("ArrowDown");
    }
    assertThat(desk.locator("[role=option]").last()).hasAttribute("aria-selected", "true");
  }

  @Test
  void enter_checks_the_visit_and_the_next_one_is_there() {
    var first = new SwingGate(program, "tobias").corrected();
    var second = new SwingGate(program, "tobias").corrected();
    Page desk = list("/worked/job-" + first.job() + "?filter=Swing gate, ram replaced");
    desk.locator("[data-sheet='job-" + first.job() + "']").waitFor();
    desk.keyboard().press("Enter");
    assertThat(desk.locator("[data-row='job-" + first.job() + "']")).hasCount(0);
    assertThat(desk.locator("[data-sheet='job-" + second.job() + "']")).isVisible();
    assertThat(first.sheet().path("state").asString()).isEqualTo("checked");
    assertThat(second.sheet().path("state").asString()).isEqualTo("worked");
  }

  @Test
  void enter_in_a_field_of_the_sheet_does_not_act_on_the_job() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = list("/worked/job-" + gate.job());
    desk.locator("[data-sheet='job-" + gate.job() + "'] [aria-keyshortcuts=Enter]").waitFor();
    Locator filter = desk.getByLabel("Filter the list");
    filter.fill("swing gate");
    filter.press("Enter");
    desk.locator("[data-row='job-" + gate.job() + "']").waitFor();
    assertThat(gate.sheet().path("state").asString()).isEqualTo("worked");
  }

  @Test
  void enter_with_nothing_focused_does_not_check_a_visit() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = list("/worked/job-" + gate.job());
    desk.locator("[data-sheet='job-" + gate.job() + "'] [aria-keyshortcuts=Enter]").waitFor();
    desk.locator("article header [data-home]").click();
    desk.evaluate("document.activeElement.blur()");
    desk.keyboard().press("Enter");
    desk.keyboard().press("j");
    assertThat(desk.locator("[data-row='job-" + gate.job() + "']"))
        .hasAttribute("aria-selected", "true");
    assertThat(gate.sheet().path("state").asString()).isEqualTo("worked");
  }

  @Test
  void what_goes_into_the_books_for_good_wants_two_keys_or_its_own_button() {
    var gate = new SwingGate(program, "tobias").checked();
    Page desk = list("/checked/job-" + gate.job() + "?filter=Swing gate, ram replaced");
    Locator post =
        desk.locator("[data-sheet='job-" + gate.job() + "'] [aria-keyshortcuts='Control+Enter']");
    post.waitFor();
    desk.keyboard().press("Enter");
    desk.keyboard().press("ArrowUp");
    assertThat(gate.sheet().path("state").asString()).isEqualTo("checked");
    desk.navigate("/checked/job-" + gate.job());
    post.waitFor();
    desk.keyboard().press("Control+Enter");
    assertThat(desk.locator("[data-row='job-" + gate.job() + "']")).hasCount(0);
    assertThat(gate.sheet().path("billing").path("state").asString()).isEqualTo("billed");
  }

  @Test
  void filter_and_order_stand_in_the_address_and_survive_a_reload() {
    Page desk = list("/billed");
    desk.getByLabel("Filter the list").fill("bakery");
    Chromium.choose(desk, "Sort the list", "", "by margin");
    assertThat(desk).hasURL(Pattern.compile("filter=bakery.*sort=margin"));
    desk.reload();
    assertThat(desk.getByLabel("Filter the list")).hasValue("bakery");
    assertThat(desk.locator("[role=option]").first()).containsText("Bakery");
  }

  @Test
  void a_filter_that_matches_nothing_says_what_to_do() {
    Page desk = list("/billed");
    desk.getByLabel("Filter the list").fill("no such customer");
    assertThat(desk.locator("main")).containsText("Clear the filter to see all");
  }

  @Test
  void the_list_is_taken_away_as_a_file_just_as_it_is_filtered() throws IOException {
    Page desk = list("/billed?filter=bakery");
    int rows = desk.locator("[role=option]").count();
    Download file = desk.waitForDownload(() -> desk.getByText("CSV").first().click());
    assertThat(file.suggestedFilename()).isEqualTo("billed.csv");
    assertThat(Files.readAllLines(file.path())).hasSize(rows + 1);
  }

  @Test
  void a_stage_of_the_money_line_opens_its_list_with_the_same_figures() {
    Page desk = list("/worked");
    Locator stage = desk.locator("[data-stage]", new Page.LocatorOptions().setHasText("Billed"));
    String sum = stage.locator("span").nth(2).innerText();
    stage.click();
    assertThat(desk.locator("main h1")).hasText("Billed, money to come");
    assertThat(desk.locator("[data-section=count]")).containsText(Pattern.compile("\\d\\.\\d\\d"));
    String listed = desk.locator("[data-section=count]").innerText();
    assertThat(new java.math.BigDecimal(listed.replaceAll(".* |,", "")))
        .isCloseTo(
            new java.math.BigDecimal(sum.replace(",", "")),
            org.assertj.core.api.Assertions.within(new java.math.BigDecimal("0.5")));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"/worked", "/checked", "/billed", "/quotes/new", "/customers/4", "/books/1050"})
  void nothing_on_a_desk_screen_is_cut_off_sideways(String path) {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(path);
    desk.locator("article header, main h1, main section").first().waitFor();
    assertThat(
            (Boolean)
                desk.evaluate(
                    "document.documentElement.scrollWidth <= document.documentElement.clientWidth"))
        .isTrue();
  }

  private Page list(String path) {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(path);
    desk.locator("[role=option][aria-selected=true]").waitFor();
    return desk;
  }
}
