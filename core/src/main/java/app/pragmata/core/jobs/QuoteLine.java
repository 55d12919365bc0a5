package app.pragmata.core.jobs;

import app.pragmata.core.Category;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;

/**
 * One line of an offer: what it should cost us beside what the customer pays. Cost rates are exact,
 * amounts rounded.
 */
public sealed interface QuoteLine {
  String description();

  VatTreatment vatTreatment();

  Category category();

  Money cost();

  /** Per hour for labour, by its rule for the drive, per unit for anything else; without VAT. */
  UnitPrice unitPrice();

  /** The price of the whole line before anything comes off it, without VAT. */
  Money full();

  /** What comes off the line's price. */
  Reductions reductions();

  /** The same line with this off its full price. */
  QuoteLine reducedBy(Reductions reductions);

  /** What the customer pays for the line, without VAT. */
  default Money net() {
    return full().minus(reductions().total());
  }

  /** Hours at a charge rate. */
  record Labour(
      String description,
      int minutes,
      RateClass rateClass,
      BigDecimal costPerHour,
      UnitPrice chargePerHour,
      VatTreatment vatTreatment,
      Reductions reductions)
      implements QuoteLine {
    /** At its full price. */
    public Labour(
        String description,
        int minutes,
        RateClass rateClass,
        BigDecimal costPerHour,
        UnitPrice chargePerHour,
        VatTreatment vatTreatment) {
      this(
          description,
          minutes,
          rateClass,
          costPerHour,
          chargePerHour,
          vatTreatment,
          Reductions.NONE);
    }

    @Override
    public Labour reducedBy(Reductions reductions) {
      return new Labour(
          description, minutes, rateClass, costPerHour, chargePerHour, vatTreatment, reductions);
    }

    @Override
    public Category category() {
      return Category.LABOUR;
    }

    @Override
    public Money cost() {
      return Money.forMinutes(minutes, costPerHour);
    }

    @Override
    public UnitPrice unitPrice() {
      return chargePerHour;
    }

    @Override
    public Money full() {
      return chargePerHour.forMinutes(minutes);
    }
  }

  /** Minutes and miles that we expect, charged by the call-out, the hour or the mile. */
  record Drive(
      String description,
      int minutes,
      BigDecimal miles,
      BigDecimal costPerHour,
      BigDecimal costPerMile,
      DriveCharge charge,
      VatTreatment vatTreatment,
      Reductions reductions)
      implements QuoteLine {
    /** At its full price. */
    public Drive(
        String description,
        int minutes,
        BigDecimal miles,
        BigDecimal costPerHour,
        BigDecimal costPerMile,
        DriveCharge charge,
        VatTreatment vatTreatment) {
      this(
          description,
          minutes,
          miles,
          costPerHour,
          costPerMile,
          charge,
          vatTreatment,
          Reductions.NONE);
    }

    @Override
    public Drive reducedBy(Reductions reductions) {
      return new Drive(
          description, minutes, miles, costPerHour, costPerMile, charge, vatTreatment, reductions);
    }

    @Override
    public Category category() {
      return Category.DRIVE;
    }

    @Override
    public Money cost() {
      return Money.forMinutes(minutes, costPerHour)
          .plus(Money.rounded(miles.multiply(costPerMile)));
    }

    @Override
    public UnitPrice unitPrice() {
      return charge.rate();
    }

    @Override
    public Money full() {
      return charge.amountFor(minutes, miles);
    }
  }

  /** Parts by the piece or the metre. */
  record Part(
      long partId,
      String description,
      BigDecimal quantity,
      BigDecimal unitCost,
      UnitPrice unitPrice,
      VatTreatment vatTreatment,
      Reductions reductions)
      implements QuoteLine {
    /** At its full price. */
    public Part(
        long partId,
        String description,
        BigDecimal quantity,
        BigDecimal unitCost,
        UnitPrice unitPrice,
        VatTreatment vatTreatment) {
      this(partId, description, quantity, unitCost, unitPrice, vatTreatment, Reductions.NONE);
    }

    @Override
    public Part reducedBy(Reductions reductions) {
      return new Part(partId, description, quantity, unitCost, unitPrice, vatTreatment, reductions);
    }

    @Override
    public Category category() {
      return Category.PARTS;
    }

    @Override
    public Money cost() {
      return Money.rounded(unitCost.multiply(quantity));
    }

    @Override
    public Money full() {
      return unitPrice.times(quantity);
    }
  }

  /** Anything else: subcontract, hire, permits. */
  record Other(
      String description,
      BigDecimal quantity,
      Money unitCost,
      UnitPrice unitPrice,
      VatTreatment vatTreatment,
      Reductions reductions)
      implements QuoteLine {
    /** At its full price. */
    public Other(
        String description,
        BigDecimal quantity,
        Money unitCost,
        UnitPrice unitPrice,
        VatTreatment vatTreatment) {
      this(description, quantity, unitCost, unitPrice, vatTreatment, Reductions.NONE);
    }

    @Override
    public Other reducedBy(Reductions reductions) {
      return new Other(description, quantity, unitCost, unitPrice, vatTreatment, reductions);
    }

    @Override
    public Category category() {
      return Category.OTHER;
    }

    @Override
    public Money cost() {
      return unitCost.times(quantity);
    }

    @Override
    public Money full() {
      return unitPrice.times(quantity);
    }
  }
}
