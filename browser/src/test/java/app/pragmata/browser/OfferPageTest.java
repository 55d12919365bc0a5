package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** A quote on the customer's phone and, beside it, on the desk. */
class OfferPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi");

  private SwingGate sent() {
    return gate.agree("promise", "fixed_price")
        .agree("deposit", "25%")
        .agree(
            "stages",
            List.of(
                Map.of("name", "when it hangs", "part", "50%"),
                Map.of("name", "when it runs", "part", "50%")))
        .offer(
            Map.of(
                "category",
                "parts",
                "warrantyExclusion",
                "It is new",
                "partId",
                gate.part("LMP-F"),
                "quantity",
                "1",
                "price",
                "50.00",
                "choice",
                "option",
                "taken",
                false))
        .sent();
  }

  /** The customer's phone with the page behind the link. */
  private Page phone() {
    return phone(390);
  }

  private Page phone(int width) {
    Page phone = Chromium.window(program, width, 844);
    phone.navigate(gate.offerPath().replace("/api/offers/", "/offer/"));
    phone.locator("main h1").waitFor();
    return phone;
  }

  private Page desk() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.quoteAddress());
    desk.locator("article header [data-home]").waitFor();
    return desk;
  }

  @Test
  void an_option_is_chosen_the_quote_signed_and_the_deposit_paid_on_a_phone() {
    sent();
    Page phone = phone();
    assertThat(phone.getByLabel("Total")).containsText("734.40");
    phone.getByText("add this").click();
    assertThat(phone.getByLabel("Total")).containsText("794.40");
    phone.getByLabel("Your name").fill("Mara Okafor");
    button(phone, "Accept for 794.40 with VAT").click();
    assertThat(phone.getByRole(AriaRole.STATUS).first()).containsText("Accepted by Mara Okafor");
    phone.getByLabel("Card number").fill("4000 0000 0000 0001");
    button(phone, "Pay 198.60 by card").click();
    assertThat(phone.locator("main")).containsText("Your deposit of 198.60 has arrived");
    Page desk = desk();
    button(desk, "Make the job").click();
    Locator sheet = desk.locator("article");
    assertThat(sheet).containsText("Flashing lamp");
    assertThat(sheet).containsText("when it runs, 50%");
    assertThat(sheet).containsText("Deposit, received");
  }

  @Test
  void what_falls_due_at_each_stage_is_told_with_vat_and_follows_the_choice() {
    sent();
    Page phone = phone();
    assertThat(phone.getByLabel("Total")).containsText("when it runs, 50% 367.20");
    phone.getByText("add this").click();
    assertThat(phone.getByLabel("Total")).containsText("when it runs, 50% 397.20");
  }

  @Test
  void what_came_by_bank_comes_off_what_the_phone_asks_for() {
    sent();
    Page phone = phone();
    phone.getByLabel("Your name").fill("Mara Okafor");
    button(phone, "Accept for 734.40 with VAT").click();
    assertThat(button(phone, "Pay 183.60 by card")).isVisible();
    gate.office().post("/api/receipts", Map.of("quoteId", gate.quote(), "amount", "83.60"));
    phone.reload();
    assertThat(button(phone, "Pay 100.00 by card")).isVisible();
  }

  @Test
  void a_name_drawn_on_a_narrow_phone_is_drawn_where_the_finger_was() {
    sent();
    Page phone = phone(320);
    Locator box = phone.getByLabel("Signature");
    box.scrollIntoViewIfNeeded();
    var place = box.boundingBox();
    double x = place.x + place.width - 12;
    phone.mouse().move(x, place.y + 20);
    phone.mouse().down();
    phone.mouse().move(x, place.y + 60);
    phone.mouse().up();
    Object drawnAt =
        box.evaluate(
            """
            canvas => {
              const all = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height);
              const drawn = all.data.findIndex((value, index) => index % 4 === 3 && value > 128);
              return Math.round((((drawn - 3) / 4) % canvas.width) / canvas.width * canvas.clientWidth);
            }
            """);
    org.assertj.core.api.Assertions.assertThat(((Number) drawnAt).doubleValue())
        .isCloseTo(place.width - 12, org.assertj.core.data.Offset.offset(4.0));
  }

  @Test
  void a_question_from_the_phone_is_answered_at_the_desk() {
    sent();
    Page phone = phone();
    phone.getByLabel("Your question").fill("How loud is it?");
    button(phone, "Send the question").click();
    assertThat(phone.locator("[data-asked]")).containsText("We have your question");
    Page desk = desk();
    desk.getByLabel("Answer to: How loud is it?").fill("Like a fridge.");
    button(desk, "Send the answer").click();
    assertThat(desk.locator("section[aria-label=Asked]")).containsText("Like a fridge.");
    phone.reload();
    assertThat(phone.locator("[data-asked]")).containsText("Like a fridge.");
  }

  @Test
  void a_changed_quote_is_a_new_edition_at_the_same_address() {
    sent();
    Page phone = phone();
    Page desk = desk();
    button(desk, "Change it").click();
    desk.getByLabel("Discount on all").fill("10%");
    assertThat(desk.locator("[data-section=totals]").first()).containsText("550.80");
    button(desk, "Send").click();
    assertThat(desk.locator("article")).containsText("Edition 2");
    desk.getByText("what changed?").click();
    assertThat(
            desk.getByRole(
                AriaRole.TABLE, new Page.GetByRoleOptions().setName("Edition 1 against 2")))
        .containsText("changed");
    phone.getByLabel("Your name").fill("Mara Okafor");
    button(phone, "Accept for").click();
    assertThat(phone.locator("main")).containsText("edition 2, in place of the one before");
    assertThat(phone.locator("main .fault").first()).containsText("changed meanwhile");
    assertThat(phone.getByLabel("Your name")).hasValue("Mara Okafor");
    assertThat(phone.getByLabel("Total")).containsText("660.96");
  }

  @Test
  void a_no_is_said_with_its_reason() {
    sent();
    Page phone = phone();
    phone.getByText("No, thank you").click();
    phone.getByLabel("Would you tell us why?").fill("Too dear");
    button(phone, "Decline the quote").click();
    assertThat(phone.locator("main")).containsText("You declined this quote");
    assertThat(desk().locator("article")).containsText("declined: Too dear");
  }

  @Test
  void nothing_of_our_cost_reaches_the_customers_page() {
    sent();
    String text = phone().locator("main").innerText().toLowerCase(java.util.Locale.ROOT);
    assertThat(text).contains("change the ram").doesNotContain("margin").doesNotContain("cost");
  }

  @Test
  void a_declined_card_is_told_and_its_number_stays() {
    sent();
    Page phone = phone();
    phone.getByLabel("Your name").fill("Mara Okafor");
    button(phone, "Accept for").click();
    phone.getByLabel("Card number").fill("4000 0000 0000 0002");
    button(phone, "Pay 183.60").click();
    assertThat(phone.locator("main .fault")).containsText("declined. No money was taken");
    assertThat(phone.getByLabel("Card number")).hasValue("4000 0000 0000 0002");
  }

  @Test
  void several_parts_and_a_kit_come_into_a_quote_at_once() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/quotes/new");
    button(desk, "Add parts").click();
    desk.getByLabel("Find parts").fill("shutter");
    desk.locator("[role=dialog] label").filter(having("Shutter motor 400 N")).click();
    desk.locator("[role=dialog] label").filter(having("Shutter curtain 3.2 m")).click();
    desk.getByLabel("Quantity of Shutter motor 400 N").fill("2");
    button(desk, "Add 2 parts").click();
    assertThat(desk.locator("[data-line='2']")).containsText("Shutter motor 400 N");
    desk.getByLabel("Add a kit").click();
    desk.locator(".ant-select-item-option", new Page.LocatorOptions().setHasText("Photocells"))
        .click();
    assertThat(desk.locator("[data-line]")).hasCount(7);
    desk.getByLabel("Kind of job").click();
    desk.locator(".ant-select-item-option", new Page.LocatorOptions().setHasText("Repair")).click();
    assertThat(desk.getByLabel("What such jobs took")).containsText("such jobs");
  }

  private static Locator.FilterOptions having(String text) {
    return new Locator.FilterOptions().setHasText(text);
  }

  @Test
  void quotes_without_an_answer_come_up_with_what_was_won_and_lost() {
    sent();
    LocalDate sentOn = program.clock().instant().atZone(ZoneId.of("Europe/London")).toLocalDate();
    program.clock().set(sentOn.plusDays(8) + "T09:00");
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/quotes/follow-up");
    assertThat(desk.getByLabel("No answer")).containsText("Quote ");
    gate.at("20:00");
    assertThat(desk.getByLabel("Won", new Page.GetByLabelOptions().setExact(true)))
        .containsText("Repair");
    assertThat(desk.getByLabel("Why lost")).containsText("Too dear");
  }
}
