package app.pragmata.server.receipts;

import app.pragmata.core.Coded;

/** What is known of a card payment. */
public enum CardPaymentState implements Coded {
  ASKED,
  TAKEN,
  DECLINED,
  NOT_TAKEN
}
