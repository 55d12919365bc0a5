package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What vans and store hold, at the desk and on the phone. */
class StoresPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");
  private String number;
  private String name;

  /** A part that only this example moves. */
  @BeforeEach
  void aPartOfItsOwn() {
    number = "SP-" + gate.day();
    name = "Stop bolt of " + gate.day();
    program
        .database()
        .execute(
            "insert into part (number, name, unit, price, vat_code) values (?, ?, '', 30, 'standard')",
            number,
            name);
    gate.onSite();
  }

  @AfterEach
  void theDayIsOver() {
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  private long part() {
    return program
        .database()
        .fetchSingle("select id from part where number = ?", number)
        .get(0, Long.class);
  }

  private Page desk() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/stores?filter=" + number);
    sheet(desk).waitFor();
    return desk;
  }

  private Locator sheet(Page desk) {
    return desk.locator("[data-sheet=held-part-" + part() + "]");
  }

  @Test
  void a_delivery_is_taken_in_and_a_count_puts_right_what_fell_below_zero() {
    gate.tap("parts", Map.of("partId", part(), "quantity", "2"));
    Page desk = desk();
    assertThat(sheet(desk)).containsText("used that no place held");
    button(desk, "Take a delivery in").click();
    desk.getByLabel("How many").fill("5");
    desk.getByLabel("One costs, without VAT").fill("12.00");
    button(desk, "Take it in").click();
    assertThat(sheet(desk)).containsText("3 held");
    assertThat(sheet(desk).getByText("used that no place held")).hasCount(0);
    button(desk, "Counted").click();
    desk.getByLabel("Really there").fill("0");
    button(desk, "So many are there").click();
    assertThat(sheet(desk)).containsText("5 held");
    assertThat(sheet(desk).locator("[aria-label=Moved] tbody tr").first()).containsText("counted");
  }

  @Test
  void a_code_that_was_scanned_for_the_wrong_part_is_taken_off_and_put_back() {
    gate.tap("parts", Map.of("partId", part(), "quantity", "1", "code", "4006381333931"));
    Page desk = desk();
    Locator box = sheet(desk).locator("[aria-label='On its box']");
    assertThat(box).containsText("4006381333931");
    box.getByLabel("take 4006381333931 off").click();
    assertThat(box.getByText("4006381333931")).hasCount(0);
    button(desk, "Put it back").click();
    assertThat(box).containsText("4006381333931");
  }

  @Test
  void a_delivery_without_a_cost_says_so_at_its_field_and_keeps_what_was_typed() {
    Page desk = desk();
    button(desk, "Take a delivery in").click();
    desk.getByLabel("How many").fill("5");
    button(desk, "Take it in").click();
    assertThat(desk.getByLabel("One costs, without VAT")).isFocused();
    assertThat(desk.getByLabel("How many")).hasValue("5");
  }

  @Test
  void parts_go_back_to_the_store_with_the_offices_yes() {
    Page desk = desk();
    button(desk, "Take a delivery in").click();
    desk.getByLabel("How many").fill("4");
    desk.getByLabel("One costs, without VAT").fill("2.00");
    button(desk, "Take it in").click();
    assertThat(sheet(desk)).containsText("4 held");
    long store =
        program
            .database()
            .fetchSingle("select id from stock_place where person_id is null")
            .get(0, Long.class);
    gate.technician()
        .post(
            "/api/pocket/handovers",
            Map.of("partId", part(), "fromPlaceId", store, "quantity", "3"));
    Locator waiting =
        desk.locator("[data-handover]", new Page.LocatorOptions().setHasText("3 " + name));
    waiting.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Yes")).click();
    assertThat(waiting).hasCount(0);
    Page phone = Chromium.phone(program, "piet");
    phone.navigate("/pocket/van");
    phone.getByLabel("Find a part in the van").fill(number);
    assertThat(phone.locator(".fact")).containsText("3");
  }

  @Test
  void all_that_was_promised_is_taken_from_the_van_with_one_tap() {
    Page phone = Chromium.phone(program, "piet");
    phone.navigate("/pocket/" + gate.visit());
    button(phone, "Add parts").click();
    button(phone, "Add All that was promised").click();
    Locator used = phone.locator(".fact", new Page.LocatorOptions().setHasText("Used so far"));
    assertThat(used).containsText("Gate ram 230 V");
    assertThat(used).containsText("Photocell pair");
  }
}
