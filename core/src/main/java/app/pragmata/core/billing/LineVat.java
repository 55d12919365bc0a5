package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.jobs.JobVat;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.VatTreatment;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Which VAT treatment the lines of a bill by time and parts have. The first that says one decides:
 * the job itself; the promised lines of the same part or, if they agree, of the same category; all
 * promised lines, if they agree; the kind of job; the customer; the price list or the supplier's
 * bill; the company.
 */
record LineVat(List<QuoteLine> promise, JobVat job, VatTreatment usual) {
  LineVat {
    promise = List.copyOf(promise);
  }

  /** That of labour and drive. */
  SaidVat of(Category category) {
    return promised(line -> line.category() == category)
        .orElseGet(() -> otherwise(null, SaidVat.By.COMPANY));
  }

  /**
   * That of a part.
   *
   * @param listed by the price list
   */
  SaidVat ofPart(long partId, VatTreatment listed) {
    return promised(line -> line instanceof QuoteLine.Part part && part.partId() == partId)
        .or(() -> promised(line -> line.category() == Category.PARTS))
        .orElseGet(() -> otherwise(listed, SaidVat.By.PRICE_LIST));
  }

  /**
   * That of what somebody else supplied.
   *
   * @param supplied by the supplier's bill
   */
  SaidVat ofOther(VatTreatment supplied) {
    return promised(line -> line.category() == Category.OTHER)
        .orElseGet(() -> otherwise(supplied, SaidVat.By.SUPPLIERS_BILL));
  }

  private Optional<SaidVat> promised(Predicate<QuoteLine> which) {
    return job.ofJob() == null
        ? only(which).map(treatment -> new SaidVat(treatment, SaidVat.By.PROMISED_LINE))
        : Optional.of(new SaidVat(job.ofJob(), SaidVat.By.JOB));
  }

  private SaidVat otherwise(@Nullable VatTreatment item, SaidVat.By itemBy) {
    return only(line -> true)
        .map(treatment -> new SaidVat(treatment, SaidVat.By.ACCEPTED_QUOTE))
        .or(() -> said(job.ofKind(), SaidVat.By.KIND_OF_JOB))
        .or(() -> said(job.ofCustomer(), SaidVat.By.CUSTOMER))
        .or(() -> said(item, itemBy))
        .orElseGet(() -> new SaidVat(usual, SaidVat.By.COMPANY));
  }

  private static Optional<SaidVat> said(@Nullable VatTreatment treatment, SaidVat.By by) {
    return Optional.ofNullable(treatment).map(each -> new SaidVat(each, by));
  }

  private Optional<VatTreatment> only(Predicate<QuoteLine> which) {
    Set<VatTreatment> treatments =
        promise.stream().filter(which).map(QuoteLine::vatTreatment).collect(Collectors.toSet());
    return treatments.size() == 1 ? Optional.of(treatments.iterator().next()) : Optional.empty();
  }
}
