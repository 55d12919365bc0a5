package app.pragmata.core.billing;

import app.pragmata.core.money.VatBreakdown;
import java.util.List;

/** What an invoice would read, before it has a number: a bill for each of its jobs. */
public record InvoiceDraft(List<Bill> bills) {
  public InvoiceDraft {
    bills = List.copyOf(bills);
  }

  /** Computed per group on the sum of all jobs' lines, less what was billed before. */
  public VatBreakdown vat() {
    return VatBreakdown.of(bills.stream().flatMap(Bill::taxed).toList());
  }
}
