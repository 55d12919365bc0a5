package app.pragmata.core.jobs;

import app.pragmata.core.Coded;

/** What a kind of job may want to be there before a technician finishes a visit. */
public enum Capture implements Coded {
  PHOTO,
  SIGNATURE,
  /** Why it was wrong; only of jobs that begin with a fault. */
  CAUSE
}
