package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What others do is on screen without anybody pressing anything. */
class LivePageTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  private static Locator row(Page desk, SwingGate gate) {
    return desk.locator("[data-row='job-" + gate.job() + "']");
  }

  /** Opened, and heard of the server for the first time. */
  private static void open(Page page, String path) {
    page.waitForRequest("**/api/live?*", () -> page.navigate(path));
  }

  @Test
  void a_list_and_the_money_line_follow_what_a_colleague_checks() {
    var gate = new SwingGate(program, "tobias").corrected();
    Page desk = Chromium.desk(program, "hester");
    open(desk, "/checked?filter=Swing gate, ram replaced");
    Locator line = desk.locator("nav[aria-label^='Money line']");
    line.locator("a").first().waitFor();
    String before = line.innerText();
    gate.office()
        .post("/api/visits/" + gate.visit() + "/check", Map.of("version", gate.visitVersion()));
    assertThat(row(desk, gate)).isVisible();
    assertThat(line).not().hasText(before);
  }

  @Test
  void an_open_sheet_shows_the_part_that_the_technician_notes() {
    var gate = new SwingGate(program, "tobias").onSite();
    Page desk = Chromium.desk(program, "hester");
    open(desk, gate.jobAddress());
    desk.locator("[data-sheet='job-" + gate.job() + "']").waitFor();
    Locator noted =
        desk.locator("[data-sheet] tr[data-part]")
            .filter(new Locator.FilterOptions().setHasText("hotocell"));
    int before = noted.count();
    gate.tap("parts", Map.of("partId", gate.part("PHO-02"), "quantity", "1"));
    assertThat(noted.nth(before)).isVisible();
    gate.at("18:20");
    gate.tap("finish", Map.of());
  }

  @Test
  void a_technicians_page_shows_the_stop_that_the_office_plans() {
    var gate = new SwingGate(program, "piet").accepted();
    gate.at("07:00");
    Page phone = Chromium.phone(program, "piet");
    open(phone, "/pocket");
    phone.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1)).waitFor();
    assertThat(phone.locator("[href='/pocket/" + gate.visit() + "']")).hasCount(0);
    gate.planned();
    assertThat(phone.locator("[href='/pocket/" + gate.visit() + "']")).isVisible();
  }

  @Test
  void a_page_that_stays_open_over_midnight_has_the_new_day() {
    Page desk = Chromium.desk(program, "hester");
    program.clock().set("2026-11-24T23:59");
    open(desk, "/to-dos");
    Locator today = desk.locator("header").first();
    assertThat(today).containsText("24 Nov");
    program.clock().set("2026-11-25T00:01");
    assertThat(today).containsText("25 Nov");
  }

  @Test
  void two_pages_of_one_browser_share_a_stream() {
    Page first = Chromium.desk(program, "hester");
    List<String> streams = new ArrayList<>();
    first
        .context()
        .onRequest(
            request -> {
              if (request.url().contains("/api/live?")) {
                streams.add(request.url());
              }
            });
    open(first, "/to-dos?whose=all");
    Page second = first.context().newPage();
    second.navigate("/to-dos?whose=all");
    second.locator("header").first().waitFor();
    Visitor office = Visitor.signedIn(program, "orla");
    long orla = office.get("/api/session").json().path("person").path("id").asLong();
    String what = "Shown on both pages";
    office.post(
        "/api/to-dos", Map.of("version", 0, "what", what, "forPersonId", orla, "due", "today"));
    for (Page page : List.of(first, second)) {
      assertThat(page.getByText(what).first()).isVisible();
    }
    assertThat(streams).hasSize(1);
  }

  @Test
  void what_is_typed_stays_and_what_a_colleague_stored_is_told_field_by_field() {
    Visitor office = Visitor.signedIn(program, "orla");
    long customer =
        office
            .post(
                "/api/customers",
                Map.of(
                    "name", "Curlew Lane Dairy", "phone", "01632 960977", "place", "1 Curlew Lane"))
            .json()
            .path("id")
            .asLong();
    Page desk = Chromium.desk(program, "hester");
    open(desk, "/customers/" + customer);
    desk.getByText("edit E").first().click();
    Locator form = desk.locator(".ant-modal form");
    form.getByLabel("Phone").fill("01632 960978");
    var card = office.get("/api/customers/" + customer).json();
    var changed = new java.util.HashMap<String, Object>();
    changed.put("version", card.path("version").asInt());
    changed.put("name", "Curlew Lane Creamery");
    changed.put("phone", "01632 960979");
    changed.put("address", "1 Curlew Lane");
    changed.put("paymentDays", "14");
    Visitor.Answer stored = office.put("/api/customers/" + customer, changed);
    assertThat(stored.status()).as(stored.text()).isEqualTo(200);
    Locator notice = form.locator("[role=alert]");
    assertThat(notice).isVisible();
    assertThat(notice.locator("li"))
        .hasText(
            new String[] {
              "Name: “Curlew Lane Creamery”, here “Curlew Lane Dairy”",
              "Phone: “01632 960979”, here “01632 960978”"
            });
    button(desk, "Keep mine").click();
    assertThat(form.getByLabel("Name")).hasValue("Curlew Lane Creamery");
    assertThat(form.getByLabel("Phone")).hasValue("01632 960978");
    form.locator("button[type=submit]").click();
    assertThat(form).hasCount(0);
    card = office.get("/api/customers/" + customer).json();
    assertThat(card.path("name").asString()).isEqualTo("Curlew Lane Creamery");
    assertThat(card.path("phone").asString()).isEqualTo("01632 960978");
  }
}
