package app.pragmata.core;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Reads a form as it was typed and collects every fault, so that all of them are told at once. */
public final class Reading {
  /** Names, titles and the like, which stand on one line of lists and documents. */
  private static final int LINE = 120;

  // The one that no database stores stays, to be told.
  private static final Pattern UNSEEN =
      Pattern.compile(
          "[\\p{Cc}&&[^\n\t\\x00]]|[\\x{061C}\\x{200E}\\x{200F}\\x{202A}-\\x{202E}\\x{2066}-\\x{2069}\\x{FEFF}]");

  private final List<Fault> faults = new ArrayList<>();

  /** A required entry; null, with a fault noted, when it is empty or cannot be read. */
  public <T> @Nullable T required(
      String field, @Nullable String typed, Function<String, T> reader) {
    if (plain(typed).isEmpty()) {
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
    String plain = plain(typed);
    if (plain.isEmpty()) {
      return null;
    }
    try {
      return reader.apply(plain);
    } catch (Unreadable unreadable) {
      fault(field, unreadable.rule(), unreadable.getMessage());
      return null;
    }
  }

  /**
   * What was typed without the blanks around it and without what cannot be seen: control characters
   * but ends of lines and tabs, and signs that turn the direction of writing (Unicode, UAX #9),
   * which come along with copied text and make one name look like another. Empty for null.
   */
  private static String plain(@Nullable String typed) {
    return typed == null
        ? ""
        : UNSEEN.matcher(typed.replace("\r\n", "\n").replace('\r', '\n')).replaceAll("").strip();
  }

  /**
   * Text of at least one and at most {@code longest} characters, without the blanks around it; one
   * line when it is no longer than a line.
   */
  public @Nullable String text(String field, @Nullable String typed, int longest) {
    return required(field, typed, text -> withinLength(text, longest));
  }

  /** The same that may be left empty; the empty text when it is. */
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

  /** What was counted, as typed: nothing or more, at most three decimals, at most 100,000. */
  public static BigDecimal counted(String typed) {
    return decimal(typed, 3, "Enter what is there, such as 0, 2 or 1.5.");
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

  /**
   * A percentage as typed, such as "23", "21.5" or "12,5 %", as a fraction: 0.23. Not negative, at
   * most two decimals, at most 999.99.
   */
  public static BigDecimal percent(String typed) {
    String number = typed.replace("%", "").strip().replace(',', '.');
    if (!number.matches("\\d{1,3}(\\.\\d{1,2})?")) {
      throw new Unreadable(Rule.UNREADABLE, "Enter a percentage such as 23 or 21.5.");
    }
    return new BigDecimal(number).movePointLeft(2);
  }

  /** A whole number as typed, within limits that both count. */
  public static int whole(String typed, int least, int most) {
    if (!typed.matches("\\d{1,9}")
        || Integer.parseInt(typed) < least
        || Integer.parseInt(typed) > most) {
      throw new Unreadable(
          Rule.UNREADABLE, "Enter a whole number from %,d to %,d.".formatted(least, most));
    }
    return Integer.parseInt(typed);
  }

  /**
   * What an instrument shows, as typed: at most nine digits and three decimals; less than nothing
   * too.
   */
  public static BigDecimal measured(String typed) {
    String plain = typed.replace('\u2212', '-');
    return number(plain, 3, "Enter what was measured, such as 380 or -2.5.");
  }

  private static BigDecimal decimal(String typed, int decimals, String hint) {
    BigDecimal value = number(typed, decimals, hint);
    if (value.signum() < 0) {
      throw new Unreadable(Rule.NEGATIVE, "It cannot be less than nothing. " + hint);
    }
    if (value.compareTo(new BigDecimal(100_000)) > 0) {
      throw new Unreadable(Rule.TOO_LARGE, "More than 100,000. Check the figure.");
    }
    return value;
  }

  private static BigDecimal number(String typed, int decimals, String hint) {
    String plain = withoutThousandsCommas(typed.replace(" ", ""));
    if (!plain.matches("-?\\d{1,9}(\\.\\d{1,6})?")) {
      throw new Unreadable(Rule.UNREADABLE, "“" + abridged(typed) + "” is not a number. " + hint);
    }
    BigDecimal value = new BigDecimal(plain);
    if (value.stripTrailingZeros().scale() > decimals) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "At most " + decimals + " decimal" + (decimals == 1 ? "" : "s") + ". " + hint);
    }
    return value;
  }

  /**
   * Words of at most {@code longest} characters that can be stored, for what is read in another way
   * than by {@link #text}.
   */
  public static String withinLength(String written, int longest) {
    String text = longest <= LINE ? written.replaceAll("\\s*\n\\s*", " ") : written;
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
