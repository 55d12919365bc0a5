package app.pragmata.core;

import java.math.BigDecimal;

/** How a decimal number is written. */
public final class Decimal {
  private Decimal() {}

  /** With as many digits as it needs: "2.5" for 2.500, "120" for 1.2E+2. */
  public static String text(BigDecimal number) {
    return number.stripTrailingZeros().toPlainString();
  }
}
