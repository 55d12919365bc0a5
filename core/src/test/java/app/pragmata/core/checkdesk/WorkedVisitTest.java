package app.pragmata.core.checkdesk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.checkdesk.CheckRules.CheckRule;
import app.pragmata.core.checkdesk.WorkedVisit.Agreed;
import app.pragmata.core.checkdesk.WorkedVisit.Clocks;
import app.pragmata.core.checkdesk.WorkedVisit.DayAround;
import app.pragmata.core.checkdesk.WorkedVisit.Odd;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class WorkedVisitTest {
  private static final List<String> NONE = List.of();

  private static final WorkedVisit.Parts NO_PARTS = new WorkedVisit.Parts(NONE, NONE, NONE, NONE);
  private static final WorkedVisit.Phone ALL_SENT = new WorkedVisit.Phone(0, 0);
  private static final DayAround PLAIN_DAY = new DayAround(20, 15, 0, 480, 480);

  private static WorkedVisit visit(Clocks clocks, DayAround day, int ofJob, int promised) {
    return new WorkedVisit(
        clocks, day, ofJob, promised, NO_PARTS, null, NONE, 0, false, 0, 0, ALL_SENT);
  }

  /** Work and a drive of which the job promised three hours. */
  private static WorkedVisit visit(int unsureEnds, int labour, int drive, int byHand) {
    return visit(new Clocks(unsureEnds, labour, drive, byHand, null), PLAIN_DAY, labour, 180);
  }

  private static WorkedVisit away(@Nullable String miles) {
    return visit(
        new Clocks(0, 120, 20, 0, miles == null ? null : new BigDecimal(miles)),
        PLAIN_DAY,
        120,
        180);
  }

  private static WorkedVisit on(DayAround day) {
    return visit(new Clocks(0, 120, 20, 0, null), day, 120, 180);
  }

  private static WorkedVisit parts(
      List<String> free, List<String> beyond, List<String> below, List<String> unpriced) {
    return new WorkedVisit(
        new Clocks(0, 120, 20, 0, null),
        PLAIN_DAY,
        120,
        180,
        new WorkedVisit.Parts(free, beyond, below, unpriced),
        null,
        NONE,
        0,
        false,
        0,
        0,
        ALL_SENT);
  }

  private static WorkedVisit waiting(
      List<String> wanted, int extraWorkOpen, boolean signatureMissing, int outOfLimits) {
    return waiting(wanted, extraWorkOpen, signatureMissing, 0, outOfLimits);
  }

  private static WorkedVisit waiting(
      List<String> wanted,
      int extraWorkOpen,
      boolean signatureMissing,
      int questionsOpen,
      int outOfLimits) {
    return new WorkedVisit(
        new Clocks(0, 120, 20, 0, null),
        PLAIN_DAY,
        120,
        180,
        NO_PARTS,
        null,
        wanted,
        extraWorkOpen,
        signatureMissing,
        questionsOpen,
        outOfLimits,
        ALL_SENT);
  }

  private static WorkedVisit labour(int ofJob, int promised) {
    return visit(new Clocks(0, 60, 20, 0, null), PLAIN_DAY, ofJob, promised);
  }

  private static List<String> words(WorkedVisit visit) {
    return words(visit, CheckRules.USUAL);
  }

  private static List<String> words(WorkedVisit visit, CheckRules rules) {
    return visit.oddities(rules).stream().map(Odd::words).toList();
  }

  private static WorkedVisit phone(int unsent, int undecided) {
    return new WorkedVisit(
        new Clocks(0, 120, 20, 0, null),
        PLAIN_DAY,
        120,
        180,
        NO_PARTS,
        null,
        NONE,
        0,
        false,
        0,
        0,
        new WorkedVisit.Phone(unsent, undecided));
  }

  @Test
  void what_has_not_come_in_from_a_phone_is_odd() {
    assertThat(words(phone(1, 0))).containsExactly("a phone has one thing to send yet");
    assertThat(words(phone(4, 2)))
        .containsExactly(
            "a phone has 4 things to send yet, 2 things came in late and wait for your answer");
  }

  private static WorkedVisit agreed(@Nullable LocalDate until, boolean withParts, String... used) {
    return new WorkedVisit(
        new Clocks(0, 120, 20, 0, null),
        PLAIN_DAY,
        120,
        180,
        NO_PARTS,
        Agreed.of(LocalDate.of(2026, 10, 1), until, withParts, List.of(used)),
        NONE,
        0,
        false,
        0,
        0,
        ALL_SENT);
  }

  @Test
  void a_visit_after_the_last_day_of_its_agreement_is_outside_it() {
    assertThat(words(agreed(LocalDate.of(2026, 9, 30), true)))
        .containsExactly("its agreement ended on 30 Sep 2026");
    assertThat(words(agreed(LocalDate.of(2026, 10, 1), true))).isEmpty();
    assertThat(words(agreed(null, true))).isEmpty();
  }

  @Test
  void parts_that_an_agreement_does_not_include_are_outside_it() {
    assertThat(words(agreed(LocalDate.of(2026, 9, 30), false, "Photocell", "Chain")))
        .containsExactly(
            "its agreement ended on 30 Sep 2026, its agreement does not include Photocell, Chain");
    assertThat(words(agreed(null, true, "Photocell"))).isEmpty();
    assertThat(words(agreed(null, false))).isEmpty();
  }

  @Test
  void a_visit_as_it_was_promised_is_not_odd() {
    assertThat(words(visit(0, 120, 20, 0))).isEmpty();
  }

  @Test
  void a_clock_without_a_sure_end_is_odd() {
    assertThat(words(visit(1, 120, 20, 0))).containsExactly("a clock has no sure end");
    assertThat(words(visit(2, 120, 20, 0))).containsExactly("2 clocks have no sure end");
  }

  @Test
  void a_visit_without_work_is_odd_and_its_missing_drive_is_not_told_beside() {
    assertThat(words(visit(0, 0, 0, 0))).containsExactly("no work was clocked");
  }

  @Test
  void work_to_which_nobody_drove_is_odd() {
    assertThat(words(visit(0, 120, 0, 0))).containsExactly("no drive was clocked");
  }

  @Test
  void labour_is_odd_from_more_than_twice_the_promise_of_the_whole_job() {
    assertThat(words(labour(360, 180))).isEmpty();
    assertThat(words(labour(361, 180))).containsExactly("6:01 worked where 3:00 was promised");
  }

  @Test
  void a_job_that_promises_no_labour_takes_none_too_long() {
    assertThat(words(labour(2_000, 0))).isEmpty();
  }

  @Test
  void time_that_was_written_by_hand_is_odd() {
    assertThat(words(visit(0, 120, 20, 1))).containsExactly("a time was written by hand");
    assertThat(words(visit(0, 120, 20, 3))).containsExactly("3 times were written by hand");
  }

  @Test
  void a_tap_away_from_the_site_is_odd() {
    assertThat(words(away("2.1"))).containsExactly("tapped 2.1 miles from the site");
    assertThat(words(away(null))).isEmpty();
  }

  @Test
  void a_part_without_a_price_or_a_cost_is_odd() {
    assertThat(words(parts(List.of("Hinge", "Bolt"), NONE, NONE, NONE)))
        .containsExactly("Hinge, Bolt without a price or a cost");
  }

  @Test
  void more_of_a_part_than_was_promised_is_odd() {
    assertThat(words(parts(NONE, List.of("Photocell pair"), NONE, NONE)))
        .containsExactly("more than promised of Photocell pair");
  }

  @Test
  void stock_below_zero_is_odd() {
    assertThat(words(parts(NONE, NONE, List.of("Gate ram"), NONE)))
        .containsExactly("stock below zero of Gate ram");
  }

  @Test
  void a_part_that_nobody_has_priced_is_odd() {
    assertThat(words(parts(NONE, NONE, NONE, List.of("Hinge M12"))))
        .containsExactly("Hinge M12 is still to be priced");
  }

  @Test
  void a_part_that_the_job_waits_for_is_odd_whether_or_not_it_has_a_name() {
    assertThat(words(waiting(List.of("chain", ""), 0, false, 0)))
        .containsExactly("waits for chain");
    assertThat(words(waiting(List.of("", ""), 0, false, 0))).containsExactly("waits for 2 parts");
  }

  @Test
  void an_answer_out_of_limits_is_odd() {
    assertThat(words(waiting(NONE, 0, false, 1))).containsExactly("an answer is out of limits");
  }

  @Test
  void a_drive_of_more_than_twice_the_road_is_odd_unless_it_is_a_few_minutes() {
    assertThat(words(on(new DayAround(52, 20, 0, 480, 480))))
        .containsExactly("0:52 driven where the road takes 0:20");
    assertThat(words(on(new DayAround(40, 20, 0, 480, 480)))).isEmpty();
    assertThat(words(on(new DayAround(13, 3, 0, 480, 480)))).isEmpty();
    assertThat(words(on(new DayAround(90, null, 0, 480, 480)))).isEmpty();
  }

  @Test
  void more_than_half_an_hour_on_no_clock_before_it_is_odd() {
    assertThat(words(on(new DayAround(20, 15, 31, 480, 480))))
        .containsExactly("0:31 before it on no clock");
    assertThat(words(on(new DayAround(20, 15, 30, 480, 480)))).isEmpty();
  }

  @Test
  void more_than_an_hour_over_the_pattern_of_the_day_is_odd() {
    assertThat(words(on(new DayAround(20, 15, 0, 541, 480))))
        .containsExactly("9:01 worked that day, of 8:00 by the pattern");
    assertThat(words(on(new DayAround(20, 15, 0, 540, 480)))).isEmpty();
  }

  @Test
  void extra_work_that_the_customer_has_not_answered_is_odd() {
    assertThat(words(waiting(NONE, 1, false, 0))).containsExactly("extra work without a yes");
  }

  @Test
  void a_signature_that_is_missing_is_odd() {
    assertThat(words(waiting(NONE, 0, true, 0))).containsExactly("nobody has signed");
  }

  @Test
  void a_question_of_a_checklist_that_nobody_has_answered_is_odd() {
    assertThat(words(waiting(NONE, 0, false, 1, 0)))
        .containsExactly("a question of its checklist has no answer");
    assertThat(words(waiting(NONE, 0, false, 3, 0)))
        .containsExactly("3 questions of its checklists have no answer");
  }

  @Test
  void what_the_office_does_not_want_to_be_told_is_not_told() {
    var rules = new CheckRules(Map.of(Oddity.NO_SIGNATURE, new CheckRule(false, null)));
    assertThat(words(waiting(NONE, 1, true, 0), rules)).containsExactly("extra work without a yes");
  }

  @Test
  void a_limit_that_the_office_sets_holds_instead_of_the_usual_one() {
    var rules = new CheckRules(Map.of(Oddity.DAY_GAP, new CheckRule(true, new BigDecimal("60"))));
    assertThat(words(on(new DayAround(20, 15, 60, 480, 480)), rules)).isEmpty();
    assertThat(words(on(new DayAround(20, 15, 61, 480, 480)), rules))
        .containsExactly("1:01 before it on no clock");
  }

  @Test
  void a_limit_of_nonsense_is_none() {
    for (var wrong :
        List.of(
            Map.entry(Oddity.NO_END, "2"),
            Map.entry(Oddity.LONG_LABOUR, "0.5"),
            Map.entry(Oddity.DAY_GAP, "100000"))) {
      assertThatThrownBy(
              () ->
                  new CheckRules(
                      Map.of(
                          wrong.getKey(), new CheckRule(true, new BigDecimal(wrong.getValue())))))
          .isInstanceOf(IllegalArgumentException.class);
    }
  }

  @Property
  void every_oddity_is_told_once_and_in_words(
      @ForAll @IntRange(min = 0, max = 3) int ends,
      @ForAll @IntRange(min = 0, max = 900) int labour,
      @ForAll @IntRange(min = 0, max = 90) int drive,
      @ForAll @IntRange(min = 0, max = 3) int byHand) {
    List<Odd> odd = visit(ends, labour, drive, byHand).oddities(CheckRules.USUAL);
    assertThat(odd).extracting(Odd::oddity).doesNotHaveDuplicates().isSorted();
    assertThat(odd).allSatisfy(one -> assertThat(one.words()).isNotBlank());
  }
}
