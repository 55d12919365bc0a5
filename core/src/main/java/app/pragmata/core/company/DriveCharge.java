package app.pragmata.core.company;

import app.pragmata.core.Coded;
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

  /** The rules by name. */
  enum Rule implements Coded {
    PER_CALL_OUT,
    PER_HOUR,
    PER_MILE,
    NONE
  }

  /** The charge by a rule at a rate, which none takes. */
  static DriveCharge of(Rule rule, UnitPrice rate) {
    return switch (rule) {
      case PER_CALL_OUT -> new PerCallOut(rate);
      case PER_HOUR -> new PerHour(rate);
      case PER_MILE -> new PerMile(rate);
      case NONE -> new None();
    };
  }

  /** By which rule this is. */
  default Rule rule() {
    return switch (this) {
      case PerCallOut callOut -> Rule.PER_CALL_OUT;
      case PerHour perHour -> Rule.PER_HOUR;
      case PerMile perMile -> Rule.PER_MILE;
      case None none -> Rule.NONE;
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
