package app.pragmata.core.planning;

import app.pragmata.core.people.WorkingHours;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Set;

/** The company's normal hours without its holidays. */
public record WorkingCalendar(WorkingHours hours, Set<LocalDate> holidays) {
  public WorkingCalendar {
    holidays = Set.copyOf(holidays);
    if (hours.normalDays().isEmpty()) {
      throw new IllegalArgumentException("A company without working days never responds");
    }
  }

  /**
   * The moment at which so many working minutes have passed; a count that starts outside the
   * working hours starts with the next ones.
   */
  public Instant after(Instant from, int workingMinutes) {
    long secondsLeft = workingMinutes * 60L;
    LocalDate day = from.atZone(hours.zone()).toLocalDate();
    while (true) {
      if (isWorkday(day)) {
        Instant start = later(from, opening(day));
        long seconds = Math.max(0, Duration.between(start, closing(day)).toSeconds());
        if (seconds > 0 && secondsLeft <= seconds) {
          return start.plusSeconds(secondsLeft);
        }
        secondsLeft -= seconds;
      }
      day = day.plusDays(1);
    }
  }

  /** Whole working minutes from one moment to a later one; nothing when it is not later. */
  public int minutesBetween(Instant from, Instant to) {
    long seconds = 0;
    LocalDate last = to.atZone(hours.zone()).toLocalDate();
    for (LocalDate day = from.atZone(hours.zone()).toLocalDate();
        !day.isAfter(last);
        day = day.plusDays(1)) {
      if (isWorkday(day)) {
        Instant start = later(from, opening(day));
        Instant end = to.isBefore(closing(day)) ? to : closing(day);
        seconds += Math.max(0, Duration.between(start, end).toSeconds());
      }
    }
    return Math.toIntExact(seconds / 60);
  }

  private boolean isWorkday(LocalDate day) {
    return hours.normalDays().contains(day.getDayOfWeek()) && !holidays.contains(day);
  }

  private Instant opening(LocalDate day) {
    return day.atTime(hours.normalFrom()).atZone(hours.zone()).toInstant();
  }

  private Instant closing(LocalDate day) {
    return day.atTime(hours.normalTo()).atZone(hours.zone()).toInstant();
  }

  private static Instant later(Instant one, Instant other) {
    return one.isAfter(other) ? one : other;
  }
}
