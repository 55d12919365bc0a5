package app.pragmata.server.billing;

import app.pragmata.core.Category;
import app.pragmata.core.billing.CreditKind;
import app.pragmata.core.billing.Creditable;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatCategory;
import app.pragmata.server.billing.BillingView.ChargedLine;
import app.pragmata.server.billing.BillingView.Deducted;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.TaxedGroup;
import app.pragmata.server.records.NumberSeries.Series;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * A credit note as it was posted, kept as text like the invoice that it credits.
 *
 * @param printedNumber with its prefix, as it stands on paper
 * @param invoiceNumber of the invoice, with its date (EN 16931 BT-25, BT-26)
 * @param buyer as on the invoice
 * @param billedAgain what the invoice took off as billed before, and takes off no more
 */
public record CreditDocument(
    long number,
    String printedNumber,
    String locale,
    String currency,
    CreditKind kind,
    String reason,
    LocalDate creditDate,
    long invoiceNumber,
    String printedInvoiceNumber,
    LocalDate invoiceDate,
    Company.Identity seller,
    InvoiceDocument.Buyer buyer,
    List<CreditedLine> lines,
    List<Deducted> billedAgain,
    List<TaxedGroup> vat,
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
      VatCategory vatCategory,
      String vatPercent,
      String vatReason) {
    static CreditedLine of(ChargedLine line, long jobNumber, Money net) {
      return new CreditedLine(
          line.position(),
          jobNumber,
          line.category(),
          line.description(),
          net.minor(),
          line.vatCategory(),
          line.vatPercent(),
          line.vatReason());
    }
  }

  /**
   * The credit of a posted invoice, told by that invoice's own words.
   *
   * @param jobNumbers by id
   */
  static CreditDocument of(
      Company company,
      long number,
      LocalDate day,
      CreditKind kind,
      String reason,
      InvoiceDocument invoice,
      Creditable.Credit credit,
      Map<Long, Long> jobNumbers) {
    Map<Integer, ChargedLine> charged =
        invoice.jobs().stream()
            .flatMap(job -> job.lines().stream())
            .collect(Collectors.toMap(ChargedLine::position, line -> line));
    Set<Long> given =
        credit.given().stream()
            .map(off -> Objects.requireNonNull(jobNumbers.get(off.jobId())))
            .collect(Collectors.toSet());
    return new CreditDocument(
        number,
        company.numbering().text(Series.CREDIT_NOTE, number),
        company.locale().toLanguageTag(),
        invoice.currency(),
        kind,
        reason,
        day,
        invoice.number(),
        invoice.printedNumber(),
        invoice.invoiceDate(),
        company.identity(),
        invoice.buyer(),
        credit.lines().stream()
            .map(
                less ->
                    CreditedLine.of(
                        Objects.requireNonNull(charged.get(less.line().position())),
                        Objects.requireNonNull(jobNumbers.get(less.line().jobId())),
                        less.net()))
            .toList(),
        invoice.jobs().stream()
            .filter(job -> given.contains(job.number()))
            .flatMap(job -> job.billedBefore().stream())
            .toList(),
        TaxedGroup.of(new VatBreakdown(credit.vat()), company.wording()),
        credit.net().minor(),
        credit.vatAmount().minor(),
        credit.gross().minor());
  }
}
