package app.pragmata.core.books;

import app.pragmata.core.Coded;

/** How money comes in. */
public enum PaymentMethod implements Coded {
  BANK_TRANSFER,
  CARD,
  CASH,
  CHEQUE
}
