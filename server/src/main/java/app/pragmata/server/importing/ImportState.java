package app.pragmata.server.importing;

import app.pragmata.core.Coded;

/** How far a list is on its way in. */
public enum ImportState implements Coded {
  READ,
  TRYING,
  TRIED,
  /** All rows are looked at before any is taken in. */
  LOOKING,
  /** Rows are taken in, portion by portion. */
  TAKING,
  TAKEN,
  FAILED
}
