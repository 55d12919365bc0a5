package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.VatRate;

/**
 * What the customer pays for one thing. What comes off is taken in this order: the agreed discount,
 * then the warranty's share of what is left.
 *
 * @param discount of the line and of the whole offer, as it was agreed; never negative
 * @param warrantyReduction its own visible amount; never negative, never above what is left
 */
public record ChargeLine(
    Category category,
    String description,
    Priced priced,
    Money discount,
    Share warrantyShare,
    Money warrantyReduction,
    VatRate vatRate) {

  public ChargeLine {
    Money left = priced.amount().minus(discount);
    if (discount.isNegative()
        || warrantyReduction.isNegative()
        || (left.isPositive() && warrantyReduction.compareTo(left) > 0)) {
      throw new IllegalArgumentException(
          "Discount and warranty take between nothing and all of " + priced.amount());
    }
  }

  /** A line of which the warranty bears a share, rounded half up. */
  static ChargeLine of(
      Category category,
      String description,
      Priced priced,
      Money discount,
      Share warrantyShare,
      VatRate vatRate) {
    return new ChargeLine(
        category,
        description,
        priced,
        discount,
        warrantyShare,
        warrantyShare.of(priced.amount().minus(discount)),
        vatRate);
  }

  /** Quantity x price, before anything comes off. */
  public Money full() {
    return priced.amount();
  }

  /** What is charged, without VAT. */
  public Money net() {
    return full().minus(discount).minus(warrantyReduction);
  }
}
