package app.pragmata.core.money;

import java.math.BigDecimal;
import java.math.RoundingMode;

/**
 * What one unit is sold for, without VAT: an hour, a mile, a call-out, a piece, a metre. It is
 * exact to four decimals of the major unit, for cheap things by the metre are sold in quantity (EN
 * 16931 BT-146); an amount of money comes of it only at the line, rounded once.
 *
 * @param major in major units; never negative
 */
public record UnitPrice(BigDecimal major) implements Comparable<UnitPrice> {
  public static final UnitPrice ZERO = new UnitPrice(BigDecimal.ZERO);

  static final int DECIMALS = 4;

  private static final BigDecimal MINUTES_PER_HOUR = BigDecimal.valueOf(60);

  public UnitPrice {
    if (major.signum() < 0) {
      throw new IllegalArgumentException("A price is not negative, as is " + major);
    }
    // Two decimals as money is written, more where they say something; so equal prices are equal.
    major = major.stripTrailingZeros();
    major = major.scale() < 2 ? major.setScale(2) : major;
    if (major.scale() > DECIMALS) {
      throw new IllegalArgumentException("A price has four decimals at most, not " + major);
    }
  }

  /** A price written in major units with at most four decimals, such as "2.565". */
  public static UnitPrice of(String major) {
    return new UnitPrice(new BigDecimal(major));
  }

  /** An exact price in major units, rounded half up to four decimals. */
  public static UnitPrice rounded(BigDecimal major) {
    return new UnitPrice(major.setScale(DECIMALS, RoundingMode.HALF_UP));
  }

  /** For so many units, rounded half up to the minor unit once. */
  public Money times(BigDecimal quantity) {
    return Money.rounded(major.multiply(quantity));
  }

  /** For so many minutes of a price per hour, rounded half up once (EN 16931 BT-149: per 60). */
  public Money forMinutes(int minutes) {
    return Money.rounded(
        major
            .multiply(BigDecimal.valueOf(minutes))
            .divide(MINUTES_PER_HOUR, 2, RoundingMode.HALF_UP));
  }

  public boolean isZero() {
    return major.signum() == 0;
  }

  @Override
  public int compareTo(UnitPrice other) {
    return major.compareTo(other.major);
  }

  /** Two decimals, or up to four where they are needed, and no currency mark. */
  @Override
  public String toString() {
    return major.toPlainString();
  }
}
