package app.pragmata.core.jobs;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;

/**
 * What comes off a line's full price, in this order: its own discount, the warranty's share of what
 * is left, its part of the whole document's discount.
 *
 * @param discount the line's own
 * @param warrantyShare nothing where the warranty bears none of it
 * @param warranty its own visible amount; never above what the discount leaves
 * @param forgone what the warranty would have borne, had the line not been taken out of it since it
 *     was agreed; a promise is higher by it
 * @param discountOfWhole what of the discount of the whole falls to this line
 */
public record Reductions(
    Money discount, Share warrantyShare, Money warranty, Money forgone, Money discountOfWhole) {
  public static final Reductions NONE =
      new Reductions(Money.ZERO, Share.NOTHING, Money.ZERO, Money.ZERO, Money.ZERO);

  public Reductions {
    if (discount.isNegative() || discountOfWhole.isNegative() || forgone.isNegative()) {
      throw new IllegalArgumentException("What comes off a line is never negative");
    }
    if (!forgone.isZero() && !warranty.isZero()) {
      throw new IllegalArgumentException("A line is under warranty or taken out of it, not both");
    }
  }

  /** Its own discount, then a share for the warranty of what is left, rounded half up. */
  public static Reductions of(Money full, Money discount, Share warrantyShare) {
    return new Reductions(
        discount, warrantyShare, warrantyShare.of(full.minus(discount)), Money.ZERO, Money.ZERO);
  }

  /** The same with a part of the whole's discount. */
  public Reductions andOfWhole(Money part) {
    return new Reductions(discount, warrantyShare, warranty, forgone, part);
  }

  /** The same with what the warranty bears left to the customer after all. */
  public Reductions outOfWarranty() {
    return new Reductions(
        discount, Share.NOTHING, Money.ZERO, warranty.plus(forgone), discountOfWhole);
  }

  /** Both discounts, without what the warranty bears. */
  public Money discounts() {
    return discount.plus(discountOfWhole);
  }

  /** All that comes off. */
  public Money total() {
    return discounts().plus(warranty);
  }
}
