package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Page;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What a quote promises of its price, from the editor to the bill. */
class PromisePageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate =
      new SwingGate(program, "imre")
          .agree(
              "lines",
              List.of(
                  Map.of(
                      "category",
                      "other",
                      "description",
                      "Gate repaired",
                      "quantity",
                      "1",
                      "cost",
                      "250",
                      "price",
                      "400")));

  @Test
  void more_than_the_estimate_is_billed_once_the_office_has_said_why() {
    gate.checked();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    assertThat(desk.locator("[data-section=above-promise]"))
        .containsText("18.71 above the accepted 400.00 with 32.28 out of warranty");
    desk.locator("[data-section=above-promise] button").click();
    desk.getByLabel("Why? The reason stays with the bill.").fill("Both leaves had to be set");
    desk.keyboard().press("Enter");
    assertThat(desk.locator("[data-section=above-promise]"))
        .containsText("Both leaves had to be set");
    desk.locator("[aria-keyshortcuts='Control+Enter']").click();
    assertThat(desk.locator("[data-section=receipts]")).containsText("541.19");
    assertThat(desk.locator("[data-section=above-promise]"))
        .containsText("Both leaves had to be set");
  }

  @Test
  void the_office_promises_not_more_than_and_the_customer_reads_it() {
    gate.quoted();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    desk.getByLabel("Promise", new Page.GetByLabelOptions().setExact(true)).click();
    desk.locator(".ant-select-item-option", new Page.LocatorOptions().setHasText("Not more than"))
        .click();
    button(desk, "Send").click();
    assertThat(desk.locator("article header")).containsText("valid until");
    assertThat(desk.locator("article")).containsText("Not more than");
    desk.navigate(gate.offerPath().replace("/api/offers/", "/offer/"));
    assertThat(desk.locator("main, body").first()).containsText("not more than this total");
  }
}
