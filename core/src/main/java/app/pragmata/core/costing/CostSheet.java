package app.pragmata.core.costing;

import app.pragmata.core.Category;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.Map;

/**
 * A job's cost ladder: what each category was quoted to cost and what it took.
 *
 * @param quotedNet what the quote charges; nothing when there was no quote
 * @param overhead absorbed by labour hours; shown below the gross margin and never inside it
 */
public record CostSheet(
    Map<Category, Rung> rungs,
    Quantities quoted,
    Quantities actual,
    Money quotedNet,
    Money overhead) {

  /** One category, quoted against actual. */
  public record Rung(Money quoted, Money actual) {
    /** Positive when it cost more than was quoted. */
    public Money variance() {
      return actual.minus(quoted);
    }
  }

  /** The physical quantities behind the money. */
  public record Quantities(int labourMinutes, int driveMinutes, BigDecimal miles) {}

  public CostSheet {
    rungs = Map.copyOf(rungs);
  }

  public Rung rung(Category category) {
    return rungs.getOrDefault(category, new Rung(Money.ZERO, Money.ZERO));
  }

  public Money quotedCost() {
    return rungs.values().stream().map(Rung::quoted).collect(Money.sum());
  }

  public Money actualCost() {
    return rungs.values().stream().map(Rung::actual).collect(Money.sum());
  }

  public Margin quotedMargin() {
    return new Margin(quotedNet, quotedCost());
  }

  /** The margin that a net charge leaves on what the job really cost. */
  public Margin marginOn(Money netCharge) {
    return new Margin(netCharge, actualCost());
  }
}
