package app.pragmata.server.telling;

import app.pragmata.core.Coded;

/** What a customer was told of a visit. */
public enum ToldKind implements Coded {
  CONFIRMED,
  CHANGED,
  CALLED_OFF,
  ON_THE_WAY,
  LATE
}
