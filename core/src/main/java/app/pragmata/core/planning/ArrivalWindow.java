package app.pragmata.core.planning;

import java.time.LocalTime;

/**
 * Between when somebody arrives, as it is promised on the telephone: an hour, from the half hour
 * before the planned time on, so that 10:15 is between 10:00 and 11:00.
 */
public record ArrivalWindow(LocalTime from, LocalTime to) {
  private static final int HALF_AN_HOUR = 30;

  /** The window of a planned start. */
  public static ArrivalWindow of(LocalTime start) {
    LocalTime from =
        start.withMinute(start.getMinute() / HALF_AN_HOUR * HALF_AN_HOUR).withSecond(0).withNano(0);
    return new ArrivalWindow(from, from.plusHours(1));
  }
}
