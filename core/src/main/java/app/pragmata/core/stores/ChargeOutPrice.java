package app.pragmata.core.stores;

import app.pragmata.core.company.Markup;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

/**
 * What a part sells for: its own price, or else its cost with the markup in force, less what the
 * customer's price list takes off.
 */
public record ChargeOutPrice(Markup markup, Share discount) {
  /** At list price. */
  public ChargeOutPrice(Markup markup) {
    this(markup, Share.NOTHING);
  }

  /** The same prices for a customer whose price list takes this share off. */
  public ChargeOutPrice less(Share share) {
    return new ChargeOutPrice(markup, share);
  }

  /** Per unit, rounded half up to four decimals once. */
  public UnitPrice of(@Nullable UnitPrice ownPrice, BigDecimal averageCost) {
    BigDecimal list = ownPrice == null ? markup.on(averageCost) : ownPrice.major();
    return UnitPrice.rounded(list.multiply(BigDecimal.ONE.subtract(discount.fraction())));
  }
}
