package app.pragmata.core.field;

import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.TimeEntry;
import java.util.List;
import java.util.function.Predicate;

/**
 * What somebody did in some days, in whole minutes.
 *
 * @param labour on visits
 * @param otherWork paid for beside visits: the yard, training
 * @param drive to visits and elsewhere
 * @param breaks paid to nobody
 * @param normal of labour, other work and drive together; so are overtime and night
 */
public record HoursWorked(
    int labour, int otherWork, int drive, int breaks, int normal, int overtime, int night) {

  /**
   * Time that has ended.
   *
   * @param onVisit whether it is of a visit
   */
  public record Worked(TimeEntry.Kind kind, boolean onVisit, RateClass rateClass, int minutes) {}

  /** The sums of these entries. */
  public static HoursWorked of(List<Worked> entries) {
    Predicate<Worked> atWork = entry -> entry.kind() != TimeEntry.Kind.BREAK;
    return new HoursWorked(
        sum(entries, entry -> entry.kind() == TimeEntry.Kind.LABOUR && entry.onVisit()),
        sum(entries, entry -> entry.kind() == TimeEntry.Kind.LABOUR && !entry.onVisit()),
        sum(entries, entry -> entry.kind() == TimeEntry.Kind.DRIVE),
        sum(entries, atWork.negate()),
        sum(entries, atWork.and(entry -> entry.rateClass() == RateClass.NORMAL)),
        sum(entries, atWork.and(entry -> entry.rateClass() == RateClass.OVERTIME)),
        sum(entries, atWork.and(entry -> entry.rateClass() == RateClass.NIGHT)));
  }

  private static int sum(List<Worked> entries, Predicate<Worked> which) {
    return entries.stream().filter(which).mapToInt(Worked::minutes).sum();
  }

  /** All that is paid for. */
  public int paid() {
    return labour + otherWork + drive;
  }
}
