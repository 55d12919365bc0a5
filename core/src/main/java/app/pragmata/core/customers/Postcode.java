package app.pragmata.core.customers;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.util.Locale;
import java.util.regex.Pattern;

/** How the company's country writes postcodes; a setting. */
public record Postcode(Pattern pattern, String example) {
  private static final int INWARD_LENGTH = 3;

  /**
   * The postcode in capitals with its blank, "os42td" as "OS4 2TD"; a text that fits no postcode is
   * unreadable.
   */
  public String parse(String typed) {
    String capitals = typed.strip().toUpperCase(Locale.ROOT).replaceAll("\\s+", " ");
    if (pattern.matcher(capitals).matches()) {
      return capitals;
    }
    String compact = capitals.replace(" ", "");
    if (compact.length() > INWARD_LENGTH) {
      int blank = compact.length() - INWARD_LENGTH;
      String spaced = compact.substring(0, blank) + " " + compact.substring(blank);
      if (pattern.matcher(spaced).matches()) {
        return spaced;
      }
    }
    throw new Unreadable(
        Rule.UNREADABLE,
        "“%s” fits no postcode. Enter it like %s, or leave it empty."
            .formatted(Reading.abridged(typed), example));
  }
}
