package app.pragmata.core.jobs;

import app.pragmata.core.Coded;

/** What came of a visit, as its technician says at the end. */
public enum VisitOutcome implements Coded {
  /** What was to be done is done. */
  DONE,
  /** Some of it is; somebody has to come again. */
  COME_AGAIN,
  /** Nobody opened. */
  NOT_LET_IN,
  /** The customer wants none of it. */
  DECLINED;

  /** Whether it takes work or a part on the visit; a way for nothing takes neither. */
  public boolean takesWork() {
    return this == DONE || this == COME_AGAIN;
  }

  /** Whether the office has to know why. */
  public boolean takesReason() {
    return this != DONE;
  }
}
