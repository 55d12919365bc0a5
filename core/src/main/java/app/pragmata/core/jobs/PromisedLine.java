package app.pragmata.core.jobs;

import app.pragmata.core.money.Money;

/**
 * A line of an accepted quote as it was promised.
 *
 * @param line with all that comes off it
 * @param discount the line's own
 * @param discountOfWhole its part of what comes off the whole quote
 */
public record PromisedLine(QuoteLine line, Money discount, Money discountOfWhole) {
  public PromisedLine {
    if (!line.reduction().equals(discount.plus(discountOfWhole))) {
      throw new IllegalArgumentException(
          "%s comes off the line, but %s and %s are told"
              .formatted(line.reduction(), discount, discountOfWhole));
    }
  }
}
