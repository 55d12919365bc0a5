package app.pragmata.core.rounds;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.temporal.TemporalAdjusters;
import java.util.Collection;
import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Which days of a month are meant. */
public sealed interface DaysOfMonth {
  /** Those of one month, each once, in no order. */
  Stream<LocalDate> in(YearMonth month);

  /**
   * Days by their number.
   *
   * @param dates of 1 to 31; a month that has no such day is meant at its last
   */
  record OnDates(List<Integer> dates) implements DaysOfMonth {
    public OnDates {
      if (dates.isEmpty() || dates.stream().anyMatch(date -> date < 1 || date > 31)) {
        throw new IllegalArgumentException("days of a month have numbers from 1 to 31: " + dates);
      }
      dates = List.copyOf(new TreeSet<>(dates));
    }

    @Override
    public Stream<LocalDate> in(YearMonth month) {
      return dates.stream()
          .map(date -> month.atDay(Math.min(date, month.lengthOfMonth())))
          .distinct();
    }
  }

  /** Which of a month's Mondays, Tuesdays and so on. */
  enum Which {
    FIRST(1),
    SECOND(2),
    THIRD(3),
    FOURTH(4),
    LAST(-1);

    private final int count;

    Which(int count) {
      this.count = count;
    }

    /** How many from the month's beginning; -1 for the last. */
    int count() {
      return count;
    }

    /** The so many-th of a month; null where not every month has one. */
    static @Nullable Which of(int count) {
      for (Which which : values()) {
        if (which.count == count) {
          return which;
        }
      }
      return null;
    }

    private LocalDate of(YearMonth month, DayOfWeek weekday) {
      return month.atDay(1).with(TemporalAdjusters.dayOfWeekInMonth(count, weekday));
    }
  }

  /** Such as its first and third Monday. */
  record OnWeekdays(Set<Which> which, Set<DayOfWeek> weekdays) implements DaysOfMonth {
    public OnWeekdays {
      which = ordered(which, Which.class);
      weekdays = ordered(weekdays, DayOfWeek.class);
    }

    @Override
    public Stream<LocalDate> in(YearMonth month) {
      return which.stream()
          .flatMap(each -> weekdays.stream().map(weekday -> each.of(month, weekday)))
          .distinct();
    }
  }

  /** The words of a set in their own order; refuses an empty one. */
  static <E extends Enum<E>> Set<E> ordered(Collection<E> words, Class<E> type) {
    if (words.isEmpty()) {
      throw new IllegalArgumentException("at least one " + type.getSimpleName());
    }
    return Collections.unmodifiableSet(EnumSet.copyOf(words));
  }
}
