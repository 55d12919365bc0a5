package app.pragmata.core.jobs;

import app.pragmata.core.Coded;
import java.util.List;

/**
 * Where the work of a job stands, as it follows from its visits. Whether the job is billed and
 * settled follows from its documents.
 */
public sealed interface JobState {
  /** A job that was not called off. */
  sealed interface Wanted extends JobState {
    /**
     * Follows the visits: worked when the office still has to check some, checked when all work is
     * and no part is wanted for more, otherwise open.
     */
    default Wanted after(List<VisitState> visits, boolean partsWanted) {
      return from(visits, partsWanted);
    }
  }

  record Open() implements Wanted {
    public CalledOff callOff() {
      return new CalledOff();
    }
  }

  record Worked() implements Wanted {}

  record Checked() implements Wanted {}

  record CalledOff() implements JobState {}

  /** The states by name. */
  enum Code implements Coded {
    OPEN,
    WORKED,
    CHECKED,
    CALLED_OFF
  }

  /** The state of this name, with its moves. */
  static JobState of(Code code) {
    return switch (code) {
      case OPEN -> new Open();
      case WORKED -> new Worked();
      case CHECKED -> new Checked();
      case CALLED_OFF -> new CalledOff();
    };
  }

  /** The state's name. */
  default Code code() {
    return switch (this) {
      case Open open -> Code.OPEN;
      case Worked worked -> Code.WORKED;
      case Checked checked -> Code.CHECKED;
      case CalledOff calledOff -> Code.CALLED_OFF;
    };
  }

  private static Wanted from(List<VisitState> visits, boolean partsWanted) {
    boolean toCheck = visits.stream().anyMatch(VisitState.Finished.class::isInstance);
    boolean ahead =
        visits.stream()
            .anyMatch(
                visit ->
                    switch (visit) {
                      case VisitState.Unplanned ignored -> true;
                      case VisitState.Planned ignored -> true;
                      case VisitState.Driving ignored -> true;
                      case VisitState.OnSite ignored -> true;
                      case VisitState.Finished ignored -> false;
                      case VisitState.Checked ignored -> false;
                      case VisitState.NotThisTime ignored -> false;
                      case VisitState.CalledOff ignored -> false;
                    });
    if (toCheck) {
      return new Worked();
    }
    boolean done = visits.stream().anyMatch(VisitState.Checked.class::isInstance);
    return done && !ahead && !partsWanted ? new Checked() : new Open();
  }
}
