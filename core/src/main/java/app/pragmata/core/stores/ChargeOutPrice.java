package app.pragmata.core.stores;

import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a part sells for: its own price, or else cost x (1 + markup of the band that its cost falls
 * into).
 */
public record ChargeOutPrice(List<Band> bands) {
  /** Parts that cost at most {@code upToCost} are marked up by {@code markupShare}. */
  public record Band(Money upToCost, BigDecimal markupShare) {}

  public ChargeOutPrice {
    bands = bands.stream().sorted(Comparator.comparing(Band::upToCost)).toList();
    if (bands.isEmpty()) {
      throw new IllegalArgumentException("At least one cost band is needed");
    }
  }

  /** Per unit, rounded half up; a cost above every band takes the dearest band's markup. */
  public Money of(@Nullable Money ownPrice, BigDecimal averageCost) {
    if (ownPrice != null) {
      return ownPrice;
    }
    Band band =
        bands.stream()
            .filter(candidate -> averageCost.compareTo(candidate.upToCost().major()) <= 0)
            .findFirst()
            .orElse(bands.getLast());
    return Money.rounded(averageCost.multiply(BigDecimal.ONE.add(band.markupShare())));
  }
}
