package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SettingsPageTest {
  private static final String ANNOUNCED = "[role=status][aria-live]";

  private final RunningPragmata program = RunningPragmata.forTests();
  private Page desk;

  @BeforeEach
  void atTheSettings() {
    program.clock().set("2026-11-24T10:00");
    desk = Chromium.desk(program, "orla");
    desk.navigate("/settings");
  }

  private Locator section(String name) {
    return desk.getByRole(
        AriaRole.REGION, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  private Locator dialog() {
    return desk.getByRole(AriaRole.DIALOG);
  }

  @ParameterizedTest
  @CsvSource({
    "iban, Company",
    "logo, Company",
    "pay rise, People",
    "overhead, Costs",
    "minimum, Charging",
    "night, Hourly rates",
    "bands, Markup on parts",
    "margin, Quotes",
    "default lines, Kinds of job",
    "emergency, Promised times",
    "reverse charge, VAT",
    "posts where, Accounts",
    "prefix, Numbers",
    "smtp port, Mail",
    "patience, Office",
    "sessions, Signed in"
  })
  void a_few_words_find_each_setting(String words, String section) {
    desk.getByLabel("Search the settings").fill(words);
    assertThat(section(section)).isVisible();
    assertThat(section("Your password")).isHidden();
  }

  @Test
  void the_one_field_leads_to_a_setting() {
    desk.navigate("/");
    desk.getByText("Find or do anything").click();
    desk.keyboard().type("number series");
    desk.getByText("a setting").first().waitFor();
    desk.keyboard().press("Enter");
    assertThat(section("Numbers")).isVisible();
    assertThat(section("Company")).isHidden();
  }

  @Test
  void words_by_which_nothing_is_set_say_so_and_lead_back() {
    desk.getByLabel("Search the settings").fill("zeppelin");
    button(desk, "see all settings").click();
    assertThat(section("Company")).isVisible();
  }

  @Test
  void a_pay_rise_stands_with_its_day_beside_the_wage_that_holds_until_it_is_taken_back() {
    desk.getByLabel("edit Tobias Quennell").click();
    dialog().getByLabel("Wage per hour, of a technician").fill("19.50");
    dialog().getByLabel("This wage holds from").fill("mon");
    button(desk, "Save").click();
    Locator row =
        section("People").locator("tr", new Locator.LocatorOptions().setHasText("Tobias"));
    assertThat(row).containsText("18.75");
    assertThat(row).containsText("19.50 from Mon 30 Nov");
    desk.getByLabel("take back the wage of Tobias Quennell from Mon 30 Nov").click();
    assertThat(row).not().containsText("19.50");
  }

  @Test
  void other_rates_stand_with_their_day_until_they_are_taken_back() {
    desk.getByLabel("change hourly rates").click();
    dialog().getByLabel("Holds from").fill("1 jan");
    dialog().getByLabel("normal: charged per hour").fill("61.50");
    button(desk, "Keep rates").click();
    assertThat(section("Hourly rates")).containsText("from Fri 1 Jan");
    assertThat(section("Hourly rates")).containsText("61.50");
    desk.getByLabel("take back hourly rates from Fri 1 Jan").click();
    assertThat(section("Hourly rates")).not().containsText("61.50");
  }

  @Test
  void terms_from_a_day_that_has_passed_are_refused_at_the_day_and_what_was_typed_stays() {
    desk.getByLabel("change costs").click();
    dialog().getByLabel("Holds from").fill("1 nov 2026");
    dialog().getByLabel("Overhead of an hour").fill("8.25");
    button(desk, "Keep costs").click();
    assertThat(dialog().locator(".fault")).containsText("Enter today or a later day");
    assertThat(dialog().getByLabel("Overhead of an hour")).hasValue("8.25");
    assertThat(dialog().getByLabel("Holds from")).isFocused();
  }

  @Test
  void an_account_with_a_wrong_check_sum_is_refused_at_its_field() {
    section("Company").getByLabel("IBAN").fill("FI21 1234 5600 0007 86");
    button(desk, "Keep the company's details").click();
    assertThat(section("Company").locator(".fault")).containsText("check digits");
    assertThat(section("Company").getByLabel("IBAN")).isFocused();
    section("Company").getByLabel("IBAN").fill("");
    button(desk, "Keep the company's details").click();
    assertThat(desk.locator(ANNOUNCED).first()).containsText("Kept.");
  }

  @Test
  void a_test_message_goes_to_whoever_is_named() {
    section("Mail").getByLabel("Send a test message to").fill("maud@ferrow.example");
    button(desk, "Send a test message").click();
    assertThat(desk.locator(ANNOUNCED).first())
        .containsText("A test message went to maud@ferrow.example");
  }

  @Test
  void somebody_sees_where_they_are_signed_in_and_signs_out_there() {
    var elsewhere = new Visitor(program);
    elsewhere.post("/api/sign-in", Map.of("username", "orla", "password", "ostmere"));
    desk.navigate("/settings?find=sessions");
    section("Signed in").getByText("sign out there").first().waitFor();
    button(desk, "sign out everywhere else").click();
    assertThat(section("Signed in").getByText("sign out there")).hasCount(0);
    org.assertj.core.api.Assertions.assertThat(elsewhere.get("/api/money-line").status())
        .isEqualTo(401);
  }
}
