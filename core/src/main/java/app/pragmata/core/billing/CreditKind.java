package app.pragmata.core.billing;

import app.pragmata.core.Coded;

/** What a credit note does. */
public enum CreditKind implements Coded {
  /** Less is charged for the same work. */
  PRICE,
  /**
   * The work is not billed after all: its cost is work in progress again, and it can be billed
   * anew.
   */
  WORK_TAKEN_BACK
}
