package app.pragmata.server.billing;

import app.pragmata.core.billing.Bill;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.server.billing.BillingView.ChargedLine;
import app.pragmata.server.billing.BillingView.Deducted;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.TaxedGroup;
import app.pragmata.server.generated.tables.records.CustomerRecord;
import app.pragmata.server.jobs.WholeJob;
import app.pragmata.server.records.NumberSeries.Series;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/**
 * An invoice as it was posted. It is kept as text and read from it: no later change of a customer,
 * a rate or a price changes a document that left the house.
 *
 * @param printedNumber with its prefix, as it stands on paper
 * @param locale in which its numbers and days are written (BCP 47)
 * @param taxDay whose percents of VAT hold
 * @param paymentDays from the invoice's date to the due date
 */
public record InvoiceDocument(
    long number,
    String printedNumber,
    String locale,
    String currency,
    LocalDate invoiceDate,
    LocalDate taxDay,
    int paymentDays,
    LocalDate dueDate,
    Company.Identity seller,
    Buyer buyer,
    List<ChargedJob> jobs,
    List<TaxedGroup> vat,
    long netMinor,
    long vatMinor,
    long grossMinor) {

  /** Who has to pay; the VAT number may be empty. */
  public record Buyer(String name, String address, String postcode, String vatNumber) {
    static Buyer of(CustomerRecord customer) {
      return new Buyer(
          customer.getName(),
          customer.getAddress(),
          customer.getPostcode(),
          customer.getVatNumber());
    }
  }

  /**
   * A job with what is charged for it, less what was billed of it before.
   *
   * @param kind whether it is a stage ahead of work, some of the work, or all that is left
   */
  public record ChargedJob(
      long number,
      String title,
      String site,
      String siteAddress,
      Bill.Kind kind,
      List<ChargedLine> lines,
      List<Deducted> billedBefore) {
    /** What a bill charges; its lines are numbered after so many others of the invoice. */
    public static ChargedJob of(
        long number, String title, String site, String siteAddress, Bill bill, int after) {
      return new ChargedJob(
          number,
          title,
          site,
          siteAddress,
          bill.kind(),
          ChargedLine.of(bill, after),
          Deducted.of(bill));
    }
  }

  /** The invoice by what is known of seller and buyer on its day. */
  static InvoiceDocument of(
      Company company,
      long number,
      LocalDate day,
      CustomerRecord customer,
      InvoicePosting.ToPost invoice) {
    var jobs = new ArrayList<ChargedJob>();
    int position = 0;
    for (JobBill bill : invoice.bills()) {
      WholeJob job = bill.job();
      jobs.add(
          ChargedJob.of(
              job.job().number(),
              job.job().title(),
              job.site().name(),
              job.site().address(),
              bill.bill(),
              position));
      position += bill.bill().lines().size();
    }
    return of(
        company,
        number,
        day,
        customer.getPaymentDays(),
        Buyer.of(customer),
        jobs,
        invoice.draft().vat());
  }

  /** The same of jobs as they are told to the customer. */
  public static InvoiceDocument of(
      Company company,
      long number,
      LocalDate day,
      int paymentDays,
      Buyer buyer,
      List<ChargedJob> jobs,
      VatBreakdown vat) {
    return new InvoiceDocument(
        number,
        company.numbering().text(Series.INVOICE, number),
        company.locale().toLanguageTag(),
        company.currency(),
        day,
        day,
        paymentDays,
        day.plusDays(paymentDays),
        company.identity(),
        buyer,
        jobs,
        TaxedGroup.of(vat, company.wording()),
        vat.net().minor(),
        vat.vat().minor(),
        vat.gross().minor());
  }
}
