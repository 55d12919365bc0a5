package app.pragmata.core.money;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Lengths of time in whole minutes, as people type and read them. */
public final class Minutes {
  private static final Pattern CLOCK = Pattern.compile("(\\d{1,4}):([0-5]\\d)");
  private static final Pattern LETTERS =
      Pattern.compile("(?:(\\d{1,4})\\s*h)?\\s*(?:(\\d{1,4})\\s*(?:m|min)?)?");
  private static final Pattern HOURS = Pattern.compile("\\d{1,4}(\\.\\d{1,2})?");
  private static final int LONGEST_TYPED = 10_000 * 60;

  private Minutes() {}

  /**
   * Reads "2:35", "2h35", "2h", "45m" or hours such as "2.5"; a bare whole number is hours up to
   * 12, else minutes.
   */
  public static int parse(String typed) {
    String plain = typed.strip().toLowerCase(Locale.ROOT);
    int minutes = read(plain, typed);
    if (minutes > LONGEST_TYPED) {
      throw new Unreadable(Rule.TOO_LARGE, "More than 10,000 hours. Check the figure.");
    }
    return minutes;
  }

  private static int read(String plain, String typed) {
    Matcher clock = CLOCK.matcher(plain);
    if (clock.matches()) {
      return Integer.parseInt(clock.group(1)) * 60 + Integer.parseInt(clock.group(2));
    }
    if (HOURS.matcher(plain).matches()) {
      BigDecimal number = new BigDecimal(plain);
      boolean hours = number.scale() > 0 || number.compareTo(BigDecimal.valueOf(12)) <= 0;
      return hours
          ? number
              .multiply(BigDecimal.valueOf(60))
              .setScale(0, RoundingMode.HALF_UP)
              .intValueExact()
          : number.intValueExact();
    }
    Matcher letters = LETTERS.matcher(plain);
    if (!plain.isEmpty() && letters.matches()) {
      return number(letters.group(1)) * 60 + number(letters.group(2));
    }
    if (plain.startsWith("-")) {
      throw new Unreadable(
          Rule.NEGATIVE, "A length of time cannot be negative. Enter it like 1:30 or 2h15.");
    }
    throw new Unreadable(
        Rule.UNREADABLE,
        "“"
            + Reading.abridged(typed)
            + "” is not a length of time. Enter it like 1:30, 2h15 or 45m.");
  }

  private static int number(@Nullable String digits) {
    return digits == null ? 0 : Integer.parseInt(digits);
  }

  /** Hours and minutes, such as "2:35". */
  public static String text(int minutes) {
    return "%d:%02d".formatted(minutes / 60, minutes % 60);
  }

  /** Rounded up to a whole number of steps; nothing stays nothing. */
  public static int roundedUp(int minutes, int step) {
    return Math.ceilDiv(minutes, step) * step;
  }
}
