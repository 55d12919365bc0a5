package app.pragmata.core.company;

import app.pragmata.core.Coded;

/** How pressing a job is, the most pressing first. */
public enum Priority implements Coded {
  EMERGENCY,
  URGENT,
  NORMAL,
  LOW
}
