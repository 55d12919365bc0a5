package app.pragmata.server.billing;

import app.pragmata.core.billing.Bill;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What an invoice is to charge.
 *
 * @param jobs of one customer
 */
public record InvoiceForm(@Nullable List<BillForm> jobs) {
  /**
   * What it is to charge for a job.
   *
   * @param version of the job as it was shown
   * @param kind a stage, some of the work, or all that is left
   * @param visitIds checked visits that a part bill charges
   * @param otherCostIds suppliers' bills that a part bill charges
   * @param quoteId the accepted quote of a stage; may be left out where one alone has stages
   * @param stage its position in the quote's schedule; left out is the next that is not billed
   */
  public record BillForm(
      long jobId,
      int version,
      Bill.@Nullable Kind kind,
      @Nullable List<Long> visitIds,
      @Nullable List<Long> otherCostIds,
      @Nullable Long quoteId,
      @Nullable Integer stage) {
    List<Long> askedVisits() {
      return Objects.requireNonNullElse(visitIds, List.of());
    }

    List<Long> askedOtherCosts() {
      return Objects.requireNonNullElse(otherCostIds, List.of());
    }
  }

  List<BillForm> asked() {
    return Objects.requireNonNullElse(jobs, List.of());
  }

  /** The jobs that it charges. */
  Stream<Long> jobIds() {
    return asked().stream().map(BillForm::jobId);
  }
}
