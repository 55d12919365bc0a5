package app.pragmata.server.worklists;

import app.pragmata.server.costing.JobStore.WholeJob;
import java.util.List;
import java.util.Locale;

/** Where money stands on its way from quote to bank. */
public enum Stage {
  QUOTED(14),
  WON(5),
  BOOKED(0),
  WORKED(3),
  CHECKED(3),
  BILLED(0),
  PAID(Integer.MAX_VALUE);

  private static final List<String> AHEAD = List.of("planned", "driving", "on_site");

  private final int patienceDays;

  Stage(int patienceDays) {
    this.patienceDays = patienceDays;
  }

  /** How its addresses name it. */
  public String path() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * For how many days money may stand here before it is marked; counted past the planned or the due
   * day where there is one.
   */
  int patienceDays() {
    return patienceDays;
  }

  /**
   * Where a job's money stands; a job that was called off stands nowhere and is found with the
   * settled ones.
   */
  public static Stage of(WholeJob job) {
    return switch (job.job().getState()) {
      case "open" ->
          job.visits().stream().anyMatch(visit -> AHEAD.contains(visit.state())) ? BOOKED : WON;
      case "worked" -> WORKED;
      case "checked" -> CHECKED;
      case "billed" -> BILLED;
      default -> PAID;
    };
  }
}
