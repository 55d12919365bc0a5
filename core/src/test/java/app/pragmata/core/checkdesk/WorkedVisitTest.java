package app.pragmata.core.checkdesk;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.checkdesk.WorkedVisit.Odd;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class WorkedVisitTest {
  private static final List<String> NONE = List.of();

  /** Two hours of work and a drive of which the job promised three hours. */
  private static WorkedVisit visit(int unsureEnds, int labour, int drive, int byHand) {
    return new WorkedVisit(
        unsureEnds, labour, drive, byHand, null, labour, 180, NONE, NONE, NONE, NONE, NONE, 0);
  }

  private static WorkedVisit away(@Nullable String miles) {
    return new WorkedVisit(
        0,
        120,
        20,
        0,
        miles == null ? null : new BigDecimal(miles),
        120,
        180,
        NONE,
        NONE,
        NONE,
        NONE,
        NONE,
        0);
  }

  private static WorkedVisit parts(
      List<String> free, List<String> beyond, List<String> below, List<String> unpriced) {
    return new WorkedVisit(0, 120, 20, 0, null, 120, 180, free, beyond, below, unpriced, NONE, 0);
  }

  private static WorkedVisit waiting(List<String> wanted, int outOfLimits) {
    return new WorkedVisit(
        0, 120, 20, 0, null, 120, 180, NONE, NONE, NONE, NONE, wanted, outOfLimits);
  }

  private static WorkedVisit labour(int ofJob, int promised) {
    return new WorkedVisit(0, 60, 20, 0, null, ofJob, promised, NONE, NONE, NONE, NONE, NONE, 0);
  }

  private static List<String> words(WorkedVisit visit) {
    return visit.oddities().stream().map(Odd::words).toList();
  }

  @Test
  void a_visit_as_it_was_promised_is_not_odd() {
    assertThat(visit(0, 120, 20, 0).oddities()).isEmpty();
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
    assertThat(labour(360, 180).oddities()).isEmpty();
    assertThat(words(labour(361, 180))).containsExactly("6:01 worked where 3:00 was promised");
  }

  @Test
  void a_job_that_promises_no_labour_takes_none_too_long() {
    assertThat(labour(2_000, 0).oddities()).isEmpty();
  }

  @Test
  void time_that_was_written_by_hand_is_odd() {
    assertThat(words(visit(0, 120, 20, 1))).containsExactly("a time was written by hand");
    assertThat(words(visit(0, 120, 20, 3))).containsExactly("3 times were written by hand");
  }

  @Test
  void a_tap_away_from_the_site_is_odd() {
    assertThat(words(away("2.1"))).containsExactly("tapped 2.1 miles from the site");
    assertThat(away(null).oddities()).isEmpty();
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
    assertThat(words(waiting(List.of("chain", ""), 0))).containsExactly("waits for chain");
    assertThat(words(waiting(List.of("", ""), 0))).containsExactly("waits for 2 parts");
  }

  @Test
  void an_answer_out_of_limits_is_odd() {
    assertThat(words(waiting(NONE, 1))).containsExactly("an answer is out of limits");
  }

  @Property
  void every_oddity_is_told_once_and_in_words(
      @ForAll @IntRange(min = 0, max = 3) int ends,
      @ForAll @IntRange(min = 0, max = 900) int labour,
      @ForAll @IntRange(min = 0, max = 90) int drive,
      @ForAll @IntRange(min = 0, max = 3) int byHand) {
    List<Odd> odd = visit(ends, labour, drive, byHand).oddities();
    assertThat(odd).extracting(Odd::oddity).doesNotHaveDuplicates().isSorted();
    assertThat(odd).allSatisfy(one -> assertThat(one.words()).isNotBlank());
  }
}
