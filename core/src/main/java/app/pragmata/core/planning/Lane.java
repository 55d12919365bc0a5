package app.pragmata.core.planning;

import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** One person's day as the search sees it: what stands on it, and what it costs to add to that. */
final class Lane {
  /** Nobody promises 10:03. */
  private static final int STEP = 5;

  private static final int SQUARE_OF_HALF_AN_HOUR = 30 * 30;

  /** That a sequence cannot be made. */
  static final long IMPOSSIBLE = Long.MAX_VALUE;

  /**
   * A stop of the day.
   *
   * @param place its number; {@link Drives#NOWHERE} where nobody knows
   * @param from when it begins; for a free one nothing
   * @param task null for one that stays where it is
   */
  record Item(int place, int from, int minutes, @Nullable Free task) {}

  /**
   * A visit that may go anywhere.
   *
   * @param notBefore minutes from the first day's midnight on
   * @param latest minutes from the first day's midnight on; {@link Integer#MAX_VALUE} where the
   *     customer was told no time
   * @param respondBy minutes from the first day's midnight on; {@link Integer#MAX_VALUE} for no
   *     promise
   */
  record Free(
      int number,
      Item item,
      Set<Long> skillIds,
      int notBefore,
      int latest,
      int respondBy,
      @Nullable Long preferredId,
      PlanTask task) {
    Free(int number, int place, PlanTask task, int notBefore, int latest, int respondBy) {
      this(
          number,
          new Item(place, 0, task.wanted().minutes(), null),
          task.wanted().skillIds(),
          notBefore,
          latest,
          respondBy,
          task.preferredId(),
          task);
    }

    Item stop() {
      return new Item(item.place(), 0, item.minutes(), this);
    }
  }

  /** What a day costs, and when its free visits begin. */
  static final class Tally {
    int driving;
    int late;
    int over;
    int waiting;
    int notPreferred;
    final int[] starts;

    Tally(int stops) {
      starts = new int[stops];
    }
  }

  private final PersonDay day;
  private final List<Stretch> open;
  private final int workingMinutes;
  private final int base;
  private final int first;
  private final int dayNumber;
  private final Drives drives;
  private final Penalties penalties;

  Lane(PersonDay day, int base, int first, int dayNumber, Drives drives, Penalties penalties) {
    this.day = day;
    this.open = day.open();
    this.workingMinutes = day.working().stream().mapToInt(Stretch::minutes).sum();
    this.base = base;
    this.first = first;
    this.dayNumber = dayNumber;
    this.drives = drives;
    this.penalties = penalties;
  }

  PersonDay day() {
    return day;
  }

  boolean takes(Free task) {
    return !open.isEmpty()
        && day.skillIds().containsAll(task.skillIds())
        && day.covers(task.task().wanted());
  }

  /** What one visit costs here however it lies, without the driving. */
  long costOf(Free task) {
    return (long) penalties.dayOfWaiting() * dayNumber
        + (isPreferred(task) ? 0 : penalties.notPreferred());
  }

  private boolean isPreferred(Free task) {
    return task.preferredId() == null || task.preferredId() == day.personId();
  }

  /** By how many tenths the driving grows when a stop is put in before a place of the sequence. */
  long addedDriving(List<Item> stops, int at, int place) {
    int before = at == 0 ? base : stops.get(at - 1).place();
    int after = at == stops.size() ? base : stops.get(at).place();
    return (long) penalties.minuteOfDriving()
        * (drives.minutes(before, place)
            + drives.minutes(place, after)
            - drives.minutes(before, after));
  }

  /**
   * The penalty of these stops in this order; impossible when one of the free ones does not fit.
   */
  long cost(List<Item> stops) {
    var tally = new Tally(stops.size());
    return lay(stops, tally) ? cost(tally) : IMPOSSIBLE;
  }

  long cost(Tally tally) {
    return (long) penalties.minuteOfDriving() * tally.driving
        + (long) penalties.minuteLate() * tally.late
        + (long) penalties.dayOfWaiting() * tally.waiting
        + (long) penalties.notPreferred() * tally.notPreferred
        + ((long) penalties.halfHourOver() * tally.over * tally.over) / SQUARE_OF_HALF_AN_HOUR;
  }

  /** Gives each free visit the earliest time that it can have in this order; whether all fit. */
  boolean lay(List<Item> stops, Tally tally) {
    int place = base;
    int time = 0;
    boolean free = false;
    int out = 0;
    for (int i = 0; i < stops.size(); i++) {
      Item stop = stops.get(i);
      int drive = drives.minutes(place, stop.place());
      int begins = stop.from();
      if (stop.task() == null) {
        // What stood there already may clash; only what is added must not.
        if (free && time + drive > begins) {
          return false;
        }
      } else {
        int there = i > 0 ? time + drive : first == 0 ? 0 : first + drive;
        int allowed = stop.task().notBefore() - dayNumber * Stretch.DAY;
        begins = fit(Math.max(there, allowed), stop.task().task().wanted());
        if (begins < 0 || dayNumber * Stretch.DAY + begins > stop.task().latest()) {
          return false;
        }
        int by = stop.task().respondBy() - dayNumber * Stretch.DAY;
        tally.late += stop.task().respondBy() == Integer.MAX_VALUE ? 0 : Math.max(0, begins - by);
        tally.waiting += dayNumber;
        tally.notPreferred += isPreferred(stop.task()) ? 0 : 1;
      }
      if (i == 0) {
        out = begins - drive;
      }
      tally.starts[i] = begins;
      tally.driving += drive;
      time = Math.max(time, begins + stop.minutes());
      place = stop.place();
      free = stop.task() != null;
    }
    if (!stops.isEmpty()) {
      int home = drives.minutes(place, base);
      tally.driving += home;
      tally.over = Math.max(0, time + home - out - workingMinutes);
    }
    return true;
  }

  /** The first time from then on at which the visit fits in; less than nothing for none. */
  private int fit(int from, Wanted wanted) {
    for (Stretch stretch : open) {
      Stretch allowed = wanted.openIn(stretch);
      if (allowed != null) {
        int begins = (Math.max(from, allowed.from()) + STEP - 1) / STEP * STEP;
        if (begins + wanted.minutes() <= allowed.to()) {
          return begins;
        }
      }
    }
    return -1;
  }
}
