package app.pragmata.core.planning;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import java.time.LocalDate;
import java.time.LocalTime;

/** Who goes on which day, at what time, for how long. */
public record VisitPlan(long technicianId, LocalDate day, LocalTime start, int expectedMinutes) {
  private static final int SHORTEST = 5;
  private static final int LONGEST = 16 * 60;

  /** Notes every rule that the plan breaks. */
  public static void check(LocalDate day, int expectedMinutes, LocalDate today, Reading reading) {
    if (day.isBefore(today)) {
      reading.fault(
          "day", Rule.WRONG_STATE, "This day has passed. Plan the visit for today or later.");
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
