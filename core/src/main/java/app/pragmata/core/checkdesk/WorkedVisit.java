package app.pragmata.core.checkdesk;

import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Minutes;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What was recorded on a finished visit, as far as something in it may be odd.
 *
 * @param jobLabourMinutes on all visits of the job so far
 * @param promisedMinutes of labour that the job promises; 0 where it promises none
 * @param agreed what speaks against its agreement; null for a visit that no round made
 * @param partsWanted that the job still waits for; empty words for one that nobody named
 * @param extraWorkOpen offers of extra work that the customer has not answered
 * @param signatureMissing whether the kind of job wants one and there is none
 * @param questionsOpen of its checklists that want an answer and have none
 * @param answersOutOfLimits of its checklists
 * @param phone what of it has not come in
 */
public record WorkedVisit(
    Clocks clocks,
    DayAround day,
    int jobLabourMinutes,
    int promisedMinutes,
    Parts parts,
    @Nullable Agreed agreed,
    List<String> partsWanted,
    int extraWorkOpen,
    boolean signatureMissing,
    int questionsOpen,
    int answersOutOfLimits,
    Phone phone) {

  /**
   * Its clocks.
   *
   * @param unsureEnds clocks that run, or whose end the next one set
   * @param labourMinutes by whoever worked on it
   * @param driveMinutes to it, by whoever drove
   * @param handTimes times that were put right or written down by hand
   * @param milesAway how far from the site a clock was tapped; null where none was tapped elsewhere
   */
  public record Clocks(
      int unsureEnds,
      int labourMinutes,
      int driveMinutes,
      int handTimes,
      @Nullable BigDecimal milesAway) {
    /** Those of everybody on one visit. */
    public static Clocks of(List<WorkedClock> clocks, @Nullable BigDecimal milesAway) {
      return new Clocks(
          count(clocks, WorkedClock::hasNoSureEnd),
          minutes(clocks, TimeEntry.Kind.LABOUR),
          minutes(clocks, TimeEntry.Kind.DRIVE),
          count(clocks, WorkedClock::byHand),
          milesAway);
    }

    private static int count(List<WorkedClock> clocks, Predicate<WorkedClock> which) {
      int count = 0;
      for (WorkedClock clock : clocks) {
        if (which.test(clock)) {
          count++;
        }
      }
      return count;
    }
  }

  /** The minutes of those of these clocks that have ended and are of a kind. */
  static int minutes(List<WorkedClock> clocks, TimeEntry.Kind kind) {
    int minutes = 0;
    for (WorkedClock clock : clocks) {
      if (clock.kind() == kind) {
        minutes += clock.minutes();
      }
    }
    return minutes;
  }

  /**
   * The day of its technician around it.
   *
   * @param ownDriveMinutes that they drove to it
   * @param roadMinutes that the road takes from where they were before; null where nobody knows
   * @param gapMinutes on no clock between what they did before and this visit
   * @param dayMinutes on any clock that day but breaks
   * @param patternMinutes that their pattern has on that day
   */
  public record DayAround(
      int ownDriveMinutes,
      @Nullable Integer roadMinutes,
      int gapMinutes,
      int dayMinutes,
      int patternMinutes) {}

  /**
   * Names of its parts that are odd.
   *
   * @param free without a price, or without a cost
   * @param beyondPromise of which the job has taken more than it promises
   * @param belowZero of which less than nothing is left where they were taken from
   * @param unpriced on no price list, without a price yet
   */
  public record Parts(
      List<String> free,
      List<String> beyondPromise,
      List<String> belowZero,
      List<String> unpriced) {}

  /**
   * An agreement as it bears on it.
   *
   * @param over the agreement's last day, where the visit was after it; null while it held
   * @param parts that were used and are not agreed
   */
  public record Agreed(@Nullable LocalDate over, List<String> parts) {
    /**
     * As it bears on a visit.
     *
     * @param until the agreement's last day; null for without end
     * @param withParts whether parts are agreed
     * @param used names of the parts that the visit used
     */
    public static Agreed of(
        LocalDate day, @Nullable LocalDate until, boolean withParts, List<String> used) {
      return new Agreed(
          until != null && day.isAfter(until) ? until : null, withParts ? List.of() : used);
    }
  }

  /**
   * What was done on it and is not among what was recorded.
   *
   * @param unsent things that a phone has said it still has to send
   * @param undecided taps that came in too late to be taken, and wait for the office
   */
  public record Phone(int unsent, int undecided) {}

  /** Something odd, and the words in which it is told. */
  public record Odd(Oddity oddity, String words) {}

  /** A few minutes more are parking and traffic, however short the road. */
  private static final int DRIVE_GRACE_MINUTES = 10;

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);

  /** All that is odd about it by these rules, in the order of {@link Oddity}; empty for nothing. */
  public List<Odd> oddities(CheckRules rules) {
    var odd = new ArrayList<Odd>();
    for (Oddity oddity : Oddity.values()) {
      String words = rules.watches(oddity) ? words(oddity, rules) : null;
      if (words != null) {
        odd.add(new Odd(oddity, words));
      }
    }
    return List.copyOf(odd);
  }

  private @Nullable String words(Oddity oddity, CheckRules rules) {
    return switch (oddity) {
      case NO_END ->
          counted(clocks.unsureEnds(), "a clock has no sure end", "%d clocks have no sure end");
      case NO_LABOUR -> clocks.labourMinutes() == 0 ? "no work was clocked" : null;
      case NO_DRIVE ->
          clocks.labourMinutes() > 0 && clocks.driveMinutes() == 0 ? "no drive was clocked" : null;
      case LONG_DRIVE -> longDrive(rules.limit(oddity));
      case LONG_LABOUR ->
          promisedMinutes > 0 && isBeyond(jobLabourMinutes, promisedMinutes, rules.limit(oddity))
              ? "%s worked where %s was promised"
                  .formatted(Minutes.text(jobLabourMinutes), Minutes.text(promisedMinutes))
              : null;
      case DAY_GAP ->
          isMore(day.gapMinutes(), rules.limit(oddity))
              ? "%s before it on no clock".formatted(Minutes.text(day.gapMinutes()))
              : null;
      case LONG_DAY ->
          isMore(day.dayMinutes() - day.patternMinutes(), rules.limit(oddity))
              ? "%s worked that day, of %s by the pattern"
                  .formatted(Minutes.text(day.dayMinutes()), Minutes.text(day.patternMinutes()))
              : null;
      case CORRECTED_CLOCK ->
          counted(
              clocks.handTimes(), "a time was written by hand", "%d times were written by hand");
      case AWAY_FROM_SITE ->
          clocks.milesAway() == null || clocks.milesAway().compareTo(rules.limit(oddity)) < 0
              ? null
              : "tapped %s miles from the site".formatted(clocks.milesAway().toPlainString());
      case FREE_PART -> named("%s without a price or a cost", parts.free());
      case MORE_PARTS -> named("more than promised of %s", parts.beyondPromise());
      case OUTSIDE_AGREEMENT -> agreed == null ? null : outside(agreed);
      case BELOW_ZERO -> named("stock below zero of %s", parts.belowZero());
      case UNPRICED_PART -> named("%s is still to be priced", parts.unpriced());
      case PART_WANTED ->
          partsWanted.stream().allMatch(String::isEmpty)
              ? counted(partsWanted.size(), "waits for a part", "waits for %d parts")
              : named(
                  "waits for %s", partsWanted.stream().filter(name -> !name.isEmpty()).toList());
      case EXTRA_WORK_OPEN ->
          counted(
              extraWorkOpen, "extra work without a yes", "%d offers of extra work without a yes");
      case NO_SIGNATURE -> signatureMissing ? "nobody has signed" : null;
      case CHECKLIST_OPEN ->
          counted(
              questionsOpen,
              "a question of its checklist has no answer",
              "%d questions of its checklists have no answer");
      case OUT_OF_LIMITS ->
          counted(answersOutOfLimits, "an answer is out of limits", "%d answers are out of limits");
      case PHONE_BEHIND -> phoneBehind();
    };
  }

  private @Nullable String longDrive(BigDecimal times) {
    Integer road = day.roadMinutes();
    int driven = day.ownDriveMinutes();
    return road != null && driven > road + DRIVE_GRACE_MINUTES && isBeyond(driven, road, times)
        ? "%s driven where the road takes %s".formatted(Minutes.text(driven), Minutes.text(road))
        : null;
  }

  private static @Nullable String outside(Agreed agreed) {
    LocalDate over = agreed.over();
    return joined(
        over == null ? null : "its agreement ended on %s".formatted(over.format(DAY)),
        named("its agreement does not include %s", agreed.parts()));
  }

  private @Nullable String phoneBehind() {
    return joined(
        counted(
            phone.unsent(),
            "a phone has one thing to send yet",
            "a phone has %d things to send yet"),
        counted(
            phone.undecided(),
            "something came in late and waits for your answer",
            "%d things came in late and wait for your answer"));
  }

  private static @Nullable String joined(@Nullable String... words) {
    String all = Stream.of(words).filter(Objects::nonNull).collect(Collectors.joining(", "));
    return all.isEmpty() ? null : all;
  }

  private static boolean isBeyond(int minutes, int expected, BigDecimal times) {
    return isMore(minutes, times.multiply(BigDecimal.valueOf(expected)));
  }

  private static boolean isMore(int minutes, BigDecimal limit) {
    return BigDecimal.valueOf(minutes).compareTo(limit) > 0;
  }

  private static @Nullable String counted(int count, String one, String several) {
    return count == 0 ? null : count == 1 ? one : several.formatted(count);
  }

  private static @Nullable String named(String words, List<String> names) {
    return names.isEmpty() ? null : words.formatted(String.join(", ", names));
  }
}
