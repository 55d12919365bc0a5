package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

/** What others are ordered to do for a job, on its sheet. */
class WorkOrdersPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void work_is_ordered_its_bill_comes_and_is_kept() {
    SwingGate gate = new SwingGate(program, "tobias").planned();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    button(desk, "Order work from somebody else").click();
    desk.getByLabel("Who", new Page.GetByLabelOptions().setExact(true)).fill("Quayside Crane Hire");
    desk.getByLabel("Their e-mail, if they are to get it").fill("crane@example.org");
    desk.getByLabel("What is to be done").fill("Lift the beam out");
    desk.getByLabel("Their price, without VAT").fill("180");
    button(desk, "Order and mail").click();
    Locator orders = desk.locator("[data-section=work-orders]");
    assertThat(orders).containsText("bill awaited of 180.00");
    assertThat(desk.locator("[data-section=forecast]")).containsText("Lift the beam out");
    button(desk, "The bill is here…").click();
    desk.getByLabel("What is it, without VAT? 180.00 was expected.").fill("195.50");
    button(desk, "Add to the cost").click();
    assertThat(orders).containsText("billed 195.50");
    desk.getByLabel("Keep the bill of Quayside Crane Hire")
        .setInputFiles(
            new FilePayload(
                "crane.pdf",
                "application/pdf",
                "%PDF-1.7 the bill".getBytes(StandardCharsets.US_ASCII)));
    assertThat(desk.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("crane.pdf")))
        .isVisible();
  }
}
