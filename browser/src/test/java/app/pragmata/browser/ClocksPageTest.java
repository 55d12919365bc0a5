package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import app.pragmata.server.Visitor;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.Geolocation;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** A technician's clocks under the thumb, and the week they make. */
class ClocksPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  @AfterEach
  void nobodysClockRunsOn() {
    gate.at("23:30");
    for (Visitor person : List.of(gate.technician(), Visitor.signedIn(program, "dilys"))) {
      person.post("/api/pocket/clock/stop", Map.of());
    }
  }

  private Page phone(String path) {
    Page phone = Chromium.phone(program, "imre");
    phone.navigate(path);
    return phone;
  }

  private static Locator press(Locator within, String name) {
    return within.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name));
  }

  private void withDilys() {
    gate.planned();
    gate.office()
        .put(
            "/api/visits/" + gate.visit() + "/plan",
            Map.of(
                "version", gate.visitVersion(),
                "technicianId", program.person("imre"),
                "companionIds", List.of(program.person("dilys")),
                "day", gate.day().toString(),
                "start", "15",
                "expected", "2h30",
                "overruled", SwingGate.ANYTHING));
  }

  @Test
  void a_clock_that_is_started_elsewhere_says_so_on_the_sheet() {
    gate.planned();
    gate.isAt(54.0, -1.2);
    gate.at("14:20");
    Page phone = phone("/pocket");
    phone.context().setGeolocation(new Geolocation(54.03, -1.2).setAccuracy(20));
    phone.context().grantPermissions(List.of("geolocation"));
    // A busy browser may lose the word that it is granted now.
    phone.reload();
    assertThat(phone.locator("main")).containsText("Where you are is noted");
    phone.locator("a.stop[href='/pocket/" + gate.visit() + "']").click();
    button(phone, "I am here already").click();
    button(phone, "Start work").click();
    assertThat(button(phone, "Finish")).isVisible();
    PhotosPageTest.take(phone, 1);
    assertThat(PhotosPageTest.photos(phone).getByAltText("Photo, Imre")).isVisible();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    assertThat(desk.locator("[data-time]")).containsText("started 2.1 miles from the site");
    assertThat(desk.locator("figure")).containsText("2.1 miles from the site");
    gate.isAt(null, null);
  }

  @Test
  void one_tap_starts_the_clocks_of_the_crew_and_leaves_out_whoever_is_unticked() {
    withDilys();
    gate.at("14:20");
    Page phone = phone("/pocket/" + gate.visit());
    button(phone, "Start driving").click();
    assertThat(phone.getByText("Dilys Marrant, on the clock: drive")).isVisible();
    gate.at("15:00");
    button(phone, "Arrive").click();
    phone.getByLabel("Miles driven").fill("18.4");
    button(phone, "I have arrived").click();
    phone.getByLabel("Dilys Marrant").uncheck();
    button(phone, "Start work").click();
    assertThat(button(phone, "Pause work")).isVisible();
    assertThat(phone.getByText("on the clock")).hasCount(0);
  }

  @Test
  void whoever_comes_along_taps_for_themselves_unless_they_tick_the_other_one() {
    withDilys();
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    gate.tap("start-work", Map.of());
    Page phone = Chromium.phone(program, "dilys");
    phone.navigate("/pocket/" + gate.visit());
    button(phone, "Start work").click();
    assertThat(button(phone, "Pause work")).isVisible();
    gate.at("15:30");
    button(phone, "I am done").click();
    assertThat(phone.getByText("Imre Vasko, on the clock: labour")).isVisible();
    assertThat(button(phone, "Go on working")).isVisible();
  }

  @Test
  void a_break_ends_the_work_and_going_on_ends_the_break() {
    gate.onSite();
    gate.at("15:40");
    Page phone = phone("/pocket");
    button(phone, "Break").click();
    assertThat(button(phone, "End the break")).isVisible();
    gate.at("16:00");
    phone.navigate("/pocket/" + gate.visit());
    assertThat(phone.getByText("On a break")).isVisible();
    button(phone, "Go on working").click();
    assertThat(phone.getByText("On a break")).hasCount(0);
    phone.getByText("Today's stops").click();
    assertThat(phone.getByText("On no visit today: 0:20 break.")).isVisible();
  }

  @Test
  void a_clock_forgotten_over_night_is_asked_about_and_the_next_morning_begins() {
    gate.onSite();
    gate.nextDayAt("06:40");
    Page phone = phone("/pocket");
    phone.getByLabel("When did you really stop").fill("16:50");
    button(phone, "Stop the clock then").click();
    assertThat(button(phone, "Yard")).isVisible();
    button(phone, "Yard").click();
    assertThat(button(phone, "End: Yard")).isVisible();
    button(phone, "End: Yard").click();
    assertThat(button(phone, "End: Yard")).isHidden();
  }

  @Test
  void work_elsewhere_asks_when_the_clock_before_ended() {
    gate.onSite();
    SwingGate other = gate.beside().planned();
    gate.at("16:00");
    other.tap("arrive", Map.of());
    other.tap("start-work", Map.of());
    Page phone = phone("/pocket");
    phone.getByLabel("When was it really?").fill("15:45");
    button(phone, "It ended at 15:45").click();
    assertThat(phone.getByLabel("When was it really?")).hasCount(0);
    phone.getByText("My week").click();
    assertThat(phone.getByText("the clock ran 15:00 – 16:00").first()).isVisible();
    other.tap("pause", Map.of());
  }

  @Test
  void a_week_is_put_right_signed_off_and_seen_by_the_office() {
    gate.onSite();
    gate.at("16:00");
    gate.tap("pause", Map.of());
    Page phone = phone("/pocket/week/" + gate.monday());
    Locator day = phone.locator("[data-day='" + gate.day() + "']");
    press(day, "Correct 15:00 – 16:00").click();
    day.getByLabel("To").fill("15:50");
    press(day, "Write it down").click();
    assertThat(day.getByRole(AriaRole.ALERT)).containsText("Enter a value");
    day.getByLabel("Why").fill("Tapped late");
    press(day, "Write it down").click();
    assertThat(phone.getByText("the clock ran 15:00 – 16:00").first()).isVisible();
    phone
        .getByRole(AriaRole.BUTTON)
        .filter(new Locator.FilterOptions().setHasText("ign this week off"))
        .or(button(phone, "Sign it off again"))
        .click();
    assertThat(phone.getByText("Signed off ").first()).isVisible();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/hours/" + gate.monday());
    Locator row = desk.locator("[data-person='" + program.person("imre") + "']");
    assertThat(row).not().containsText("not yet");
    gate.tap("start-work", Map.of());
    assertThat(row).containsText("on the clock");
  }
}
