package app.pragmata.core;

import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.Month;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.TemporalAdjusters;
import java.time.zone.ZoneOffsetTransition;
import java.time.zone.ZoneRules;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Days and times of day as people type them. */
public final class Day {
  private static final Pattern DAY_MONTH =
      Pattern.compile("(\\d{1,2})[ ./]+([a-z]{3,9}|\\d{1,2})(?:[ ./]+(\\d{2}|\\d{4}))?");
  private static final Pattern RELATIVE = Pattern.compile("\\+(\\d{1,3})");
  private static final Pattern SPAN = Pattern.compile("\\+?(\\d{1,3}) ?(d|days?|w|weeks?)");
  private static final Pattern LATER = Pattern.compile("(.+?)\\s*\\+(\\d)");
  private static final Pattern TIME =
      Pattern.compile("(\\d{1,2})(?:[:.h]?([0-5]\\d))?\\s*(am|pm)?");

  private Day() {}

  /**
   * Reads "today", "tomorrow", "tue" (the next one, today included), "+3", "30 days", "2 weeks",
   * "24 nov", "24/11", "24.11.2026", "2026-11-24".
   */
  public static LocalDate parse(String typed, LocalDate today) {
    return parse(typed, today, Toward.AHEAD);
  }

  /**
   * Reads the same but for spans, and looks back where {@link #parse} looks ahead: "fri" is the
   * last one, today included, and "24 dec" in November is last year's. A day that was written out
   * whole may still lie ahead.
   */
  public static LocalDate parsePast(String typed, LocalDate today) {
    return parse(typed, today, Toward.BACK);
  }

  /** Notes when a day lies so far back that nothing is written down on it any more. */
  public static void checkNotLongAgo(
      String field, LocalDate day, LocalDate today, Reading reading) {
    if (day.isBefore(today.minusYears(1))) {
      reading.fault(field, Rule.TOO_LARGE, "This day is more than a year ago. Check it.");
    }
  }

  private enum Toward {
    AHEAD,
    BACK
  }

  private static LocalDate parse(String typed, LocalDate today, Toward toward) {
    String plain = typed.strip().toLowerCase(Locale.ROOT);
    try {
      return read(plain, today, toward);
    } catch (DateTimeException | NumberFormatException impossible) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“"
              + Reading.abridged(typed)
              + "” is not a day. Enter it like tue, tomorrow, +3 or 24 nov.");
    }
  }

  private static LocalDate read(String plain, LocalDate today, Toward toward) {
    if (plain.equals("today")) {
      return today;
    }
    if (plain.equals("tomorrow") || plain.equals("tom")) {
      return today.plusDays(1);
    }
    if (plain.equals("yesterday")) {
      return today.minusDays(1);
    }
    Matcher relative = RELATIVE.matcher(plain);
    if (relative.matches()) {
      return today.plusDays(Integer.parseInt(relative.group(1)));
    }
    Matcher span = SPAN.matcher(plain);
    if (toward == Toward.AHEAD && span.matches()) {
      int count = Integer.parseInt(span.group(1));
      return span.group(2).startsWith("w") ? today.plusWeeks(count) : today.plusDays(count);
    }
    Matcher dayMonth =
        DAY_MONTH.matcher(
            plain.replaceFirst("^(mon|tue|wed|thu|fri|sat|sun)[a-z]*\\s+(?=\\d)", ""));
    if (dayMonth.matches()) {
      return dayOfMonth(dayMonth, today, toward);
    }
    if (plain.length() >= 2 && plain.chars().allMatch(Character::isLetter)) {
      DayOfWeek weekday = weekday(plain);
      return today.with(
          toward == Toward.AHEAD
              ? TemporalAdjusters.nextOrSame(weekday)
              : TemporalAdjusters.previousOrSame(weekday));
    }
    return LocalDate.parse(plain);
  }

  private static LocalDate dayOfMonth(Matcher matcher, LocalDate today, Toward toward) {
    int day = Integer.parseInt(matcher.group(1));
    int month = month(matcher.group(2));
    String year = matcher.group(3);
    if (year != null) {
      int typedYear = Integer.parseInt(year);
      return LocalDate.of(typedYear < 100 ? 2000 + typedYear : typedYear, month, day);
    }
    LocalDate thisYear = LocalDate.of(today.getYear(), month, day);
    return switch (toward) {
      case AHEAD -> thisYear.isBefore(today.minusMonths(6)) ? thisYear.plusYears(1) : thisYear;
      case BACK -> thisYear.isAfter(today) ? thisYear.minusYears(1) : thisYear;
    };
  }

  private static int month(String text) {
    if (Character.isDigit(text.charAt(0))) {
      return Integer.parseInt(text);
    }
    return Arrays.stream(Month.values())
        .filter(month -> month.name().toLowerCase(Locale.ROOT).startsWith(text))
        .findFirst()
        .orElseThrow(() -> new DateTimeException(text))
        .getValue();
  }

  private static DayOfWeek weekday(String text) {
    return Arrays.stream(DayOfWeek.values())
        .filter(day -> day.name().toLowerCase(Locale.ROOT).startsWith(text))
        .findFirst()
        .orElseThrow(() -> new DateTimeException(text));
  }

  /** Reads a time of this day as {@link #parseTime}, or of a later one: "1:30 +1" is the next. */
  public static LocalDateTime parseTimeOf(LocalDate day, String typed) {
    Matcher later = LATER.matcher(typed.strip());
    return later.matches()
        ? day.plusDays(Integer.parseInt(later.group(2))).atTime(parseTime(later.group(1)))
        : day.atTime(parseTime(typed));
  }

  /**
   * The moment of a local time. One that the clocks skip, or show twice, is refused with words that
   * say which time to give, for anything else would be a guess at somebody's wage.
   */
  public static Instant momentOf(LocalDateTime local, ZoneId zone) {
    ZoneRules rules = zone.getRules();
    List<ZoneOffset> offsets = rules.getValidOffsets(local);
    if (offsets.size() == 1) {
      return local.toInstant(offsets.getFirst());
    }
    ZoneOffsetTransition change = rules.getTransition(local);
    LocalTime before = change.getDateTimeBefore().toLocalTime();
    LocalTime after = change.getDateTimeAfter().toLocalTime();
    throw new Unreadable(
        Rule.NO_SUCH_TIME,
        change.isGap()
            ? "The clocks go forward from %s to %s that day: %s is skipped. Enter a time before %s or from %s on."
                .formatted(before, after, local.toLocalTime(), before, after)
            : "The clocks go back from %s to %s that day: %s comes twice. Enter a time before %s or from %s on."
                .formatted(before, after, local.toLocalTime(), after, before));
  }

  /** Reads "8", "8:30", "0830", "17.35", "2pm" or "12am"; with am or pm the hour is 1 to 12. */
  public static LocalTime parseTime(String typed) {
    Matcher matcher = TIME.matcher(typed.strip().toLowerCase(Locale.ROOT));
    if (matcher.matches()) {
      int hour = Integer.parseInt(matcher.group(1));
      int minute = matcher.group(2) == null ? 0 : Integer.parseInt(matcher.group(2));
      String half = matcher.group(3);
      if (half != null && (hour < 1 || hour > 12)) {
        hour = 24;
      } else if (half != null) {
        hour = hour % 12 + (half.equals("pm") ? 12 : 0);
      }
      if (hour < 24) {
        return LocalTime.of(hour, minute);
      }
    }
    throw new Unreadable(
        Rule.UNREADABLE,
        "“" + Reading.abridged(typed) + "” is not a time of day. Enter it like 8:30, 1430 or 2pm.");
  }
}
