package app.pragmata.core.rounds;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.YearMonth;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * How work comes again. Its days are counted from the round's first day, which it never precedes.
 */
public sealed interface Repeat {
  /** At most so many weeks lie between two. */
  int MOST_WEEKS = 104;

  /** At most so many months lie between two. */
  int MOST_MONTHS = 60;

  /**
   * All days from the round's first on that lie between two others, which both count; in order,
   * each once.
   */
  default List<LocalDate> days(LocalDate first, LocalDate from, LocalDate until) {
    LocalDate begin = from.isBefore(first) ? first : from;
    return begin.isAfter(until)
        ? List.of()
        : candidates(first, begin, until)
            .filter(day -> !day.isBefore(begin) && !day.isAfter(until))
            .sorted()
            .distinct()
            .toList();
  }

  /** Days among which those between the two are. */
  Stream<LocalDate> candidates(LocalDate first, LocalDate from, LocalDate until);

  /** On weekdays of every so many weeks, of which the one with the first day is one. */
  record EveryWeeks(int weeks, Set<DayOfWeek> weekdays) implements Repeat {
    public EveryWeeks {
      if (weeks < 1 || weeks > MOST_WEEKS) {
        throw new IllegalArgumentException("every " + weeks + " weeks");
      }
      weekdays = DaysOfMonth.ordered(weekdays, DayOfWeek.class);
    }

    @Override
    public Stream<LocalDate> candidates(LocalDate first, LocalDate from, LocalDate until) {
      LocalDate week = monday(first);
      long passed = ChronoUnit.WEEKS.between(week, monday(from)) / weeks * weeks;
      return Stream.iterate(
              week.plusWeeks(passed), each -> !each.isAfter(until), each -> each.plusWeeks(weeks))
          .flatMap(
              each -> weekdays.stream().map(weekday -> each.plusDays(weekday.getValue() - 1L)));
    }

    private static LocalDate monday(LocalDate day) {
      return day.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
    }
  }

  /** On days of every so many months, of which the one with the first day is one. */
  record EveryMonths(int months, DaysOfMonth days) implements Repeat {
    public EveryMonths {
      if (months < 1 || months > MOST_MONTHS) {
        throw new IllegalArgumentException("every " + months + " months");
      }
    }

    @Override
    public Stream<LocalDate> candidates(LocalDate first, LocalDate from, LocalDate until) {
      YearMonth begin = YearMonth.from(first);
      long passed = ChronoUnit.MONTHS.between(begin, YearMonth.from(from)) / months * months;
      return Stream.iterate(
              begin.plusMonths(passed),
              month -> !month.isAfter(YearMonth.from(until)),
              month -> month.plusMonths(months))
          .flatMap(days::in);
    }
  }

  /** On days of some months of each year. */
  record InMonths(Set<Month> months, DaysOfMonth days) implements Repeat {
    public InMonths {
      months = DaysOfMonth.ordered(months, Month.class);
    }

    @Override
    public Stream<LocalDate> candidates(LocalDate first, LocalDate from, LocalDate until) {
      return Stream.iterate(
              YearMonth.from(from),
              month -> !month.isAfter(YearMonth.from(until)),
              month -> month.plusMonths(1))
          .filter(month -> months.contains(month.getMonth()))
          .flatMap(days::in);
    }
  }

  /**
   * Reads it as people say it, such as "every 6 weeks on Tuesday", "the second Monday of March and
   * September", "the 15th of every 3rd month" or "every year on 1 May". Throws {@link
   * app.pragmata.core.Unreadable} with the word that it does not know or what it misses.
   */
  static Repeat parse(String typed) {
    return RepeatWords.read(typed);
  }

  /** The same in words that {@link #parse} reads back. */
  default String text() {
    return RepeatWords.text(this);
  }
}
