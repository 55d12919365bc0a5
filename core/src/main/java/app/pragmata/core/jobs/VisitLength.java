package app.pragmata.core.jobs;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.money.Minutes;

/** How long a visit may last: 5 minutes to 16 hours. */
public final class VisitLength {
  private static final int SHORTEST = 5;
  private static final int LONGEST = 16 * 60;

  private VisitLength() {}

  /** Its minutes as typed, such as 1:30. */
  public static int parse(String typed) {
    int minutes = Minutes.parse(typed);
    check(minutes);
    return minutes;
  }

  /** Refuses any other with {@link Rule#EXCEEDS_LIMIT}. */
  public static void check(int minutes) {
    if (minutes < SHORTEST || minutes > LONGEST) {
      throw new Unreadable(
          Rule.EXCEEDS_LIMIT,
          "A visit lasts between 5 minutes and 16 hours. Enter it like 1:30; plan what takes several days as a visit for each day.");
    }
  }
}
