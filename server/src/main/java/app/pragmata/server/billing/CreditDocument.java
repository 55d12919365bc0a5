package app.pragmata.server.billing;

import app.pragmata.core.Category;
import app.pragmata.core.billing.CreditKind;
import app.pragmata.server.billing.BillingView.ChargedVat;
import app.pragmata.server.billing.BillingView.Deducted;
import app.pragmata.server.company.Company;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A credit note as it was posted, kept as text like the invoice that it credits.
 *
 * @param invoiceNumber of the invoice, with its date (EN 16931 BT-25, BT-26)
 * @param buyer as on the invoice
 * @param billedAgain what the invoice took off as billed before, and takes off no more
 */
public record CreditDocument(
    long number,
    String locale,
    String currency,
    CreditKind kind,
    String reason,
    LocalDate creditDate,
    long invoiceNumber,
    LocalDate invoiceDate,
    Company.Identity seller,
    InvoiceDocument.Buyer buyer,
    List<CreditedLine> lines,
    List<Deducted> billedAgain,
    List<ChargedVat> vat,
    long netMinor,
    long vatMinor,
    long grossMinor) {

  /**
   * How much less is charged of a line.
   *
   * @param position on the invoice
   * @param category null for a stage
   */
  public record CreditedLine(
      int position,
      long jobNumber,
      @Nullable Category category,
      String description,
      long netMinor,
      String vatCategory,
      String vatPercent) {}
}
