package app.pragmata.server.company;

import app.pragmata.core.company.Wording;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatCategory;
import java.util.List;

/**
 * The lines of one category, percent and reason of VAT on a document, and the tax on their sum.
 *
 * @param reason why there is no tax; empty where none is needed
 * @param words how the document names the group
 */
public record TaxedGroup(
    VatCategory category,
    String percent,
    String reason,
    String words,
    long netMinor,
    long vatMinor) {
  /** One group, named in the words of the company's documents. */
  public static TaxedGroup of(VatBreakdown.Taxed taxed, Wording wording) {
    return new TaxedGroup(
        taxed.group().category(),
        taxed.group().percent().toPlainString(),
        taxed.group().reason(),
        wording.vat(taxed.group()),
        taxed.net().minor(),
        taxed.vat().minor());
  }

  /** All groups of a document, the highest percent first. */
  public static List<TaxedGroup> of(VatBreakdown vat, Wording wording) {
    return vat.groups().stream().map(taxed -> of(taxed, wording)).toList();
  }
}
