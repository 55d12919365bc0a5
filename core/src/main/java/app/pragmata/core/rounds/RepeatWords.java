package app.pragmata.core.rounds;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.rounds.DaysOfMonth.OnDates;
import app.pragmata.core.rounds.DaysOfMonth.OnWeekdays;
import app.pragmata.core.rounds.DaysOfMonth.Which;
import app.pragmata.core.rounds.Repeat.EveryMonths;
import app.pragmata.core.rounds.Repeat.EveryWeeks;
import app.pragmata.core.rounds.Repeat.InMonths;
import java.time.DayOfWeek;
import java.time.Month;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What was said of how work comes again, word by word. The order of the words is free; what each
 * counts follows from the one after it.
 */
final class RepeatWords {
  private static final String HINT =
      "Say it like “every 6 weeks on Tuesday”, “the second Monday of March and September” or “the 15th of every 3rd month”.";

  private static final Pattern NUMBER = Pattern.compile("(\\d{1,3})(st|nd|rd|th)?");
  private static final Set<String> OF_NO_MEANING =
      Set.of("on", "the", "of", "and", "in", "a", "each", "at", "day", "every", "&");

  /** A month that has no such day is meant at its last. */
  private static final int LAST_DAY = 31;

  private enum Unit {
    WEEK,
    MONTH
  }

  private final Set<DayOfWeek> weekdays = EnumSet.noneOf(DayOfWeek.class);
  private final Set<Month> months = EnumSet.noneOf(Month.class);
  private final Set<Which> which = EnumSet.noneOf(Which.class);
  private final Set<Integer> dates = new TreeSet<>();
  private @Nullable Unit unit;
  private int every = 1;

  private RepeatWords() {}

  static Repeat read(String typed) {
    var words = new RepeatWords();
    List<String> said =
        List.of(typed.toLowerCase(Locale.ROOT).replace("-", " ").strip().split("[\\s,]+"));
    if (said.size() > 40) {
      throw unreadable("That is too long.");
    }
    for (int i = 0; i < said.size(); i++) {
      words.take(said.get(i), i + 1 < said.size() ? said.get(i + 1) : "");
    }
    return words.meant();
  }

  private void take(String word, String next) {
    Matcher number = NUMBER.matcher(word);
    Which counted = named(Which.values(), word);
    if (number.matches()) {
      number(Integer.parseInt(number.group(1)), next);
    } else if (counted != null) {
      counted(counted, next);
    } else if (word.equals("other")) {
      other(next);
    } else if (!OF_NO_MEANING.contains(word) && !unit(word)) {
      named(word);
    }
  }

  /**
   * "6 weeks" and "3rd month" count what comes after; "2nd Monday" says which; else it is a day.
   */
  private void number(int number, String next) {
    Which counted = weekday(next) == null ? null : Which.of(number);
    if (unitOf(next) != null) {
      every = number;
    } else if (counted != null) {
      which.add(counted);
    } else if (number >= 1 && number <= 31) {
      dates.add(number);
    } else {
      throw unreadable("No month has a day " + number + ".");
    }
  }

  private void counted(Which counted, String next) {
    if (counted == Which.LAST && next.equals("day")) {
      dates.add(LAST_DAY);
    } else if (counted != Which.LAST && unitOf(next) != null) {
      every = counted.count();
    } else {
      which.add(counted);
    }
  }

  private void other(String next) {
    if (unitOf(next) == null) {
      throw unreadable("“Other” counts weeks or months.");
    }
    every = 2;
  }

  private boolean unit(String word) {
    switch (word) {
      case "weekly", "fortnightly" -> {
        unit = Unit.WEEK;
        every = word.equals("weekly") ? 1 : 2;
      }
      case "monthly", "quarterly", "yearly", "annually" -> {
        unit = Unit.MONTH;
        every = word.equals("monthly") ? 1 : word.equals("quarterly") ? 3 : 12;
      }
      case "year", "years" -> {
        unit = Unit.MONTH;
        every *= 12;
      }
      default -> {
        Unit said = unitOf(word);
        if (said == null) {
          return false;
        }
        unit = said;
      }
    }
    return true;
  }

  private static @Nullable Unit unitOf(String word) {
    return switch (word) {
      case "week", "weeks" -> Unit.WEEK;
      case "month", "months", "year", "years" -> Unit.MONTH;
      default -> null;
    };
  }

  private void named(String word) {
    DayOfWeek weekday = weekday(word);
    Month month = month(word);
    if (weekday != null) {
      weekdays.add(weekday);
    } else if (month != null) {
      months.add(month);
    } else {
      throw unreadable("“" + Reading.abridged(word) + "” is no word for this.");
    }
  }

