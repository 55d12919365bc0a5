package app.pragmata.core.company;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;

/** How driving is charged: for each visit, or for the whole drive of a quoted line. */
public sealed interface DriveCharge {
  /** Driving minutes at a rate, not rounded up. */
  record PerHour(UnitPrice rate) implements DriveCharge {}

  record PerMile(UnitPrice rate) implements DriveCharge {}

  /** One amount for a visit that was driven or worked; driving is otherwise free. */
  record PerCallOut(UnitPrice rate) implements DriveCharge {}

  record None() implements DriveCharge {
    @Override
    public UnitPrice rate() {
      return UnitPrice.ZERO;
    }
  }

  /** The price of an hour, a mile or a call-out, without VAT. */
  UnitPrice rate();

  /** Reads what {@link #label} gives; an unknown label is a broken invariant. */
  static DriveCharge of(String label, UnitPrice rate) {
    return switch (label) {
      case "per_call_out" -> new PerCallOut(rate);
      case "per_hour" -> new PerHour(rate);
      case "per_mile" -> new PerMile(rate);
      case "none" -> new None();
      default -> throw new IllegalArgumentException("Unknown drive charge " + label);
    };
  }

  /** The stable name of the rule, as it is stored. */
  default String label() {
    return switch (this) {
      case PerCallOut callOut -> "per_call_out";
      case PerHour perHour -> "per_hour";
      case PerMile perMile -> "per_mile";
      case None none -> "none";
    };
  }

  /** What a drive comes to, rounded half up; for quoting one before it is driven. */
  default Money amountFor(int minutes, BigDecimal miles) {
    return switch (this) {
      case PerHour perHour -> perHour.rate().forMinutes(minutes);
      case PerMile perMile -> perMile.rate().times(miles);
      case PerCallOut callOut -> callOut.rate().times(BigDecimal.ONE);
      case None none -> Money.ZERO;
    };
  }
}
