package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** A job that will lose money is seen while it still runs. */
class ForecastPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  /** Twelve hours are planned at what was promised to take two and a half. */
  private SwingGate losing() {
    SwingGate gate = new SwingGate(program, "piet").agree("promise", "fixed_price").waiting();
    gate.office()
        .put(
            "/api/visits/" + gate.visit() + "/plan",
            Map.of(
                "version",
                gate.visitVersion(),
                "technicianId",
                program.person("piet"),
                "day",
                gate.day().toString(),
                "start",
                "06:30",
                "expected",
                "12h",
                "overruled",
                SwingGate.ANYTHING));
    return gate;
  }

  @Test
  void the_sheet_says_what_it_keeps_at_its_end_why_and_what_can_be_done() {
    SwingGate gate = losing();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    Locator end = desk.locator("[data-section=forecast]");
    assertThat(end).containsText("below our floor of 25.00 %");
    assertThat(end).containsText("9:30 longer than quoted");
    assertThat(end).containsText("Quote what was not promised as extra work");
    end.locator("summary").click();
    assertThat(end.locator("tr").filter(new Locator.FilterOptions().setHasText("Piet Osei")))
        .hasCount(3);
    assertThat(desk.locator("[data-section=ladder]")).containsText("at its end");
  }

  @Test
  void it_is_marked_on_its_list_and_on_the_planner() {
    SwingGate gate = losing();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/booked?filter=" + gate.sheet().path("number").asLong());
    assertThat(desk.locator("[data-row='job-" + gate.job() + "']"))
        .hasAttribute("aria-label", Pattern.compile(".*below our floor.*"));
    assertThat(desk.locator("[data-stage=booked]")).containsText("low");
    desk.navigate("/planner/" + gate.day());
    assertThat(desk.locator("#visit-" + gate.visit())).containsText("below floor");
  }

  @Test
  void the_phone_says_how_much_of_the_promised_time_is_left_and_no_money() {
    SwingGate gate = new SwingGate(program, "piet").onSite();
    gate.at("16:10");
    gate.tap("pause", Map.of());
    Page phone = Chromium.phone(program, "piet");
    phone.navigate("/pocket/" + gate.visit());
    assertThat(phone.getByText("2:30, 1:20 left")).isVisible();
    button(phone, "Go on working").waitFor();
    gate.at("18:00");
    gate.tap("finish", Map.of("note", ""));
  }
}
