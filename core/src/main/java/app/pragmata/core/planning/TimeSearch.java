package app.pragmata.core.planning;

import app.pragmata.core.planning.PersonDay.Stop;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Looks for the best times for a visit: what was promised is kept where it can be; then an hour of
 * waiting counts as much as two more minutes of driving, and a day as a quarter of an hour more.
 *
 * @param earliest before which nothing begins, by the company's clock
 * @param within the part of a day that suits the customer
 */
public record TimeSearch(Ways ways, LocalDateTime earliest, Stretch within) {
  /** Nobody promises 10:03. */
  private static final int STEP = 5;

  // In tenths of a minute of driving.
  private static final int MINUTE_OF_DRIVING = 10;
  private static final int DAY_OF_WAITING = 150;
  private static final int MINUTES_OF_WAITING = 3;

  /**
   * A time that is free for the visit and the drives around it.
   *
   * @param afterVisitId the stop before it; null for from the base
   * @param drive to it from there
   * @param addedMinutes by how much the person drives longer that day; less than nothing when the
   *     visit lies on a better way
   * @param lateMinutes by how much it is later than was promised
   */
  public record Found(
      long personId,
      LocalDate day,
      Stretch at,
      @Nullable Long afterVisitId,
      Way drive,
      int addedMinutes,
      int lateMinutes) {
    /** The visit as a stop at this time. */
    public Stop stop(Wanted wanted) {
      return new Stop(wanted.visitId() == null ? 0 : wanted.visitId(), wanted.place(), at);
    }
  }

  /**
   * The best times of these days, the best first, at most one of each; whoever lacks a skill has
   * none.
   */
  public List<Found> best(Wanted wanted, List<PersonDay> days, int most) {
    return days.stream()
        .filter(day -> day.skillIds().containsAll(wanted.skillIds()))
        .flatMap(day -> found(wanted, day.without(wanted.visitId())).stream())
        .sorted(order())
        .limit(most)
        .toList();
  }

  private Comparator<Found> order() {
    return Comparator.comparingInt(Found::lateMinutes)
        .thenComparingInt(this::cost)
        .thenComparing(Found::day)
        .thenComparingInt(found -> found.at().from())
        .thenComparingLong(Found::personId);
  }

  private int cost(Found found) {
    int days = Math.toIntExact(ChronoUnit.DAYS.between(earliest.toLocalDate(), found.day()));
    return MINUTE_OF_DRIVING * found.addedMinutes()
        + DAY_OF_WAITING * days
        + found.at().from() / MINUTES_OF_WAITING;
  }

  private List<Found> found(Wanted wanted, PersonDay day) {
    if (day.day().isBefore(earliest.toLocalDate())) {
      return List.of();
    }
    int first =
        day.day().equals(earliest.toLocalDate()) ? Stretch.minuteOf(earliest.toLocalTime()) : 0;
    if (wanted.notBefore() != null && wanted.notBefore().toLocalDate().isAfter(day.day())) {
      return List.of();
    }
    var found = new ArrayList<Found>();
    for (int i = 0; i <= day.stops().size(); i++) {
      Stop before = i == 0 ? null : day.stops().get(i - 1);
      Stop after = i == day.stops().size() ? null : day.stops().get(i);
      for (Stretch free : day.open()) {
        between(wanted, day, before, after, free, first).ifPresent(found::add);
      }
    }
    return found.stream().min(order()).stream().toList();
  }

  private Optional<Found> between(
      Wanted wanted,
      PersonDay day,
      @Nullable Stop before,
      @Nullable Stop after,
      Stretch free,
      int first) {
    Way there = PersonDay.way(ways, before == null ? day.base() : before.place(), wanted.place());
    Way onward = PersonDay.way(ways, wanted.place(), after == null ? day.base() : after.place());
    Way instead =
        PersonDay.way(
            ways,
            before == null ? day.base() : before.place(),
            after == null ? day.base() : after.place());
    int from = Math.max(Math.max(free.from(), within.from()), first);
    if (before != null) {
      from = Math.max(from, before.at().to() + there.minutes());
    } else if (first > 0) {
      from = Math.max(from, first + there.minutes());
    }
    if (wanted.notBefore() != null && wanted.notBefore().toLocalDate().equals(day.day())) {
      from = Math.max(from, Stretch.minuteOf(wanted.notBefore().toLocalTime()));
    }
    from = (from + STEP - 1) / STEP * STEP;
    int to = Math.min(free.to(), within.to());
    if (after != null) {
      to = Math.min(to, after.at().from() - onward.minutes());
    }
    if (from + wanted.minutes() > to) {
      return Optional.empty();
    }
    var at = new Stretch(from, from + wanted.minutes());
    return Optional.of(
        new Found(
            day.personId(),
            day.day(),
            at,
            before == null ? null : before.visitId(),
            there,
            there.minutes() + onward.minutes() - instead.minutes(),
            late(wanted, day.day().atTime(at.start()))));
  }

  private static int late(Wanted wanted, LocalDateTime start) {
    return wanted.respondBy() == null
        ? 0
        : (int) Math.max(0, Duration.between(wanted.respondBy(), start).toMinutes());
  }
}
