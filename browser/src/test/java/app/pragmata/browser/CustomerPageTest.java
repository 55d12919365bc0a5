package app.pragmata.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** The customer's page of a job on their phone, beside the desk and the technician's phone. */
class CustomerPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi");

  /** The customer's phone with the page behind the link. */
  private Page customer() {
    String address =
        gate.office()
            .post("/api/jobs/" + gate.job() + "/customer-page", Map.of())
            .json()
            .path("address")
            .asString();
    Page phone = Chromium.window(program, 390, 844);
    phone.navigate(address.substring(address.indexOf("/work/")));
    phone.locator("main h1").waitFor();
    return phone;
  }

  private Page desk() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    return desk;
  }

  private static Locator button(Page page, String name) {
    return page.getByRole(
        AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  @Test
  void work_that_nobody_signed_on_site_is_signed_and_rated_and_the_sheet_says_so() {
    gate.finished();
    Page customer = customer();
    assertThat(customer.locator("main")).containsText("Second leaf adjusted");
    customer.getByLabel("Your name").fill("Mara Quill");
    button(customer, "4").click();
    customer.getByLabel("A word on it").fill("Tidy work");
    button(customer, "Sign").click();
    assertThat(customer.locator("main")).containsText("Signed by Mara Quill");
    assertThat(desk().locator("article[aria-label]").first())
        .containsText("Signed by Mara Quill, 4 of 5: “Tidy work”");
  }

  @Test
  void a_signature_without_a_name_is_told_and_the_rating_stays_chosen() {
    gate.finished();
    Page customer = customer();
    button(customer, "5").click();
    button(customer, "Sign").click();
    assertThat(customer.getByRole(AriaRole.ALERT)).isVisible();
    assertThat(button(customer, "5")).hasAttribute("aria-pressed", "true");
  }

  @Test
  void a_customers_question_is_answered_from_the_sheet_while_both_look_on() {
    gate.planned();
    Page customer = customer();
    customer.getByLabel("Write to us").last().fill("Can you come before nine?");
    button(customer, "Send").click();
    assertThat(customer.locator("main")).containsText("you, ");
    Page desk = desk();
    Locator messages = desk.getByLabel("Messages", new Page.GetByLabelOptions().setExact(true));
    assertThat(messages).containsText("Can you come before nine?");
    messages.getByLabel("Write to the customer").fill("Yes, at half past eight");
    messages.getByText("Send", new Locator.GetByTextOptions().setExact(true)).click();
    assertThat(messages).containsText("to the customer");
    customer.reload();
    assertThat(customer.locator("main")).containsText("Yes, at half past eight");
  }

  @Test
  void what_is_being_written_to_site_does_not_go_to_the_customer_who_asks_meanwhile() {
    gate.planned();
    gate.technician()
        .post(
            "/api/pocket/visits/" + gate.visit() + "/messages", Map.of("text", "Who has the key?"));
    Page customer = customer();
    Page desk = desk();
    desk.getByLabel("Write to the technicians").fill("The caretaker");
    customer.getByLabel("Write to us").last().fill("When do you come?");
    button(customer, "Send").click();
    Locator messages = desk.getByLabel("Messages", new Page.GetByLabelOptions().setExact(true));
    assertThat(messages).containsText("When do you come?");
    messages.getByText("Send", new Locator.GetByTextOptions().setExact(true)).click();
    assertThat(messages).containsText("Hester Lyle to the technicians");
  }

  @Test
  void the_office_sends_a_report_with_prices_to_whom_it_says() {
    gate.finished();
    Page desk = desk();
    button(desk, "send it the report of " + gate.day()).click();
    desk.getByLabel("To", new Page.GetByLabelOptions().setExact(true))
        .fill("tenant@harbour.example");
    desk.getByText("with prices", new Page.GetByTextOptions().setExact(true)).click();
    button(desk, "Send it").click();
    assertThat(desk.locator("article[aria-label]").first())
        .containsText("sent to tenant@harbour.example with prices");
  }

  @Test
  void a_technician_leaves_the_signature_for_the_customers_own_page() {
    gate.onSite();
    gate.at("16:00");
    Page phone = Chromium.phone(program, "ngozi");
    phone.navigate("/pocket/" + gate.visit());
    button(phone, "Finish").click();
    button(phone, "Let them sign later").click();
    button(phone, "Finish this visit").click();
    assertThat(phone.locator("main")).containsText("Done");
    assertThat(desk().locator("article[aria-label]").first())
        .containsText("They are to sign on their own page.");
  }
}
