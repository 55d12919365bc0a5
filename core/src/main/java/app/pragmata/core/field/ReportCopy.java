package app.pragmata.core.field;

import app.pragmata.core.Coded;

/** Whether a customer gets a report of each visit that is over, and whether it says prices. */
public enum ReportCopy implements Coded {
  NONE,
  WITHOUT_PRICES,
  WITH_PRICES
}
