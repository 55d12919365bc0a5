package app.pragmata.core.money;

import java.math.BigDecimal;

/**
 * How VAT applies to a line, as on a tax day.
 *
 * @param code the company's name for it, such as {@code standard}; several may be of one group
 */
public record VatTreatment(String code, VatGroup group) {
  /** With tax at a percent above nothing. */
  public static VatTreatment rated(String code, String percent) {
    return new VatTreatment(code, new VatGroup(VatCategory.RATED, new BigDecimal(percent), ""));
  }

  /** Without tax; the reason is empty for what is zero-rated. */
  public static VatTreatment untaxed(String code, VatCategory category, String reason) {
    return new VatTreatment(code, new VatGroup(category, BigDecimal.ZERO, reason));
  }
}
