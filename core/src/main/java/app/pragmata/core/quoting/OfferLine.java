package app.pragmata.core.quoting;

import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Money;

/** A line of an offer: something with a price, or only words between such lines. */
public sealed interface OfferLine {
  /**
   * Something with a price.
   *
   * @param line at its full price
   * @param discount the line's own
   * @param warranty of which the borne share comes off what is left
   */
  record Priced(QuoteLine line, AmountOrShare discount, LineWarranty warranty, Choice choice)
      implements OfferLine {
    /** Of which no warranty bears anything. */
    public Priced(QuoteLine line, AmountOrShare discount, Choice choice) {
      this(line, discount, LineWarranty.NONE, choice);
    }

    public Priced {
      if (discount.of(line.full()).compareTo(line.full()) > 0) {
        throw new IllegalArgumentException(
            "A discount of %s on %s".formatted(discount.text(), line.full()));
      }
    }

    /** Its own discount and what the warranty bears of the rest. */
    Reductions own() {
      return Reductions.of(line.full(), discount.of(line.full()), warranty.borne());
    }

    /** What is left of its price after these. */
    Money left() {
      return line.full().minus(own().total());
    }

    /** What would be left without any discount. */
    Money undiscounted() {
      return line.full().minus(warranty.borne().of(line.full()));
    }
  }

  /** A heading or a text; it costs nothing. */
  record Words(String text, boolean heading) implements OfferLine {}
}
