package app.pragmata.server.billing;

import app.pragmata.core.billing.CreditKind;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What of an invoice is not charged after all.
 *
 * @param version of what is owed on the invoice, as it was shown
 * @param kind less for the same work, or the work taken back
 * @param reason why, in words that the customer reads
 * @param jobId only of this job; left out is of all that the invoice charges
 * @param lines only of these lines; left out is all that is left of them
 */
public record CreditForm(
    int version,
    @Nullable CreditKind kind,
    @Nullable String reason,
    @Nullable Long jobId,
    @Nullable List<LineForm> lines) {
  /**
   * A line of the invoice.
   *
   * @param position on the invoice
   * @param amount how much less is charged, without VAT; left out is all that is left. Work is
   *     taken back whole, without an amount.
   */
  public record LineForm(int position, @Nullable String amount) {}

  List<LineForm> asked() {
    return Objects.requireNonNullElse(lines, List.of());
  }
}
