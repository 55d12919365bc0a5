package app.pragmata.server.billing;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.ChargeLine;
import app.pragmata.core.billing.CreditKind;
import app.pragmata.core.billing.SaidVat;
import app.pragmata.core.billing.Unit;
import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatCategory;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.TaxedGroup;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * How billing is shown on a job's sheet.
 *
 * @param vatCode the treatment that was decided for the job; null where its quotes, its kind or its
 *     customer say
 * @param promised null for a job straight from a call
 * @param promisedOnSite null unless it is charged so
 * @param draft null once the job is closed
 * @param soldMinor charged for good so far, without VAT
 * @param chargedMinor without VAT: as posted for good, and as the rest would be posted by now
 */
public record BillingView(
    Closing.Billed state,
    BillingBasis.Code basis,
    @Nullable String notChargedReason,
    @Nullable String vatCode,
    @Nullable PromisedPrice promised,
    BasisTotal fixedPrice,
    BasisTotal timeAndParts,
    @Nullable ToldOnSite promisedOnSite,
    @Nullable Draft draft,
    List<Invoice> invoices,
    long soldMinor,
    long chargedMinor) {

  /** What is owed on all of the job's invoices. */
  public Money owed() {
    return invoices.stream().map(each -> Money.ofMinor(each.owedMinor())).collect(Money.sum());
  }

  /**
   * What the accepted quotes promise together.
   *
   * @param acceptedMinor as it was accepted, without VAT
   * @param outOfWarrantyMinor what the warranty was to bear of lines that were taken out of it
   *     since
   * @param netMinor the sum of both, which is promised by now
   * @param aboveMinor how much more is charged, or would be by now, without VAT
   * @param aboveReason why; null while nobody has said
   */
  public record PromisedPrice(
      PromiseKind kind,
      long acceptedMinor,
      long outOfWarrantyMinor,
      long netMinor,
      long aboveMinor,
      @Nullable String aboveReason) {}

  /**
   * What one basis would come to.
   *
   * @param aboveMinor how much more is charged in all than the accepted quotes promise, or less
   *     below nothing; null where nothing was promised
   */
  public record BasisTotal(
      long netMinor,
      long grossMinor,
      long marginMinor,
      @Nullable BigDecimal marginPercent,
      @Nullable Long aboveMinor) {}

  /**
   * What the customer was told on site, and where it differs from time and parts.
   *
   * @param toldMinor all that the job is to cost the customer, with VAT or without
   * @param differenceMinor how much more than time and parts it charges without VAT, or less below
   *     nothing; the differences add up to it
   */
  public record ToldOnSite(
      long toldMinor,
      boolean withVat,
      BasisTotal total,
      long differenceMinor,
      List<Difference> differences) {}

  /** What is charged more of a category, or less below nothing. */
  public record Difference(Category category, long netMinor) {}

  /**
   * The final invoice as it will read beside the entry as it will post.
   *
   * @param billedBefore what comes off it because it was billed ahead of work
   * @param expectedNumber of the invoice, unless somebody posts another first; null when nothing
   *     will be charged
   * @param depositMinor what comes off it at once, of deposits that are held
   * @param notYet why it cannot be posted now; null when it can
   * @param awaited suppliers' bills that are still to come: their cost joins the job afterwards
   */
  public record Draft(
      List<ChargedLine> lines,
      List<Deducted> billedBefore,
      List<TaxedGroup> vat,
      long netMinor,
      long grossMinor,
      List<BooksStore.AccountLine> entry,
      long entryDebitMinor,
      long entryCreditMinor,
      @Nullable Long expectedNumber,
      long depositMinor,
      long toPayMinor,
      @Nullable String notYet,
      List<AwaitedBill> awaited) {}

  /**
   * A supplier's bill that is to come.
   *
   * @param expectedMinor without VAT; null where nobody knows
   */
  public record AwaitedBill(String supplier, String description, @Nullable Long expectedMinor) {}

  /**
   * A line as it is charged: quantity / price base x unit price is the full amount; discount,
   * warranty, the line's part of the whole's discount and the cut come off it, in this order.
   *
   * @param position on the invoice, from one
   * @param category null for a stage, of which nobody knows yet what the work takes
   * @param visitId the visit that it charges; null where it charges none
   * @param otherCostId the supplier's bill that it charges; null where it charges none
   * @param unitPrice in major units, to four decimals at most
   * @param priceBase for how many of the unit the price is
   * @param discountMinor the line's own, as it was agreed
   * @param warrantyReductionMinor the warranty's share of what the discount leaves
   * @param warrantyForgoneMinor what it would bear, had the line not been taken out of it
   * @param discountOfWholeMinor what of the whole offer's discount falls to the line
   * @param cutMinor what goes beyond a promise of “not more than”, after warranty
   * @param vatReason why there is no tax; empty where none is needed
   */
  public record ChargedLine(
      int position,
      @Nullable Category category,
      @Nullable Long visitId,
      @Nullable Long otherCostId,
      String description,
      BigDecimal quantity,
      Unit unit,
      BigDecimal unitPrice,
      int priceBase,
      long fullMinor,
      long discountMinor,
      String warrantyPercent,
      long warrantyReductionMinor,
      long warrantyForgoneMinor,
      long discountOfWholeMinor,
      long cutMinor,
      long netMinor,
      VatCategory vatCategory,
      String vatPercent,
      String vatReason,
      SaidVat.By vatSaidBy) {
    static ChargedLine of(int position, ChargeLine line) {
      return new ChargedLine(
          position,
          line.category(),
          line.of() instanceof ChargeLine.Of.Visit visit ? Long.valueOf(visit.id()) : null,
          line.of() instanceof ChargeLine.Of.OtherCost other ? Long.valueOf(other.id()) : null,
          line.description(),
          line.priced().quantity(),
          line.priced().unit(),
          line.priced().price().major(),
          line.priced().unit().priceBase(),
          line.full().minor(),
          line.reductions().discount().minor(),
          line.reductions().warrantyShare().percent(),
          line.reductions().warranty().minor(),
          line.reductions().forgone().minor(),
          line.reductions().discountOfWhole().minor(),
          line.cut().minor(),
          line.net().minor(),
          line.vatTreatment().group().category(),
          line.vatTreatment().group().percent().toPlainString(),
          line.vatTreatment().group().reason(),
          line.vat().by());
    }

    /** The bill's lines, numbered after so many others. */
    static List<ChargedLine> of(Bill bill, int after) {
      return IntStream.range(0, bill.lines().size())
          .mapToObj(i -> of(after + i + 1, bill.lines().get(i)))
          .toList();
    }
  }

  /** What an earlier invoice charged of it ahead of work, in one VAT group. */
  public record Deducted(
      long invoiceNumber,
      long netMinor,
      VatCategory vatCategory,
      String vatPercent,
      String vatReason) {
    static List<Deducted> of(Bill bill) {
      return bill.deductions().stream()
          .map(
              each ->
                  new Deducted(
                      each.invoiceNumber(),
                      each.net().minor(),
                      each.vatTreatment().group().category(),
                      each.vatTreatment().group().percent().toPlainString(),
                      each.vatTreatment().group().reason()))
          .toList();
    }
  }

  /**
   * A posted invoice of the job with what was credited and received of it.
   *
   * @param version of what is owed on it
   * @param kind what it is of this job: a stage ahead of work, some of the work, or all that was
   *     left
   * @param lines those of this job
   * @param otherJobs the numbers of further jobs that it charges
   * @param otherJobsNetMinor what their lines come to
   */
  public record Invoice(
      long id,
      long number,
      int version,
      LocalDate invoiceDate,
      LocalDate dueDate,
      boolean late,
      Bill.Kind kind,
      List<ChargedLine> lines,
      List<Deducted> billedBefore,
      List<Long> otherJobs,
      long otherJobsNetMinor,
      List<TaxedGroup> vat,
      long netMinor,
      long grossMinor,
      List<Credited> credits,
      long creditedMinor,
      long owedMinor,
      List<Receipt> receipts) {}

  /** A credit note that takes some of an invoice back. */
  public record Credited(
      long id,
      long number,
      CreditKind kind,
      LocalDate creditDate,
      String reason,
      long netMinor,
      long grossMinor) {}

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
