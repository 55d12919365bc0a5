package app.pragmata.core.stores;

import app.pragmata.core.Coded;

/** Why stock moved. */
public enum StockMovementKind implements Coded {
  RECEIVED,
  USED,
  PUT_BACK,
  /** From one place to another; worth nothing to the books. */
  MOVED,
  /** Used though all places together did not hold it; in no place. */
  BEYOND_STOCK,
  /** What explains such a use; in no place. */
  EXPLAINED,
  COUNTED
}
