package app.pragmata.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ForcedColors;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * What a screen reader is told of the pages that stand on the kit, and how they fit a narrow
 * window.
 */
class ReadOutTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void a_worklist_reads_as_a_list_and_the_sheet_of_the_row_that_is_on() {
    Page desk = open("/worked");
    assertThat(desk.locator("main"))
        .matchesAriaSnapshot(
            """
            - main:
              - heading "Worked, not checked" [level=1]
              - listbox "Worked, not checked":
                - option /\\d+, .+, margin .+/ [selected]
              - article:
                - heading [level=2]
                - button /Check/
                - region "Promise":
                  - heading "Promise" [level=3]
                  - table "What was promised"
                - region "Work":
                  - button /Add time for the visit of/
                  - table /Time and parts of the visit of/:
                    - rowgroup:
                      - row:
                        - columnheader "normal"
                        - columnheader "overtime"
                        - columnheader "miles"
                        - columnheader "cost"
                - region "Cost":
                  - table "Cost, quoted and actual":
                    - rowgroup:
                      - row:
                        - columnheader "quoted"
                        - columnheader "actual"
                    - rowgroup:
                      - row:
                        - rowheader "Labour"
            """);
  }

  @Test
  void a_quote_that_is_written_reads_as_labelled_fields_and_two_sums() {
    Page desk = open("/quotes/new");
    desk.locator("[data-section=totals]").waitFor();
    assertThat(desk.locator("main"))
        .matchesAriaSnapshot(
            """
            - main:
              - article "New quote":
                - heading "New quote" [level=1]
                - button "Save draft"
                - region "For":
                  - combobox "Customer and site"
                  - textbox "What is to be done"
                  - combobox "Kind of job"
                - region "Lines":
                  - textbox "Description of line 1"
                  - textbox "Time of line 1"
                  - textbox "Price of line 1"
                  - button "Remove line 1"
                - region "Total":
                  - combobox "Promise"
                  - textbox "Discount on all"
                  - table "What the customer pays"
                  - table "What is left for us"
                - region "Notes":
                  - textbox "Notes to the customer"
            """);
  }

  @ParameterizedTest
  @ValueSource(strings = {"/worked", "/checked", "/billed", "/quoted", "/quotes/new", "/to-dos"})
  void a_page_has_one_h1_before_any_other_heading_of_the_work(String path) {
    Page desk = open(path);
    assertThat(
            strings(
                desk, "[...document.querySelectorAll('main :is(h1,h2,h3)')].map(h => h.tagName)"))
        .startsWith("H1")
        .containsOnlyOnce("H1");
  }

  @ParameterizedTest
  @ValueSource(strings = {"/worked", "/checked", "/billed", "/quoted", "/quotes/new"})
  void every_table_of_a_sheet_has_a_caption_and_headers(String path) {
    Page desk = open(path);
    desk.locator("article table").first().waitFor();
    assertThat(
            strings(
                desk,
                """
                [...document.querySelectorAll('article table')]
                  .filter(t => !t.caption?.innerText.trim() || !t.querySelector('th[scope=col]')
                      || [...t.querySelectorAll('th')].some(h => !h.innerText.trim()))
                  .map(t => t.outerHTML.slice(0, 200))"""))
        .isEmpty();
  }

  @ParameterizedTest
  @ValueSource(strings = {"/worked", "/checked", "/quoted", "/quotes/new", "/to-dos"})
  void what_is_pressed_on_the_desk_is_24_pixels_high_and_wide(String path) {
    Page desk = open(path);
    assertThat(
            strings(
                desk,
                """
                [...document.querySelectorAll('main button')]
                  .map(b => [b.getBoundingClientRect(), b.innerText || b.ariaLabel])
                  .filter(([r]) => r.width > 0 && (r.height < 23.5 || r.width < 23.5))
                  .map(([r, name]) => `${name} ${r.width} x ${r.height}`)"""))
        .isEmpty();
  }

  @ParameterizedTest
  @ValueSource(strings = {"/worked", "/checked", "/billed", "/quoted", "/quotes/new", "/to-dos"})
  void at_320_pixels_nothing_but_a_table_scrolls_sideways(String path) {
    Page narrow = Chromium.desk(program, "hester");
    narrow.setViewportSize(320, 800);
    narrow.navigate(path);
    narrow.locator("article, [role=option]").first().waitFor();
    Chromium.quiet(narrow);
    assertThat(
            strings(
                narrow,
                """
                [document.documentElement, ...document.querySelectorAll('body *')]
                  .filter(e => e.scrollWidth > e.clientWidth + 1 && e.clientWidth > 1
                      && ['auto', 'scroll', 'visible'].includes(getComputedStyle(e).overflowX)
                      && getComputedStyle(e).display !== 'inline'
                      && !e.querySelector(':scope > table') && !e.closest('table'))
                  .map(e => `${e.tagName}.${e.className} ${e.scrollWidth} > ${e.clientWidth}`)"""))
        .isEmpty();
  }

  @Test
  void at_320_pixels_the_sheet_stands_below_its_list() {
    Page narrow = Chromium.desk(program, "hester");
    narrow.setViewportSize(320, 800);
    narrow.navigate("/worked");
    narrow.locator("article").waitFor();
    assertThat(narrow.locator("article").boundingBox().y)
        .isGreaterThan(narrow.locator("[role=option]").first().boundingBox().y);
    assertThat(narrow.locator("article").boundingBox().x).isLessThan(5);
  }

  @Test
  void a_row_says_what_its_figures_are() {
    Page desk = open("/worked");
    assertThat(desk.locator("[role=option]").first())
        .hasAttribute("aria-label", Pattern.compile("\\d+, .+, margin −?\\d+ %.*, .+"));
  }

  @Test
  void an_invoice_that_is_late_says_so_in_words() {
    Page desk = open("/billed?sort=oldest");
    assertThat(desk.locator("[role=option]").first())
        .hasAttribute("aria-label", Pattern.compile(".*\\d+ days? late"));
  }

  @Test
  void a_word_that_opens_something_carries_what_it_is_about() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = open(gate.jobAddress());
    assertThat(Chromium.button(desk, "Add time for the visit of")).isVisible();
    assertThat(Chromium.button(desk, "Call off… the visit of")).isVisible();
  }

  @Test
  void the_row_that_is_on_is_marked_also_where_the_reader_chooses_the_colours() {
    Page desk = Chromium.desk(program, "hester");
    desk.emulateMedia(new Page.EmulateMediaOptions().setForcedColors(ForcedColors.ACTIVE));
    desk.navigate("/billed");
    desk.locator("[role=option][aria-selected=true]").waitFor();
    List<String> borders =
        strings(
            desk,
            """
            [...document.querySelectorAll('[role=option]')].slice(0, 2)
              .map(row => getComputedStyle(row).borderLeftColor)""");
    assertThat(borders.getFirst()).isNotEqualTo(borders.getLast());
  }

  @Test
  void a_sheet_that_is_still_read_keeps_the_place_of_its_sections() {
    Page desk = Chromium.desk(program, "hester");
    desk.route("**/api/jobs/*", route -> {});
    desk.navigate("/worked");
    assertThat(desk.locator("[aria-busy=true] section")).hasCount(6);
  }

  private Page open(String path) {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(path);
    desk.locator("article, [role=option]").first().waitFor();
    return desk;
  }

  @SuppressWarnings("unchecked")
  private static List<String> strings(Page page, String expression) {
    return (List<String>) page.evaluate(expression);
  }
}
