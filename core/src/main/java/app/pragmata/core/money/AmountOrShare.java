package app.pragmata.core.money;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.math.BigDecimal;

/** A part of some total as people agree on it: so many pounds, or so many per cent of it. */
public sealed interface AmountOrShare {
  /** A fixed amount, whatever the total. */
  record Fixed(Money amount) implements AmountOrShare {}

  /** A share of the total. */
  record OfTotal(Share share) implements AmountOrShare {}

  static AmountOrShare nothing() {
    return new OfTotal(Share.NOTHING);
  }

  /** What it comes to of this total, rounded half up; a fixed amount may be more than the total. */
  default Money of(Money total) {
    return switch (this) {
      case Fixed fixed -> fixed.amount();
      case OfTotal part -> part.share().of(total);
    };
  }

  /** As it is typed, such as "45.00" or "12.5%"; empty for nothing. */
  default String text() {
    return switch (this) {
      case Fixed fixed -> fixed.amount().isZero() ? "" : fixed.amount().toString();
      case OfTotal part -> part.share().isNothing() ? "" : part.share().percent() + "%";
    };
  }

  /** Reads "45", "£45.50" or "12.5 %"; more than 100 % is refused. Empty is nothing. */
  static AmountOrShare parse(String typed) {
    String plain = typed.strip();
    if (plain.isEmpty()) {
      return nothing();
    }
    if (!plain.endsWith("%")) {
      return new Fixed(Money.parse(plain));
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
    return new OfTotal(new Share(fraction));
  }
}
