package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.util.Base64;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What is on record of a customer, kept right by the office. */
class CustomerRecordsPageTest {
  private static final byte[] SMALLEST_PNG =
      Base64.getDecoder()
          .decode(
              "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==");

  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");
  private Page desk;

  @BeforeEach
  void aTuesdayMorningAtTheDesk() {
    program.clock().set("2026-11-24T10:00");
    desk = Chromium.desk(program, "hester");
  }

  private long customer(String name, String phone) {
    return office
        .post("/api/customers", Map.of("name", name, "phone", phone, "place", "Weir Street"))
        .json()
        .path("id")
        .asLong();
  }

  private void piece(long customer, String serial) {
    long site =
        office.get("/api/customers/" + customer).json().path("sites").path(0).path("id").asLong();
    office.post(
        "/api/sites/" + site + "/equipment",
        Map.of(
            "version",
            0,
            "equipmentKindId",
            1,
            "model",
            "Barrier 4 m",
            "serialNumber",
            serial,
            "fittedOn",
            "1 nov"));
  }

  private Locator card(long customer) {
    desk.navigate("/customers/" + customer);
    desk.locator("[data-card] h1").waitFor();
    return desk.locator("[data-card]");
  }

  @Test
  void the_hours_of_a_site_are_typed_in_its_form_and_stand_on_the_card() {
    Locator card = card(customer("Fenwick Infants", "01632 960983"));
    card.locator("[data-site] [data-tools]").getByText("edit").first().click();
    Locator open = desk.locator(".ant-modal").getByLabel("Open");
    open.fill("16 to 8");
    button(desk, "Save site").click();
    assertThat(desk.getByText("It ends before it begins.").first()).isVisible();
    assertThat(open).hasValue("16 to 8");
    open.fill("8 to 15:30");
    button(desk, "Save site").click();
    assertThat(card).containsText("Open 08:00 to 15:30");
  }

  @Test
  void a_double_is_merged_into_the_customer_that_stays() {
    long stays = customer("Skerry Nursery", "01632 960981");
    long gone = customer("Skerry Nursry", "01632 960982");
    Locator card = card(gone);
    card.getByText("edit E").first().click();
    button(desk, "Merge…").click();
    desk.getByLabel("The customer that stays").fill("01632 960981");
    desk.locator(".ant-select-item-option", new Page.LocatorOptions().setHasText("Skerry Nursery"))
        .click();
    button(desk, "Merge into this one").click();
    assertThat(card.locator("h1")).hasText("Skerry Nursery");
    assertThat(card).containsText("Skerry Nursry");
    assertThat(card).containsText("01632 960982");
    assertThat(desk.url()).endsWith("/customers/" + stays);
  }

  @Test
  void a_piece_takes_the_place_of_another_one() {
    long customer = customer("Gannet Boatyard", "01632 960983");
    piece(customer, "BR 70001");
    Locator card = card(customer);
    card.getByText("replace", new Locator.GetByTextOptions().setExact(true)).click();
    desk.getByLabel("Serial number").fill("BR 70002");
    desk.getByLabel("Fitted on").fill("today");
    desk.locator(".ant-modal form button[type=submit]").click();
    assertThat(card.locator("[data-equipment]").filter(having("BR 70001")))
        .containsText("BR 70002 in its place");
    assertThat(card.locator("[data-equipment]").filter(having("BR 70002")))
        .containsText("fitted 24 Nov 2026");
  }

  private static Locator.FilterOptions having(String text) {
    return new Locator.FilterOptions().setHasText("Barrier 4 m, " + text);
  }

  @Test
  void a_photo_of_a_piece_stands_beside_it() {
    long customer = customer("Tern Lane Garage", "01632 960984");
    piece(customer, "BR 70003");
    Locator card = card(customer);
    card.locator("[data-equipment]").getByText("edit").click();
    desk.locator(".ant-modal form input[type=file]")
        .setInputFiles(new FilePayload("barrier.png", "image/png", SMALLEST_PNG));
    assertThat(card.locator("[data-equipment] img")).hasAttribute("alt", "Barrier 4 m, BR 70003");
  }

  @Test
  void of_two_people_who_edit_one_customer_the_second_keeps_what_was_typed() {
    long customer = customer("Petrel Stores", "01632 960985");
    Locator card = card(customer);
    card.getByText("edit E").first().click();
    desk.getByLabel("Credit limit").fill("750");
    office.put(
        "/api/customers/" + customer,
        Map.of(
            "version",
            1,
            "name",
            "Petrel Stores Ltd",
            "phone",
            "01632 960985",
            "paymentDays",
            "30"));
    button(desk, "Save customer").click();
    assertThat(desk.getByText("changed").first()).isVisible();
    assertThat(desk.getByLabel("Credit limit")).hasValue("750");
    assertThat(office.get("/api/customers/" + customer).json().path("name").asString())
        .isEqualTo("Petrel Stores Ltd");
  }

  @Test
  void what_is_in_use_is_not_deleted_and_it_is_said_why() {
    Locator card = card(4);
    String name = card.locator("h1").innerText();
    card.getByText("edit E").first().click();
    button(desk, "Delete…").click();
    desk.locator("[role=group]")
        .getByText("Delete", new Locator.GetByTextOptions().setExact(true))
        .click();
    assertThat(desk.locator("[role=status][aria-live]")).containsText("job");
    assertThat(card.locator("h1")).hasText(name);
  }

