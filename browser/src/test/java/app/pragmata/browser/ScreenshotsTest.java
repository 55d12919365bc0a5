package app.pragmata.browser;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.QUOTE_LINK;
import static app.pragmata.server.generated.Tables.VISIT;
import static com.microsoft.playwright.options.WaitForSelectorState.DETACHED;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Date;
import java.util.Map;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** The pictures in docs/screenshots, from the demo data on a fixed Tuesday morning. */
@Tag("screenshots")
class ScreenshotsTest {
  private static final String NOW = "2026-11-24T10:42";

  private final RunningPragmata program = RunningPragmata.at(NOW);

  @Test
  void the_office() {
    Page desk = Chromium.desk(program, "hester");
    long swingGate =
        program
            .database()
            .select(JOB.ID)
            .from(JOB)
            .where(JOB.TITLE.contains("ram replaced"))
            .fetchSingle(JOB.ID);
    desk.navigate("/worked/job-" + swingGate);
    desk.locator("[data-sheet='job-" + swingGate + "']").waitFor();
    take(desk, "worked");
    desk.navigate("/booked?sort=margin");
    desk.locator("[data-section=forecast]").scrollIntoViewIfNeeded();
    take(desk, "forecast");
    desk.navigate("/planner");
    desk.locator("[id^=row-waiting]").first().click();
    desk.locator("aside ol button").first().waitFor();
    take(desk, "planner");
    desk.navigate("/check-desk");
    desk.locator("[data-visit]").first().waitFor();
    take(desk, "check-desk");
    picture(desk, "/books/1050", "books");
    picture(desk, "/parts-wanted", "parts-wanted");
    picture(desk, "/rounds", "rounds");
    picture(desk, "/stores?which=below_zero", "stores");
    quoteEditor(desk);
    offer();
    frontDesk(desk);
    planner(desk);
  }

  /**
   * A quote with everything, on the desk and on the customer's phone, and what became of quotes.
   */
  private void offer() {
    long quote =
        program
            .database()
            .select(QUOTE.NUMBER)
            .from(QUOTE)
            .where(QUOTE.TITLE.eq("Sliding gate at the delivery yard"))
            .fetchSingle(QUOTE.NUMBER);
    // Whoever loaded the company may have taken it up already, for a stand-in of their own.
    program
        .database()
        .execute(
            """
            update mail set state = 'waiting', sent_at = null, next_attempt_at = queued_at
              where quote_id = (select id from quote where number = ?)
            """,
            quote);
    program.sendMail();
    String token =
        program
            .database()
            .select(QUOTE_LINK.TOKEN)
            .from(QUOTE_LINK)
            .join(QUOTE)
            .on(QUOTE.ID.eq(QUOTE_LINK.QUOTE_ID))
            .where(QUOTE.NUMBER.eq(quote))
            .fetchSingle(QUOTE_LINK.TOKEN);
    Page phone = Chromium.window(program, 390, 844);
    phone.navigate("/offer/" + token);
    phone.locator("main h1").waitFor();
    take(phone, "offer");
  }

  /** A job on its customer's phone: what was done, and what they and the office have written. */
  @Test
  void the_customers_page_of_a_job() {
    Visitor office = Visitor.signedIn(program, "hester");
    long job =
        program
            .database()
            .select(VISIT.JOB_ID)
            .from(VISIT)
            .where(VISIT.STATE.eq(VisitState.Code.FINISHED))
            .orderBy(VISIT.DAY.desc(), VISIT.ID)
            .limit(1)
            .fetchSingle(VISIT.JOB_ID);
    String address =
        office
            .post("/api/jobs/" + job + "/customer-page", Map.of())
            .json()
            .path("address")
            .asString();
    String token = address.substring(address.lastIndexOf('/') + 1);
    new Visitor(program)
        .post(
            "/api/job-pages/" + token + "/messages",
            Map.of("text", "Does it come with a second remote?"));
    office.post(
        "/api/jobs/" + job + "/messages",
        Map.of("text", "Yes, it is on the invoice as one of two.", "to", "customer"));
    Page phone = Chromium.window(program, 390, 1100);
    phone.navigate("/work/" + token);
    phone.locator("main h1").waitFor();
    take(phone, "customer-page");
  }

  private void frontDesk(Page desk) {
    desk.navigate("/customers/4?at=equipment-91");
    desk.locator("[data-equipment][data-on=true]").waitFor();
    desk.getByLabel("What is it about?").fill("Gate is dead since this morning");
    desk.keyboard().press("Enter");
    desk.locator("[data-outcomes] button:focus").waitFor();
    desk.keyboard().press("f");
    desk.locator("[data-talk] h3").waitFor();
    desk.keyboard().press("1");
    desk.locator("[data-talk] h3").getByText("Is the lamp").waitFor();
    take(desk, "fault-talk");
    picture(desk, "/customers/4", "customer");
  }

