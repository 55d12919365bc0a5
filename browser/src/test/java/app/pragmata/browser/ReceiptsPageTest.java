package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Customers' money as the office sees it. */
class ReceiptsPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Page desk = Chromium.desk(program, "hester");

  private Locator paid() {
    return desk.locator("[data-section=receipts]");
  }

  private Locator amount() {
    return desk.getByLabel("Amount", new Page.GetByLabelOptions().setExact(true));
  }

  @Test
  void money_beyond_the_debt_is_held_and_pays_the_customers_next_invoice() {
    var gate = new SwingGate(program, "tobias").billed();
    desk.navigate(gate.jobAddress());
    amount().fill("600");
    button(desk, "Record receipt").click();
    assertThat(paid()).containsText("Settled");
    assertThat(button(desk, "Give 58.81 back")).isVisible();
    long receipt = gate.sheet().path("receipts").path(0).path("number").asLong();
    var next = new SwingGate(program, "tobias").billed();
    desk.navigate(next.jobAddress());
    Locator held =
        desk.locator(
            "[data-section=held]",
            new Page.LocatorOptions().setHasText("of receipt " + receipt + " is held"));
    assertThat(held).containsText("58.81");
    held.getByText("Use it for this invoice").click();
    assertThat(paid()).containsText("482.38");
    assertThat(held).hasCount(0);
  }

  @Test
  void a_cheque_that_bounced_is_taken_back_with_a_reason_and_its_invoice_is_owed_again() {
    var gate = new SwingGate(program, "tobias").billed();
    gate.receive(Map.of("amount", "541.19", "method", "cheque"));
    desk.navigate(gate.jobAddress());
    assertThat(paid()).containsText("Settled");
    desk.getByText("Did not come…").click();
    desk.getByLabel("Why? What it paid is owed again.").fill("The bank sent it back");
    button(desk, "Take it back").click();
    assertThat(paid()).containsText("Owed");
    assertThat(paid().locator("tr").last()).containsText("541.19");
  }

  @Test
  void what_came_in_is_listed_by_receipt_and_money_for_no_job_has_a_sheet_of_its_own() {
    var gate = new SwingGate(program, "tobias").billed();
    gate.receive(Map.of("amount", "123.45", "method", "cash"));
    long customer = gate.sheet().path("customerId").asLong();
    gate.receive(Map.of("customerId", customer, "amount", "77.77", "allocations", List.of()));
    desk.navigate("/paid");
    Locator onAccount =
        desk.locator("[role=option]", new Page.LocatorOptions().setHasText("77.77")).first();
    assertThat(onAccount).containsText("on account");
    onAccount.click();
    assertThat(desk.locator("article header [data-home]")).containsText("77.77");
    button(desk, "Give 77.77 back").click();
    button(desk, "Leave it").click();
    assertThat(desk.locator("article")).containsText("77.77 held");
    button(desk, "Give 77.77 back").click();
    button(desk, "It went back").click();
    assertThat(desk.locator("article")).containsText("77.77 given back");
  }
}
