package app.pragmata.server.jobs;

import app.pragmata.core.company.WorkingCalendar;
import java.math.BigDecimal;
import java.util.List;

/**
 * Time as it was written down afterwards.
 *
 * @param spans at least one, cut where the day or the class changes
 * @param reason why nobody clocked it, or why it is put right
 */
public record WrittenTime(
    List<WorkingCalendar.Span> spans, BigDecimal miles, String description, String reason) {
  public WrittenTime {
    spans = List.copyOf(spans);
  }
}
