package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * What happens when people press twice, go back, look at old pictures or are signed out while they
 * type.
 */
class TroubleTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void a_double_click_on_post_makes_one_invoice() {
    var gate = new SwingGate(program, "tobias").checked();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    desk.locator("[aria-keyshortcuts='Control+Enter']").dblclick();
    assertThat(desk.locator("[data-section=receipts]")).isVisible();
    assertThat(desk.locator("[data-entry]", new Page.LocatorOptions().setHasText("Invoice posted")))
        .hasCount(1);
  }

  @Test
  void a_stale_sheet_is_refused_in_words_and_then_shows_the_new_state() {
    var gate = new SwingGate(program, "tobias").checked();
    Page desk = Chromium.desk(program, "hester");
    // A page that hears of changes may have the new state before the button is pressed.
    desk.route("**/api/live?*", Route::abort);
    desk.navigate(gate.jobAddress());
    assertThat(desk.locator("[data-basis=time_and_parts]")).containsText("450.99");
    gate.office()
        .put(
            "/api/jobs/" + gate.job() + "/basis",
            Map.of("version", gate.version(), "basis", "fixed_price"));
    desk.locator("[aria-keyshortcuts='Control+Enter']").click();
    assertThat(desk.locator("[role=status][aria-live]")).containsText("Somebody changed this");
    assertThat(desk.locator("[data-section=invoice-lines]")).containsText("734.40");
    assertThat(desk.locator("[data-section=receipts]")).hasCount(0);
  }

  @Test
  void the_back_button_goes_back_to_the_filtered_list() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/billed?sort=margin");
    desk.locator("[role=option]").nth(1).click();
    desk.locator("article header [data-home]").waitFor();
    String list = desk.url();
    desk.locator("article a", new Page.LocatorOptions().setHasText("Quote")).first().click();
    desk.waitForURL(Pattern.compile("/quotes/"));
    desk.goBack();
    assertThat(desk).hasURL(list);
    assertThat(list).contains("sort=margin");
    assertThat(desk.locator("[role=option][aria-selected=true]")).hasCount(1);
  }

  @Test
  void what_was_typed_is_kept_when_the_session_ends_and_saved_after_signing_in_again() {
    var gate = new SwingGate(program, "tobias").quoted();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    desk.getByLabel("Notes to the customer").fill("Mind the dog");
    // A reading that is still on its way would be answered first, and the question would cover the
    // button.
    Chromium.quiet(desk);
    program.database().execute("delete from spring_session");
    button(desk, "Save draft").click();
    Locator dialog = desk.getByRole(com.microsoft.playwright.options.AriaRole.DIALOG);
    assertThat(dialog).containsText("Your session has ended");
    dialog.getByLabel("Name").fill("hester");
    dialog.getByLabel("Password", new Locator.GetByLabelOptions().setExact(true)).fill("ostmere");
    dialog.getByText("Sign in", new Locator.GetByTextOptions().setExact(true)).last().click();
    assertThat(dialog).isHidden();
    assertThat(desk.getByLabel("Notes to the customer")).hasValue("Mind the dog");
    button(desk, "Save draft").click();
    assertThat(button(desk, "Save draft")).isDisabled();
    assertThat(gate.office().get("/api/quotes/" + gate.quote()).status()).isEqualTo(401);
    desk.reload();
    assertThat(desk.getByLabel("Notes to the customer")).hasValue("Mind the dog");
  }

  @Test
  void a_session_that_is_found_to_have_ended_is_asked_for_above_what_is_typed() {
    var gate = new SwingGate(program, "tobias").quoted();
    Page desk = Chromium.desk(program, "hester");
    desk.waitForRequest("**/api/live?*", () -> desk.navigate(gate.quoteAddress()));
    desk.getByLabel("Notes to the customer").fill("Mind the dog");
    Chromium.quiet(desk);
    program.database().execute("delete from spring_session");
    // Who is signed in is read anew when the settings change.
    Visitor owner = Visitor.signedIn(program, "orla");
    String holiday = gate.day().plusYears(8).toString();
    owner.post("/api/settings/holidays", Map.of("day", holiday, "name", "Founders' day"));
    Locator dialog = desk.getByRole(com.microsoft.playwright.options.AriaRole.DIALOG);
    assertThat(dialog).containsText("Your session has ended");
    assertThat(desk.getByLabel("Notes to the customer")).hasValue("Mind the dog");
    owner.delete("/api/settings/holidays/" + holiday);
  }

  @Test
  void a_page_that_cannot_be_read_anew_keeps_what_is_being_typed_in_it() {
    var gate = new SwingGate(program, "tobias").finished();
    Page desk = Chromium.desk(program, "hester");
    String day = "/people/" + program.person("tobias") + "/days/" + gate.day();
    desk.waitForRequest("**/api/live?*", () -> desk.navigate(day));
    button(desk, "Add time on no visit").click();
    desk.getByLabel("Reason").fill("Swept the yard");
    desk.route("**/api" + day, route -> route.fulfill(unavailable()));
    desk.waitForResponse("**/api" + day, () -> gate.giveFault("NOISE"));
    assertThat(desk.getByLabel("Reason")).hasValue("Swept the yard");
  }

  private static Route.FulfillOptions unavailable() {
    return new Route.FulfillOptions().setStatus(503);
  }

  @Test
  void a_receipt_whose_answer_was_lost_is_recorded_once_when_it_is_sent_again() {
    var gate = new SwingGate(program, "tobias").billed();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    var lost = new java.util.concurrent.atomic.AtomicBoolean();
    desk.route(
        "**/receipts",
        route -> {
          if (lost.compareAndSet(false, true)) {
            route.fetch();
            route.abort();
          } else {
            route.resume();
          }
        });
    desk.getByLabel("Amount", new Page.GetByLabelOptions().setExact(true)).fill("100");
    button(desk, "Record receipt").click();
    assertThat(desk.locator("[role=status][aria-live]")).containsText("cannot be reached");
    button(desk, "Record receipt").click();
    assertThat(desk.locator("[data-section=receipts]")).containsText("441.19");
    assertThat(gate.sheet().path("billing").path("invoices").path(0).path("receipts")).hasSize(1);
  }

  @Test
  void a_reason_that_was_typed_is_still_there_when_the_act_was_refused() {
    var gate = new SwingGate(program, "tobias").planned();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    button(desk, "Not this time…").click();
    desk.getByLabel("Why?").fill("Nobody there");
    desk.route("**/not-this-time", com.microsoft.playwright.Route::abort);
    desk.locator("[role=group] .ant-btn-primary").click();
    assertThat(desk.locator("[role=status][aria-live]")).containsText("cannot be reached");
    button(desk, "Not this time…").click();
    assertThat(desk.getByLabel("Why?")).hasValue("Nobody there");
  }

  @Test
  void a_page_that_cannot_be_fetched_says_so_below_the_places_and_is_loaded_again() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/to-dos");
    desk.locator("main h1").waitFor();
    desk.route("**/assets/FollowUpPage-*.js", Route::abort);
    desk.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Follow up")).click();
    assertThat(desk.locator("main h1")).hasText("This page could not be shown");
    assertThat(desk.getByLabel("Places")).isVisible();
    desk.unroute("**/assets/FollowUpPage-*.js");
    button(desk, "Load it again").click();
    assertThat(desk.locator("main h1")).not().hasText("This page could not be shown");
    assertThat(desk).hasURL(Pattern.compile("/quotes/follow-up$"));
  }

  @Test
  void a_page_that_takes_long_to_fetch_says_that_it_is_on_its_way() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/to-dos");
    desk.locator("main h1").waitFor();
    var held = new ArrayList<Route>();
    desk.route("**/assets/FollowUpPage-*.js", held::add);
    desk.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Follow up")).click();
    assertThat(desk.getByText("The page is on its way")).isVisible();
    held.forEach(Route::resume);
    assertThat(desk).hasURL(Pattern.compile("/quotes/follow-up$"));
    assertThat(desk.getByText("The page is on its way")).isHidden();
  }

  @Test
  void the_one_field_opens_with_a_slash_and_loses_no_letter() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/");
    desk.locator("[role=option]").first().waitFor();
    desk.keyboard().type("/tansy row");
    assertThat(desk.locator("#find-hits [aria-selected=true]")).containsText("Tansy Row Garages");
    desk.keyboard().press("Enter");
    assertThat(desk.locator("main h1")).hasText("Tansy Row Garages");
  }

  @Test
  void a_technician_who_types_an_office_address_lands_on_the_pocket_page() {
    Page phone = Chromium.phone(program, "piet");
    phone.navigate("/books/journal");
    phone.waitForURL(Pattern.compile("/pocket$"));
  }

  @ParameterizedTest
  @CsvSource({"hester,/worked", "orla,/worked", "maud,/books/journal", "imre,/pocket"})
  void each_of_the_demo_people_signs_in_and_begins_where_their_work_is(
      String username, String start) {
    Page window = Chromium.window(program, 1280, 800);
    window.navigate("/");
    window.getByLabel("Name").fill(username);
    window.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("ostmere");
    button(window, "Sign in").click();
    window.waitForURL(Pattern.compile(start + "$"));
    window.context().close();
  }

  @Test
  void a_wrong_password_says_so_and_keeps_the_name() {
    Page window = Chromium.window(program, 1280, 800);
    window.navigate("/");
    window.getByLabel("Name").fill("hester");
    window.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill("nonsense");
    button(window, "Sign in").click();
    assertThat(window.getByRole(com.microsoft.playwright.options.AriaRole.ALERT))
        .containsText("not right");
    assertThat(window.getByLabel("Name")).hasValue("hester");
  }

  @Test
  void a_bookkeeper_sees_the_sheet_without_buttons_that_would_be_refused() {
    var gate = new SwingGate(program, "tobias").checked();
    Page desk = Chromium.desk(program, "maud");
    desk.navigate(gate.jobAddress());
    assertThat(desk.locator("[data-section=draft-entry]")).containsText("541.19");
    assertThat(desk.locator("[aria-keyshortcuts='Control+Enter']")).hasCount(0);
  }
}
