package app.pragmata.core.billing;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;

/**
 * So much of something at a price, exactly as it is charged, so that whoever reads the line can
 * compute its amount again.
 *
 * @param quantity of minutes always a whole number
 * @param price of {@link Unit#priceBase} units (EN 16931 BT-146, BT-149)
 */
public record Priced(BigDecimal quantity, Unit unit, UnitPrice price) {
  public Priced {
    quantity = quantity.stripTrailingZeros();
    quantity = quantity.scale() < 0 ? quantity.setScale(0) : quantity;
    if (unit == Unit.MINUTE && quantity.scale() > 0) {
      throw new IllegalArgumentException("Time is whole minutes, not " + quantity);
    }
  }

  static Priced minutes(int minutes, UnitPrice perHour) {
    return new Priced(BigDecimal.valueOf(minutes), Unit.MINUTE, perHour);
  }

  static Priced one(UnitPrice price) {
    return new Priced(BigDecimal.ONE, Unit.PIECE, price);
  }

  /** Quantity / base x price, rounded half up once. */
  public Money amount() {
    return unit == Unit.MINUTE ? price.forMinutes(quantity.intValueExact()) : price.times(quantity);
  }
}
