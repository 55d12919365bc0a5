package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.VatRate;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * Which VAT the lines of a bill by time and parts have where a promise was made: what was accepted
 * at a reduced rate is billed at it.
 */
record PromisedVat(List<QuoteLine> promise) {
  PromisedVat {
    promise = List.copyOf(promise);
  }

  /**
   * That of the promised lines of a category.
   *
   * @param otherwise where none or several were promised
   */
  VatRate of(Category category, VatRate otherwise) {
    return only(line -> line.category() == category, otherwise);
  }

  /** That of the promised lines of the same part, else of all parts. */
  VatRate ofPart(long partId, VatRate otherwise) {
    return only(
        line -> line instanceof QuoteLine.Part part && part.partId() == partId,
        of(Category.PARTS, otherwise));
  }

  private VatRate only(Predicate<QuoteLine> which, VatRate otherwise) {
    Set<VatRate> rates =
        promise.stream().filter(which).map(QuoteLine::vatRate).collect(Collectors.toSet());
    return rates.size() == 1 ? rates.iterator().next() : otherwise;
  }
}
