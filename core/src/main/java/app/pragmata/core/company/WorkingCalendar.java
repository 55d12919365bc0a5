package app.pragmata.core.company;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/** The company's hours as they are in force, with its holidays, in its time zone. */
public record WorkingCalendar(ZoneId zone, InForce<WorkingHours> hours, Set<LocalDate> holidays) {

  /** A stretch of one rate class on one day. */
  public record Span(RateClass rateClass, Instant from, Instant to) {}

  public WorkingCalendar {
    holidays = Set.copyOf(holidays);
  }

  /** The class of a moment. */
  public RateClass at(Instant moment) {
    ZonedDateTime local = moment.atZone(zone);
    LocalDate day = local.toLocalDate();
    return hours.on(day).at(local.toLocalDateTime(), holidays.contains(day));
  }

  /**
   * Cuts a clock where the day or the class changes, so that no overtime hides in a long entry and
   * every part has the rates of its own day; an empty clock gives nothing.
   */
  public List<Span> split(Instant from, Instant to) {
    var spans = new ArrayList<Span>();
    Instant start = from;
    while (start.isBefore(to)) {
      RateClass rateClass = at(start);
      Instant end = nextChange(start, to, rateClass);
      spans.add(new Span(rateClass, start, end));
      start = end;
    }
    return spans;
  }

  private Instant nextChange(Instant from, Instant to, RateClass rateClass) {
    LocalDate day = from.atZone(zone).toLocalDate();
    WorkingHours inForce = hours.on(day);
    Instant midnight = day.plusDays(1).atStartOfDay(zone).toInstant();
    return Stream.of(
            inForce.nightTo(), inForce.normalFrom(), inForce.normalTo(), inForce.nightFrom())
        .map(time -> instant(day, time))
        .filter(boundary -> boundary.isAfter(from) && at(boundary) != rateClass)
        .reduce(midnight.isBefore(to) ? midnight : to, WorkingCalendar::earlier);
  }

  /**
   * The moment at which so many working minutes have passed; a count that starts outside the
   * working hours starts with the next ones.
   */
  public Instant after(Instant from, int workingMinutes) {
    long secondsLeft = workingMinutes * 60L;
    LocalDate day = from.atZone(zone).toLocalDate();
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
    LocalDate last = to.atZone(zone).toLocalDate();
    for (LocalDate day = from.atZone(zone).toLocalDate();
        !day.isAfter(last);
        day = day.plusDays(1)) {
      if (isWorkday(day)) {
        Instant start = later(from, opening(day));
        Instant end = earlier(to, closing(day));
        seconds += Math.max(0, Duration.between(start, end).toSeconds());
      }
    }
    return Math.toIntExact(seconds / 60);
  }

  /** The day on which so many workdays have passed since a day; for none, the day itself. */
  public LocalDate workdaysAfter(LocalDate from, int workdays) {
    LocalDate day = from;
    for (int left = workdays; left > 0; ) {
      day = day.plusDays(1);
      left -= isWorkday(day) ? 1 : 0;
    }
    return day;
  }

  /** Whether the company works on a day as a rule. */
  public boolean isWorkday(LocalDate day) {
    return hours.on(day).normalDays().contains(day.getDayOfWeek()) && !holidays.contains(day);
  }

  private Instant opening(LocalDate day) {
    return instant(day, hours.on(day).normalFrom());
  }

  private Instant closing(LocalDate day) {
    return instant(day, hours.on(day).normalTo());
  }

  private Instant instant(LocalDate day, LocalTime time) {
    return day.atTime(time).atZone(zone).toInstant();
  }

  private static Instant later(Instant one, Instant other) {
    return one.isAfter(other) ? one : other;
  }

  private static Instant earlier(Instant one, Instant other) {
    return one.isBefore(other) ? one : other;
  }
}
