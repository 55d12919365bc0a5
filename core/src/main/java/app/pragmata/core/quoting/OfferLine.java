package app.pragmata.core.quoting;

import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Money;

/** A line of an offer: something with a price, or only words between such lines. */
public sealed interface OfferLine {
  /** Something with a price; the discount is the line's own. */
  record Priced(QuoteLine line, AmountOrShare discount, Choice choice) implements OfferLine {
    public Priced {
      if (discount.of(line.full()).compareTo(line.full()) > 0) {
        throw new IllegalArgumentException(
            "A discount of %s on %s".formatted(discount.text(), line.full()));
      }
    }

    /** What is left of its price after its own discount. */
    Money afterOwnDiscount() {
      return line.full().minus(discount.of(line.full()));
    }
  }

  /** A heading or a text; it costs nothing. */
  record Words(String text, boolean heading) implements OfferLine {}
}
