package app.pragmata.core.planning;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.util.Locale;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.regex.Pattern;

/** The districts by which postcodes say where something is, such as OS5 of OS5 2QT. */
public final class Districts {
  private static final Pattern DISTRICT = Pattern.compile("[A-Z0-9]{1,8}");
  private static final Pattern APART = Pattern.compile("[\\s,;]+");

  /** One that is typed without its blank: three characters follow the district. */
  private static final Pattern WITHOUT_BLANK =
      Pattern.compile("([A-Z]{1,2}[0-9][A-Z0-9]?)[0-9][A-Z]{2}");

  private static final int SHORTEST_WITHOUT_BLANK = 5;
  private static final int MOST = 100;

  private Districts() {}

  /** The district of a postcode; empty for one that has none. */
  public static String of(String postcode) {
    String typed = postcode.strip().toUpperCase(Locale.ROOT);
    int blank = typed.indexOf(' ');
    String first = blank < 0 ? APART.split(typed, 2)[0] : typed.substring(0, blank);
    String district = first;
    // Hundreds are read with each day of the Planner, and hardly one is typed like that.
    if (first.length() >= SHORTEST_WITHOUT_BLANK) {
      var together = WITHOUT_BLANK.matcher(first);
      district = together.matches() ? together.group(1) : first;
    }
    return DISTRICT.matcher(district).matches() ? district : "";
  }

  /** Reads "OS1, os2 OS5", each once and in order; refused for what is no district. */
  public static SortedSet<String> parse(String typed) {
    var districts = new TreeSet<String>();
    for (String part : APART.split(typed.strip(), -1)) {
      String district = part.toUpperCase(Locale.ROOT);
      if (!DISTRICT.matcher(district).matches()) {
        throw new Unreadable(
            Rule.UNREADABLE,
            "“%s” is no postcode district. Enter them like OS1, OS2, OS5."
                .formatted(Reading.abridged(part)));
      }
      districts.add(district);
    }
    if (districts.size() > MOST) {
      throw new Unreadable(
          Rule.EXCEEDS_LIMIT, "At most 100 districts are named; empty means everywhere.");
    }
    return districts;
  }
}
