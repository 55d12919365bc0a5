package app.pragmata.server.receipts;

import app.pragmata.core.books.PaymentMethod;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Money as it came in.
 *
 * @param customerId whose it is; may be left out where a quote, job or invoice says so
 * @param receivedOn empty is today
 * @param method null is a bank transfer
 * @param quoteId what it is meant for, if anything: its invoices take it as they are posted
 * @param jobId the same of a job; not both
 * @param allocations the invoices that it pays, in this order; null or none leaves it on account
 */
public record ReceiptForm(
    @Nullable Long customerId,
    @Nullable String amount,
    @Nullable String receivedOn,
    @Nullable PaymentMethod method,
    @Nullable Long quoteId,
    @Nullable Long jobId,
    @Nullable List<AllocationForm> allocations) {

  /**
   * An invoice that money pays.
   *
   * @param version of what is owed on it, as it was shown; null does not ask whether it has moved
   *     on
   * @param amount empty is as much as is owed and left
   */
  public record AllocationForm(
      long invoiceId, @Nullable Integer version, @Nullable String amount) {}

  /** What of a receipt is to pay which invoices. */
  public record FurtherAllocations(int version, @Nullable List<AllocationForm> allocations) {}

  /** What of a receipt goes back; an empty amount is all that is left, an empty day today. */
  public record GivingBack(int version, @Nullable String amount, @Nullable String givenBackOn) {}

  /** Why it did not come after all; an empty day is today. */
  public record TakingBack(int version, @Nullable String reason, @Nullable String takenBackOn) {}

  List<AllocationForm> asked() {
    return allocations == null ? List.of() : allocations;
  }
}
