package app.pragmata.core.stores;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
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
   * Per unit, rounded half up, and the discount rounded half up once more; a cost above every band
   * takes the dearest band's markup.
   */
  public Money of(@Nullable Money ownPrice, BigDecimal averageCost) {
    Money list = ownPrice == null ? ofBand(averageCost) : ownPrice;
    return list.minus(discount.of(list));
  }

  private Money ofBand(BigDecimal averageCost) {
    Band band =
        bands.stream()
            .filter(candidate -> averageCost.compareTo(candidate.upToCost().major()) <= 0)
            .findFirst()
            .orElse(bands.getLast());
    return Money.rounded(averageCost.multiply(BigDecimal.ONE.add(band.markupShare())));
  }
}
