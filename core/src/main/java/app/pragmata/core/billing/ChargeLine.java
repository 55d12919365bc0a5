package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import org.jspecify.annotations.Nullable;

/**
 * What the customer pays for one thing. What comes off is taken in this order: the agreed discount,
 * then the warranty's share of what is left, then what goes beyond the promise.
 *
 * @param of what it charges
 * @param category null for a stage, of which nobody knows yet what the work takes
 * @param discount of the line and of the whole offer, as it was agreed; never negative
 * @param warrantyReduction its own visible amount; never negative, never above what is left
 * @param cut of a promise of “not more than”: what is not charged of the line; never negative
 */
public record ChargeLine(
    Of of,
    @Nullable Category category,
    String description,
    Priced priced,
    Money discount,
    Share warrantyShare,
    Money warrantyReduction,
    Money cut,
    SaidVat vat) {

  /** What a line charges. */
  public sealed interface Of {
    /** What was promised, whatever the work took. */
    record Promise() implements Of {}

    /** A part of the promise, before the work is done. */
    record Stage() implements Of {}

    /** What was recorded on a visit. */
    record Visit(long id) implements Of {}

    /** A supplier's bill. */
    record OtherCost(long id) implements Of {}
  }

  public ChargeLine {
    if ((category == null) != (of instanceof Of.Stage)) {
      throw new IllegalArgumentException("Only a stage is of no category");
    }
    Money left = priced.amount().minus(discount);
    if (discount.isNegative()
        || warrantyReduction.isNegative()
        || cut.isNegative()
        || (left.isPositive() && warrantyReduction.compareTo(left) > 0)) {
      throw new IllegalArgumentException(
          "Discount and warranty take between nothing and all of " + priced.amount());
    }
  }

  /** A line of which the warranty bears a share, rounded half up. */
  static ChargeLine of(
      Of of,
      Category category,
      String description,
      Priced priced,
      Money discount,
      Share warrantyShare,
      SaidVat vat) {
    return new ChargeLine(
        of,
        category,
        description,
        priced,
        discount,
        warrantyShare,
        warrantyShare.of(priced.amount().minus(discount)),
        Money.ZERO,
        vat);
  }

  /** A part of the price, billed ahead of work. */
  static ChargeLine ahead(String description, Money net, VatTreatment vatTreatment) {
    return new ChargeLine(
        new Of.Stage(),
        null,
        description,
        Priced.one(new UnitPrice(net.major())),
        Money.ZERO,
        Share.NOTHING,
        Money.ZERO,
        Money.ZERO,
        SaidVat.byLine(vatTreatment));
  }

  /** The same with less charged of it. */
  ChargeLine cut(Money beyond) {
    return new ChargeLine(
        of, category, description, priced, discount, warrantyShare, warrantyReduction, beyond, vat);
  }

  /** How it is treated. */
  public VatTreatment vatTreatment() {
    return vat.treatment();
  }

  /** Quantity x price, before anything comes off. */
  public Money full() {
    return priced.amount();
  }

  /** What is charged, without VAT. */
  public Money net() {
    return full().minus(discount).minus(warrantyReduction).minus(cut);
  }
}
