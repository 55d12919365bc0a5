package app.pragmata.core.rounds;

import app.pragmata.core.Coded;
import app.pragmata.core.jobs.JobState;

/** Where the work of one day of a round stands. */
public enum RoundDateState implements Coded {
  /** No job was opened for it yet. */
  DUE,
  /** Its job has no time yet. */
  TO_BOOK,
  /** Somebody is to go, or is there. */
  BOOKED,
  DONE,
  /** It was skipped, and the round went on. */
  NOT_THIS_TIME,
  CALLED_OFF;

  /**
   * Where a day stands for which a job was opened.
   *
   * @param wentOn whether the round went on without it
   * @param booked whether a visit of the job has a time and is not over
   */
  public static RoundDateState of(boolean wentOn, JobState.Code job, boolean booked) {
    if (wentOn) {
      return NOT_THIS_TIME;
    }
    return switch (job) {
      case CALLED_OFF -> CALLED_OFF;
      case WORKED, CHECKED -> DONE;
      case OPEN -> booked ? BOOKED : TO_BOOK;
    };
  }

  /** Whether nobody is to go yet who should. */
  public boolean waits() {
    return this == DUE || this == TO_BOOK;
  }
}
