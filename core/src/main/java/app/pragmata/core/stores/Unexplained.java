package app.pragmata.core.stores;

import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.math.MathContext;

/**
 * What was used of a part though all places together held none of it in the books, at what it was
 * taken to cost; stock differences bear it until a delivery, a count or a part put back explains
 * it.
 */
public record Unexplained(BigDecimal quantity, Money value) {
  public static final Unexplained NONE = new Unexplained(BigDecimal.ZERO, Money.ZERO);

  /**
   * What is still unexplained, and what leaves the stock again.
   *
   * @param movement out of the stock, reversed in stock differences; of nothing where nothing was
   *     unexplained
   */
  public record Explanation(Unexplained left, StockBalance.Movement movement) {}

  /** With more that the books did not hold. */
  public Unexplained plus(StockBalance.Movement missing) {
    return new Unexplained(quantity.add(missing.quantity()), value.plus(missing.cost()));
  }

  /**
   * What came in was used before: it goes out again for what it was taken to cost, the last of it
   * for all that is left of that. Nothing goes below nothing: where no more is held after it, it
   * takes all value there is, and the difference of the prices stays in stock differences.
   *
   * @param received how much came in
   * @param held what is held, with what came in
   */
  public Explanation by(BigDecimal received, StockBalance held) {
    BigDecimal explained = received.min(quantity);
    if (explained.signum() == 0) {
      return new Explanation(this, held.issue(BigDecimal.ZERO));
    }
    Money share =
        Money.rounded(value.major().multiply(explained).divide(quantity, MathContext.DECIMAL128));
    BigDecimal left = held.quantity().subtract(explained);
    Money out = left.signum() == 0 || share.compareTo(held.value()) > 0 ? held.value() : share;
    return new Explanation(
        new Unexplained(quantity.subtract(explained), value.minus(share)),
        new StockBalance.Movement(
            new StockBalance(left, held.value().minus(out)), explained.negate(), out));
  }
}
