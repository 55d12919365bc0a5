package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static app.pragmata.browser.Chromium.choose;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import app.pragmata.server.laws.Laws;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.time.LocalDate;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/**
 * The nine steps from a quote to balanced books, as a person walks them, with the worked example's
 * figures on screen.
 */
class WholePathTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final LocalDate day = SwingGate.takeDay(program);
  private Page desk;
  private Page phone;

  private void at(String time) {
    program.clock().set(day + "T" + time);
  }

  @Test
  void one_quote_becomes_a_costed_job_a_posted_invoice_and_balanced_books() {
    at("08:30");
    program.keepInStock("RAM-230", 10, "212.40");
    program.keepInStock("PHO-02", 30, "14.25");
    desk = Chromium.desk(program, "hester");
    quote();
    makeJob();
    plan();
    booksAreInOrder();
    work();
    booksAreInOrder();
    correctAndCheck();
    booksAreInOrder();
    ladder();
    bill();
    booksAreInOrder();
    receive();
    booksAreInOrder();
    lookAtTheBooks();
  }

  private void quote() {
    desk.navigate("/quotes/new");
    choose(desk, "Customer and site", "tansy", "Tansy Row Garages");
    desk.getByLabel("What is to be done").fill("Gate ram and photocell");
    choose(desk, "Kind of job", "", "Repair");
    choose(desk, "Equipment", "", "FQ 19977");
    desk.getByLabel("Time of line 1").fill("2h30");
    desk.getByLabel("Miles of line 2").fill("15");
    addPart("ram 230", "Gate ram 230 V");
    addPart("photocell", "Photocell pair");
    assertThat(desk.locator("[data-section=totals]")).containsText("328.20");
    for (int line : List.of(3, 4)) {
      desk.getByLabel("Why line %d is not under warranty".formatted(line))
          .fill("The maker has not answered yet");
    }
    button(desk, "Add other").click();
    desk.getByLabel("Description of line 5").fill("Disposal of the old ram");
    desk.getByLabel("Price of line 5").fill("76.50505");
    assertThat(desk.locator("[data-line='4'] p")).containsText("at most four decimals");
    desk.getByLabel("Price of line 5").fill("76.50");
    Locator totals = desk.locator("[data-section=totals]");
    assertThat(totals).containsText("612.00");
    assertThat(totals).containsText("122.40");
    assertThat(totals).containsText("734.40");
    assertThat(totals).containsText("304.67");
    assertThat(totals).containsText("Margin 50.22 %");
    button(desk, "Save draft").click();
    desk.waitForURL(Pattern.compile("/quotes/\\d+"));
    button(desk, "Send").click();
    answer("Accepted…", "By whom?", "M. Okafor");
    assertThat(desk.getByText("accepted by M. Okafor")).isVisible();
  }

  private void addPart(String typed, String name) {
    Chromium.addPart(desk, typed, name);
  }

  private void answer(String label, String question, String text) {
    button(desk, label).click();
    desk.getByLabel(question).fill(text);
    desk.locator("[role=group] .ant-btn-primary").click();
    assertThat(desk.getByLabel(question)).isHidden();
  }

  private void makeJob() {
    button(desk, "Make the job").click();
    desk.waitForURL(Pattern.compile("/won/job-\\d+"));
    assertThat(desk.locator("article"))
        .containsText("2:30 labour, 0:30 drive, 1 Gate ram 230 V, 1 Photocell pair");
  }

  private void plan() {
    button(desk, "Plan this visit").click();
    choose(desk, "Technician", "", "Imre Vasko");
    desk.getByLabel("Day").fill("today");
    desk.getByLabel("Time", new Page.GetByLabelOptions().setExact(true)).fill("15");
    assertThat(desk.getByLabel("Expected")).hasValue("2:30");
    desk.locator("form[aria-label='Plan visit'] button[type=submit]").click();
    assertThat(desk.locator("article [data-visit]")).containsText("planned");
  }

  private void work() {
    phone = Chromium.phone(program, "imre");
    at("14:20");
    phone.navigate("/");
    phone.locator("a.stop", new Page.LocatorOptions().setHasText("Gate ram and photocell")).click();
    button(phone, "Start driving").click();
    assertThat(button(phone, "Arrive")).isVisible();
    at("15:00");
    button(phone, "Arrive").click();
    phone.getByLabel("Miles driven").fill("18.4");
    button(phone, "I have arrived").click();
    button(phone, "Start work").click();
    assertThat(button(phone, "Pause work")).isVisible();
    addVanPart("ram 230", "Gate ram 230 V", 1);
    addVanPart("photocell", "Photocell pair", 3);
    button(phone, "Done with parts").click();
    at("17:00");
    button(phone, "Pause work").click();
    button(phone, "Go on working").click();
    assertThat(button(phone, "Pause work")).isVisible();
    at("18:20");
    button(phone, "Finish").click();
    phone.getByLabel("What was done").fill("Ram changed, limits set.");
    button(phone, "Finish this visit").click();
    assertThat(phone.locator(".pocket")).containsText("3:20 worked, 0:40 driven");
  }

  private void addVanPart(String typed, String name, int quantity) {
    if (button(phone, "Add parts").isVisible()) {
      button(phone, "Add parts").click();
    }
    phone.getByLabel("Find a part").fill(typed);
    for (int i = 1; i < quantity; i++) {
      button(phone, "More " + name).click();
    }
    button(phone, "Add " + name).click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Used so far")))
        .containsText(quantity + " ");
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Used so far")))
        .containsText(name);
  }

  private void correctAndCheck() {
    desk.navigate("/worked");
    desk.locator("[role=option]", new Page.LocatorOptions().setHasText("Gate ram and photocell"))
        .click();
    correctTime("17:30 – 18:20", "17:35", "18:20", "overtime");
    correctTime("17:00 – 17:30", "17:00", "17:35", "normal");
    button(desk, "Photocell pair, correct it").click();
    Locator form = desk.getByLabel("Correct quantity", new Page.GetByLabelOptions().setExact(true));
    form.getByLabel("Photocell pair").first().fill("2");
    form.getByLabel("Reason").fill("One is still in the van");
    form.getByText("Correct", new Locator.GetByTextOptions().setExact(true)).click();
    assertThat(form).isHidden();
    desk.locator("[data-part]", new Page.LocatorOptions().setHasText("Photocell pair"))
        .getByText("not this part…")
        .click();
    desk.getByLabel("Why? The reason stays with the line.").fill("Not part of the ram");
    desk.locator("[role=group] .ant-btn-primary").click();
    assertThat(desk.locator("article")).containsText("not under warranty: Not part of the ram");
    desk.getByText("What happened").click();
    assertThat(desk.locator("article")).containsText("One is still in the van");
    String address = desk.url();
    button(desk, "Check, next").click();
    desk.waitForURL(now -> !now.equals(address));
    desk.navigate("/checked");
    desk.locator("[role=option]", new Page.LocatorOptions().setHasText("Gate ram and photocell"))
        .click();
    assertThat(desk.locator("article [data-visit]")).containsText("checked");
  }

  private void correctTime(String span, String from, String to, String rateClass) {
    button(desk, span).click();
    Locator form = desk.getByLabel("Correct time");
    form.getByLabel("From").fill(from);
    form.getByLabel("To", new Locator.GetByLabelOptions().setExact(true)).fill(to);
    form.getByLabel("Reason").fill("Customer says 17:35");
    form.getByLabel("Hours").click();
    desk.locator(".ant-select-item-option:visible", new Page.LocatorOptions().setHasText(rateClass))
        .click();
    form.getByText("Correct", new Locator.GetByTextOptions().setExact(true)).click();
    assertThat(form).isHidden();
    assertThat(button(desk, from + " – " + to)).isVisible();
  }

  private void ladder() {
    rung("labour", "60.27", "89.40", "29.13");
    rung("drive", "17.75", "23.06", "5.31");
    rung("parts", "226.65", "240.90", "14.25");
    Locator ladder = desk.locator("[data-section=ladder]");
    assertThat(ladder).containsText("hours +0:50, +20.09 · rate +9.04");
    assertThat(ladder).containsText("+0:10, +3.4 mi");
    assertThat(ladder).containsText("net 450.99 less cost 353.36");
    assertThat(ladder).containsText("97.63");
    assertThat(ladder).containsText("21.65 % of net");
  }

  private void rung(String category, String... figures) {
    for (String figure : figures) {
      assertThat(desk.locator("[data-rung=" + category + "]")).containsText(figure);
    }
  }

  private void bill() {
    assertThat(desk.locator("[data-basis=fixed_price]")).containsText("612.00");
    assertThat(desk.locator("[data-basis=time_and_parts]")).containsText("450.99");
    desk.locator("[data-basis=fixed_price]").click();
    assertThat(desk.locator("[data-section=invoice-lines]")).containsText("734.40");
    desk.locator("[data-basis=time_and_parts]").click();
    assertThat(desk.locator("[data-section=invoice-lines]")).containsText("541.19");
    assertThat(desk.locator("[data-section=invoice-lines]"))
        .containsText("318.60 less warranty 60 %, 191.16");
    Locator entry = desk.locator("[data-section=draft-entry]");
    for (String figure :
        List.of(
            "541.19", "224.75", "45.00", "181.24", "90.20", "89.40", "23.06", "240.90", "353.36",
            "894.55")) {
      assertThat(entry).containsText(figure);
    }
    String button = desk.locator("[aria-keyshortcuts='Control+Enter']").innerText();
    assertThat(button).matches("(?s)Post invoice \\d+.*");
    Locator row =
        desk.locator(
            "[role=option]", new Page.LocatorOptions().setHasText("Gate ram and photocell"));
    assertThat(row).hasCount(1);
    desk.keyboard().press("Control+Enter");
    assertThat(row).hasCount(0);
    desk.navigate("/billed");
    row.click();
    assertThat(desk.locator("[data-section=invoice-lines]"))
        .containsText(button.replaceAll("\\D", ""));
  }

  private void receive() {
    assertThat(amount()).hasValue("541.19");
    amount().fill("a lot");
    button(desk, "Record receipt").click();
    assertThat(desk.locator("form .fault")).containsText("“a lot”");
    assertThat(amount()).hasValue("a lot");
    amount().fill("541.19");
    button(desk, "Record receipt").click();
    assertThat(desk.locator("[data-section=receipts]")).containsText("Settled");
  }

  private Locator amount() {
    return desk.getByLabel("Amount", new Page.GetByLabelOptions().setExact(true));
  }

  private void lookAtTheBooks() {
    desk.navigate("/books/journal");
    assertThat(desk.locator("[data-entry]").first()).containsText("Money received");
    desk.locator("[data-account='1050'] a").first().click();
    assertThat(desk.locator("article h1")).hasText("1050 Work in progress");
    desk.locator("article table a", new Page.LocatorOptions().setHasText("invoice"))
        .first()
        .click();
    assertThat(desk.locator("article header [data-home]")).hasText("Gate ram and photocell");
  }

  private void booksAreInOrder() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }
}
