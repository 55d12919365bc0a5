package app.pragmata.core.wages;

import static java.time.temporal.TemporalAdjusters.previousOrSame;

import app.pragmata.core.company.InForce;
import app.pragmata.core.company.PayClass;
import app.pragmata.core.company.PayTerms;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.TimeEntry;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * The paid time of a person's week, from Monday on (ISO 8601), cut into classes of pay. Nobody
 * chooses a class: it follows from the clocks and the company's rules. Of each class the minutes of
 * a day, a kind and a job stand together.
 */
public record PaidWeek(List<PaidTime> times) {
  /**
   * A clock of the week that has ended; it lies within one day and one rate class.
   *
   * @param rateClass by the clock, or as somebody overruled it
   * @param overruled whether somebody did; then it is paid as that class, whatever the day was
   * @param jobNumber null for time on no visit
   * @param what time on no visit was for; empty for a drive and a break
   */
  public record Worked(
      LocalDate day,
      Instant from,
      TimeEntry.Kind kind,
      RateClass rateClass,
      boolean overruled,
      @Nullable Long jobNumber,
      String what,
      int minutes) {}

  /**
   * Minutes of one class.
   *
   * @param kind null for what rounding adds to the paid time of a day, or takes off below nothing
   * @param jobNumber null for time on no visit
   * @param what time on no visit was for; empty for none
   */
  public record PaidTime(
      LocalDate day,
      PayClass payClass,
      TimeEntry.@Nullable Kind kind,
      @Nullable Long jobNumber,
      String what,
      int minutes) {}

  private record Piece(Worked worked, PayClass payClass, int minutes) {
    boolean mayBeCut() {
      return payClass == PayClass.NORMAL && !worked.overruled();
    }
  }

  /** What of these minutes stands together. */
  private record Key(
      LocalDate day, PayClass payClass, TimeEntry.Kind kind, @Nullable Long job, String what) {}

  public PaidWeek {
    times = List.copyOf(times);
  }

  /**
   * Cuts a week.
   *
   * @param week of one person, in any order
   * @param terms of each day those in force on it; of the week's own limit those of its Monday
   * @param holidays days that are paid as such
   */
  public static PaidWeek of(List<Worked> week, InForce<PayTerms> terms, Set<LocalDate> holidays) {
    List<Piece> pieces = new ArrayList<>();
    week.stream()
        .filter(
            worked ->
                worked.minutes() > 0
                    && (worked.kind() != TimeEntry.Kind.BREAK
                        || terms.on(worked.day()).breaksPaid()))
        .sorted(Comparator.comparing(Worked::from))
        .forEach(
            worked ->
                pieces.add(
                    new Piece(
                        worked,
                        byTheDay(worked, terms.on(worked.day()), holidays),
                        worked.minutes())));
    if (pieces.isEmpty()) {
      return new PaidWeek(List.of());
    }
    Map<LocalDate, List<Piece>> byDay = new TreeMap<>();
    pieces.forEach(
        piece -> byDay.computeIfAbsent(piece.worked().day(), day -> new ArrayList<>()).add(piece));
    List<Piece> cut = new ArrayList<>();
    byDay.forEach((day, ofDay) -> cut.addAll(pastLimit(ofDay, terms.on(day).dailyMinutes())));
    LocalDate first = byDay.keySet().iterator().next();
    LocalDate monday = first.with(previousOrSame(DayOfWeek.MONDAY));
    return new PaidWeek(together(pastLimit(cut, terms.on(monday).weeklyMinutes()), terms));
  }

  private static PayClass byTheDay(Worked worked, PayTerms terms, Set<LocalDate> holidays) {
    PayClass byTheClock =
        switch (worked.rateClass()) {
          case NORMAL -> PayClass.NORMAL;
          case OVERTIME -> PayClass.OVERTIME;
          case NIGHT -> PayClass.NIGHT;
        };
    if (worked.overruled() || byTheClock == PayClass.NIGHT) {
      return byTheClock;
    }
    if (holidays.contains(worked.day())) {
      return PayClass.HOLIDAY;
    }
    return terms.weekend().contains(worked.day().getDayOfWeek()) ? PayClass.WEEKEND : byTheClock;
  }

  /** Normal time past the limit is overtime, the last of it first. */
  private static List<Piece> pastLimit(List<Piece> pieces, @Nullable Integer limit) {
    if (limit == null) {
      return pieces;
    }
    var cut = new ArrayList<Piece>();
    int left = limit;
    for (Piece piece : pieces) {
      if (piece.payClass() != PayClass.NORMAL) {
        cut.add(piece);
        continue;
      }
      int normal = piece.mayBeCut() ? Math.min(piece.minutes(), left) : piece.minutes();
      left = Math.max(0, left - normal);
      if (normal > 0) {
        cut.add(new Piece(piece.worked(), PayClass.NORMAL, normal));
      }
      if (normal < piece.minutes()) {
        cut.add(new Piece(piece.worked(), PayClass.OVERTIME, piece.minutes() - normal));
      }
    }
    return cut;
  }

  private static List<PaidTime> together(List<Piece> pieces, InForce<PayTerms> terms) {
    Map<Key, Integer> minutes = new LinkedHashMap<>();
    Map<LocalDate, Integer> ofDay = new TreeMap<>();
    Map<LocalDate, PayClass> lastClass = new TreeMap<>();
    for (Piece piece : pieces) {
      Worked worked = piece.worked();
      minutes.merge(
          new Key(worked.day(), piece.payClass(), worked.kind(), worked.jobNumber(), worked.what()),
          piece.minutes(),
          Integer::sum);
      ofDay.merge(worked.day(), piece.minutes(), Integer::sum);
      lastClass.put(worked.day(), piece.payClass());
    }
    var times = new ArrayList<PaidTime>();
    minutes.forEach(
        (key, sum) ->
            times.add(
                new PaidTime(key.day(), key.payClass(), key.kind(), key.job(), key.what(), sum)));
    ofDay.forEach(
        (day, sum) -> {
          int step = terms.on(day).roundingMinutes();
          int more = (2 * sum + step) / (2 * step) * step - sum;
          if (more != 0) {
            times.add(new PaidTime(day, lastClass.get(day), null, null, "", more));
          }
        });
    times.sort(Comparator.comparing(PaidTime::day));
    return times;
  }

  /** Paid minutes of each class, with what rounding adds; none of a class that was not worked. */
  public Map<PayClass, Integer> minutesByClass() {
    return minutesByClass(times);
  }

  /** The same of times of whatever days. */
  public static Map<PayClass, Integer> minutesByClass(List<PaidTime> times) {
    var sums = new EnumMap<PayClass, Integer>(PayClass.class);
    times.forEach(time -> sums.merge(time.payClass(), time.minutes(), Integer::sum));
    return sums;
  }
}
