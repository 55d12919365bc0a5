package app.pragmata.core.company;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/** The day from which terms hold. */
public final class FromDay {
  private static final int MOST_YEARS_AHEAD = 2;

  private FromDay() {}

  /**
   * Reads it from the field {@code fromDay}: today at the earliest, for what was worked before has
   * its cost and its price, and two years ahead at the latest; null, with a fault noted, for
   * anything else.
   */
  public static @Nullable LocalDate read(Reading reading, @Nullable String typed, LocalDate today) {
    LocalDate from = reading.required("fromDay", typed, text -> Day.parse(text, today));
    if (from != null && from.isBefore(today)) {
      reading.fault(
          "fromDay",
          Rule.DAY_PASSED,
          "What was worked before today has its cost and its price. Enter today or a later day.");
    }
    if (from != null && from.isAfter(today.plusYears(MOST_YEARS_AHEAD))) {
      reading.fault("fromDay", Rule.TOO_LARGE, "That is years ahead. Check the day.");
    }
    return from;
  }
}
