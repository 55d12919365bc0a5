package app.pragmata.core.money;

import java.math.BigDecimal;
import java.util.Comparator;

/**
 * What the lines have in common whose VAT is computed together on a document (EN 16931 BG-23).
 *
 * @param percent above nothing in the category {@code RATED} alone; without trailing zeros
 * @param reason why there is no tax; empty where the category needs none
 */
public record VatGroup(VatCategory category, BigDecimal percent, String reason)
    implements Comparable<VatGroup> {
  private static final Comparator<VatGroup> ORDER =
      Comparator.comparing(VatGroup::percent)
          .reversed()
          .thenComparing(VatGroup::category)
          .thenComparing(VatGroup::reason);

  public VatGroup {
    percent = percent.signum() == 0 ? BigDecimal.ZERO : percent.stripTrailingZeros();
    percent = percent.scale() < 0 ? percent.setScale(0) : percent;
    if (percent.signum() < 0 || (percent.signum() > 0) != (category == VatCategory.RATED)) {
      throw new IllegalArgumentException(
          "%s per cent is none of the category %s".formatted(percent, category));
    }
    if (reason.isBlank() == category.needsReason()) {
      throw new IllegalArgumentException(
          "The category %s does not go with the reason “%s”".formatted(category, reason));
    }
  }

  /** The highest percent first. */
  @Override
  public int compareTo(VatGroup other) {
    return ORDER.compare(this, other);
  }
}
