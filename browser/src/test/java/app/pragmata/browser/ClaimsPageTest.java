package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import org.junit.jupiter.api.Test;

/** What a manufacturer is asked to bear of a job, on its sheet. */
class ClaimsPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void a_claim_is_made_sent_and_credited_on_the_sheet_and_the_job_costs_less_by_it() {
    SwingGate gate = new SwingGate(program, "dilys").checked();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    Locator claims = desk.locator("[data-section=claims]");
    button(desk, "Claim from the manufacturer").click();
    desk.getByLabel("Manufacturer", new Page.GetByLabelOptions().setExact(true))
        .fill("Ramsden Drives");
    desk.getByLabel("For what").fill("the ram");
    desk.getByLabel("Amount, without VAT").fill("212.40");
    button(desk, "Claim it").click();
    assertThat(claims).containsText("212.40 claimed from Ramsden Drives for the ram: to be sent");
    claims.getByRole(AriaRole.BUTTON).first().click();
    assertThat(claims).containsText("for the ram: sent ");
    button(desk, "Credited…").click();
    desk.getByLabel("How much of 212.40, without VAT?").fill("200");
    desk.locator("[role=group] .ant-btn-primary").click();
    assertThat(claims).containsText("200.00 credited");
    assertThat(desk.getByText("Ramsden Drives: Warranty credited, the ram").first()).isVisible();
    assertThat(desk.locator("tr[data-rung=other]")).containsText("−200.00");
  }
}
