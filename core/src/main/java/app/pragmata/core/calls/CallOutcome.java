package app.pragmata.core.calls;

import app.pragmata.core.Coded;

/** What comes of a call. */
public enum CallOutcome implements Coded {
  NOTED,
  SOLVED,
  JOB,
  QUOTE,
  TO_DO
}
