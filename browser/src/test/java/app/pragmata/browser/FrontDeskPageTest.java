package app.pragmata.browser;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static java.nio.charset.StandardCharsets.UTF_8;

import app.pragmata.server.RunningPragmata;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Calls as the office manager takes them: with the keyboard alone. */
class FrontDeskPageTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private Page desk;

  @BeforeEach
  void aTuesdayMorningAtTheDesk() {
    program.clock().set("2026-11-24T10:00");
    desk = Chromium.desk(program, "hester");
    desk.navigate("/worked");
    desk.locator("main h1").first().waitFor();
  }

  private void find(String said) {
    Chromium.find(desk, said);
  }

  private Locator card() {
    return desk.locator("[data-card]");
  }

  private Locator slip() {
    return desk.getByRole(AriaRole.COMPLEMENTARY, new Page.GetByRoleOptions().setName("The call"));
  }

  @Test
  void a_late_payer_is_known_before_anything_is_promised() {
    String late =
        program
            .database()
            .select(CUSTOMER.NAME)
            .from(RECEIVABLE)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(RECEIVABLE.CUSTOMER_ID))
            .where(RECEIVABLE.OWED_MINOR.gt(0L))
            .orderBy(RECEIVABLE.DUE_DATE)
            .limit(1)
            .fetchSingle(CUSTOMER.NAME);
    find(late);
    assertThat(card().locator("h1")).hasText(late);
    assertThat(card().locator("[data-loud=true]"))
        .containsText(Pattern.compile("late since .+ days?"));
  }

  @Test
  void whoever_is_on_stop_is_known_before_anything_is_promised() {
    find("copperfield");
    assertThat(card().locator("[data-loud=true]")).containsText("On stop. Cheque came back twice");
  }

  @Test
  void a_new_caller_has_a_job_and_a_time_without_the_mouse_and_nothing_typed_twice() {
    find("01632 960961");
    assertThat(desk.locator("h1")).hasText("New caller");
    desk.keyboard().type("Larissa Gullane");
    desk.keyboard().press("Tab");
    desk.keyboard().press("Tab");
    desk.keyboard().type("7 Kiln Bank, Ostmere os4 2td");
    desk.keyboard().press("Tab");
    desk.keyboard().type("Roller shutter hangs crooked");
    desk.keyboard().press("Enter");
    assertThat(card().locator("h1")).hasText("Larissa Gullane");
    assertThat(card()).containsText("OS4 2TD");
    desk.locator("[data-outcomes] button:focus").waitFor();
    desk.keyboard().press("j");
    assertThat(slip().getByLabel("Job from the call")).isVisible();
    desk.locator("form button[type=submit]:focus").waitFor();
    desk.keyboard().press("Enter");
    assertThat(slip().getByRole(AriaRole.STATUS))
        .containsText(
            Pattern.compile("Job \\d+ made: somebody there by .+Roller shutter hangs crooked"));
    assertThat(slip().getByText("Find a time")).isFocused();
    desk.keyboard().press("Enter");
    desk.locator("aside ol button").first().waitFor();
    desk.keyboard().press("1");
    assertThat(desk.locator("[role=status][aria-live]")).containsText("Planned: ");
  }

  @Test
  void somebody_on_record_already_is_shown_while_a_new_caller_is_typed() {
    desk.navigate("/customers/new?said=01632%20960121");
    Locator likely = desk.getByLabel("On record already");
    assertThat(likely).containsText("Tansy Row Garages");
    assertThat(likely).containsText("same phone");
  }

  @Test
  void a_fault_is_talked_through_by_number_keys_and_kept_as_solved_on_the_phone() {
    find("FQ 19977");
    assertThat(card().locator("[data-equipment][data-on=true]")).containsText("FQ 19977");
    slip().getByLabel("What is it about?").fill("Gate is dead since this morning");
    desk.keyboard().press("Enter");
    desk.locator("[data-outcomes] button:focus").waitFor();
    desk.keyboard().press("f");
    assertThat(slip()).containsText("What does the gate do?");
    desk.keyboard().press("1");
    assertThat(slip()).containsText("Is the lamp on the control box lit?");
    desk.keyboard().press("1");
    assertThat(slip()).containsText("Is the breaker marked");
    desk.keyboard().press("1");
    assertThat(slip()).containsText("Switch the breaker on");
    desk.locator("[data-talk] button:focus").waitFor();
    desk.keyboard().press("Enter");
    assertThat(slip().getByRole(AriaRole.STATUS)).containsText("solved on the phone");
    assertThat(card()).containsText("Solved on the phone: Switch the breaker on");
  }

  @Test
  void a_talk_goes_back_a_question_and_ends_with_the_job_filled_in() {
    find("FQ 19977");
    slip().getByLabel("What is it about?").fill("A van hit the gate");
    desk.keyboard().press("Enter");
    desk.locator("[data-outcomes] button:focus").waitFor();
    desk.keyboard().press("f");
    assertThat(slip()).containsText("What does the gate do?");
    desk.keyboard().press("1");
    assertThat(slip()).containsText("Is the lamp");
    desk.keyboard().press("Backspace");
    assertThat(slip()).containsText("It was driven into");
    desk.keyboard().press("4");
    assertThat(slip().getByLabel("Expected length")).hasValue("2:00");
    assertThat(slip().locator("[data-slip-form]")).containsText("urgent: there by");
  }

  @Test
  void the_same_as_last_time_becomes_a_quote_with_its_lines_by_two_keys() {
    find("wetherden");
    assertThat(card().locator("h1")).hasText("Ms Wetherden");
    slip().getByLabel("What is it about?").press("Escape");
    desk.keyboard().press("l");
    sameAgain("Swing gate will not close");
  }

  @Test
  void of_several_earlier_jobs_the_one_that_is_meant_is_chosen_by_its_number() {
    find("garrick");
    assertThat(card().locator("h1")).hasText("Ms Garrick");
    slip().getByLabel("What is it about?").press("Escape");
    desk.keyboard().press("l");
    assertThat(slip().locator("[data-answers] li")).hasCount(2);
    desk.keyboard().press("2");
    sameAgain("Swing gate will not close");
  }

  private void sameAgain(String title) {
    assertThat(slip().getByLabel("What is it about?")).hasValue(title);
    assertThat(desk.locator("[data-outcomes] button:focus"))
        .containsText("same lines as last time");
    desk.keyboard().press("Enter");
    assertThat(desk.getByLabel("What is to be done")).hasValue(title);
    assertThat(desk.locator("[data-line='2']")).isVisible();
  }

  @Test
  void what_was_said_stays_behind_the_title_of_whichever_job_this_one_is_to_be_like() {
    find("wetherden");
    slip().getByLabel("What is it about?").fill("squeaks as well");
    slip().getByLabel("What is it about?").press("Escape");
    desk.keyboard().press("l");
    desk.keyboard().press("1");
    desk.locator("[data-outcomes] button:focus").waitFor();
    desk.keyboard().press("l");
    desk.keyboard().press("2");
    assertThat(slip().getByLabel("What is it about?"))
        .hasValue("Swing gate will not close: squeaks as well");
  }

  @Test
  void where_it_is_opens_by_itself_when_the_caller_has_several_sites() {
    find("quillon bakery");
    slip().getByLabel("What is it about?").fill("Wants a copy of the October invoice");
    desk.keyboard().press("Enter");
    desk.locator(".ant-select-item-option-active").waitFor();
    desk.keyboard().press("Enter");
    desk.locator("[data-outcomes] button:focus").waitFor();
    desk.keyboard().press("t");
    assertThat(slip().getByLabel("By", new Locator.GetByLabelOptions().setExact(true))).isVisible();
  }

  @Test
  void a_warranty_question_is_answered_by_the_card() {
    find("19977");
    assertThat(card().locator("[data-equipment][data-on=true]"))
        .containsText(Pattern.compile("parts 60 % until \\d+ \\w+ 2027"));
    assertThat(slip().locator("[data-warranty]")).containsText("parts 60 %");
  }

  @Test
  void a_to_do_from_a_call_is_closed_by_a_colleague_with_its_outcome() {
    find("quillon bakery");
    slip().getByLabel("What is it about?").fill("Wants the October invoice again");
    desk.keyboard().press("Enter");
    slip().getByLabel("What is it about?").press("Escape");
    desk.keyboard().press("Escape");
    slip().getByText("To-do for somebody").click();
    Chromium.choose(desk, "For whom", "", "Maud Ferris");
    slip().getByLabel("By").fill("tomorrow");
    desk.keyboard().press("Enter");
    assertThat(slip().getByRole(AriaRole.STATUS)).containsText("To-do made");
    Page maud = Chromium.desk(program, "maud");
    maud.navigate("/to-dos");
    assertThat(maud.locator("[role=option][aria-selected=true]"))
        .containsText("Wants the October invoice again");
    maud.keyboard().press("Enter");
    maud.keyboard().type("Sent by mail");
    maud.keyboard().press("Enter");
    assertThat(maud.locator("main")).containsText("Nothing is to be done");
    maud.navigate("/to-dos?state=closed");
    assertThat(maud.locator("article")).containsText("Sent by mail");
  }

  @Test
  void what_was_said_on_one_call_is_still_there_after_the_next() {
    find("mrs abelow");
    slip().getByLabel("What is it about?").fill("Half a sentence about the spring");
    find("mr nutley");
    assertThat(card().locator("h1")).hasText("Mr Nutley");
    find("mrs abelow");
    assertThat(slip().getByLabel("What is it about?")).hasValue("Half a sentence about the spring");
  }

  @Test
  void a_wrong_entry_is_told_at_its_field_and_nothing_typed_is_lost() {
    find("mr lorimer");
    assertThat(card().locator("h1")).hasText("Mr Lorimer");
    slip().getByLabel("What is it about?").press("Escape");
    desk.keyboard().press("e");
    desk.getByLabel("Postcode").fill("OS4 2");
    desk.getByLabel("Credit limit").fill("250");
    desk.getByText("Save customer").click();
    assertThat(desk.locator(".ant-modal form .fault")).containsText("fits no postcode");
    assertThat(desk.getByLabel("Credit limit")).hasValue("250");
  }

  @Test
  void a_list_is_mapped_tried_and_taken_in() {
    desk.navigate("/imports");
    desk.locator("input[type=file]")
        .setInputFiles(
            new FilePayload(
                "callers.csv",
                "text/csv",
                "Ref,Company,Tel\nPG-1,Playgroup Gannet,01632 960971\nPG-2,Half Number,0163\n"
                    .getBytes(UTF_8)));
    assertThat(desk.getByLabel("What Company stands for")).isVisible();
    desk.getByText("Try it").click();
    assertThat(desk.locator("main [role=status]"))
        .containsText("1 added, 0 changed, 0 as they are, 1 row to mend");
    assertThat(desk.locator("article")).containsText("row 3");
    assertThat(desk.getByText("Take in 2 rows")).isDisabled();
  }

  @Test
  void the_office_mends_a_talk_of_its_own() {
    desk.navigate("/fault-talks/3");
    desk.getByLabel("Text of answer 3 of question 1").fill("Hangs crooked or fell");
    desk.getByText("Save talk").click();
    assertThat(desk.getByText("Saved")).isDisabled();
    desk.reload();
    assertThat(desk.getByLabel("Text of answer 3 of question 1")).hasValue("Hangs crooked or fell");
  }
}
