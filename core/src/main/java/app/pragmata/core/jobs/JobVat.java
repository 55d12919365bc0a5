package app.pragmata.core.jobs;

import app.pragmata.core.money.VatTreatment;
import org.jspecify.annotations.Nullable;

/**
 * What was said of the VAT of a job as a whole, each null where nothing was.
 *
 * @param ofJob what the office decided for this job, whatever its quotes say
 * @param ofKind that of its kind of job
 * @param ofCustomer that of its customer
 */
public record JobVat(
    @Nullable VatTreatment ofJob,
    @Nullable VatTreatment ofKind,
    @Nullable VatTreatment ofCustomer) {
  /** Nothing was said. */
  public static final JobVat UNSAID = new JobVat(null, null, null);
}
