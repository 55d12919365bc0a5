package app.pragmata.core.money;

import app.pragmata.core.Decimal;
import java.math.BigDecimal;

/** A part of a whole, from nothing (0) to all (1), kept exact. */
public record Share(BigDecimal fraction) {
  public static final Share NOTHING = new Share(BigDecimal.ZERO);

  public Share {
    if (fraction.signum() < 0 || fraction.compareTo(BigDecimal.ONE) > 0) {
      throw new IllegalArgumentException("A share lies between 0 and 1, not at " + fraction);
    }
  }

  public static Share ofPercent(String percent) {
    return new Share(new BigDecimal(percent).movePointLeft(2));
  }

  /** This share of an amount, rounded half up. */
  public Money of(Money whole) {
    return whole.times(fraction);
  }

  public boolean isNothing() {
    return fraction.signum() == 0;
  }

  /** Without decimals that say nothing, such as "60" or "12.5". */
  public String percent() {
    return Decimal.text(fraction.movePointRight(2));
  }
}
