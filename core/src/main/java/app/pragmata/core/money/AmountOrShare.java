package app.pragmata.core.money;

import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

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

  /** Of what is on record: an amount, a share of which, or neither, which is nothing. */
  static AmountOrShare of(@Nullable Long minor, @Nullable BigDecimal fraction) {
    if (minor != null) {
      return new Fixed(Money.ofMinor(minor));
    }
    return fraction == null ? nothing() : new OfTotal(new Share(fraction));
  }

  /** The amount in minor units where it is one; null for a share. */
  default @Nullable Long minor() {
    return this instanceof Fixed fixed ? fixed.amount().minor() : null;
  }

  /** The share as a fraction where it is one; null for an amount. */
  default @Nullable BigDecimal fraction() {
    return this instanceof OfTotal part ? part.share().fraction() : null;
  }
}
