package app.pragmata.core.jobs;

import app.pragmata.core.Coded;
import java.util.List;

/**
 * Where a job stands on its way to the money. Each state offers only the moves that may follow it.
 */
public sealed interface JobState {
  /** A job to whose visits something can still be added. */
  sealed interface Unbilled extends JobState {
    /**
     * Follows the visits: checked when all work is, worked when the office still has to check some,
     * otherwise open.
     */
    default Unbilled after(List<VisitState> visits) {
      return from(visits);
    }
  }

  record Open() implements Unbilled {
    public CalledOff callOff() {
      return new CalledOff();
    }
  }

  record Worked() implements Unbilled {}

  record Checked() implements Unbilled {
    public Billed bill() {
      return new Billed();
    }

    /** Warranty or goodwill: nothing to wait for. */
    public Settled closeWithoutCharge() {
      return new Settled();
    }
  }

  record Billed() implements JobState {
    public Settled settle() {
      return new Settled();
    }
  }

  record Settled() implements JobState {}

  record CalledOff() implements JobState {}

  /** The states by name. */
  enum Code implements Coded {
    OPEN,
    WORKED,
    CHECKED,
    BILLED,
    SETTLED,
    CALLED_OFF
  }

  /** The state of this name, with its moves. */
  static JobState of(Code code) {
    return switch (code) {
      case OPEN -> new Open();
      case WORKED -> new Worked();
      case CHECKED -> new Checked();
      case BILLED -> new Billed();
      case SETTLED -> new Settled();
      case CALLED_OFF -> new CalledOff();
    };
  }

  /** The state's name. */
  default Code code() {
    return switch (this) {
      case Open open -> Code.OPEN;
      case Worked worked -> Code.WORKED;
      case Checked checked -> Code.CHECKED;
      case Billed billed -> Code.BILLED;
      case Settled settled -> Code.SETTLED;
      case CalledOff calledOff -> Code.CALLED_OFF;
    };
  }

  private static Unbilled from(List<VisitState> visits) {
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
    return done && !ahead ? new Checked() : new Open();
  }
}
