package app.pragmata.core.customers;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;

/**
 * A whole phone number. Within the company's country it is kept with the trunk's 0, from elsewhere
 * with + and the country's code (ITU-T E.123).
 */
public record PhoneNumber(String text) {
  private static final int FEWEST_DIGITS = 10;
  private static final int MOST_DIGITS = 15;

  /**
   * Reads "01632 960121", "+44 1632 960 121", "0044 (0)1632 960121"; the blanks are kept as they
   * were typed where the number is national already.
   *
   * @param diallingCode the company's country, such as "44"
   */
  public static PhoneNumber parse(String typed, String diallingCode) {
    String plain = typed.strip().replaceAll("\\s+", " ");
    String digits = plain.replace("(0)", "").replaceAll("[^0-9+]", "").replaceFirst("^00", "+");
    if (!plain.matches("[0-9+()./ -]+") || digits.lastIndexOf('+') > 0) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“"
              + Reading.abridged(typed)
              + "” is not a phone number. Enter it like 01632 960121 or +44 1632 960121.");
    }
    int count = digits.replace("+", "").length();
    if (count < FEWEST_DIGITS || count > MOST_DIGITS) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“%s” has %d digits; a whole number has %d to %d. Ask for the rest, or leave it empty."
              .formatted(Reading.abridged(typed), count, FEWEST_DIGITS, MOST_DIGITS));
    }
    String own = "+" + diallingCode;
    if (digits.startsWith(own)) {
      return new PhoneNumber(nationally(digits.substring(own.length())));
    }
    return new PhoneNumber(digits.startsWith("+") ? digits : plain);
  }

  /** A number with a five-digit area code, as most are written. */
  private static String nationally(String significant) {
    return significant.length() == 10
        ? "0" + significant.substring(0, 4) + " " + significant.substring(4)
        : "0" + significant;
  }
}
