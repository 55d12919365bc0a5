package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import org.jspecify.annotations.Nullable;

/**
 * What the customer pays for one thing.
 *
 * @param of what it charges
 * @param category null for a stage, of which nobody knows yet what the work takes
 * @param reductions as they were agreed, or as the warranty bears them
 * @param cut of a promise of “not more than”: what is not charged of the line; never negative
 */
public record ChargeLine(
    Of of,
    @Nullable Category category,
    String description,
    Priced priced,
    Reductions reductions,
    Money cut,
    SaidVat vat) {

  /** What a line charges. */
  public sealed interface Of {
    /** What was promised or agreed, whatever the work took. */
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
    Money left = priced.amount().minus(reductions.discount());
    if (cut.isNegative()
        || reductions.warranty().isNegative()
        || (left.isPositive() && reductions.warranty().compareTo(left) > 0)) {
      throw new IllegalArgumentException(
          "What comes off takes between nothing and all of " + priced.amount());
    }
  }

  /** A line of which nothing is cut. */
  ChargeLine(
      Of of,
      Category category,
      String description,
      Priced priced,
      Reductions reductions,
      SaidVat vat) {
    this(of, category, description, priced, reductions, Money.ZERO, vat);
  }

  /** A part of the price, billed ahead of work. */
  static ChargeLine ahead(String description, Money net, VatTreatment vatTreatment) {
    return new ChargeLine(
        new Of.Stage(),
        null,
        description,
        Priced.one(new UnitPrice(net.major())),
        Reductions.NONE,
        Money.ZERO,
        SaidVat.byLine(vatTreatment));
  }

  /** The same with less charged of it. */
  ChargeLine cut(Money beyond) {
    return new ChargeLine(of, category, description, priced, reductions, beyond, vat);
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
    return full().minus(reductions.total()).minus(cut);
  }
}
