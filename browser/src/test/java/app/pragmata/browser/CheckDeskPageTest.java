package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
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
  void what_is_odd_stands_in_the_row_and_a_check_that_is_refused_says_why() {
    SwingGate gate = worked("dilys");
    gate.tap("unlisted-parts", Map.of("name", "Hinge M12", "quantity", "2"));
    gate.tap("missing-parts", Map.of("words", "a longer chain", "urgent", false));
    gate.tap("finish", Map.of("note", ""));
    Page desk = desk(gate);
    assertThat(desk.locator("h1")).hasText("one visit to check, 1 odd");
    assertThat(desk.locator("[role=option][data-visit]")).containsText("waits for a longer chain");
    assertThat(sheetOf(desk, gate)).isVisible();
    desk.getByRole(AriaRole.LISTBOX).press("Enter");
    assertThat(desk.locator("[role=status][aria-live]"))
        .containsText(
            "“Hinge M12” of job %d is on no price list"
                .formatted(gate.sheet().path("number").asLong()));
  }

  @Test
  void a_visit_that_came_to_nothing_asks_where_its_parts_are() {
    SwingGate gate = worked("dilys");
    gate.tap("parts", Map.of("partId", gate.part("PHO-02"), "quantity", "1"));
    gate.tap("finish", Map.of("note", ""));
    Page desk = desk(gate);
    button(desk, "Not this time…").click();
    desk.getByLabel("Why? A new visit without a time takes its place").fill("Locked out");
    Locator confirm =
        desk.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("did not happen"))
            .locator(".ant-btn-primary");
    confirm.click();
    assertThat(desk.locator("[role=status][aria-live]")).containsText("Say where they are");
    button(desk, "Not this time…").click();
    desk.getByLabel("back in the van").check();
    confirm.click();
    assertThat(desk.locator("[role=status][aria-live]")).containsText("Not this time");
    assertThat(desk.locator("[role=option][data-visit]")).hasCount(0);
  }

  @Test
  void time_on_the_wrong_name_is_put_right_where_it_is_checked() {
    SwingGate gate = worked("dilys");
    gate.tap("finish", Map.of("note", ""));
    Page desk = desk(gate);
    button(desk, "15:00 – 17:30").click();
    Locator form = desk.getByLabel("Correct time");
    Chromium.choose(desk, "Whose", "Piet", "Piet Osei");
    assertThat(form).containsText("Piet Osei");
    form.getByLabel("Reason").fill("That was Piet");
    form.getByText("Correct", new Locator.GetByTextOptions().setExact(true)).click();
    assertThat(form).isHidden();
    assertThat(sheetOf(desk, gate)).containsText("Piet Osei");
  }

  @Test
  void all_that_is_not_odd_is_checked_in_one_act_and_taken_back_in_one() {
    SwingGate gate = worked("dilys");
    gate.tap("finish", Map.of("note", ""));
    Page desk = desk(gate);
    // 3:00 of labour and 0:40 of drive with its miles.
    assertThat(desk.locator("[data-section=plain]"))
        .containsText("one visit with 3:00 of labour, ");
    button(desk, "Check this one").click();
    assertThat(desk.locator("h1")).hasText("Everything that was finished is checked");
    button(desk, "Take it back").click();
    assertThat(desk.locator("h1")).hasText("one visit to check");
    assertThat(desk.locator("[role=option][data-visit]")).hasCount(1);
  }

  @Test
  void visits_are_checked_one_after_the_other_by_keys_with_the_sheet_beside() {
    List<SwingGate> gates =
        Stream.of("dilys", "ngozi", "piet")
            .map(
                username -> {
                  SwingGate gate = worked(username);
                  gate.tap("finish", Map.of("note", ""));
                  return gate;
                })
            .toList();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/check-desk?from=" + gates.getFirst().day() + "&to=" + gates.getLast().day());
    assertThat(desk.locator("h1")).hasText("3 visits to check");
    Locator list = desk.getByRole(AriaRole.LISTBOX);
    list.press("ArrowDown");
    assertThat(sheetOf(desk, gates.get(1))).isVisible();
    list.press("Enter");
    assertThat(desk.locator("h1")).hasText("2 visits to check");
    assertThat(sheetOf(desk, gates.get(2))).isVisible();
    list.press("Enter");
    assertThat(desk.locator("h1")).hasText("one visit to check");
    assertThat(sheetOf(desk, gates.get(0))).isVisible();
    list.press("Enter");
    assertThat(desk.locator("h1")).hasText("Everything that was finished is checked");
  }

  private static Locator sheetOf(Page desk, SwingGate gate) {
    return desk.locator("[aria-label='Job %d']".formatted(gate.sheet().path("number").asLong()));
  }

  @Test
  void a_visit_that_was_for_nothing_is_said_to_be_not_this_time_beside_the_list() {
    SwingGate gate = worked("dilys");
    gate.tap("finish", Map.of("note", ""));
    Page desk = desk(gate);
    button(desk, "Not this time…").click();
    desk.getByLabel("Why?").fill("Nobody let them in");
    desk.locator("[role=group] .ant-btn-primary").click();
    assertThat(desk.locator("h1")).hasText("Everything that was finished is checked");
  }

  @Test
  void what_the_office_does_not_want_to_be_told_is_set_once_and_odd_no_more() {
    SwingGate gate = worked("dilys");
    gate.tap("missing-parts", Map.of("words", "a longer chain", "urgent", false));
    gate.tap("finish", Map.of("note", ""));
    Page owner = Chromium.desk(program, "orla");
    owner.navigate("/settings?find=check+desk");
    button(owner, "change check desk").click();
    Locator tick = owner.getByLabel("A part still wanted");
    tick.uncheck();
    owner.getByLabel("From so many minutes").first().fill("nine");
    button(owner, "Keep it").click();
    assertThat(owner.getByRole(AriaRole.DIALOG)).containsText("nine");
    owner.getByLabel("From so many minutes").first().fill("45");
    button(owner, "Keep it").click();
    assertThat(owner.getByText("Not told: a part still wanted.")).isVisible();
    Page desk = desk(gate);
    assertThat(desk.locator("h1")).hasText("one visit to check");
    button(owner, "change check desk").click();
    owner.getByLabel("A part still wanted").check();
    owner.getByLabel("From so many minutes").first().fill("");
    button(owner, "Keep it").click();
    assertThat(owner.getByText("Not told")).hasCount(0);
    assertThat(desk.locator("h1")).hasText("one visit to check, 1 odd");
  }
}
