package app.pragmata.core.billing;

import static app.pragmata.core.costing.WorkedExample.DAY;
import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Category;
import app.pragmata.core.costing.AnyJob;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.jobs.Warranty;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.util.List;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.domains.Domain;
import net.jqwik.api.domains.DomainContext;
import org.junit.jupiter.api.Test;

@Domain(AnyJob.class)
@Domain(DomainContext.Global.class)
class WarrantyTest {
  private static final Cover ALL = new Cover(Share.ofPercent("60"), Share.ofPercent("50"));

  private static Bill worked(JobFacts job) {
    return billing().bill(job, new BillingBasis.TimeAndParts(), ALL);
  }

  private static JobFacts takenOut(JobFacts job) {
    return new JobFacts(
        job.promise(),
        job.visits().stream()
            .map(
                visit ->
                    new VisitFacts(
                        visit.id(),
                        visit.day(),
                        visit.charging(),
                        Set.of(Category.LABOUR, Category.DRIVE),
                        visit.times(),
                        visit.parts().stream().map(WarrantyTest::takenOut).toList(),
                        visit.drivesHome()))
            .toList(),
        job.otherCosts());
  }

  private static PartUse takenOut(PartUse use) {
    return new PartUse(
        use.id(),
        use.partId(),
        use.description(),
        use.quantity(),
        use.cost(),
        use.price(),
        use.vatTreatment(),
        true);
  }

  @Test
  void a_warranty_covers_its_last_day_and_not_the_one_after() {
    var warranty =
        new Warranty(DAY.minusYears(1), DAY, Share.ofPercent("60"), DAY, Share.ofPercent("50"));
    assertThat(warranty.on(DAY)).isEqualTo(ALL);
    assertThat(warranty.on(DAY.plusDays(1))).isEqualTo(Cover.NONE);
  }

  @Test
  void labour_and_drive_have_the_share_of_labour_and_what_others_supply_has_none() {
    assertThat(ALL.of(Category.LABOUR)).isEqualTo(ALL.of(Category.DRIVE));
    assertThat(ALL.of(Category.PARTS).percent()).isEqualTo("60");
    assertThat(ALL.of(Category.OTHER).isNothing()).isTrue();
  }

  @Test
  void a_visits_labour_can_be_taken_out_of_warranty_and_its_drive_left_under_it() {
    VisitFacts visit = job().visits().getFirst();
    var out =
        new VisitFacts(
            visit.id(),
            visit.day(),
            visit.charging(),
            Set.of(Category.LABOUR),
            visit.times(),
            visit.parts(),
            visit.drivesHome());
    Bill bill = worked(new JobFacts(List.of(), List.of(out), List.of()));
    assertThat(bill.netByCategory())
        .containsEntry(Category.LABOUR, Money.of("224.75"))
        .containsEntry(Category.DRIVE, Money.of("22.50"));
    // 79.75 + 32.63 of labour at half; the photocells were out before, 60 % of 53.80.
    assertThat(bill.forgone()).isEqualTo(Money.of("112.38").plus(Money.of("32.28")));
  }

  @Property
  void what_is_taken_out_of_warranty_raises_bill_and_promise_by_the_same(@ForAll JobFacts job) {
    Bill under = worked(job);
    Bill out = worked(takenOut(job));
    assertThat(out.net().minus(under.net())).isEqualTo(out.forgone().minus(under.forgone()));
  }

  @Property
  void nothing_more_goes_beyond_a_promise_because_lines_were_taken_out_of_warranty(
      @ForAll JobFacts job, @ForAll @LongRange(min = 0, max = 100_000) long promised) {
    Bill under = worked(job);
    Bill out = worked(takenOut(job));
    var promise = new Promised(PromiseKind.NOT_MORE_THAN, Money.ofMinor(promised));
    assertThat(promise.plus(out.forgone()).above(out.net()))
        .isEqualTo(promise.plus(under.forgone()).above(under.net()));
  }

  @Test
  void a_promised_line_carries_its_reduction_and_the_bill_never_reduces_it_again() {
    QuoteLine ram =
        new QuoteLine.Part(
            1, "Ram", BigDecimal.ONE, new BigDecimal("212.40"), UnitPrice.of("318.60"), STANDARD);
    QuoteLine quoted = ram.reducedBy(Reductions.of(ram.full(), Money.ZERO, Share.ofPercent("60")));
    Bill bill =
        billing()
            .bill(
                new JobFacts(List.of(quoted), List.of(), List.of()),
                new BillingBasis.FixedPrice(),
                ALL);
    assertThat(bill.net()).isEqualTo(Money.of("127.44"));
    assertThat(bill.lines().getFirst().reductions().warranty()).isEqualTo(Money.of("191.16"));
    Bill out =
        billing()
            .bill(
                new JobFacts(
                    List.of(quoted.reducedBy(quoted.reductions().outOfWarranty())),
                    List.of(),
                    List.of()),
                new BillingBasis.FixedPrice(),
                ALL);
    assertThat(out.net()).isEqualTo(Money.of("318.60"));
    assertThat(out.forgone()).isEqualTo(Money.of("191.16"));
  }

  @Test
  void a_line_is_not_under_warranty_and_taken_out_of_it_at_once() {
    assertThatThrownBy(
            () ->
                new Reductions(
                    Money.ZERO,
                    Share.ofPercent("60"),
                    Money.of("6.00"),
                    Money.of("6.00"),
                    Money.ZERO))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
