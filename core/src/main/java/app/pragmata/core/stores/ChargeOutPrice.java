package app.pragmata.core.stores;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a part sells for: its own price, or else cost x (1 + markup of the band that its cost falls
 * into), less what the customer's price list takes off.
 */
public record ChargeOutPrice(List<Band> bands, Share discount) {
  /** Parts that cost at most {@code upToCost} are marked up by {@code markupShare}. */
  public record Band(Money upToCost, BigDecimal markupShare) {}

  public ChargeOutPrice {
    bands = bands.stream().sorted(Comparator.comparing(Band::upToCost)).toList();
    if (bands.isEmpty()) {
      throw new IllegalArgumentException("At least one cost band is needed");
    }
  }

  /** At list price. */
  public ChargeOutPrice(List<Band> bands) {
    this(bands, Share.NOTHING);
  }

  /** The same prices for a customer whose price list takes this share off. */
  public ChargeOutPrice less(Share share) {
    return new ChargeOutPrice(bands, share);
  }

  /**
   * Per unit, rounded half up to four decimals once; a cost above every band takes the dearest
   * band's markup.
   */
  public UnitPrice of(@Nullable UnitPrice ownPrice, BigDecimal averageCost) {
    BigDecimal list = ownPrice == null ? ofBand(averageCost) : ownPrice.major();
    return UnitPrice.rounded(list.multiply(BigDecimal.ONE.subtract(discount.fraction())));
  }

  private BigDecimal ofBand(BigDecimal averageCost) {
    Band band =
        bands.stream()
            .filter(candidate -> averageCost.compareTo(candidate.upToCost().major()) <= 0)
            .findFirst()
            .orElse(bands.getLast());
    return averageCost.multiply(BigDecimal.ONE.add(band.markupShare()));
  }
}
