package app.pragmata.core.rounds;

import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Work that comes again.
 *
 * @param first from when on it is due
 * @param last until when; null for without end
 */
public record Round(Repeat repeat, LocalDate first, @Nullable LocalDate last) {
  /** Between two days of any pattern lies less. */
  private static final int YEARS_AHEAD = 6;

  public Round {
    if (last != null && last.isBefore(first)) {
      throw new IllegalArgumentException("a round ends before it begins: " + first + ", " + last);
    }
  }

  /** On which days between two, which both count, it is due; in order. */
  public List<LocalDate> dueBetween(LocalDate from, LocalDate until) {
    return repeat.days(first, from, last != null && last.isBefore(until) ? last : until);
  }

  /** The first day after this one on which it is due; null where it has ended by then. */
  public @Nullable LocalDate nextAfter(LocalDate day) {
    List<LocalDate> ahead = firstAfter(day, 1);
    return ahead.isEmpty() ? null : ahead.getFirst();
  }

  /** The first days after this one on which it is due, at most so many, within six years or so. */
  public List<LocalDate> firstAfter(LocalDate day, int most) {
    LocalDate from = day.isBefore(first) ? first : day.plusDays(1);
    return dueBetween(from, from.plusYears(YEARS_AHEAD)).stream().limit(most).toList();
  }
}
