package app.pragmata.server.billing;

import app.pragmata.core.Category;
import app.pragmata.core.billing.ChargeLine;
import app.pragmata.core.billing.InvoiceDraft;
import app.pragmata.core.billing.Unit;
import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Closing;
import app.pragmata.server.books.BooksStore;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** How billing is shown on a job's sheet. */
public record BillingView(
    Closing.Billed state,
    BillingBasis.Code basis,
    @Nullable String notChargedReason,
    BasisTotal fixedPrice,
    BasisTotal timeAndParts,
    @Nullable Draft draft,
    @Nullable Invoice invoice) {

  /** What one basis would come to. */
  public record BasisTotal(
      long netMinor, long grossMinor, long marginMinor, @Nullable BigDecimal marginPercent) {}

  /**
   * The invoice as it will read beside the entry as it will post.
   *
   * @param expectedNumber of the invoice, unless somebody posts another first; null when nothing
   *     will be charged
   * @param depositMinor what comes off it at once, of deposits that are held
   * @param notYet why it cannot be posted now; null when it can
   */
  public record Draft(
      List<ChargedLine> lines,
      List<ChargedVat> vat,
      long netMinor,
      long grossMinor,
      List<BooksStore.AccountLine> entry,
      long entryDebitMinor,
      long entryCreditMinor,
      @Nullable Long expectedNumber,
      long depositMinor,
      long toPayMinor,
      @Nullable String notYet) {}

  /**
   * A line as it is charged: quantity / price base x unit price is the full amount; discount and
   * warranty come off it.
   *
   * @param unitPrice in major units, to four decimals at most
   * @param priceBase for how many of the unit the price is
   * @param discountMinor as it was agreed, of the line and of the whole offer
   */
  public record ChargedLine(
      Category category,
      String description,
      BigDecimal quantity,
      Unit unit,
      BigDecimal unitPrice,
      int priceBase,
      long fullMinor,
      long discountMinor,
      String warrantyPercent,
      long warrantyReductionMinor,
      long netMinor,
      String vatCategory,
      String vatPercent) {
    static ChargedLine of(ChargeLine line) {
      return new ChargedLine(
          line.category(),
          line.description(),
          line.priced().quantity(),
          line.priced().unit(),
          line.priced().price().major(),
          line.priced().unit().priceBase(),
          line.full().minor(),
          line.discount().minor(),
          line.warrantyShare().percent(),
          line.warrantyReduction().minor(),
          line.net().minor(),
          line.vatRate().category(),
          InvoiceStore.plain(line.vatRate().percent()));
    }

    static List<ChargedLine> of(InvoiceDraft draft) {
      return draft.lines().stream().map(ChargedLine::of).toList();
    }
  }

  /** The lines of one category and percent of VAT, and the tax on their sum. */
  public record ChargedVat(String category, String percent, long netMinor, long vatMinor) {
    static List<ChargedVat> of(InvoiceDraft draft) {
      return draft.vat().rates().stream()
          .map(
              rate ->
                  new ChargedVat(
                      rate.rate().category(),
                      InvoiceStore.plain(rate.rate().percent()),
                      rate.net().minor(),
                      rate.vat().minor()))
          .toList();
    }
  }

  /**
   * A posted invoice with what was received for it.
   *
   * @param version of what is owed on it
   */
  public record Invoice(
      long id,
      long number,
      int version,
      LocalDate invoiceDate,
      LocalDate dueDate,
      boolean late,
      List<ChargedLine> lines,
      List<ChargedVat> vat,
      long netMinor,
      long grossMinor,
      long owedMinor,
      List<Receipt> receipts) {}

  /**
   * What a receipt paid of an invoice.
   *
   * @param allocatedOn later than the money came where it was a deposit
   */
  public record Receipt(
      long id,
      long number,
      LocalDate receivedOn,
      LocalDate allocatedOn,
      long amountMinor,
      PaymentMethod method) {}
}
