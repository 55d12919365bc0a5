package app.pragmata.core.billing;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatRate;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

class PromisedVatTest {
  private static final VatRate REDUCED = new VatRate("reduced", "S", new BigDecimal(5));
  private static final VatRate ZERO = new VatRate("zero", "Z", BigDecimal.ZERO);

  private static QuoteLine labour(VatRate vat) {
    return new QuoteLine.Labour(
        "Fit it", 60, RateClass.NORMAL, new BigDecimal("24.108"), UnitPrice.of("58.00"), vat);
  }

  private static QuoteLine part(long id, VatRate vat) {
    return new QuoteLine.Part(
        id, "A part", BigDecimal.ONE, new BigDecimal("14.25"), UnitPrice.of("26.90"), vat);
  }

  @Test
  void what_was_accepted_at_five_per_cent_is_billed_at_five_per_cent_by_time_and_parts() {
    List<QuoteLine> promise = List.of(labour(REDUCED), part(1, REDUCED));
    var facts = new JobFacts(promise, job().visits(), List.of());
    assertThat(billing().bill(facts, new BillingBasis.TimeAndParts(), Warranty.NONE).lines())
        .filteredOn(line -> line.category() != Category.DRIVE)
        .allSatisfy(line -> assertThat(line.vatRate()).isEqualTo(REDUCED));
  }

  @Test
  void a_part_has_the_vat_that_was_promised_for_it_though_others_have_another() {
    var vat = new PromisedVat(List.of(part(1, ZERO), part(2, REDUCED)));
    assertThat(vat.ofPart(1, STANDARD)).isEqualTo(ZERO);
    assertThat(vat.ofPart(2, STANDARD)).isEqualTo(REDUCED);
  }

  @Test
  void a_part_that_was_not_promised_has_the_vat_of_the_promised_ones_if_they_agree() {
    assertThat(new PromisedVat(List.of(part(1, REDUCED))).ofPart(9, STANDARD)).isEqualTo(REDUCED);
    assertThat(new PromisedVat(List.of(part(1, ZERO), part(2, REDUCED))).ofPart(9, STANDARD))
        .isEqualTo(STANDARD);
  }

  @Test
  void a_category_of_which_nothing_or_two_rates_were_promised_has_the_usual_one() {
    assertThat(new PromisedVat(List.of()).of(Category.LABOUR, STANDARD)).isEqualTo(STANDARD);
    assertThat(
            new PromisedVat(List.of(labour(REDUCED), labour(ZERO))).of(Category.LABOUR, STANDARD))
        .isEqualTo(STANDARD);
  }
}
