package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static app.pragmata.browser.Chromium.choose;
import static app.pragmata.server.generated.Tables.SITE;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.max;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What comes again: agreed on the customer's page, opened month by month, and let go on. */
class RoundsPageTest {
  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.UK);

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi");
  private final Visitor office = gate.office();

  /** The only site of its customer, which need not be chosen. */
  private final long siteId =
      program
          .database()
          .select(max(SITE.ID))
          .from(SITE)
          .groupBy(SITE.CUSTOMER_ID)
          .having(count().eq(1))
          .orderBy(max(SITE.ID))
          .limit(1)
          .fetchSingle()
          .value1();

  private final long customerId =
      program
          .database()
          .select(SITE.CUSTOMER_ID)
          .from(SITE)
          .where(SITE.ID.eq(siteId))
          .fetchSingle(SITE.CUSTOMER_ID);

  /** The address of an agreement by which the gate is served on this day of each month. */
  private String agreed(String title) {
    long agreement =
        office
            .post(
                "/api/customers/" + customerId + "/agreements",
                Map.of("version", 0, "name", title, "from", "today"))
            .json()
            .path("id")
            .asLong();
    office.post(
        "/api/agreements/" + agreement + "/rounds",
        Map.of(
            "version",
            0,
            "siteId",
            siteId,
            "kindOfJobId",
            office.get("/api/choices").json().path("kindsOfJob").path(0).path("id").asLong(),
            "title",
            title,
            "expected",
            "1:00",
            "price",
            "95",
            "withParts",
            false,
            "repeats",
            "every month on the " + gate.day().getDayOfMonth()));
    return "/agreements/" + agreement;
  }

  @Test
  void what_comes_again_is_agreed_in_words_and_its_next_days_are_seen_before() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/customers/" + customerId);
    button(desk, "New agreement").click();
    desk.getByLabel("What it is called").fill("Care of all doors");
    desk.getByRole(AriaRole.FORM)
        .getByText("Agree", new Locator.GetByTextOptions().setExact(true))
        .click();
    button(desk, "Add a round").click();
    desk.getByLabel("What is done").fill("Grease and adjust");
    desk.getByLabel("How often").fill("fortnightly on sundae");
    assertThat(desk.locator("[data-reading]")).containsText("“sundae” is no word for this");
    desk.getByLabel("How often").fill("every month on the 31st");
    LocalDate end = gate.day().withDayOfMonth(gate.day().lengthOfMonth());
    assertThat(desk.locator("[data-reading]"))
        .containsText("every month on the last day: " + DAY.format(end));
    choose(desk, "Kind of job", "Serv", "Service");
    desk.getByLabel("How long").fill("2h");
    desk.getByLabel("Price each time").fill("140");
    button(desk, "Add it").click();
    assertThat(desk.locator("[data-round]")).containsText("every month on the last day");
    assertThat(desk.locator("[data-round]")).containsText("140.00 each time");
    assertThat(desk.locator("[data-due]").first()).containsText("no job yet");
  }

  @Test
  void enter_opens_the_job_of_the_day_that_is_on() {
    agreed("Check of the chains");
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/rounds");
    Locator row =
        desk.locator("[role=option]", new Page.LocatorOptions().setHasText("Check of the chains"));
    row.first().click();
    desk.getByRole(AriaRole.LISTBOX).press("Enter");
    assertThat(row.first()).containsText("no time yet");
    assertThat(desk.locator("[role=status][aria-live]")).containsText("One job waits for a time.");
  }

  @Test
  void a_visit_that_does_not_happen_says_before_to_which_day_its_round_goes_on() {
    String address = agreed("Oil the rails");
    long agreement = Long.parseLong(address.replaceAll("\\D", ""));
    long round = office.get("/api" + address).json().path("rounds").path(0).path("id").asLong();
    office.post(
        "/api/rounds/make",
        Map.of("dates", List.of(Map.of("roundId", round, "dueOn", gate.day().toString()))));
    gate.with(
            office
                .get("/api/agreements/" + agreement + "/dates")
                .json()
                .path(0)
                .path("jobId")
                .asLong())
        .planned();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    String next = DAY.format(gate.day().plusMonths(1));
    assertThat(desk.locator("[data-section=round]")).containsText("next " + next);
    button(desk, "Not this time…").click();
    desk.getByLabel("the round goes on to " + next).fill("Site was flooded");
    desk.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("did not happen"))
        .locator(".ant-btn-primary")
        .click();
    assertThat(desk.locator("[data-section=round]"))
        .containsText("not this time: Site was flooded");
    desk.navigate(address);
    assertThat(desk.locator("[data-due='" + gate.day() + "']"))
        .containsText("not this time: Site was flooded");
    assertThat(desk.locator("[data-due='" + gate.day().plusMonths(1) + "']"))
        .containsText("no job yet");
  }
}
