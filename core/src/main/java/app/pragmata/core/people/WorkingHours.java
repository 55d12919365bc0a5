package app.pragmata.core.people;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * When an hour is normal, overtime or night; anything outside the normal hours that is not night is
 * overtime.
 */
public record WorkingHours(
    ZoneId zone,
    Set<DayOfWeek> normalDays,
    LocalTime normalFrom,
    LocalTime normalTo,
    LocalTime nightFrom,
    LocalTime nightTo) {

  /** A stretch of one rate class. */
  public record Span(RateClass rateClass, Instant from, Instant to) {}

  public WorkingHours {
    normalDays = Set.copyOf(normalDays);
    if (!normalFrom.isBefore(normalTo)
        || nightTo.isAfter(normalFrom)
        || nightFrom.isBefore(normalTo)) {
      throw new IllegalArgumentException(
          "Working hours must run: night to, normal from, normal to, night from");
    }
  }

  /** The class of a moment. */
  public RateClass at(Instant moment) {
    ZonedDateTime local = moment.atZone(zone);
    LocalTime time = local.toLocalTime();
    if (time.isBefore(nightTo) || !time.isBefore(nightFrom)) {
      return RateClass.NIGHT;
    }
    boolean normal =
        normalDays.contains(local.getDayOfWeek())
            && !time.isBefore(normalFrom)
            && time.isBefore(normalTo);
    return normal ? RateClass.NORMAL : RateClass.OVERTIME;
  }

  /**
   * Cuts a clock where the class changes, so that no overtime hides in a long entry; an empty clock
   * gives nothing.
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
    LocalDate firstDay = from.atZone(zone).toLocalDate();
    LocalDate lastDay = to.atZone(zone).toLocalDate();
    return firstDay
        .datesUntil(lastDay.plusDays(2))
        .flatMap(
            day ->
                Stream.of(LocalTime.MIN, nightTo, normalFrom, normalTo, nightFrom).map(day::atTime))
        .map(local -> local.atZone(zone).toInstant())
        .filter(
            boundary ->
                boundary.isAfter(from) && boundary.isBefore(to) && at(boundary) != rateClass)
        .min(Instant::compareTo)
        .orElse(to);
  }
}
