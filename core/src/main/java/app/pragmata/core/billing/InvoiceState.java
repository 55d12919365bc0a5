package app.pragmata.core.billing;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;

/** What is still to come on a posted invoice. */
public sealed interface InvoiceState {
  /** Money is still owed: always more than nothing. */
  record Open(Money owed) implements InvoiceState {
    public Open {
      if (!owed.isPositive()) {
        throw new IllegalArgumentException("An open invoice owes more than nothing, not " + owed);
      }
    }

    /** Takes money in; more than is owed is refused. */
    public InvoiceState receive(Money amount) {
      if (!amount.isPositive()) {
        throw new Refused(Rule.MISSING, "Enter how much was received.");
      }
      if (amount.compareTo(owed) > 0) {
        throw new Refused(
            Rule.MORE_THAN_OWED,
            "Only %s is owed on this invoice, not %s. Check the amount.".formatted(owed, amount));
      }
      return of(owed.minus(amount));
    }
  }

  /** Nothing is owed. */
  record Settled() implements InvoiceState {}

  static InvoiceState of(Money owed) {
    return owed.isZero() ? new Settled() : new Open(owed);
  }
}
