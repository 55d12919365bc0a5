package app.pragmata.core.money;

import java.math.BigDecimal;

/**
 * A rate of VAT.
 *
 * @param code our name for it, such as {@code standard}
 * @param category the category code of EN 16931 (UNCL 5305): S, Z or E
 * @param percent such as 20
 */
public record VatRate(String code, String category, BigDecimal percent) {}
