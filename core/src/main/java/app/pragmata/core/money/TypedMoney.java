package app.pragmata.core.money;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.math.BigDecimal;
import java.util.Currency;
import java.util.Locale;

/**
 * Reads amounts as people type them in the one currency that the books are kept in. A sign of
 * another currency is refused, for nobody here can know its rate.
 *
 * @param sign of the currency, such as "£"; it may be typed or left out, as its code may
 * @param code of ISO 4217, such as "GBP"
 */
public record TypedMoney(String sign, String code) {
  private static final BigDecimal LARGEST = BigDecimal.valueOf(100_000_000);

  /** For the currency of this code as it is written in a place. */
  public static TypedMoney of(String code, Locale locale) {
    return new TypedMoney(Currency.getInstance(code).getSymbol(locale), code);
  }

  /**
   * An amount: "450", "1,284.50", "£45". Not negative, at most two decimals. A comma parts
   * thousands only, so that "1,50" is refused and never taken for 150.
   */
  public Money money(String typed) {
    BigDecimal major = number(typed);
    if (major.scale() > 2) {
      throw new Unreadable(Rule.UNREADABLE, "An amount has at most two decimals, such as 45.50.");
    }
    return new Money(major.movePointRight(2).longValueExact());
  }

  /** A price of a unit: "450", "£2.565". Not negative, at most four decimals. */
  public UnitPrice unitPrice(String typed) {
    BigDecimal major = number(typed);
    if (major.stripTrailingZeros().scale() > UnitPrice.DECIMALS) {
      throw new Unreadable(
          Rule.UNREADABLE, "A price has at most four decimals, such as 45.50 or 2.565.");
    }
    return new UnitPrice(major);
  }

  /** "45", "£45.50" or "12.5 %"; more than 100 % is refused. Empty is nothing. */
  public AmountOrShare amountOrShare(String typed) {
    String plain = typed.strip();
    if (plain.isEmpty()) {
      return AmountOrShare.nothing();
    }
    if (!plain.endsWith("%")) {
      return new AmountOrShare.Fixed(money(plain));
    }
    String number = plain.substring(0, plain.length() - 1).strip();
    if (!number.matches("\\d{1,6}(\\.\\d{1,2})?")) {
      throw new Unreadable(
          Rule.UNREADABLE, "Enter an amount such as 45 or 45.50, or a share such as 10 %.");
    }
    BigDecimal fraction = new BigDecimal(number).movePointLeft(2);
    if (fraction.compareTo(BigDecimal.ONE) > 0) {
      throw new Unreadable(Rule.EXCEEDS_LIMIT, "That is more than all of it. Enter at most 100 %.");
    }
    return new AmountOrShare.OfTotal(new Share(fraction));
  }

  private BigDecimal number(String typed) {
    String plain = typed.strip();
    if (plain.codePoints().anyMatch(sign -> Character.getType(sign) == Character.CURRENCY_SYMBOL)
        && !plain.contains(sign)) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“%s” is in another currency. Enter the amount in %s."
              .formatted(Reading.abridged(typed), sign));
    }
    plain =
        Reading.withoutThousandsCommas(
            plain.replace(sign, "").replace(code, "").replaceAll("\\s", ""));
    if (!plain.matches("-?(\\d{1,12}(\\.\\d{0,12})?|\\.\\d{1,12})")) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“" + Reading.abridged(typed) + "” is not an amount. Enter it like 450 or 45.50.");
    }
    BigDecimal major = new BigDecimal(plain);
    if (major.signum() < 0) {
      throw new Unreadable(
          Rule.NEGATIVE, "An amount here cannot be negative. Enter it like 450 or 45.50.");
    }
    if (major.compareTo(LARGEST) > 0) {
      throw new Unreadable(Rule.TOO_LARGE, "More than 100 million. Check the amount.");
    }
    return major;
  }
}
