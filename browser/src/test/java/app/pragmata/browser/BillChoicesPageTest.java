package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What the office decides about a bill; by time and parts it comes to 450.99 without VAT. */
class BillChoicesPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");
  private Page desk;

  @BeforeEach
  void openTheSheet() {
    gate.checked();
    desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
  }

  private Locator invoice() {
    return desk.locator("[data-section=invoice-lines]").first();
  }

  @Test
  void as_promised_on_site_is_one_act_and_says_where_the_difference_goes() {
    button(desk, "As promised on site…").click();
    desk.getByLabel("What was the customer told that it costs, in all?").fill("480");
    button(desk, "Charge that").click();
    assertThat(desk.locator("[data-section=told-on-site]"))
        .containsText("50.99 less than time and parts, 25.41 off labour");
    assertThat(invoice()).containsText("480.00");
    assertThat(desk.locator("[data-basis=promised_on_site] input")).isChecked();
  }

  @Test
  void a_price_that_no_bill_comes_to_is_said_and_what_was_typed_stays() {
    button(desk, "As promised on site…").click();
    desk.getByLabel("What was the customer told that it costs, in all?").fill("250.05");
    button(desk, "Charge that").click();
    assertThat(desk.getByText("no bill comes to exactly 250.05").first()).isVisible();
    button(desk, "As promised on site…").click();
    assertThat(desk.getByLabel("What was the customer told that it costs, in all?"))
        .hasValue("250.05");
  }

  @Test
  void a_charge_besides_the_work_is_added_taken_off_and_put_back() {
    button(desk, "Another charge").click();
    desk.getByLabel("For what").fill("Safety certificate");
    desk.getByLabel("Price of one, without VAT").fill("25");
    button(desk, "Charge it").click();
    assertThat(invoice()).containsText("475.99");
    button(desk, "remove , Safety certificate").click();
    assertThat(invoice()).containsText("450.99");
    button(desk, "Put it back").click();
    assertThat(invoice()).containsText("475.99");
  }

  @Test
  void the_cost_of_a_part_opens_to_what_was_held_of_it_and_to_its_entry() {
    Locator part = desk.locator("tr[data-part]").first();
    part.locator("summary").click();
    assertThat(part).containsText("at the average of ");
    Locator entry = part.getByRole(AriaRole.LINK).last();
    assertThat(desk.locator("#entry-" + entry.innerText())).containsText("Part used");
  }

  @Test
  void what_the_technician_told_the_customer_is_charged_with_one_press() {
    SwingGate told = new SwingGate(program, "imre").onSite();
    Page phone = Chromium.phone(program, "imre");
    phone.navigate("/pocket/" + told.visit());
    button(phone, "Told a price").click();
    phone.getByLabel("What did you tell them that all of it costs").fill("480");
    button(phone, "With VAT").click();
    assertThat(
            phone
                .locator(".fact")
                .filter(new Locator.FilterOptions().setHasText("480.00 with VAT")))
        .isVisible();
    told.at("18:00");
    told.tap("finish", Map.of("note", ""));
    told.office()
        .post("/api/visits/" + told.visit() + "/check", Map.of("version", told.visitVersion()));
    desk.navigate(told.jobAddress());
    button(desk, "Charge that").click();
    assertThat(desk.locator("[data-basis=promised_on_site] input")).isChecked();
  }
}
