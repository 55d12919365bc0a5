package app.pragmata.core.people;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.util.Locale;

/** The name that somebody signs in with. */
public final class Username {
  private Username() {}

  /** The name in small letters; unreadable when it is none that can be typed without doubt. */
  public static String parse(String typed) {
    String name = typed.toLowerCase(Locale.ROOT);
    if (!name.matches("[\\p{L}\\p{N}._@-]{2,40}")) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "Two to forty letters or digits without blanks, such as aino or a.kivi.");
    }
    return name;
  }
}
