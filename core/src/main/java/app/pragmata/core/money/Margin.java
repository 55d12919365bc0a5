package app.pragmata.core.money;

import java.math.BigDecimal;
import java.math.RoundingMode;
import org.jspecify.annotations.Nullable;

/** What is left of a net charge after cost. */
public record Margin(Money net, Money cost) {
  public Money amount() {
    return net.minus(cost);
  }

  /**
   * Margin / net in per cent, two decimals, half up; null when nothing is charged, for then there
   * is no share.
   */
  public @Nullable BigDecimal percent() {
    if (net.isZero()) {
      return null;
    }
    return amount().major().movePointRight(2).divide(net.major(), 2, RoundingMode.HALF_UP);
  }
}
