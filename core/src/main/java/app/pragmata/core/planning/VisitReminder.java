package app.pragmata.core.planning;

import app.pragmata.core.company.WorkingCalendar;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Optional;

/**
 * When customers are reminded of visits: on the workday before, from a time on, so that somebody
 * who would not be there can still call while the office is open.
 */
public record VisitReminder(LocalTime at) {

  /**
   * The last day whose visits are reminded of now, those of all days after today up to it: the next
   * workday. Empty before the time, and on days when nobody works.
   */
  public Optional<LocalDate> lastDay(LocalDateTime now, WorkingCalendar calendar) {
    LocalDate today = now.toLocalDate();
    return calendar.isWorkday(today) && !now.toLocalTime().isBefore(at)
        ? Optional.of(calendar.workdaysAfter(today, 1))
        : Optional.empty();
  }
}
