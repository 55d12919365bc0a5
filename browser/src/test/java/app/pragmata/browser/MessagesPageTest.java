package app.pragmata.browser;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.APIResponse;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What site and office say to each other, on both their screens. */
class MessagesPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi");

  @BeforeEach
  void on_site() {
    gate.onSite();
    gate.at("15:30");
  }

  @AfterEach
  void over() {
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  private static void write(Page page, String to, String text) {
    page.getByLabel(to).fill(text);
    Locator send = messages(page).getByText("Send", new Locator.GetByTextOptions().setExact(true));
    send.click();
  }

  private static Locator messages(Page page) {
    return page.getByLabel("Messages", new Page.GetByLabelOptions().setExact(true));
  }

  @Test
  void a_question_from_site_is_answered_from_the_sheet_while_both_look_on() {
    Page phone = Chromium.phone(program, "ngozi");
    phone.navigate("/pocket/" + gate.visit());
    write(phone, "Write to the office", "Which code opens the yard?");
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    assertThat(messages(desk)).containsText("Which code opens the yard?");
    write(desk, "Write to the technicians", "4711, then turn left");
    assertThat(messages(phone)).containsText("4711, then turn left");
    assertThat(messages(desk)).containsText(", seen");
  }

  @Test
  void what_is_seen_while_the_sending_is_still_answered_stays_seen() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    messages(desk).getByText("Write to the technicians").click();
    desk.route(
        "**/api/jobs/*/messages",
        route -> {
          if (!route.request().method().equals("POST")) {
            route.resume();
            return;
          }
          APIResponse answer = route.fetch();
          gate.technician().post("/api/pocket/visits/" + gate.visit() + "/messages/seen", Map.of());
          route.fulfill(new Route.FulfillOptions().setResponse(answer));
        });
    write(desk, "Write to the technicians", "Ring at the side door");
    assertThat(desk.getByRole(AriaRole.STATUS).first()).containsText("It is on the phones");
    assertThat(messages(desk)).containsText(", seen");
  }

  @Test
  void what_the_office_has_written_is_marked_on_the_days_stop_until_it_is_opened() {
    gate.office()
        .post("/api/jobs/" + gate.job() + "/messages", Map.of("text", "They close at four"));
    Page phone = Chromium.phone(program, "ngozi");
    phone.navigate("/pocket");
    Locator stop = phone.locator("a.stop[href='/pocket/" + gate.visit() + "']");
    assertThat(stop).containsText("The office has written");
    stop.click();
    assertThat(messages(phone)).containsText("They close at four");
    phone.goBack();
    assertThat(stop).not().containsText("The office has written");
  }
}
