package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import app.pragmata.server.Visitor;
import app.pragmata.server.laws.Laws;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A technician works on while there is no network, and everything arrives once. */
class NoNetworkTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");
  private final Line line = new Line(program.address());
  private final BrowserContext context = Chromium.phoneOver(program, line.address(), "imre");

  @AfterEach
  void nothingRunsOnAndNothingWaits() throws IOException {
    context.close();
    line.close();
    gate.at("23:30");
    // A test may have ended everybody's sessions.
    Visitor.signedIn(program, "imre").post("/api/pocket/clock/stop", Map.of());
    Visitor office = Visitor.signedIn(program, "hester");
    for (JsonNode late : office.get("/api/late-acts").json()) {
      office.post(
          "/api/late-acts/refuse",
          Map.of(
              "lateActIds",
              late.path("taps").valueStream().map(tap -> tap.path("id").asLong()).toList(),
              "reason",
              "Tidied up"));
    }
  }

  /** The visit on a phone that has all it needs along, a morning after its clock was set. */
  private Page phone() {
    Page phone = today();
    phone.navigate("/pocket/" + gate.visit());
    assertThat(button(phone, "Start driving")).isVisible();
    Chromium.quiet(phone);
    return phone;
  }

  private Page today() {
    Page phone = context.newPage();
    phone.navigate("/pocket");
    assertThat(phone.locator("h1")).containsText("today");
    phone.evaluate("() => navigator.serviceWorker.ready.then(() => true)");
    return phone;
  }

  private void cut() {
    line.cut();
    context.setOffline(true);
  }

  private void mend() {
    context.setOffline(false);
    line.mend();
  }

  /** The line is mended and what waits is sent at once, unless the phone has noticed by itself. */
  private void mend(Page phone) {
    mend();
    phone.evaluate(
        """
        () => [...document.querySelectorAll("button")]
          .find((button) => button.textContent === "Send now")?.click()
        """);
  }

  private static Locator waiting(Page phone) {
    return phone.getByLabel("Not sent yet");
  }

  /** The phone's clock goes on by so many minutes while somebody drives or works. */
  private void after(int minutes) {
    context.clock().fastForward(minutes * 60_000L);
  }

  private List<String> times() {
    return gate.sheet()
        .path("visits")
        .path(0)
        .path("times")
        .valueStream()
        .map(
            time ->
                "%s %s %d"
                    .formatted(
                        time.path("kind").asString(),
                        time.path("from").asString().substring(0, 5),
                        time.path("minutes").asInt()))
        .toList();
  }

  @Test
  void a_clock_is_put_right_without_a_network_and_the_week_says_that_it_is_not_sent() {
    gate.onSite();
    gate.at("16:00");
    gate.tap("pause", Map.of());
    Page phone = today();
    phone.getByText("My week").click();
    Locator day = phone.locator("[data-day='" + gate.day() + "']");
    assertThat(day).containsText("15:00 – 16:00");
    cut();
    day.getByLabel("Correct 15:00 – 16:00").click();
    day.getByLabel("To").fill("15:50");
    day.getByLabel("Why").fill("Tapped late");
    day.getByText("Write it down").click();
    assertThat(day).containsText("put right: 15:00 – 15:50, not sent yet");
    assertThat(day.getByLabel("Correct 15:00 – 16:00")).isHidden();
    phone.reload();
    assertThat(day).containsText("put right: 15:00 – 15:50, not sent yet");
    mend(phone);
    assertThat(day).containsText("the clock ran 15:00 – 16:00");
    assertThat(day).not().containsText("not sent yet");
    assertThat(times()).contains("labour 15:00 50");
  }

  @Test
  void cash_is_taken_without_a_network() {
    gate.onSite();
    Page phone = today();
    phone.navigate("/pocket/" + gate.visit());
    button(phone, "Pause").click();
    assertThat(button(phone, "Pause")).isHidden();
    cut();
    button(phone, "Take money").click();
    phone.getByLabel("How much do they pay").fill("120");
    button(phone, "It is cash").click();
    Locator paid =
        phone.locator(".fact").filter(new Locator.FilterOptions().setHasText("Paid so far"));
    assertThat(paid).containsText("120 cash, not sent yet");
    mend(phone);
    assertThat(paid).containsText("receipt");
    assertThat(paid).not().containsText("not sent yet");
    assertThat(gate.sheet().path("receipts").path(0).path("amountMinor").asLong())
        .isEqualTo(120_00);
  }

  @Test
  void a_week_is_signed_off_without_a_network() {
    Page phone = today();
    // A week in which no other test leaves a clock in doubt.
    phone.navigate("/pocket/week/" + gate.monday().minusWeeks(52));
    assertThat(button(phone, "Sign this week off")).isVisible();
    cut();
    button(phone, "Sign this week off").click();
    Locator week = phone.locator("main");
    assertThat(week).containsText("Signed off on this phone, not sent yet.");
    mend(phone);
    assertThat(week).not().containsText("not sent yet");
    assertThat(button(phone, "Sign this week off")).isHidden();
  }

  @Test
  void an_afternoon_without_a_network_and_with_the_page_reloaded_stands_on_the_job_to_the_minute() {
    gate.planned();
    context.clock().install();
    Page phone = phone();
    cut();
    button(phone, "Start driving").click();
    assertThat(waiting(phone)).containsText("1 tap waits");
    after(40);
    phone.reload();
    button(phone, "Arrive").click();
    phone.getByLabel("Miles driven").fill("18.4");
    button(phone, "I have arrived").click();
    button(phone, "Start work").click();
    after(20);
    button(phone, "Add parts").click();
    phone.getByLabel("Find a part").fill("ram");
    button(phone, "Add Gate ram 230 V").click();
    button(phone, "Done with parts").click();
    assertThat(phone.locator(".fact", new Page.LocatorOptions().setHasText("Used so far")))
        .containsText("not sent yet");
    phone.reload();
    after(40);
    button(phone, "Finish").click();
    phone.getByLabel("What was done").fill("Ram changed");
    button(phone, "Finish this visit").click();
    assertThat(waiting(phone)).containsText("5 taps wait");
    assertThat(phone.locator(".pocket")).containsText("1:00 worked");
    gate.at("18:00:59");
    mend(phone);
    assertThat(waiting(phone)).isHidden();
    // The page may show nothing for a moment while it finds the network again.
    RunningPragmata.until(() -> times().size() == 3);
    assertThat(times()).containsExactly("drive 16:20 40", "labour 17:00 30", "labour 17:30 30");
    assertThat(gate.sheet().path("visits").path(0).path("note").asString())
        .isEqualTo("Ram changed");
    assertThat(gate.sheet().path("visits").path(0).path("parts")).hasSize(1);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void what_the_server_has_done_and_the_phone_never_heard_of_is_done_once() {
    gate.planned();
    gate.at("14:20");
    Page phone = phone();
    line.swallowAnswers();
    button(phone, "Start driving").click();
    assertThat(waiting(phone)).containsText("1 tap waits");
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("driving");
    phone.close();
    line.mend();
    Page again = context.newPage();
    again.navigate("/pocket/" + gate.visit());
    assertThat(button(again, "Arrive")).isVisible();
    assertThat(waiting(again)).isHidden();
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "8"));
    assertThat(times()).containsExactly("drive 14:20 40");
  }

  @Test
  void what_hangs_on_a_line_that_is_gone_is_sent_again_as_soon_as_the_phone_has_another() {
    gate.planned();
    gate.at("14:20");
    Page phone = phone();
    line.swallowAnswers();
    phone.waitForRequest("**/late-acts", () -> button(phone, "Start driving").click());
    line.hearAgain();
    phone.evaluate("() => window.dispatchEvent(new Event('online'))");
    // By itself it would hang for twenty seconds.
    assertThat(waiting(phone)).isHidden(new LocatorAssertions.IsHiddenOptions().setTimeout(10_000));
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "8"));
    assertThat(times()).containsExactly("drive 14:20 40");
  }

  @Test
  void a_page_that_is_killed_between_the_tap_and_its_answer_loses_nothing() {
    gate.planned();
    gate.at("14:20");
    Page phone = phone();
    line.swallowAnswers();
    phone.waitForRequest("**/drive", () -> button(phone, "Start driving").click());
    phone.close();
    line.mend();
    Page again = context.newPage();
    again.navigate("/pocket/" + gate.visit());
    assertThat(button(again, "Arrive")).isVisible();
    assertThat(waiting(again)).isHidden();
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("driving");
  }

  @Test
  void what_was_called_off_meanwhile_is_put_before_the_office_and_counts_if_it_says_so() {
    gate.planned();
    context.clock().install();
    Page phone = phone();
    cut();
    button(phone, "I am here already").click();
    button(phone, "Start work").click();
    after(45);
    button(phone, "Pause work").click();
    gate.at("16:00");
    gate.office()
        .post(
            "/api/visits/" + gate.visit() + "/call-off",
            Map.of("version", gate.visitVersion(), "reason", "Customer rang"));
    mend(phone);
    assertThat(waiting(phone)).isHidden();
    phone.navigate("/pocket");
    assertThat(phone.locator(".pocket")).containsText("The office is asked whether it counts.");

    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/");
    desk.getByText("Came in late 1").click();
    Locator late = desk.locator("[data-late]");
    assertThat(late).containsText("The visit is called off by now.");
    assertThat(late).containsText("labour from");
    button(desk, "It counts: write it down").click();
    assertThat(desk.locator("article")).containsText("Nothing waits.");
    assertThat(
            gate.sheet().path("visits").valueStream().map(visit -> visit.path("state").asString()))
        .containsExactlyInAnyOrder("called_off", "finished");
    assertThat(phone.locator(".pocket")).containsText("The office has written it down.");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void what_the_office_moved_meanwhile_is_said_until_it_was_seen() {
    gate.planned();
    Page phone = phone();
    cut();
    assertThat(gate.planFor("imre", "16:15").status()).isEqualTo(200);
    mend();
    phone.navigate("/pocket");
    Locator changed = phone.getByLabel("Changed by the office");
    assertThat(changed).containsText("Moved: 16:15 instead of 15:00");
    phone.reload();
    assertThat(changed).containsText("Moved: 16:15");
    button(phone, "I have seen it").click();
    assertThat(changed).hasCount(0);
    phone.reload();
    assertThat(phone.locator("a[href='/pocket/" + gate.visit() + "']")).containsText("16:15");
    assertThat(changed).hasCount(0);
  }

  @Test
  void what_the_office_changed_of_a_visit_is_said_at_it_until_it_was_seen() {
    gate.planned();
    Page phone = phone();
    cut();
    Visitor.Answer planned =
        gate.office()
            .put(
                "/api/visits/" + gate.visit() + "/plan",
                Map.of(
                    "version",
                    gate.visitVersion(),
                    "technicianId",
                    program.person("imre"),
                    "day",
                    gate.day().toString(),
                    "start",
                    "15",
                    "expected",
                    "3:15",
                    "overruled",
                    SwingGate.ANYTHING));
    assertThat(planned.status()).as(planned.text()).isEqualTo(200);
    mend();
    phone.reload();
    Locator changed = phone.getByLabel("Changed by the office");
    assertThat(changed).containsText("Expected: 3:15 · before: 2:30");
    phone.getByText("Today's stops").click();
    Locator stop = phone.locator("a[href='/pocket/" + gate.visit() + "']");
    assertThat(stop).containsText("Changed by the office");
    stop.click();
    button(phone, "I have seen it").click();
    assertThat(changed).hasCount(0);
    phone.getByText("Today's stops").click();
    assertThat(stop).not().containsText("Changed by the office");
  }

  @Test
  void what_is_along_stays_for_hours_also_where_nobody_has_looked_at_it() {
    gate.planned();
    context.clock().install();
    Page phone = context.newPage();
    phone.navigate("/pocket");
    phone.locator("a[href='/pocket/" + gate.visit() + "']").waitFor();
    phone.evaluate("() => navigator.serviceWorker.ready.then(() => true)");
    Chromium.quiet(phone);
    after(1);
    cut();
    phone.reload();
    after(180);
    phone.locator("a[href='/pocket/" + gate.visit() + "']").click();
    assertThat(button(phone, "Start driving")).isVisible();
  }

  @Test
  void a_line_that_is_clocked_and_ticked_off_without_a_network_has_its_minutes() {
    gate.onSite();
    gate.changeKind("clockPerLine", true);
    gate.at("15:30");
    context.clock().install();
    Page phone = context.newPage();
    phone.navigate("/pocket/" + gate.visit());
    Locator line = phone.locator("button", new Page.LocatorOptions().setHasText("Change the ram"));
    assertThat(line).containsText("tap to start");
    Chromium.quiet(phone);
    cut();
    line.click();
    assertThat(line).containsText("tap when it is done");
    after(40);
    line.click();
    assertThat(line).containsText(Pattern.compile("done.*0:4[01] of 2:30"));
    gate.at("16:20");
    mend(phone);
    assertThat(waiting(phone)).isHidden();
    assertThat(line).containsText(Pattern.compile("done, Imre Vasko.*0:4[01] of 2:30"));
    gate.changeKind("clockPerLine", false);
  }

  @Test
  void nobody_signs_out_over_what_is_not_sent_without_being_told() {
    gate.planned();
    Page phone = phone();
    cut();
    button(phone, "Start driving").click();
    assertThat(waiting(phone)).containsText("1 tap waits");
    phone.getByText("Today's stops").click();
    button(phone, "Imre Vasko, sign out").click();
    assertThat(phone.getByText("1 not sent.")).isVisible();
    button(phone, "Stay").click();
    gate.at("15:00");
    mend(phone);
    assertThat(waiting(phone)).isHidden();
    assertThat(gate.sheet().path("visits").path(0).path("state").asString()).isEqualTo("driving");
  }

  @Test
  void whoever_signs_out_leaves_nothing_along_for_whoever_comes_next() {
    gate.planned();
    Page phone = phone();
    phone.getByText("Today's stops").click();
    button(phone, "Imre Vasko, sign out").click();
    assertThat(phone.getByLabel("Name")).isVisible();
    phone.reload();
    assertThat(phone.getByLabel("Name")).isVisible();
    assertThat(phone.getByText("Your session has ended")).hasCount(0);
    assertThat(phone.locator("a.stop")).hasCount(0);
  }

  @Test
  void a_session_that_ended_meanwhile_is_taken_up_again_and_nothing_is_lost() {
    gate.planned();
    gate.at("14:20");
    Page phone = phone();
    cut();
    button(phone, "Start driving").click();
    assertThat(waiting(phone)).containsText("1 tap waits");
    program.database().execute("delete from spring_session");
    mend();
    Locator dialog = phone.getByRole(com.microsoft.playwright.options.AriaRole.DIALOG);
    assertThat(dialog).containsText("Your session has ended");
    dialog.getByLabel("Name").fill("imre");
    dialog.getByLabel("Password", new Locator.GetByLabelOptions().setExact(true)).fill("ostmere");
    dialog.getByText("Sign in", new Locator.GetByTextOptions().setExact(true)).last().click();
    assertThat(waiting(phone)).isHidden();
    Visitor office = Visitor.signedIn(program, "hester");
    assertThat(
            office
                .get("/api/jobs/" + gate.job())
                .json()
                .path("visits")
                .path(0)
                .path("state")
                .asString())
        .isEqualTo("driving");
  }
}