  @Test
  void all_documents_of_a_customer_are_a_click_away() {
    Locator documents = card(4).getByLabel("Documents");
    documents.getByText("show all quotes, jobs and invoices").click();
    Locator first = documents.locator("tbody tr").first();
    assertThat(first.locator("td").first()).hasText(Pattern.compile("^\\d{1,2} \\w{3} 20\\d\\d"));
    documents
        .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("Job "))
        .first()
        .click();
    assertThat(desk).hasURL(Pattern.compile("/jobs/\\d+"));
    assertThat(desk.locator("article header h1")).isVisible();
  }

  @Test
  void a_list_without_a_fault_is_taken_in() {
    desk.navigate("/imports");
    desk.locator("input[type=file]")
        .setInputFiles(
            new FilePayload(
                "callers.csv",
                "text/csv",
                "Ref,Company,Tel\nPG-7,Playgroup Puffin,01632 960986\n".getBytes(UTF_8)));
    desk.getByText("Try it").click();
    desk.getByText("Take in 1 row").click();
    assertThat(desk.locator("main [role=status]")).containsText("Taken in: 1 added");
    assertThat(office.get("/api/find?q=puffin").text()).contains("Playgroup Puffin");
  }

  @Test
  void faults_are_shown_with_what_they_cost() {
    desk.navigate("/figures/faults");
    assertThat(desk.locator("h1")).hasText("Faults and their causes");
    assertThat(desk.locator("tbody tr").first()).isVisible();
    desk.getByLabel("From").fill("not a day");
    assertThat(desk.locator(".fault")).isVisible();
  }

  @Test
  void a_promised_time_that_cannot_be_is_told_at_its_field_and_what_was_typed_stays() {
    desk.navigate("/settings");
    Locator times =
        desk.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Promised times"));
    times.getByRole(AriaRole.BUTTON).getByText("add").click();
    name().fill("Quayside within the hour");
    desk.getByLabel("urgent: there within").fill("soon");
    button(desk, "Save times").click();
    assertThat(
            desk.locator(".ant-modal form .fault")
                .filter(new Locator.FilterOptions().setHasText("“soon” is not a length of time")))
        .isVisible();
    assertThat(name()).hasValue("Quayside within the hour");
    for (String priority : new String[] {"emergency", "urgent", "normal", "low"}) {
      desk.getByLabel(priority + ": there within").fill("1:00");
    }
    button(desk, "Save times").click();
    assertThat(times).containsText("Quayside within the hour");
  }

  @Test
  void a_holiday_is_added_as_people_say_it_and_removed_again() {
    desk.navigate("/settings");
    Locator holidays =
        desk.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Holidays"));
    holidays.getByRole(AriaRole.BUTTON).getByText("add").click();
    desk.getByLabel("Day", new Page.GetByLabelOptions().setExact(true)).fill("29 mar 2027");
    name().fill("Easter Monday");
    desk.keyboard().press("Enter");
    assertThat(holidays).containsText("Mon 29 Mar 2027");
    desk.getByLabel("Remove Easter Monday 2027-03-29").click();
    assertThat(holidays).not().containsText("Easter Monday");
  }

  @Test
  void a_price_list_that_was_just_made_can_be_given_to_a_customer_at_once() {
    long customer = customer("Puffin Quay Ices", "01632 960988");
    card(customer).getByText("edit E").first().click();
    desk.getByLabel("Price list").waitFor();
    button(desk, "Leave").click();
    Chromium.find(desk, "settings");
    Locator lists =
        desk.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Price lists"));
    // Sections above it come in and move it down.
    Chromium.quiet(desk);
    lists.getByRole(AriaRole.BUTTON).getByText("add").click();
    name().fill("Ice makers");
    desk.getByLabel("Off the price of parts, %").fill("7.5");
    button(desk, "Save price list").click();
    assertThat(lists).containsText("parts less 7.5 %");
    Chromium.find(desk, "puffin quay");
    desk.locator("[data-card]").getByText("edit E").first().click();
    Chromium.choose(desk, "Price list", "", "Ice makers");
    desk.locator(".ant-modal form button[type=submit]").click();
    assertThat(desk.locator("[data-card]")).containsText("Ice makers");
  }

  @Test
  void a_site_that_a_colleague_changed_meanwhile_is_told_and_can_be_saved_again() {
    long customer = customer("Auk Street Bakery", "01632 960989");
    Locator card = card(customer);
    card.getByText("edit", new Locator.GetByTextOptions().setExact(true)).first().click();
    name().fill("Ovens");
    JsonNode site = office.get("/api/customers/" + customer).json().path("sites").path(0);
    office.put(
        "/api/sites/" + site.path("id").asLong(),
        Map.of("version", 1, "name", "By a colleague", "address", "Weir Street"));
    Locator notice = desk.locator(".ant-modal form [role=alert]");
    assertThat(notice).containsText("Name: “By a colleague”, here “Ovens”");
    assertThat(name()).hasValue("Ovens");
    desk.locator(".ant-modal form button[type=submit]").click();
    assertThat(desk.getByText("Somebody changed this since you opened it").first()).isVisible();
    assertThat(name()).hasValue("Ovens");
    button(desk, "Keep mine").click();
    desk.locator(".ant-modal form button[type=submit]").click();
    assertThat(card).containsText("Ovens, Weir Street");
  }

  @Test
  void a_press_beside_a_form_takes_nothing_away_that_was_typed() {
    desk.navigate("/settings");
    desk.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Price lists"))
        .getByRole(AriaRole.BUTTON)
        .getByText("add")
        .click();
    name().fill("Half typed");
    desk.mouse().click(20, 600);
    assertThat(name()).hasValue("Half typed");
  }

  private Locator name() {
    return desk.getByLabel("Name", new Page.GetByLabelOptions().setExact(true));
  }
}
