package app.pragmata.server.worklists;

import app.pragmata.core.Coded;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.Company;
import app.pragmata.server.jobs.WholeJob;

/** Where money stands on its way from quote to bank. */
public enum Stage implements Coded {
  QUOTED,
  WON,
  BOOKED,
  WORKED,
  CHECKED,
  BILLED,
  /** What came in this month, one row for each receipt. */
  PAID,
  /** Nothing is to come; no list of its own. */
  SETTLED;

  /**
   * For how many days money may stand here before it is marked; counted past the planned or the due
   * day where there is one.
   */
  int patienceDays(Company.Patience patience) {
    return switch (this) {
      case QUOTED -> patience.quotedDays();
      case WON -> patience.wonDays();
      case WORKED -> patience.workedDays();
      case CHECKED -> patience.checkedDays();
      case BOOKED, BILLED -> 0;
      case PAID, SETTLED -> Integer.MAX_VALUE;
    };
  }

  /**
   * Where a job's money stands; one that was called off is found with the settled ones.
   *
   * @param owed on all of the job's invoices
   */
  public static Stage of(WholeJob job, Money owed) {
    return switch (Closing.billed(job.closing(), owed)) {
      case UNBILLED -> ofWork(job);
      case BILLED -> BILLED;
      case SETTLED -> SETTLED;
    };
  }

  private static Stage ofWork(WholeJob job) {
    return switch (job.job().state()) {
      case OPEN -> job.visits().stream().anyMatch(visit -> visit.state().isAhead()) ? BOOKED : WON;
      case WORKED -> WORKED;
      case CHECKED -> CHECKED;
      case CALLED_OFF -> SETTLED;
    };
  }
}
