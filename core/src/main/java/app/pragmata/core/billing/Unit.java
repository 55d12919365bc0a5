package app.pragmata.core.billing;

import app.pragmata.core.Coded;

/** What the quantity of a charge line counts. */
public enum Unit implements Coded {
  /** Priced by the hour. */
  MINUTE(60),
  MILE(1),
  PIECE(1);

  private final int priceBase;

  Unit(int priceBase) {
    this.priceBase = priceBase;
  }

  /** For how many units the price is (EN 16931 BT-149, price base quantity). */
  public int priceBase() {
    return priceBase;
  }
}
