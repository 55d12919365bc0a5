package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Page;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** The office checks what was worked, before it goes home. */
class CheckDeskPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  private SwingGate worked(String username) {
    SwingGate gate = new SwingGate(program, username).onSite();
    gate.at("18:00");
    return gate;
  }

  private Page desk(SwingGate gate) {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/check-desk?from=" + gate.day() + "&to=" + gate.day());
    return desk;
  }

  @Test
  void what_is_odd_stands_in_the_row_and_the_visit_is_checked_there() {
    SwingGate gate = worked("dilys");
    gate.tap("unlisted-parts", Map.of("name", "Hinge M12", "quantity", "2"));
    gate.tap("missing-parts", Map.of("words", "a longer chain", "urgent", false));
    gate.tap("finish", Map.of("note", ""));
    Page desk = desk(gate);
    assertThat(desk.locator("main h1")).hasText("one visit to check, 1 of them odd");
    assertThat(desk.locator("[data-visit]")).containsText("waits for a longer chain");
    button(desk, "Check Dilys Marrant").click();
    assertThat(desk.locator("[role=status][aria-live]"))
        .containsText(
            "“Hinge M12” of job %d is on no price list"
                .formatted(gate.sheet().path("number").asLong()));
  }

  @Test
  void all_that_is_not_odd_is_checked_in_one_act_and_taken_back_in_one() {
    SwingGate gate = worked("dilys");
    gate.tap("finish", Map.of("note", ""));
    Page desk = desk(gate);
    assertThat(desk.getByText("one visit with 3:00 of labour")).isVisible();
    button(desk, "Check this one").click();
    assertThat(desk.locator("main h1")).hasText("Everything that was finished is checked");
    button(desk, "Take it back").click();
    assertThat(desk.locator("main h1")).hasText("one visit to check");
    assertThat(desk.locator("[data-visit]")).hasCount(1);
  }
}
