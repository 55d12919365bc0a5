package app.pragmata.core.checkdesk;

import app.pragmata.core.money.Minutes;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What was recorded on a finished visit, as far as something in it may be odd.
 *
 * @param unsureEnds clocks that run, or whose end the next one set
 * @param labourMinutes on the visit, by whoever worked on it
 * @param driveMinutes to the visit
 * @param handTimes times that were put right or written down by hand
 * @param milesAway how far from the site a clock was tapped; null where none was tapped elsewhere
 * @param jobLabourMinutes on all visits of the job so far
 * @param promisedMinutes of labour that the job promises; 0 where it promises none
 * @param freeParts names of parts without a price, or without a cost
 * @param partsBeyondPromise of which the job has taken more than it promises
 * @param partsBelowZero of which less than nothing is left where they were taken from
 * @param unpricedParts on no price list, without a price yet
 * @param partsWanted that the job still waits for; empty words for one that nobody named
 * @param answersOutOfLimits of its checklists
 */
public record WorkedVisit(
    int unsureEnds,
    int labourMinutes,
    int driveMinutes,
    int handTimes,
    @Nullable BigDecimal milesAway,
    int jobLabourMinutes,
    int promisedMinutes,
    List<String> freeParts,
    List<String> partsBeyondPromise,
    List<String> partsBelowZero,
    List<String> unpricedParts,
    List<String> partsWanted,
    int answersOutOfLimits) {

  /** Something odd, and the words in which it is told. */
  public record Odd(Oddity oddity, String words) {}

  /** How many times its promise the labour of a job may be. */
  private static final int TIMES_THE_PROMISE = 2;

  /** All that is odd about it, in the order of {@link Oddity}; empty where nothing is. */
  public List<Odd> oddities() {
    var odd = new ArrayList<Odd>();
    for (Oddity oddity : Oddity.values()) {
      String words = words(oddity);
      if (words != null) {
        odd.add(new Odd(oddity, words));
      }
    }
    return List.copyOf(odd);
  }

  private @Nullable String words(Oddity oddity) {
    return switch (oddity) {
      case NO_END -> counted(unsureEnds, "a clock has no sure end", "%d clocks have no sure end");
      case NO_LABOUR -> labourMinutes == 0 ? "no work was clocked" : null;
      case NO_DRIVE -> labourMinutes > 0 && driveMinutes == 0 ? "no drive was clocked" : null;
      case LONG_LABOUR ->
          promisedMinutes > 0 && jobLabourMinutes > TIMES_THE_PROMISE * promisedMinutes
              ? "%s worked where %s was promised"
                  .formatted(Minutes.text(jobLabourMinutes), Minutes.text(promisedMinutes))
              : null;
      case CORRECTED_CLOCK ->
          counted(handTimes, "a time was written by hand", "%d times were written by hand");
      case AWAY_FROM_SITE ->
          milesAway == null
              ? null
              : "tapped %s miles from the site".formatted(milesAway.toPlainString());
      case FREE_PART -> named("%s without a price or a cost", freeParts);
      case MORE_PARTS -> named("more than promised of %s", partsBeyondPromise);
      case BELOW_ZERO -> named("stock below zero of %s", partsBelowZero);
      case UNPRICED_PART -> named("%s is still to be priced", unpricedParts);
      case PART_WANTED ->
          partsWanted.stream().allMatch(String::isEmpty)
              ? counted(partsWanted.size(), "waits for a part", "waits for %d parts")
              : named(
                  "waits for %s", partsWanted.stream().filter(name -> !name.isEmpty()).toList());
      case OUT_OF_LIMITS ->
          counted(answersOutOfLimits, "an answer is out of limits", "%d answers are out of limits");
    };
  }

  private static @Nullable String counted(int count, String one, String several) {
    return count == 0 ? null : count == 1 ? one : several.formatted(count);
  }

  private static @Nullable String named(String words, List<String> names) {
    return names.isEmpty() ? null : words.formatted(String.join(", ", names));
  }
}
