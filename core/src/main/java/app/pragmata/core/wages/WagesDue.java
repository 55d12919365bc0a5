package app.pragmata.core.wages;

import app.pragmata.core.company.PayClass;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.wages.PaidWeek.PaidTime;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What of a person's paid time is still to go out for the wages. */
public final class WagesDue {
  private record Key(
      LocalDate day,
      PayClass payClass,
      TimeEntry.@Nullable Kind kind,
      @Nullable Long jobNumber,
      String what) {
    static Key of(PaidTime time) {
      return new Key(time.day(), time.payClass(), time.kind(), time.jobNumber(), time.what());
    }
  }

  private WagesDue() {}

  /**
   * What stands now less what went out before, by day; below nothing where less stands than went
   * out. With what went out before it adds up to what stands, and nothing of it comes twice.
   *
   * @param standing of some days of one person
   * @param sent all that went out of the same days of the same person, in any number of runs
   */
  public static List<PaidTime> of(List<PaidTime> standing, List<PaidTime> sent) {
    Map<Key, Integer> due = new LinkedHashMap<>();
    standing.forEach(time -> due.merge(Key.of(time), time.minutes(), Integer::sum));
    sent.forEach(time -> due.merge(Key.of(time), -time.minutes(), Integer::sum));
    return due.entrySet().stream()
        .filter(entry -> entry.getValue() != 0)
        .map(entry -> paid(entry.getKey(), entry.getValue()))
        .sorted(Comparator.comparing(PaidTime::day))
        .toList();
  }

  private static PaidTime paid(Key key, int minutes) {
    return new PaidTime(
        key.day(), key.payClass(), key.kind(), key.jobNumber(), key.what(), minutes);
  }
}
