package app.pragmata.core.company;

import java.time.Duration;
import java.time.Instant;

/**
 * How soon somebody is to be on site.
 *
 * @param minutes counted in working hours, or around the clock
 */
public record ResponseTime(int minutes, boolean aroundTheClock) {
  public ResponseTime {
    if (minutes <= 0) {
      throw new IllegalArgumentException("A response takes time: " + minutes);
    }
  }

  /** By when somebody is to be on site after a call. */
  public Instant respondBy(Instant called, WorkingCalendar calendar) {
    return aroundTheClock
        ? called.plus(Duration.ofMinutes(minutes))
        : calendar.after(called, minutes);
  }

  /**
   * Minutes left until then, counted as the response is; below nothing once it is late. Of a late
   * one at least a minute is gone.
   */
  public int minutesLeft(Instant now, Instant respondBy, WorkingCalendar calendar) {
    if (now.isAfter(respondBy)) {
      return Math.min(-1, -between(respondBy, now, calendar));
    }
    return between(now, respondBy, calendar);
  }

  private int between(Instant from, Instant to, WorkingCalendar calendar) {
    return aroundTheClock
        ? Math.toIntExact(Duration.between(from, to).toMinutes())
        : calendar.minutesBetween(from, to);
  }
}
