package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.Locale;
import org.junit.jupiter.api.Test;

/** What turns up when the invoice is out. */
class LateCostsPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias").billed();
  private final Page desk = Chromium.desk(program, "hester");

  @Test
  void a_late_suppliers_bill_is_added_to_a_billed_job_and_lowers_its_margin() {
    desk.navigate(gate.jobAddress());
    Locator sheet = desk.locator("article");
    long cost = gate.sheet().path("cost").path("actualMinor").asLong();
    button(desk, "Late supplier's bill").click();
    desk.getByLabel("Supplier", new Page.GetByLabelOptions().setExact(true)).fill("Quay Hire");
    desk.getByLabel("For what").fill("Lift for a day");
    desk.getByLabel("Net, without VAT").fill("50");
    button(desk, "Add to the cost").click();
    assertThat(sheet).containsText("Quay Hire: Lift for a day");
    assertThat(sheet).containsText("Cost of sales, other");
    assertThat(sheet)
        .containsText(String.format(Locale.ROOT, "less cost %.2f", (cost + 50_00) / 100.0));
  }

  @Test
  void late_time_on_a_billed_job_is_cost_of_sales() {
    desk.navigate(gate.jobAddress());
    button(desk, "Late time").click();
    desk.getByLabel("From").fill("12:00");
    desk.getByLabel("To", new Page.GetByLabelOptions().setExact(true)).fill("13:00");
    desk.getByLabel("Reason").fill("Nobody clocked it");
    button(desk, "Add").click();
    assertThat(desk.locator("[data-entry]").first()).containsText("late time");
  }
}
