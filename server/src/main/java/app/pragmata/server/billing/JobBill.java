package app.pragmata.server.billing;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.CostObject;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.money.Money;
import app.pragmata.server.jobs.CostTaking;
import app.pragmata.server.jobs.WholeJob;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What an invoice is about to charge for a job.
 *
 * @param stage which it is; null unless the bill is one
 * @param some of what a part bill takes the cost; null for any other
 * @param facts of which it takes the cost; none for a stage
 */
record JobBill(
    WholeJob job,
    Bill bill,
    BillingBasis.Code basis,
    @Nullable StageOf stage,
    CostTaking.@Nullable Some some,
    JobFacts facts) {
  /** A stage of an accepted quote. */
  record StageOf(long quoteId, int position) {}

  boolean takesCost() {
    return bill.kind() != Bill.Kind.STAGE;
  }

  /** For the books, with the cost that it takes. */
  BooksEvent.Charged charged(Map<Category, Money> costs) {
    return new BooksEvent.Charged(
        costObject(job), bill.netByCategory(), costs, bill.ahead(), bill.deducted());
  }

  static CostObject costObject(WholeJob job) {
    return new CostObject(job.job().id(), job.job().number(), job.costCentre());
  }
}
