package app.pragmata.core.field;

import app.pragmata.core.Coded;

/** Who says something about a job, and whom it is for. */
public enum TalkSide implements Coded {
  SITE,
  OFFICE,
  CUSTOMER
}
