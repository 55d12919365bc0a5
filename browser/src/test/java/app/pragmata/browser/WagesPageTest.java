package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** The hours of a week go out for the wages, and what is put right afterwards as a difference. */
class WagesPageTest {
  private static final int GONE_OUT = 11;

  private final RunningPragmata program = RunningPragmata.forTests();

  /** A visit on the first day of a week in which no other test works. */
  private SwingGate ofItsOwnWeek() {
    LocalDate before = SwingGate.takeDay(program);
    while (before.getDayOfWeek() != DayOfWeek.FRIDAY) {
      before = SwingGate.takeDay(program);
    }
    return new SwingGate(program, "tobias");
  }

  private static void sendOut(Page desk) {
    button(desk, "Send out…").click();
    desk.locator("[role=group]")
        .getByText("Send out", new Locator.GetByTextOptions().setExact(true))
        .click();
  }

  @Test
  void what_went_out_is_kept_and_a_time_put_right_goes_out_as_what_it_differs_by() {
    SwingGate gate = ofItsOwnWeek().checked();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/hours/" + gate.monday());
    Locator goneOut =
        desk.locator("[data-person='" + program.person("tobias") + "'] td").nth(GONE_OUT);
    Locator due = desk.locator("[data-due]");
    assertThat(due).containsText("Everything of this week is checked.");
    sendOut(desk);
    assertThat(goneOut).hasText("4:00");
    assertThat(due).containsText("Nothing is to go out now.");
    assertThat(desk.locator("[data-run]").first().getByText("CSV")).isVisible();
    endEarlier(gate);
    assertThat(due).containsText("To go out: −0:30 of one person.");
    sendOut(desk);
    assertThat(goneOut).hasText("3:30");
  }

  private static void endEarlier(SwingGate gate) {
    String visit = "/api/visits/" + gate.visit();
    gate.check(gate.office().post(visit + "/reopen", Map.of("version", gate.visitVersion())));
    gate.check(
        gate.correct(
            gate.sheet().path("visits").path(0).path("times").path(2),
            Map.of(
                "from", "17:35",
                "to", "17:50",
                "rateClass", "overtime",
                "reason", "Left earlier")));
    gate.check(gate.office().post(visit + "/check", Map.of("version", gate.visitVersion())));
  }

  @Test
  void whose_time_came_in_late_is_said_in_their_row_with_the_way_to_the_answer() {
    SwingGate gate = ofItsOwnWeek().checked();
    gate.at("19:00");
    gate.late("start_work", gate.day().atTime(18, 30), Map.of());
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/hours/" + gate.monday());
    desk.locator("[data-person='" + program.person("tobias") + "']")
        .getByText("time came in late, not answered")
        .click();
    desk.locator("[data-late='" + gate.visit() + "']").getByText("It does not count").click();
    desk.getByLabel("Why; they read it on their phone").fill("He was at home by then");
    button(desk, "Tell them so").click();
    assertThat(desk.locator("[data-late='" + gate.visit() + "']")).hasCount(0);
    desk.navigate("/hours/" + gate.monday());
    assertThat(desk.locator("[data-due]")).containsText("Everything of this week is checked.");
  }
}
