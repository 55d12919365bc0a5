package app.pragmata.core.company;

import app.pragmata.core.Coded;

/** By when an hour is worked it costs and is charged differently. */
public enum RateClass implements Coded {
  NORMAL,
  OVERTIME,
  NIGHT
}
