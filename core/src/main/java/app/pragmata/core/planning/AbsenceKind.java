package app.pragmata.core.planning;

import app.pragmata.core.Coded;

/** Why somebody is not at work. */
public enum AbsenceKind implements Coded {
  HOLIDAY,
  ILLNESS,
  TRAINING
}
