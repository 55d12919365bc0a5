package app.pragmata.browser;

import static app.pragmata.browser.Chromium.button;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SwingGate;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Mouse;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.BoundingBox;
import java.util.HashMap;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/**
 * The day on ribbons: a visit gets its time, is moved by hand and by keys, and somebody is away.
 */
class PlannerPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "tobias");

  private Page open() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/planner/" + gate.day());
    desk.getByLabel("Tobias Quennell’s day").waitFor();
    return desk;
  }

  private Locator block(Page desk) {
    return desk.locator("#visit-" + gate.visit());
  }

  private String start() {
    return gate.sheet().path("visits").get(0).path("start").asString();
  }

  private static Locator said(Page desk) {
    return desk.locator("[role=status][aria-live]");
  }

  @Test
  void a_visit_that_waits_gets_one_of_the_best_times_by_a_figure() {
    gate.waiting();
    Page desk = open();
    desk.locator("#row-waiting-" + gate.visit()).click();
    desk.getByText("Best times for J").waitFor();
    desk.locator("aside ol button").first().waitFor();
    desk.keyboard().press("1");
    assertThat(said(desk)).containsText("Planned: ");
    assertThat(block(desk)).isVisible();
    assertThat(gate.sheet().path("visits").get(0).path("state").asString()).isEqualTo("planned");
  }

  @Test
  void a_part_that_has_come_is_said_with_one_press_and_its_visits_can_be_shown_alone() {
    gate.waiting();
    var needs = new HashMap<String, Object>();
    needs.put("version", gate.visitVersion());
    needs.put("expected", "2:30");
    needs.put("part", "Ram FQ 24");
    gate.office().put("/api/visits/" + gate.visit() + "/needs", needs);
    // A short shelf has no filters.
    List<SwingGate> others =
        Stream.generate(() -> new SwingGate(program, "tobias").waiting()).limit(4).toList();
    Page desk = open();
    Locator row = desk.locator("#row-waiting-" + gate.visit());
    assertThat(row).containsText("waits for Ram FQ 24");
    row.click();
    button(desk, "It has arrived").click();
    assertThat(said(desk)).containsText("The part is there; the visit can be planned.");
    assertThat(row).containsText("Ram FQ 24 has arrived");
    desk.getByLabel("Of whatever part").click();
    desk.getByTitle("no part").click();
    assertThat(row).hasCount(0);
    desk.getByLabel("Of whatever part").click();
    desk.getByTitle("part arrived").click();
    assertThat(row).isVisible();
    desk.navigate(gate.jobAddress());
    assertThat(desk.locator("[data-visit]")).containsText("Ram FQ 24 has arrived");
    button(desk, "It is not there after all").click();
    assertThat(desk.locator("[data-visit]")).containsText("waits for Ram FQ 24");
    // Other tests expect their own visit to be among the first.
    others.forEach(SwingGate::planned);
  }

  @Test
  void the_best_times_fill_the_plan_of_a_job_in() {
    gate.waiting();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    button(desk, "Plan this visit").click();
    desk.locator("form ol button").first().click();
    desk.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Plan").setExact(true))
        .click();
    assertThat(said(desk)).containsText("The visit is planned.");
  }

  @Test
  void a_visit_is_moved_by_keys_and_put_back() {
    gate.planned();
    Page desk = open();
    block(desk).focus();
    desk.keyboard().press("Space");
    for (int i = 0; i < 4; i++) {
      desk.keyboard().press("ArrowLeft");
    }
    drop(desk);
    assertThat(said(desk)).containsText("14:00, Tobias Quennell");
    assertThat(block(desk)).isFocused();
    assertThat(start()).isEqualTo("14:00:00");
    button(desk, "Put it back").click();
    assertThat(said(desk)).containsText("15:00, Tobias Quennell");
    assertThat(start()).isEqualTo("15:00:00");
  }

  /** Lets go, once more where something speaks against it. */
  private static void drop(Page desk) {
    desk.keyboard().press("Space");
    Locator allTheSame = button(desk, "Put it there all the same");
    // What an earlier step said may still stand there.
    desk.locator("body:not(:has([class*=lifted]))").or(allTheSame).first().waitFor();
    if (allTheSame.isVisible()) {
      desk.keyboard().press("Space");
    }
  }

  @Test
  void escape_leaves_a_visit_where_it_was() {
    gate.planned();
    Page desk = open();
    block(desk).focus();
    desk.keyboard().press("Space");
    desk.keyboard().press("ArrowLeft");
    assertThat(desk.getByText("14:45 Tansy Row")).isVisible();
    desk.keyboard().press("Escape");
    assertThat(desk.getByText("14:45 Tansy Row")).hasCount(0);
    assertThat(block(desk)).isFocused();
    assertThat(start()).isEqualTo("15:00:00");
  }

  @Test
  void a_visit_is_dragged_to_another_quarter_hour_and_another_person() {
    gate.planned();
    Page desk = open();
    BoundingBox from = block(desk).boundingBox();
    BoundingBox line = desk.locator("[data-ribbon] > :last-child").first().boundingBox();
    BoundingBox hours = desk.locator("section[aria-label]").first().boundingBox();
    desk.mouse().move(from.x + 20, from.y + 20);
    desk.mouse().down();
    // A width of the visit, which is two hours and a half, to the left and up to the first ribbon.
    desk.mouse()
        .move(
            from.x + 20 - from.width,
            line.y + hours.height / 2,
            new Mouse.MoveOptions().setSteps(5));
    assertThat(desk.getByText("12:30 Tansy Row")).isVisible();
    desk.mouse().up();
    Locator allTheSame = button(desk, "Put it there all the same");
    said(desk).or(allTheSame).first().waitFor();
    if (allTheSame.isVisible()) {
      allTheSame.click();
    }
    assertThat(said(desk)).containsText("12:30, Dilys Marrant");
    assertThat(start()).isEqualTo("12:30:00");
  }

  @Test
  void where_something_speaks_against_it_a_visit_is_put_only_by_one_press_more() {
    gate.planned();
    Page desk = open();
    block(desk).focus();
    desk.keyboard().press("Space");
    for (int i = 0; i < 16; i++) {
      desk.keyboard().press("ArrowRight");
    }
    desk.keyboard().press("Space");
    assertThat(desk.locator("aside")).containsText("outside working hours");
    assertThat(start()).isEqualTo("15:00:00");
    desk.keyboard().press("Space");
    assertThat(said(desk)).containsText("19:00, Tobias Quennell");
    assertThat(block(desk)).hasAttribute("aria-label", Pattern.compile(".*outside working hours"));
  }

  @Test
  void the_day_of_whoever_is_ill_is_laid_on_the_others() {
    gate.planned();
    Page desk = open();
    button(desk, "Tobias Quennell is away").click();
    desk.getByLabel("Note").fill("Back on Thursday");
    button(desk, "Say so").click();
    assertThat(desk.getByText("Back on Thursday")).isVisible();
    assertThat(block(desk)).hasAttribute("aria-label", Pattern.compile(".*away then.*"));
    button(desk, "Lay Tobias Quennell’s day on the others").click();
    button(desk, "Move all").click();
    assertThat(said(desk)).containsText(" moved, ");
    assertThat(desk.getByLabel("Tobias Quennell’s day").locator("#visit-" + gate.visit()))
        .hasCount(0);
    desk.navigate("/settings?find=illness");
    desk.getByRole(
            AriaRole.BUTTON,
            new Page.GetByRoleOptions().setName("take back illness of Tobias Quennell"))
        .first()
        .click();
    assertThat(said(desk)).containsText("Tobias Quennell is there after all.");
  }

  private Locator row(Page desk) {
    return desk.locator("#row-waiting-" + gate.visit());
  }

  @Test
  void a_time_is_held_first_and_then_given_to_a_visit_and_the_step_is_put_back() {
    gate.waiting();
    Page desk = open();
    Page other = Chromium.desk(program, "maud");
    other.navigate("/planner/" + gate.day());
    Locator line = desk.getByLabel("Hold a time");
    line.fill("nobody 9-12");
    line.press("Enter");
    assertThat(desk.getByText("such as imre tue 10-12")).isVisible();
    line.fill("tobias 9-14");
    line.press("Enter");
    Locator held = desk.getByLabel("A time that you hold");
    held.waitFor();
    assertThat(other.getByText("held by Hester Lyle")).isVisible();
    row(desk).click();
    Locator first = held.getByRole(AriaRole.BUTTON).first();
    assertThat(first).containsText("Tansy Row");
    first.click();
    assertThat(said(desk)).containsText("Planned: ");
    assertThat(block(desk)).isVisible();
    assertThat(start()).isEqualTo("09:00:00");
    assertThat(held).hasCount(0);
    button(desk, "Put the last step back").click();
    assertThat(row(desk)).isVisible();
    assertThat(block(desk)).hasCount(0);
  }

  @Test
  void a_visit_that_waits_is_dragged_onto_a_ribbon_and_put_back() {
    gate.waiting();
    Page desk = open();
    row(desk).scrollIntoViewIfNeeded();
    BoundingBox waiting = row(desk).boundingBox();
    BoundingBox line = desk.locator("[data-ribbon] > :last-child").last().boundingBox();
    desk.mouse().move(waiting.x + 20, waiting.y + 10);
    desk.mouse().down();
    desk.mouse()
        .move(
            line.x + line.width / 2, line.y + line.height / 2, new Mouse.MoveOptions().setSteps(6));
    assertThat(desk.getByText(Pattern.compile("\\d\\d?:\\d\\d Tansy Row"))).isVisible();
    desk.mouse().up();
    Locator allTheSame = button(desk, "Put it there all the same");
    block(desk).or(allTheSame).first().waitFor();
    if (allTheSame.isVisible()) {
      allTheSame.click();
    }
    assertThat(block(desk)).isVisible();
    assertThat(said(desk)).containsText(", Tobias Quennell");
    button(desk, "Put the last step back").click();
    assertThat(row(desk)).isVisible();
  }

  @Test
  void a_held_time_is_offered_to_what_a_call_comes_to() {
    Page desk = Chromium.desk(program, "hester");
    // Seven weeks on, where nothing is planned.
    desk.navigate("/planner/" + gate.day().plusDays(49));
    Locator line = desk.getByLabel("Hold a time");
    line.fill("tobias 9-14");
    line.press("Enter");
    Locator held = desk.getByLabel("A time that you hold");
    held.waitFor();
    button(desk, "Hold it longer").click();
    assertThat(said(desk)).containsText("Held for five minutes more.");
    desk.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("a new one")).click();
    assertThat(desk.getByLabel("Name")).isFocused();
    desk.keyboard().type("Mrs Hold");
    desk.keyboard().press("Tab");
    desk.keyboard().type("01632 960977");
    desk.keyboard().press("Tab");
    desk.keyboard().type("7 Kiln Bank, Ostmere OS4 2TD");
    desk.keyboard().press("Tab");
    desk.keyboard().type("Roller shutter hangs crooked");
    desk.keyboard().press("Enter");
    desk.locator("[data-outcomes] button:focus").waitFor();
    desk.keyboard().press("j");
    desk.locator("form button[type=submit]:focus").waitFor();
    desk.keyboard().press("Enter");
    desk.getByText("which you hold").click();
    Locator first = held.getByRole(AriaRole.BUTTON).first();
    assertThat(first).containsText("Mrs Hold");
    first.click();
    assertThat(said(desk)).containsText("Planned: ");
    assertThat(held).hasCount(0);
  }

  @Test
  void where_a_technician_goes_is_said_among_skills_and_hours() {
    Page desk = Chromium.desk(program, "orla");
    desk.navigate("/settings?find=skills");
    desk.getByRole(
            AriaRole.BUTTON, new Page.GetByRoleOptions().setName("edit where Tobias Quennell goes"))
        .click();
    Locator districts = desk.getByLabel("Postcode districts");
    districts.fill("OS1, the harbour!");
    button(desk, "Keep area").click();
    assertThat(desk.getByText("“harbour!” is no postcode district.").first()).isVisible();
    districts.fill("os3 OS1");
    button(desk, "Keep area").click();
    assertThat(desk.getByText("OS1, OS3, from ")).isVisible();
    desk.getByRole(
            AriaRole.BUTTON, new Page.GetByRoleOptions().setName("edit where Tobias Quennell goes"))
        .click();
    districts.fill("");
    button(desk, "Keep area").click();
    assertThat(desk.getByText("OS1, OS3, from ")).hasCount(0);
  }

  @Test
  void several_steps_are_put_back_the_newest_first() {
    gate.planned();
    Page desk = open();
    for (int i = 0; i < 2; i++) {
      block(desk).focus();
      desk.keyboard().press("Space");
      desk.keyboard().press("ArrowLeft");
      drop(desk);
      assertThat(said(desk)).containsText(i == 0 ? "14:45" : "14:30");
    }
    button(desk, "Put the last step back").click();
    assertThat(said(desk)).containsText("14:45");
    button(desk, "Put the last step back").click();
    assertThat(said(desk)).containsText("15:00");
    assertThat(start()).isEqualTo("15:00:00");
  }

  @Test
  void a_proposed_plan_is_taken_in_part() {
    gate.waiting();
    SwingGate other = new SwingGate(program, "tobias").waiting();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/planner/" + other.day());
    button(desk, "Propose a plan").click();
    desk.getByLabel("Plan until").fill(other.day().plusDays(14).toString());
    button(desk, "Search for").click();
    Locator proposal = desk.getByLabel("Proposed plan");
    button(desk, "Enough").click();
    Locator lines = proposal.getByRole(AriaRole.CHECKBOX);
    lines.first().waitFor();
    int count = lines.count();
    lines.first().uncheck();
    Locator plan =
        proposal.getByRole(
            AriaRole.BUTTON,
            new Locator.GetByRoleOptions().setName("Plan " + (count - 1)).setExact(true));
    assertThat(plan).isEnabled();
    plan.click();
    assertThat(said(desk)).containsText("planned.");
    assertThat(proposal).hasCount(0);
  }

  @Test
  void a_plan_that_clashes_is_refused_in_words_and_made_by_one_press_more() {
    gate.planned();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    button(desk, "Move").first().click();
    Locator time =
        desk.getByRole(
            AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Time").setExact(true));
    time.fill("21:00");
    desk.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Plan").setExact(true))
        .click();
    assertThat(desk.getByText("does not work at this time").first()).isVisible();
    assertThat(time).hasValue("21:00");
    button(desk, "Plan it there all the same").click();
    assertThat(said(desk)).containsText("The visit is planned.");
    assertThat(start()).isEqualTo("21:00:00");
  }

  @Test
  void a_second_visit_waits_for_its_part_and_the_shelf_says_so() {
    gate.planned();
    Page desk = Chromium.desk(program, "hester");
    desk.navigate(gate.jobAddress());
    desk.getByText("Another that waits").click();
    desk.getByLabel("Expected").fill("3:00");
    desk.getByLabel("Not before").fill(gate.day().plusDays(5).toString());
    desk.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Add").setExact(true))
        .click();
    assertThat(said(desk)).containsText("The visit waits for its time.");
    desk.navigate("/planner/" + gate.day());
    assertThat(desk.getByText(Pattern.compile("not before \\w{3} ")).first()).isVisible();
  }

  @Test
  void a_customer_is_told_of_a_visit_and_job_sheets_are_counted_before_they_are_printed() {
    gate.planned();
    Page desk = open();
    block(desk).click();
    button(desk, "Tell the customer").click();
    assertThat(said(desk)).containsText("The customer was told: confirmed.");
    assertThat(desk.getByText("between 15:00 and 16:00")).isVisible();
    desk.getByText("job sheets…").click();
    assertThat(desk.getByText(Pattern.compile("sheets?, \\d+ rounds?"))).isVisible();
    button(desk, "Print them as PDF").click();
    assertThat(desk.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Open the pages")))
        .hasAttribute("href", Pattern.compile("blob:"));
  }

  @Test
  void what_another_desk_plans_is_seen_without_asking() {
    gate.waiting();
    Page desk = open();
    desk.locator("#row-waiting-" + gate.visit()).waitFor();
    gate.planned();
    assertThat(block(desk)).isVisible();
    assertThat(desk.locator("#row-waiting-" + gate.visit())).hasCount(0);
  }

  @Test
  void a_week_and_a_month_lead_to_their_days() {
    gate.planned();
    Page desk = open();
    desk.getByText("week", new Page.GetByTextOptions().setExact(true)).click();
    Locator visit =
        desk.locator("td a[href='/planner/%s?visit=%d']".formatted(gate.day(), gate.visit()));
    assertThat(visit).containsText("15:00 Tansy Row");
    desk.getByText("month", new Page.GetByTextOptions().setExact(true)).click();
    desk.getByRole(AriaRole.TABLE).waitFor();
    desk.locator("th a[href='/planner/%s']".formatted(gate.day())).click();
    assertThat(block(desk)).isVisible();
  }

  @Test
  void a_day_is_gone_to_by_typing_it() {
    Page desk = open();
    desk.getByLabel("Go to a day").fill("+1");
    desk.keyboard().press("Enter");
    desk.waitForURL("**/planner/" + gate.day().plusDays(1));
  }

  @Test
  void an_address_that_is_no_day_is_told_so_on_the_page() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/planner/soon");
    assertThat(desk.locator("main .fault")).containsText("“soon” is not a day");
    assertThat(desk.locator("main h1")).hasCount(1);
  }

  @Test
  void arrows_go_from_visit_to_visit_and_enter_opens_the_job() {
    gate.planned();
    Page desk = open();
    block(desk).focus();
    desk.keyboard().press("ArrowLeft");
    desk.keyboard().press("ArrowRight");
    assertThat(desk.locator("[data-visit]:focus")).hasCount(1);
    block(desk).focus();
    desk.keyboard().press("Enter");
    desk.waitForURL("**" + gate.jobAddress());
  }

  @Test
  void a_technician_who_knows_less_is_kept_in_the_settings() {
    Page desk = Chromium.desk(program, "hester");
    desk.navigate("/settings?find=certificate");
    button(desk, "edit what Piet Osei knows").click();
    desk.getByLabel("Gate certificate", new Page.GetByLabelOptions().setExact(true)).check();
    desk.getByLabel("Gate certificate until").fill("31 dec 2031");
    button(desk, "Keep skills").click();
    assertThat(desk.getByText("Gate certificate until 31 Dec 2031")).isVisible();
  }
}
