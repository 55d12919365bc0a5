package app.pragmata.core.money;

import app.pragmata.core.Coded;

/** How VAT applies to what is supplied (EN 16931 BT-151, a code of UNCL 5305). */
public enum VatCategory implements Coded {
  /** At a percent above nothing. */
  RATED("S"),
  /** At nothing per cent. */
  ZERO("Z"),
  /** Exempt, for a reason that the document names. */
  EXEMPT("E"),
  /** The customer accounts for it. */
  REVERSE_CHARGE("AE"),
  /** Nothing that VAT is about; it stands alone on a document. */
  OUTSIDE_SCOPE("O");

  private final String code;

  VatCategory(String code) {
    this.code = code;
  }

  /** The code of UNCL 5305. */
  @Override
  public String code() {
    return code;
  }

  /** Whether a document has to say why there is no tax (BR-E-10, BR-AE-10, BR-O-10). */
  public boolean needsReason() {
    return this == EXEMPT || this == REVERSE_CHARGE || this == OUTSIDE_SCOPE;
  }
}
