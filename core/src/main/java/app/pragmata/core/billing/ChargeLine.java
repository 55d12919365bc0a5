package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatRate;
import java.math.BigDecimal;

/**
 * What the customer pays for one thing.
 *
 * @param full quantity x price, rounded, before the warranty
 * @param warrantyReduction its own visible amount; never negative, never above {@code full}
 */
public record ChargeLine(
    Category category,
    String description,
    BigDecimal quantity,
    Unit unit,
    UnitPrice unitPrice,
    Money full,
    Share warrantyShare,
    Money warrantyReduction,
    VatRate vatRate) {

  public ChargeLine {
    if (warrantyReduction.isNegative()
        || (full.isPositive() && warrantyReduction.compareTo(full) > 0)) {
      throw new IllegalArgumentException("A warranty bears between nothing and all of " + full);
    }
  }

  /** A line of which the warranty bears a share, rounded half up. */
  static ChargeLine of(
      Category category,
      String description,
      BigDecimal quantity,
      Unit unit,
      UnitPrice unitPrice,
      Money full,
      Share warrantyShare,
      VatRate vatRate) {
    return new ChargeLine(
        category,
        description,
        quantity,
        unit,
        unitPrice,
        full,
        warrantyShare,
        warrantyShare.of(full),
        vatRate);
  }

  /** What is charged, without VAT. */
  public Money net() {
    return full.minus(warrantyReduction);
  }
}
