package app.pragmata.core.billing;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.billing.SaidVat.By;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobVat;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatCategory;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

class LineVatTest {
  private static final VatTreatment REDUCED = VatTreatment.rated("reduced", "5");
  private static final VatTreatment ZERO = VatTreatment.untaxed("zero", VatCategory.ZERO, "");
  private static final VatTreatment REVERSE =
      VatTreatment.untaxed("reverse", VatCategory.REVERSE_CHARGE, "Construction services");

  private static QuoteLine labour(VatTreatment vat) {
    return new QuoteLine.Labour(
        "Fit it", 60, RateClass.NORMAL, new BigDecimal("24.108"), UnitPrice.of("58.00"), vat);
  }

  private static QuoteLine part(long id, VatTreatment vat) {
    return new QuoteLine.Part(
        id, "A part", BigDecimal.ONE, new BigDecimal("14.25"), UnitPrice.of("26.90"), vat);
  }

  @Test
  void what_was_accepted_at_five_per_cent_is_billed_at_five_per_cent_by_time_and_parts() {
    List<QuoteLine> promise = List.of(labour(REDUCED), part(1, REDUCED));
    var facts = new JobFacts(promise, job().visits(), List.of());
    assertThat(billing().bill(facts, new BillingBasis.TimeAndParts(), Cover.NONE).lines())
        .filteredOn(line -> line.category() != Category.DRIVE)
        .allSatisfy(line -> assertThat(line.vatTreatment()).isEqualTo(REDUCED));
  }

  private static LineVat vat(JobVat job, QuoteLine... promise) {
    return new LineVat(List.of(promise), job, STANDARD);
  }

  private static LineVat vat(QuoteLine... promise) {
    return vat(JobVat.UNSAID, promise);
  }

  @Test
  void a_part_has_the_vat_that_was_promised_for_it_though_others_have_another() {
    LineVat vat = vat(part(1, ZERO), part(2, REDUCED));
    assertThat(vat.ofPart(1, STANDARD)).isEqualTo(new SaidVat(ZERO, By.PROMISED_LINE));
    assertThat(vat.ofPart(2, STANDARD)).isEqualTo(new SaidVat(REDUCED, By.PROMISED_LINE));
  }

  @Test
  void a_part_that_was_not_promised_has_the_vat_of_the_promised_ones_if_they_agree() {
    assertThat(vat(part(1, REDUCED)).ofPart(9, STANDARD))
        .isEqualTo(new SaidVat(REDUCED, By.PROMISED_LINE));
    assertThat(vat(part(1, ZERO), part(2, REDUCED)).ofPart(9, STANDARD))
        .isEqualTo(new SaidVat(STANDARD, By.PRICE_LIST));
  }

  @Test
  void a_category_of_which_nothing_or_two_treatments_were_promised_has_the_usual_one() {
    var usual = new SaidVat(STANDARD, By.COMPANY);
    assertThat(vat().of(Category.LABOUR)).isEqualTo(usual);
    assertThat(vat(labour(REDUCED), labour(ZERO)).of(Category.LABOUR)).isEqualTo(usual);
  }

  @Test
  void what_no_promised_line_says_has_the_vat_of_the_whole_promise_if_its_lines_agree() {
    assertThat(vat(labour(REDUCED)).of(Category.DRIVE))
        .isEqualTo(new SaidVat(REDUCED, By.ACCEPTED_QUOTE));
    assertThat(vat(labour(REDUCED)).ofOther(STANDARD))
        .isEqualTo(new SaidVat(REDUCED, By.ACCEPTED_QUOTE));
  }

  @Test
  void the_kind_of_job_says_more_than_its_customer_and_both_more_than_price_list_and_company() {
    var kind = new JobVat(null, REDUCED, REVERSE);
    assertThat(vat(kind).ofPart(1, STANDARD)).isEqualTo(new SaidVat(REDUCED, By.KIND_OF_JOB));
    var customer = new JobVat(null, null, REVERSE);
    assertThat(vat(customer).ofPart(1, STANDARD)).isEqualTo(new SaidVat(REVERSE, By.CUSTOMER));
    assertThat(vat(customer).of(Category.LABOUR)).isEqualTo(new SaidVat(REVERSE, By.CUSTOMER));
  }

  @Test
  void what_the_office_decided_for_the_job_holds_whatever_was_promised() {
    LineVat vat = vat(new JobVat(REVERSE, ZERO, ZERO), labour(REDUCED), part(1, ZERO));
    var decided = new SaidVat(REVERSE, By.JOB);
    assertThat(vat.of(Category.LABOUR)).isEqualTo(decided);
    assertThat(vat.ofPart(1, STANDARD)).isEqualTo(decided);
    assertThat(vat.ofOther(STANDARD)).isEqualTo(decided);
  }

  @Test
  void a_fixed_price_keeps_the_vat_that_was_accepted_whatever_was_decided_since() {
    var facts =
        new JobFacts(
            List.of(labour(REDUCED)), List.of(), List.of(), new JobVat(REVERSE, ZERO, ZERO));
    assertThat(billing().bill(facts, new BillingBasis.FixedPrice(), Cover.NONE).lines())
        .map(ChargeLine::vat)
        .containsExactly(new SaidVat(REDUCED, By.LINE));
  }
}