  private static @Nullable DayOfWeek weekday(String word) {
    return named(
        DayOfWeek.values(), word.endsWith("s") ? word.substring(0, word.length() - 1) : word);
  }

  private static @Nullable Month month(String word) {
    return named(Month.values(), word);
  }

  private static <E extends Enum<E>> @Nullable E named(E[] words, String typed) {
    for (E word : words) {
      if (typed.length() >= 3 && word.name().toLowerCase(Locale.ROOT).startsWith(typed)) {
        return word;
      }
    }
    return null;
  }

  private Repeat meant() {
    if (unit == Unit.WEEK) {
      return weeks();
    }
    if (unit == null && months.isEmpty()) {
      throw unreadable("Of which weeks or months?");
    }
    DaysOfMonth days = days();
    if (!months.isEmpty()) {
      if (every != 1 && every != 12) {
        throw unreadable("Name the months, or say every how many.");
      }
      return new InMonths(months, days);
    }
    if (every < 1 || every > Repeat.MOST_MONTHS) {
      throw unreadable("Every 1 to %d months.".formatted(Repeat.MOST_MONTHS));
    }
    return new EveryMonths(every, days);
  }

  private Repeat weeks() {
    if (!months.isEmpty() || !dates.isEmpty() || !which.isEmpty()) {
      throw unreadable("Weeks have weekdays, and no months or days of a month.");
    }
    if (weekdays.isEmpty()) {
      throw unreadable("On which weekday?");
    }
    if (every < 1 || every > Repeat.MOST_WEEKS) {
      throw unreadable("Every 1 to %d weeks.".formatted(Repeat.MOST_WEEKS));
    }
    return new EveryWeeks(every, weekdays);
  }

  private DaysOfMonth days() {
    if (weekdays.isEmpty() != which.isEmpty()) {
      throw unreadable(
          weekdays.isEmpty()
              ? "The first, second or last of what? Name the weekday."
              : "Which of the month’s weekdays: the first, the second, the last?");
    }
    if (dates.isEmpty() == weekdays.isEmpty()) {
      throw unreadable(
          dates.isEmpty()
              ? "On which day of the month?"
              : "Name days of the month by number or by weekday, and not both.");
    }
    return dates.isEmpty() ? new OnWeekdays(which, weekdays) : new OnDates(List.copyOf(dates));
  }

  private static Unreadable unreadable(String what) {
    return new Unreadable(Rule.UNREADABLE, what + " " + HINT);
  }

  static String text(Repeat repeat) {
    return switch (repeat) {
      case EveryWeeks(int weeks, Set<DayOfWeek> weekdays) ->
          "every %s on %s".formatted(units(weeks, "week"), listed(names(weekdays)));
      case EveryMonths(int months, DaysOfMonth days) when months % 12 == 0 ->
          "every %s on %s".formatted(units(months / 12, "year"), text(days));
      case EveryMonths(int months, DaysOfMonth days) ->
          "every %s on %s".formatted(units(months, "month"), text(days));
      case InMonths(Set<Month> months, DaysOfMonth days) ->
          "%s of %s".formatted(text(days), listed(names(months)));
    };
  }

  private static String text(DaysOfMonth days) {
    return switch (days) {
      case OnDates(List<Integer> dates) ->
          "the " + listed(dates.stream().map(RepeatWords::ordinal).toList());
      case OnWeekdays(Set<Which> which, Set<DayOfWeek> weekdays) ->
          "the %s %s"
              .formatted(
                  listed(which.stream().map(each -> each.name().toLowerCase(Locale.ROOT)).toList()),
                  listed(names(weekdays)));
    };
  }

  private static String units(int count, String unit) {
    return count == 1 ? unit : count + " " + unit + "s";
  }

  private static String ordinal(int number) {
    if (number == LAST_DAY) {
      return "last day";
    }
    boolean teen = number / 10 == 1;
    return number
        + switch (teen ? 0 : number % 10) {
          case 1 -> "st";
          case 2 -> "nd";
          case 3 -> "rd";
          default -> "th";
        };
  }

  private static List<String> names(Collection<? extends Enum<?>> words) {
    var names = new ArrayList<String>();
    for (Enum<?> word : words) {
      names.add(word.name().charAt(0) + word.name().substring(1).toLowerCase(Locale.ROOT));
    }
    return names;
  }

  private static String listed(List<String> names) {
    int last = names.size() - 1;
    return last == 0
        ? names.getFirst()
        : String.join(", ", names.subList(0, last)) + " and " + names.get(last);
  }
}
