package app.pragmata.core.company;

import static app.pragmata.core.costing.WorkedExample.cover;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.costing.WorkedExample;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatCategory;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** Whatever prices or costs holds from a day on, and the day of the work or document decides. */
class TermsTest {
  private static final LocalDate START = LocalDate.of(2026, 1, 1);

  private record Term(LocalDate fromDay) implements InForce.Dated {}

  @Property
  void what_holds_on_a_day_is_the_latest_that_began_on_or_before_it(
      @ForAll @Size(min = 1, max = 12) List<@IntRange(max = 400) Integer> starts,
      @ForAll @IntRange(max = 500) int asked) {
    var terms = new ArrayList<Term>();
    starts.forEach(start -> terms.add(new Term(START.plusDays(start))));
    LocalDate day = START.plusDays(asked);
    int latest = starts.stream().filter(start -> start <= asked).max(Integer::compare).orElse(-1);
    var inForce = new InForce<>("term", terms);
    if (latest < 0) {
      assertThatThrownBy(() -> inForce.on(day))
          .isInstanceOfSatisfying(
              Refused.class,
              refused -> assertThat(refused.rule()).isEqualTo(Rule.NOTHING_IN_FORCE));
    } else {
      assertThat(inForce.on(day).fromDay()).isEqualTo(START.plusDays(latest));
    }
  }

  @Property
  void terms_that_begin_later_change_nothing_of_what_was_before(
      @ForAll @IntRange(max = 300) int change, @ForAll @IntRange(max = 300) int asked) {
    var before = new InForce<>("term", List.of(new Term(START)));
    var after = new InForce<>("term", List.of(new Term(START), new Term(START.plusDays(change))));
    if (asked < change) {
      assertThat(after.on(START.plusDays(asked))).isEqualTo(before.on(START.plusDays(asked)));
    }
  }

  @Test
  void a_job_is_charged_by_the_terms_of_the_day_on_which_it_was_worked() {
    var dearer =
        new ChargeTerms(
            WorkedExample.DAY.plusDays(1),
            60,
            240,
            new DriveCharge.PerCallOut(UnitPrice.of("90.00")),
            BigDecimal.ONE,
            30);
    Terms like = WorkedExample.terms();
    var changed =
        new Terms(
            like.rates(),
            new InForce<>("charge terms", List.of(WorkedExample.chargeTerms(), dearer)),
            like.cost(),
            like.markup(),
            like.vat());
    LocalDate billed = WorkedExample.DAY.plusDays(2);
    assertThat(
            new Billing(changed, Wording.of(Locale.UK), billed)
                .bill(job(), new BillingBasis.TimeAndParts(), cover())
                .vat()
                .net())
        .hasToString("450.99");
  }

  @Test
  void the_percent_of_vat_is_that_of_the_tax_day() {
    var rates =
        new VatTreatments(
            "standard",
            Map.of(
                "standard",
                new VatTreatments.Kind(
                    VatCategory.RATED,
                    "",
                    new InForce<>(
                        "VAT percent",
                        List.of(
                            new VatTreatments.Percent(START, new BigDecimal("20")),
                            new VatTreatments.Percent(
                                START.plusDays(10), new BigDecimal("21")))))));
    assertThat(rates.usualOn(START.plusDays(9)).group().percent()).isEqualByComparingTo("20");
    assertThat(rates.usualOn(START.plusDays(10)).group().percent()).isEqualByComparingTo("21");
  }
}
