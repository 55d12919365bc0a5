package app.pragmata.core.checklists;

import app.pragmata.core.Coded;
import app.pragmata.core.Decimal;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.math.BigDecimal;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** How a question of a checklist is answered, and which answers are out of limits. */
public sealed interface Asks {
  /** The names of the ways. */
  enum Code implements Coded {
    YES_NO,
    CHOICE,
    MEASUREMENT,
    TEXT,
    PHOTO
  }

  /** The longest answer in words. */
  int LONGEST_TEXT = 1_000;

  /** Its name. */
  Code code();

  /**
   * Reads an answer as it was given. What cannot be read throws {@link Unreadable}; whether it is
   * within limits is said with it.
   */
  Answer read(String given);

  /** Whether any answer can be out of limits. */
  boolean hasLimits();

  /** Notes what is wrong with the question itself, each at its field below {@code at}. */
  default void check(String at, Reading reading) {}

  /**
   * Yes or no.
   *
   * @param wrong the answers that are out of limits, of "yes" and "no"
   */
  record YesNo(Set<String> wrong) implements Asks {
    private static final List<String> BOTH = List.of("yes", "no");

    public YesNo {
      wrong = Set.copyOf(wrong);
    }

    @Override
    public Code code() {
      return Code.YES_NO;
    }

    @Override
    public Answer read(String given) {
      return oneOf(BOTH, wrong, given.toLowerCase(Locale.ROOT));
    }

    @Override
    public boolean hasLimits() {
      return !wrong.isEmpty();
    }

    @Override
    public void check(String at, Reading reading) {
      checkWrong(BOTH, wrong, at, reading);
    }
  }

  /**
   * One of several answers.
   *
   * @param wrong those of them that are out of limits
   */
  record Choice(List<String> choices, Set<String> wrong) implements Asks {
    private static final int MOST = 12;

    public Choice {
      choices = List.copyOf(choices);
      wrong = Set.copyOf(wrong);
    }

    @Override
    public Code code() {
      return Code.CHOICE;
    }

    @Override
    public Answer read(String given) {
      return oneOf(choices, wrong, given);
    }

    @Override
    public boolean hasLimits() {
      return !wrong.isEmpty();
    }

    @Override
    public void check(String at, Reading reading) {
      if (choices.size() < 2 || choices.size() > MOST) {
        reading.fault(
            at + "/choices",
            choices.size() < 2 ? Rule.NO_LINES : Rule.TOO_LARGE,
            "Give two to %d answers to choose from, such as: good, worn, broken.".formatted(MOST));
      } else if (new HashSet<>(choices).size() < choices.size()) {
        reading.fault(at + "/choices", Rule.REPEATED, "Two of these answers are the same.");
      }
      checkWrong(choices, wrong, at, reading);
    }
  }

  /**
   * Something that is measured, with at most three decimals.
   *
   * @param unit such as N or bar; may be empty
   * @param least the least that is within limits, itself included; null where there is none
   * @param most likewise the most
   */
  record Measurement(String unit, @Nullable BigDecimal least, @Nullable BigDecimal most)
      implements Asks {
    @Override
    public Code code() {
      return Code.MEASUREMENT;
    }

    @Override
    public Answer read(String given) {
      BigDecimal measured = Reading.measured(withoutUnit(given));
      boolean below = least != null && measured.compareTo(least) < 0;
      boolean above = most != null && measured.compareTo(most) > 0;
      return new Answer(Decimal.text(measured), below || above);
    }

    private String withoutUnit(String given) {
      return !unit.isEmpty()
              && given.toLowerCase(Locale.ROOT).endsWith(unit.toLowerCase(Locale.ROOT))
          ? given.substring(0, given.length() - unit.length()).strip()
          : given;
    }

    @Override
    public boolean hasLimits() {
      return least != null || most != null;
    }

    @Override
    public void check(String at, Reading reading) {
      if (least != null && most != null && least.compareTo(most) > 0) {
        reading.fault(
            at + "/most", Rule.ENDS_BEFORE_START, "The most is less than the least. Swap them.");
      }
    }
  }

  /** Words. */
  record Text() implements Asks {
    @Override
    public Code code() {
      return Code.TEXT;
    }

    @Override
    public Answer read(String given) {
      return new Answer(Reading.withinLength(given, LONGEST_TEXT), false);
    }

    @Override
    public boolean hasLimits() {
      return false;
    }
  }

  /** A photo, which is an answer by being there. */
  record Photo() implements Asks {
    @Override
    public Code code() {
      return Code.PHOTO;
    }

    @Override
    public Answer read(String given) {
      throw new Unreadable(Rule.WRONG_KIND, "This is answered by a photo. Take one.");
    }

    @Override
    public boolean hasLimits() {
      return false;
    }
  }

  private static Answer oneOf(List<String> choices, Set<String> wrong, String given) {
    if (!choices.contains(given)) {
      throw new Unreadable(
          Rule.UNKNOWN_WORD, "Choose one of: %s.".formatted(String.join(", ", choices)));
    }
    return new Answer(given, wrong.contains(given));
  }

  private static void checkWrong(
      List<String> choices, Set<String> wrong, String at, Reading reading) {
    if (!choices.containsAll(wrong)) {
      reading.fault(
          at + "/wrong",
          Rule.NOT_FOUND,
          "What is out of limits is none of the answers. Choose anew.");
    } else if (!wrong.isEmpty() && wrong.size() == choices.size()) {
      reading.fault(
          at + "/wrong",
          Rule.WRONG_KIND,
          "Every answer is out of limits. Leave one that is as it should be.");
    }
  }
}
