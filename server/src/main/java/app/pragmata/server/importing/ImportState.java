package app.pragmata.server.importing;

import app.pragmata.core.Coded;

/** How far a list is on its way in. */
public enum ImportState implements Coded {
  READ,
  TRYING,
  TRIED,
  TAKING,
  TAKEN,
  FAILED
}
