package app.pragmata.server.receipts;

import app.pragmata.core.books.PaymentMethod;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Money that came in, and where it went; amounts in minor units.
 *
 * @param quoteNumber of the quote that it was earmarked for; null for none
 * @param jobNumber of the job that it was earmarked for; null for none
 * @param leftMinor neither allocated nor given back
 * @param takenBackOn when it turned out not to have come; null where it came
 * @param allocations what stands of it on invoices
 */
public record ReceiptView(
    long id,
    long number,
    int version,
    long customerId,
    String customer,
    LocalDate receivedOn,
    long amountMinor,
    PaymentMethod method,
    @Nullable Long quoteId,
    @Nullable Long quoteNumber,
    @Nullable Long jobId,
    @Nullable Long jobNumber,
    long leftMinor,
    @Nullable LocalDate takenBackOn,
    @Nullable String takenBackReason,
    List<Allocated> allocations,
    List<GivenBack> givenBack) {

  /** What of it pays an invoice, since when. */
  public record Allocated(
      long id, long invoiceId, long invoiceNumber, long amountMinor, LocalDate allocatedOn) {}

  /** What of it went back to the customer. */
  public record GivenBack(long amountMinor, LocalDate givenBackOn) {}
}
