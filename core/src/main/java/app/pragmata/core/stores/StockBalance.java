package app.pragmata.core.stores;

import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.math.MathContext;

/**
 * What the company holds of one part, in all places together: a quantity and its value in the
 * books. The moving-average cost is value / quantity, so quantity x average cost is the value,
 * always and to the penny (perpetual weighted average).
 */
public record StockBalance(BigDecimal quantity, Money value) {
  public static final StockBalance EMPTY = new StockBalance(BigDecimal.ZERO, Money.ZERO);

  /** A balance after a movement, and what the movement was worth. */
  public record Movement(StockBalance after, BigDecimal quantity, Money cost) {}

  public StockBalance {
    if (quantity.signum() < 0
        || value.isNegative()
        || (quantity.signum() == 0 && !value.isZero())) {
      throw new IllegalStateException("Stock of " + quantity + " worth " + value + " cannot be");
    }
  }

  /**
   * Per unit, for showing; postings never start from this rounded figure. Nothing when nothing is
   * held.
   */
  public BigDecimal averageCost() {
    return quantity.signum() == 0
        ? BigDecimal.ZERO
        : value.major().divide(quantity, MathContext.DECIMAL64);
  }

  /**
   * What one more unit may be expected to cost: the average of what is held, or what the last one
   * cost when the shelf is empty, for an empty shelf does not make a part free.
   */
  public BigDecimal expectedCost(BigDecimal lastUnitCost) {
    return quantity.signum() == 0 ? lastUnitCost : averageCost();
  }

  /**
   * What of a quantity the books do not hold, at what the last one cost, rounded half up: it was
   * there all the same, or it could not be used. Nothing when the books hold enough.
   */
  public Movement missing(BigDecimal wanted, BigDecimal lastUnitCost) {
    BigDecimal missing = wanted.subtract(quantity).max(BigDecimal.ZERO);
    return receive(missing, Money.rounded(missing.multiply(lastUnitCost)));
  }

  /**
   * Takes out a quantity at average cost, rounded half up; the last unit takes all value that is
   * left.
   *
   * @throws IllegalArgumentException when less is held; what is missing comes in first
   */
  public Movement issue(BigDecimal issued) {
    if (issued.compareTo(quantity) > 0) {
      throw new IllegalArgumentException("Only %s held of %s".formatted(quantity, issued));
    }
    if (issued.signum() == 0) {
      return new Movement(this, BigDecimal.ZERO, Money.ZERO);
    }
    Money cost =
        Money.rounded(value.major().multiply(issued).divide(quantity, MathContext.DECIMAL128));
    return new Movement(
        new StockBalance(quantity.subtract(issued), value.minus(cost)), issued.negate(), cost);
  }

  /** Puts in a quantity for what it cost as a whole: a delivery, or a part that came back. */
  public Movement receive(BigDecimal received, Money cost) {
    return new Movement(new StockBalance(quantity.add(received), value.plus(cost)), received, cost);
  }
}
