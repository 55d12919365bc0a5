package app.pragmata.server.worklists;

import app.pragmata.core.Coded;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.money.Money;
import app.pragmata.server.jobs.JobStore.WholeJob;

/** Where money stands on its way from quote to bank. */
public enum Stage implements Coded {
  QUOTED(14),
  WON(5),
  BOOKED(0),
  WORKED(3),
  CHECKED(3),
  BILLED(0),
  /** What came in this month; a job is here beside where it stands. */
  PAID(Integer.MAX_VALUE),
  /** Nothing is to come; no list of its own. */
  SETTLED(Integer.MAX_VALUE);

  private final int patienceDays;

  Stage(int patienceDays) {
    this.patienceDays = patienceDays;
  }

  /**
   * For how many days money may stand here before it is marked; counted past the planned or the due
   * day where there is one.
   */
  int patienceDays() {
    return patienceDays;
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
