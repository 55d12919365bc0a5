package app.pragmata.core.planning;

import app.pragmata.core.Coded;

/** How a customer wants to be told of visits. */
public enum TellBy implements Coded {
  NOBODY,
  MAIL,
  TEXT
}
