package app.pragmata.core.company;

import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;

/** By how much parts without a price of their own are marked up, by what they cost; from a day. */
public record Markup(LocalDate fromDay, List<Band> bands) implements InForce.Dated {
  /** Parts that cost at most {@code upToCost} are marked up by {@code markupShare}. */
  public record Band(Money upToCost, BigDecimal markupShare) {}

  public Markup {
    bands = bands.stream().sorted(Comparator.comparing(Band::upToCost)).toList();
    if (bands.isEmpty()) {
      throw new IllegalArgumentException("At least one cost band is needed");
    }
  }

  /** Cost x (1 + markup of its band), exact; a cost above every band takes the dearest one's. */
  public BigDecimal on(BigDecimal cost) {
    Band band =
        bands.stream()
            .filter(candidate -> cost.compareTo(candidate.upToCost().major()) <= 0)
            .findFirst()
            .orElse(bands.getLast());
    return cost.multiply(BigDecimal.ONE.add(band.markupShare()));
  }
}
