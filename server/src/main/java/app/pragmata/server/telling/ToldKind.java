package app.pragmata.server.telling;

import app.pragmata.core.Coded;

/** What a customer was told of a visit. */
public enum ToldKind implements Coded {
  CONFIRMED,
  CHANGED,
  CALLED_OFF,
  REMINDED,
  ON_THE_WAY,
  LATE;

  /** Whether it told when the visit is, or that it is not any more; the others only repeat it. */
  boolean isOfPlan() {
    return this == CONFIRMED || this == CHANGED || this == CALLED_OFF;
  }
}
