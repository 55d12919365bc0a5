package app.pragmata.server.records;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;

/** Guards a record against being changed from an old picture of it. */
public final class Versions {
  private Versions() {}

  /** Refuses when the record has moved on since it was shown. */
  public static void require(int shown, int stored) {
    if (shown != stored) {
      throw new Refused(
          Rule.STALE_VERSION,
          "Somebody changed this since you opened it. What you typed is still here: look at the new state, then send it again.");
    }
  }
}
