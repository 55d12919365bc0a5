package app.pragmata.core.money;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import java.util.List;
import java.util.stream.Collector;
import java.util.stream.Collectors;

/**
 * An amount of the one currency that the books are kept in, as a count of its minor units (pence).
 * Amounts never hold fractions of a penny: whoever multiplies by a rate rounds there, half up,
 * through {@link #rounded}.
 */
public record Money(long minor) implements Comparable<Money> {
  public static final Money ZERO = new Money(0);
  private static final BigDecimal MINUTES_PER_HOUR = BigDecimal.valueOf(60);

  public static Money ofMinor(long minor) {
    return new Money(minor);
  }

  /** An amount written in major units with at most two decimals, such as "541.19". */
  public static Money of(String major) {
    return new Money(new BigDecimal(major).movePointRight(2).longValueExact());
  }

  /**
   * An exact amount in major units, rounded half up to the minor unit (half away from zero when
   * negative).
   */
  public static Money rounded(BigDecimal major) {
    return new Money(major.setScale(2, RoundingMode.HALF_UP).movePointRight(2).longValueExact());
  }

  /** Minutes at a rate per hour in major units, rounded half up once, at the end. */
  public static Money forMinutes(int minutes, BigDecimal ratePerHour) {
    BigDecimal exactSixtieths = ratePerHour.multiply(BigDecimal.valueOf(minutes));
    return rounded(exactSixtieths.divide(MINUTES_PER_HOUR, 2, RoundingMode.HALF_UP));
  }

  public Money plus(Money other) {
    return new Money(Math.addExact(minor, other.minor));
  }

  public Money minus(Money other) {
    return new Money(Math.subtractExact(minor, other.minor));
  }

  public Money negated() {
    return new Money(Math.negateExact(minor));
  }

  /** This amount per unit, for a quantity; rounded half up. */
  public Money times(BigDecimal quantity) {
    return rounded(major().multiply(quantity));
  }

  /** Parts of this amount by {@link LargestRemainder}; they add up to it to the penny. */
  public List<Money> spreadOver(List<Money> weights) {
    return spreadByShare(weights.stream().map(weight -> BigInteger.valueOf(weight.minor)).toList());
  }

  /** The same by weights that are no amounts, such as shares or minutes. */
  public List<Money> spreadByShare(List<BigInteger> weights) {
    return LargestRemainder.spread(minor, weights).stream().map(Money::new).toList();
  }

  public boolean isZero() {
    return minor == 0;
  }

  public boolean isNegative() {
    return minor < 0;
  }

  public boolean isPositive() {
    return minor > 0;
  }

  /** The exact amount in major units, with two decimals. */
  public BigDecimal major() {
    return BigDecimal.valueOf(minor, 2);
  }

  /** Adds up a stream of amounts; nothing adds up to {@link #ZERO}. */
  public static Collector<Money, ?, Money> sum() {
    return Collectors.reducing(ZERO, Money::plus);
  }

  @Override
  public int compareTo(Money other) {
    return Long.compare(minor, other.minor);
  }

  /** Major units with two decimals and no currency mark, such as "541.19". */
  @Override
  public String toString() {
    return major().toPlainString();
  }
}
