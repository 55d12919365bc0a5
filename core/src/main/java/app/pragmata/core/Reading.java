package app.pragmata.core;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Reads a form as it was typed and collects every fault, so that all of them are told at once. */
public final class Reading {
  private final List<Fault> faults = new ArrayList<>();

  /** A required entry; null, with a fault noted, when it is empty or cannot be read. */
  public <T> @Nullable T required(
      String field, @Nullable String typed, Function<String, T> reader) {
    if (typed == null || typed.isBlank()) {
      fault(field, Rule.MISSING, "Enter a value here.");
      return null;
    }
    return optional(field, typed, reader);
  }

  /**
   * An entry that may be left empty; null when it is, or, with a fault noted, when it cannot be
   * read.
   */
  public <T> @Nullable T optional(
      String field, @Nullable String typed, Function<String, T> reader) {
    if (typed == null || typed.isBlank()) {
      return null;
    }
    try {
      return reader.apply(typed.strip());
    } catch (Unreadable unreadable) {
      fault(field, unreadable.rule(), unreadable.getMessage());
      return null;
    }
  }

  /** Text of at least one and at most {@code longest} characters, without the blanks around it. */
  public @Nullable String text(String field, @Nullable String typed, int longest) {
    return required(field, typed, text -> withinLength(text, longest));
  }

  /** Text that may be left empty; the empty text when it is. */
  public String optionalText(String field, @Nullable String typed, int longest) {
    String text = optional(field, typed, entered -> withinLength(entered, longest));
    return text == null ? "" : text;
  }

  /** Notes a fault that was found elsewhere. */
  public void fault(String field, Rule rule, String message) {
    faults.add(new Fault(field, rule, message));
  }

  /** What was wrong so far, in the order in which it was found. */
  public List<Fault> faults() {
    return List.copyOf(faults);
  }

  /** Throws {@link Refused} with all faults when there are any. */
  public void refuseIfFaulty() {
    if (!faults.isEmpty()) {
      throw new Refused(faults);
    }
  }

  /** A quantity as typed: more than nothing, at most three decimals, at most 100,000. */
  public static BigDecimal quantity(String typed) {
    BigDecimal quantity = decimal(typed, 3, "Enter a quantity such as 2 or 1.5.");
    if (quantity.signum() == 0) {
      throw new Unreadable(Rule.MISSING, "Enter a quantity above nothing, or remove the line.");
    }
    return quantity;
  }

  /**
   * A distance in miles as typed: not negative, at most one decimal, at most 1,000 for one drive.
   */
  public static BigDecimal miles(String typed) {
    BigDecimal miles = decimal(typed, 1, "Enter miles such as 18 or 18.4.");
    if (miles.compareTo(new BigDecimal(1000)) > 0) {
      throw new Unreadable(Rule.TOO_LARGE, "More than 1,000 miles in one drive. Check the figure.");
    }
    return miles;
  }

  private static BigDecimal decimal(String typed, int decimals, String hint) {
    String plain = withoutThousandsCommas(typed.replace(" ", ""));
    if (!plain.matches("-?\\d{1,9}(\\.\\d{1,6})?")) {
      throw new Unreadable(Rule.UNREADABLE, "“" + abridged(typed) + "” is not a number. " + hint);
    }
    BigDecimal value = new BigDecimal(plain);
    if (value.signum() < 0) {
      throw new Unreadable(Rule.NEGATIVE, "It cannot be less than nothing. " + hint);
    }
    if (value.stripTrailingZeros().scale() > decimals) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "At most " + decimals + " decimal" + (decimals == 1 ? "" : "s") + ". " + hint);
    }
    if (value.compareTo(new BigDecimal(100_000)) > 0) {
      throw new Unreadable(Rule.TOO_LARGE, "More than 100,000. Check the figure.");
    }
    return value;
  }

  private static String withinLength(String text, int longest) {
    if (text.length() > longest) {
      throw new Unreadable(
          Rule.TOO_LONG,
          "It has " + text.length() + " characters; at most " + longest + " fit here. Shorten it.");
    }
    if (text.chars().anyMatch(c -> c == 0)) {
      throw new Unreadable(
          Rule.UNREADABLE, "It contains a character that cannot be stored. Type it again.");
    }
    return text;
  }

  /** The number without the commas between its thousands; any other comma stays where it is. */
  public static String withoutThousandsCommas(String number) {
    return number.matches("-?\\d{1,3}(,\\d{3})+(\\.\\d*)?") ? number.replace(",", "") : number;
  }

  /** The typed text for a message, cut after 30 characters. */
  public static String abridged(String typed) {
    return typed.length() <= 30 ? typed : typed.substring(0, 30) + "…";
  }
}
