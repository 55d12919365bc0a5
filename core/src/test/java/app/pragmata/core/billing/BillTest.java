package app.pragmata.core.billing;

import static app.pragmata.core.costing.WorkedExample.DAY;
import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.cover;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PromisedStage;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

class BillTest {
  private static final VatTreatment STANDARD = VatTreatment.rated("standard", "20");
  private static final VatTreatment REDUCED = VatTreatment.rated("reduced", "5");

  private static QuoteLine promised(long minor, VatTreatment rate) {
    return new QuoteLine.Other(
        "Gate", BigDecimal.ONE, Money.ZERO, new UnitPrice(Money.ofMinor(minor).major()), rate);
  }

  @Test
  void a_stage_is_a_line_for_each_vat_group_by_its_net() {
    List<QuoteLine> promise = List.of(promised(600_00, STANDARD), promised(300_00, REDUCED));
    Bill stage = Bill.ofStage(new PromisedStage(1, "Order", Money.of("100.00")), promise);
    assertThat(stage.lines())
        .extracting(ChargeLine::net)
        .map(Money::toString)
        .containsExactly("66.67", "33.33");
    assertThat(stage.vat().vat()).isEqualTo(Money.of("13.33").plus(Money.of("1.67")));
    assertThat(stage.ahead()).isEqualTo(Money.of("100.00"));
    assertThat(stage.netByCategory()).isEmpty();
  }

  @Property
  void the_lines_of_a_stage_add_up_to_it_whatever_is_promised(
      @ForAll @LongRange(min = 1, max = 9_999_99) long standard,
      @ForAll @LongRange(min = 1, max = 9_999_99) long reduced,
      @ForAll @LongRange(min = 1, max = 9_999_99) long net) {
    Bill stage =
        Bill.ofStage(
            new PromisedStage(1, "Order", Money.ofMinor(net)),
            List.of(promised(standard, STANDARD), promised(reduced, REDUCED)));
    assertThat(stage.net()).isEqualTo(Money.ofMinor(net));
  }

  @Test
  void the_final_bill_of_a_fixed_price_asks_for_what_was_not_billed_before() {
    var facts = new JobFacts(List.of(promised(10_000_00, STANDARD)), List.of(), List.of());
    Bill last =
        billing()
            .bill(
                facts,
                new BillingBasis.FixedPrice(),
                Cover.NONE,
                List.of(
                    new Deduction(1, 4001, Money.of("3000.00"), STANDARD),
                    new Deduction(2, 4002, Money.of("4000.00"), STANDARD)));
    assertThat(last.net()).isEqualTo(Money.of("10000.00"));
    assertThat(last.deducted()).isEqualTo(Money.of("7000.00"));
    assertThat(last.vat())
        .isEqualTo(
            new VatBreakdown(
                List.of(
                    new VatBreakdown.Taxed(
                        STANDARD.group(), Money.of("3000.00"), Money.of("600.00")))));
  }

  @Test
  void only_a_final_bill_takes_something_off() {
    List<Deduction> before = List.of(new Deduction(1, 4001, Money.of("1.00"), STANDARD));
    assertThatThrownBy(() -> new Bill(Bill.Kind.PART, List.of(), before))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void what_is_added_to_a_visit_that_was_charged_has_neither_call_out_nor_minimum() {
    VisitFacts visit = job().visits().getFirst();
    var added =
        new VisitFacts(
            visit.id(),
            DAY,
            Charging.WHAT_WAS_ADDED,
            visit.times().subList(0, 1),
            List.of(),
            List.of());
    Bill part = billing().partBill(new JobFacts(List.of(), List.of(added), List.of()), cover());
    assertThat(part.lines()).noneMatch(line -> line.description().startsWith("Call-out"));
    assertThat(part.kind()).isEqualTo(Bill.Kind.PART);
  }

  @Test
  void each_line_by_time_and_parts_names_the_visit_that_it_charges() {
    Bill worked = billing().bill(job(), new BillingBasis.TimeAndParts(), cover());
    long visit = job().visits().getFirst().id();
    assertThat(worked.lines())
        .extracting(ChargeLine::of)
        .containsOnly(new ChargeLine.Of.Visit(visit));
  }

  @Test
  void an_invoice_of_two_jobs_has_its_tax_on_both_together() {
    var one =
        new Bill(
            Bill.Kind.FINAL, List.of(ChargeLine.ahead("A", Money.of("0.02"), STANDARD)), List.of());
    var draft = new InvoiceDraft(List.of(one, one, one));
    assertThat(one.vat().vat()).isEqualTo(Money.ZERO);
    assertThat(draft.vat().vat()).isEqualTo(Money.of("0.01"));
  }
}