  /** A plan that is proposed. */
  private void planner(Page desk) {
    desk.navigate("/planner");
    Chromium.button(desk, "Propose a plan").click();
    desk.getByLabel("Plan until").fill("+6");
    Chromium.button(desk, "Search for").click();
    Chromium.button(desk, "Enough").click();
    Chromium.button(desk, "Search again").waitFor();
    desk.getByText("Searching.").waitFor(new Locator.WaitForOptions().setState(DETACHED));
    take(desk, "planner-proposal");
  }

  private void quoteEditor(Page desk) {
    desk.navigate("/quotes/new");
    Chromium.choose(desk, "Customer and site", "tansy", "Tansy Row Garages");
    desk.getByLabel("What is to be done").fill("Gate ram and photocell");
    Chromium.choose(desk, "Kind of job", "", "Repair");
    desk.getByLabel("Time of line 1").fill("2h30");
    for (String part : new String[] {"Gate ram 230 V", "Photocell pair"}) {
      Chromium.addPart(desk, part, part);
    }
    desk.locator("[data-section=totals]").getByText("535.50").first().waitFor();
    take(desk, "quote-editor");
  }

  @Test
  void the_pocket() {
    var running =
        program
            .database()
            .select(VISIT.ID, app.pragmata.server.generated.Tables.PERSON.USERNAME)
            .from(VISIT)
            .join(app.pragmata.server.generated.Tables.PERSON)
            .on(app.pragmata.server.generated.Tables.PERSON.ID.eq(VISIT.TECHNICIAN_ID))
            .where(VISIT.STATE.eq(VisitState.Code.ON_SITE))
            .orderBy(VISIT.ID)
            .fetch();
    assertThat(running).isNotEmpty();
    Page phone = Chromium.phone(program, running.getFirst().value2());
    phone.clock().setFixedTime(Date.from(Instant.parse(NOW + ":00Z")));
    picture(phone, "/pocket", "pocket-day");
    picture(phone, "/pocket/" + running.getFirst().value1(), "pocket-visit");
    Chromium.button(phone, "Part wanted").click();
    phone.getByLabel("Which part?").fill("photocell");
    Chromium.button(phone, "Photocell pair").waitFor();
    Chromium.button(phone, "Back").click();
    Chromium.button(phone, "Extra work").click();
    phone.getByLabel("What else is to be done").fill("Second photocell pair");
    phone.getByLabel("How long it takes").fill("1:00");
    Chromium.button(phone, "Price it").click();
    phone.getByLabel("Name of whoever agrees").fill("Mara Quill");
    ExtraWorkPageTest.draw(phone);
    take(phone, "pocket-extra-work");
    Chromium.button(phone, "Later").click();
    phone.context().setOffline(true);
    Chromium.button(phone, "Pause work").click();
    phone.getByLabel("Not sent yet").waitFor();
    take(phone, "pocket-without-network");
    phone.context().setOffline(false);
  }

  @Test
  void a_checklist() {
    var visit =
        program
            .database()
            .fetchSingle(
                """
                select v.id, p.username from visit v
                  join job j on j.id = v.job_id
                  join kind_of_job k on k.id = j.kind_of_job_id
                  join person p on p.id = v.technician_id
                where k.name = 'Safety check' and v.state = 'planned'
                order by v.day, v.start_time limit 1
                """);
    Page phone = Chromium.phone(program, visit.get(1, String.class));
    phone.clock().setFixedTime(Date.from(Instant.parse(NOW + ":00Z")));
    phone.navigate("/pocket/" + visit.get(0));
    Chromium.button(phone, "I am here already").click();
    Chromium.button(phone, "Start work").click();
    Chromium.button(phone, "Checklist 0 of 7").click();
    phone.getByLabel("Closing force at the edge, in N").fill("412");
    Chromium.button(phone, "Note: Closing force at the edge").click();
    phone.getByLabel("412 N is out of limits").fill("Limiter set anew");
    Chromium.button(phone, "Note it").click();
    Chromium.button(phone, "Yes: Stops and opens again").click();
    phone.getByText("2 of 7").first().waitFor();
    take(phone, "pocket-checklist");
  }

  private static void picture(Page page, String path, String name) {
    page.navigate(path);
    page.locator("article h1, article h2, main h1").first().waitFor();
    take(page, name);
  }

  private static void take(Page page, String name) {
    Chromium.quiet(page);
    page.screenshot(
        new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots/" + name + ".png")));
  }
}
