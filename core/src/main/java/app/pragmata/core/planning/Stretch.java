package app.pragmata.core.planning;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A part of a day in minutes after midnight by the company's clock; what begins in the evening may
 * end after the day's last minute.
 *
 * @param from its first minute
 * @param to the minute after its last, later than the first
 */
public record Stretch(int from, int to) {
  public static final int DAY = 24 * 60;

  private static final Pattern TO = Pattern.compile("\\s*(?:to|[-–])\\s*");

  public Stretch {
    if (from < 0 || from >= DAY || to <= from) {
      throw new IllegalArgumentException("%d to %d is no part of a day".formatted(from, to));
    }
  }

  /** From a time on, for so many minutes. */
  public static Stretch of(LocalTime from, int minutes) {
    int start = minuteOf(from);
    return new Stretch(start, start + minutes);
  }

  /** From a time to another of the same day; midnight at its end is the day's end. */
  public static Stretch between(LocalTime from, LocalTime to) {
    int end = minuteOf(to);
    return new Stretch(minuteOf(from), end == 0 ? DAY : end);
  }

  /**
   * Reads "8:00 to 17:30", "8-17" or "7:30 – 14"; refused when it ends before it begins, for work
   * over midnight belongs to the day on which it began.
   */
  public static Stretch parse(String typed) {
    String[] ends = TO.split(typed.strip(), 2);
    if (ends.length < 2) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“%s” is no part of a day. Enter it like 8:00 to 17:30."
              .formatted(Reading.abridged(typed)));
    }
    LocalTime from = Day.parseTime(ends[0]);
    LocalTime to = Day.parseTime(ends[1]);
    if (!from.isBefore(to) && !to.equals(LocalTime.MIDNIGHT)) {
      throw new Unreadable(
          Rule.ENDS_BEFORE_START, "It ends before it begins. Enter it like 8:00 to 17:30.");
    }
    return between(from, to);
  }

  /** The minutes from midnight to this time. */
  public static int minuteOf(LocalTime time) {
    return time.getHour() * 60 + time.getMinute();
  }

  public int minutes() {
    return to - from;
  }

  /** Its first minute as a time of day. */
  public LocalTime start() {
    return LocalTime.ofSecondOfDay(from * 60L);
  }

  /** The minute after its last as a time of day. */
  public LocalTime end() {
    return LocalTime.ofSecondOfDay(to % DAY * 60L);
  }

  /** Whether they have a minute in common. */
  public boolean overlaps(Stretch other) {
    return from < other.to && other.from < to;
  }

  /** Whether all of the other lies in it. */
  public boolean holds(Stretch other) {
    return from <= other.from && other.to <= to;
  }

  /** What they have in common; null for nothing. */
  public @Nullable Stretch within(Stretch other) {
    return overlaps(other) ? new Stretch(Math.max(from, other.from), Math.min(to, other.to)) : null;
  }

  /** What is left of it without the others; nothing when they cover it. */
  public List<Stretch> without(List<Stretch> others) {
    var left = new ArrayList<>(List.of(this));
    for (Stretch other : others) {
      var cut = new ArrayList<Stretch>();
      for (Stretch part : left) {
        if (!part.overlaps(other)) {
          cut.add(part);
          continue;
        }
        if (part.from < other.from) {
          cut.add(new Stretch(part.from, other.from));
        }
        if (other.to < part.to) {
          cut.add(new Stretch(other.to, part.to));
        }
      }
      left = cut;
    }
    return List.copyOf(left);
  }
}
