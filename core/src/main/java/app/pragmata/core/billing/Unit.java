package app.pragmata.core.billing;

import app.pragmata.core.Coded;

/** What the quantity of a charge line counts. */
public enum Unit implements Coded {
  HOUR,
  MILE,
  PIECE
}
