package app.pragmata.core.company;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Set;

/**
 * When an hour is normal, overtime or night, from a day on; anything outside the normal hours that
 * is not night is overtime.
 *
 * @param onHolidays what hours of a holiday are that are not night
 */
public record WorkingHours(
    LocalDate fromDay,
    Set<DayOfWeek> normalDays,
    LocalTime normalFrom,
    LocalTime normalTo,
    LocalTime nightFrom,
    LocalTime nightTo,
    RateClass onHolidays)
    implements InForce.Dated {

  public WorkingHours {
    normalDays = Set.copyOf(normalDays);
    if (normalDays.isEmpty()) {
      throw new IllegalArgumentException("A company without working days never responds");
    }
    if (!normalFrom.isBefore(normalTo)
        || nightTo.isAfter(normalFrom)
        || nightFrom.isBefore(normalTo)) {
      throw new IllegalArgumentException(
          "Working hours must run: night to, normal from, normal to, night from");
    }
  }

  /** The class of a local time of a day that is a holiday or none. */
  RateClass at(LocalDateTime local, boolean holiday) {
    LocalTime time = local.toLocalTime();
    if (time.isBefore(nightTo) || !time.isBefore(nightFrom)) {
      return RateClass.NIGHT;
    }
    if (holiday) {
      return onHolidays;
    }
    boolean normal =
        normalDays.contains(local.getDayOfWeek())
            && !time.isBefore(normalFrom)
            && time.isBefore(normalTo);
    return normal ? RateClass.NORMAL : RateClass.OVERTIME;
  }
}
