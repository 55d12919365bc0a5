package app.pragmata.core.planning;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import java.time.LocalDate;
import java.time.LocalTime;

/** Who goes on which day, at what time, for how long. */
public record VisitPlan(long technicianId, LocalDate day, LocalTime start, int expectedMinutes) {
  private static final int SHORTEST = 5;
  private static final int LONGEST = 16 * 60;

  /** Notes every rule that the plan breaks; work of a day that has passed may be written down. */
  public static void check(LocalDate day, int expectedMinutes, LocalDate today, Reading reading) {
    if (day.isBefore(today.minusYears(1))) {
      reading.fault("day", Rule.TOO_LARGE, "This day is more than a year ago. Check it.");
    }
    if (day.isAfter(today.plusYears(2))) {
      reading.fault("day", Rule.TOO_LARGE, "This day is more than two years away. Check it.");
    }
    if (expectedMinutes < SHORTEST || expectedMinutes > LONGEST) {
      reading.fault(
          "expected",
          Rule.EXCEEDS_LIMIT,
          "A visit lasts between 5 minutes and 16 hours. Enter it like 1:30.");
    }
  }
}
