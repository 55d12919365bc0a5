package app.pragmata.core.receipts;

import app.pragmata.core.money.Money;
import java.time.LocalDate;

/** What a customer owes on an invoice; nothing once it is paid. */
public record Debt(long invoiceId, LocalDate invoiceDate, Money owed) {
  public Debt {
    if (owed.isNegative()) {
      throw new IllegalArgumentException("An invoice owes at least nothing, not " + owed);
    }
  }

  Debt less(Money paid) {
    return new Debt(invoiceId, invoiceDate, owed.minus(paid));
  }
}
