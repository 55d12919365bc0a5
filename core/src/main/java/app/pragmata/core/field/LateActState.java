package app.pragmata.core.field;

import app.pragmata.core.Coded;

/** What became of what came in late. */
public enum LateActState implements Coded {
  /** As if it had come in time. */
  TAKEN,
  /** The office has to say whether it counts. */
  WAITING,
  WRITTEN_DOWN,
  REFUSED
}
