package app.pragmata.server.billing;

import app.pragmata.core.billing.InvoiceDraft;
import app.pragmata.server.billing.BillingView.ChargedLine;
import app.pragmata.server.billing.BillingView.ChargedVat;
import app.pragmata.server.company.Company;
import java.time.LocalDate;
import java.util.List;

/**
 * An invoice as it was posted. It is kept as text and read from it: no later change of a customer,
 * a rate or a price changes a document that left the house.
 *
 * @param locale in which its numbers and days are written (BCP 47)
 * @param taxDay whose percents of VAT hold
 * @param paymentDays from the invoice's date to the due date
 */
public record InvoiceDocument(
    long number,
    String locale,
    String currency,
    LocalDate invoiceDate,
    LocalDate taxDay,
    int paymentDays,
    LocalDate dueDate,
    Company.Identity seller,
    Buyer buyer,
    List<ChargedJob> jobs,
    List<ChargedVat> vat,
    long netMinor,
    long vatMinor,
    long grossMinor) {

  /** Who has to pay; the VAT number may be empty. */
  public record Buyer(String name, String address, String postcode, String vatNumber) {}

  /** A job with what is charged for it. */
  public record ChargedJob(
      long number, String title, String site, String siteAddress, List<ChargedLine> lines) {}

  /**
   * The invoice of one job, by what is known of seller and buyer on its day.
   *
   * @param of the job that it charges
   */
  public static InvoiceDocument of(
      Company company,
      long number,
      LocalDate day,
      int paymentDays,
      Buyer buyer,
      Work of,
      InvoiceDraft draft) {
    return new InvoiceDocument(
        number,
        company.locale().toLanguageTag(),
        company.currency(),
        day,
        day,
        paymentDays,
        day.plusDays(paymentDays),
        company.identity(),
        buyer,
        List.of(
            new ChargedJob(
                of.number(), of.title(), of.site(), of.siteAddress(), ChargedLine.of(draft))),
        ChargedVat.of(draft),
        draft.vat().net().minor(),
        draft.vat().vat().minor(),
        draft.vat().gross().minor());
  }

  /** A job, as the customer knows it. */
  public record Work(long number, String title, String site, String siteAddress) {}
}
