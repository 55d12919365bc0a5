package app.pragmata.core.money;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.money.VatBreakdown.Net;
import java.math.BigDecimal;
import java.util.List;
import java.util.stream.Stream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

class VatBreakdownTest {
  private static final VatTreatment STANDARD = VatTreatment.rated("standard", "20");
  private static final VatTreatment REDUCED = VatTreatment.rated("reduced", "5");
  private static final VatTreatment ZERO = VatTreatment.untaxed("zero", VatCategory.ZERO, "");
  private static final VatTreatment EXEMPT =
      VatTreatment.untaxed("exempt", VatCategory.EXEMPT, "A burial");

  @Test
  void vat_is_computed_per_rate_on_the_sum_of_its_lines() {
    var vat =
        VatBreakdown.of(List.of(taxed(STANDARD, 2), taxed(REDUCED, 1000), taxed(STANDARD, 2)));
    assertThat(vat.groups()).map(rate -> rate.vat().toString()).containsExactly("0.01", "0.50");
  }

  @Test
  void vat_on_each_line_would_have_lost_the_penny_that_the_sum_keeps() {
    var perLine =
        VatBreakdown.vatOn(STANDARD.group(), Money.ofMinor(2))
            .plus(VatBreakdown.vatOn(STANDARD.group(), Money.ofMinor(2)));
    assertThat(perLine).isEqualTo(Money.ZERO);
  }

  @Test
  void half_a_penny_of_vat_rounds_up() {
    assertThat(VatBreakdown.vatOn(REDUCED.group(), Money.of("0.10"))).isEqualTo(Money.of("0.01"));
  }

  @Test
  void rates_of_the_same_percentage_stay_apart_by_their_category() {
    var vat = VatBreakdown.of(List.of(taxed(ZERO, 100), taxed(EXEMPT, 200)));
    assertThat(vat.groups())
        .map(rate -> rate.group().category())
        .containsExactly(VatCategory.ZERO, VatCategory.EXEMPT);
  }

  @Test
  void two_treatments_of_the_same_category_percent_and_reason_are_one_group() {
    VatTreatment saving = VatTreatment.rated("energy_saving", "5.00");
    var vat = VatBreakdown.of(List.of(taxed(REDUCED, 10), taxed(saving, 10)));
    assertThat(vat.groups())
        .containsExactly(
            new VatBreakdown.Taxed(REDUCED.group(), Money.ofMinor(20), Money.ofMinor(1)));
  }

  @Test
  void exempt_supplies_of_different_reasons_stay_apart() {
    VatTreatment other = VatTreatment.untaxed("lesson", VatCategory.EXEMPT, "A lesson");
    assertThat(VatBreakdown.of(List.of(taxed(EXEMPT, 10), taxed(other, 10))).groups()).hasSize(2);
  }

  @Test
  void what_is_outside_the_scope_of_vat_stands_alone_on_a_document() {
    VatTreatment outside = VatTreatment.untaxed("outside", VatCategory.OUTSIDE_SCOPE, "Damages");
    assertThatCode(() -> VatBreakdown.of(List.of(taxed(outside, 1))).requireOneScope("invoice"))
        .doesNotThrowAnyException();
    VatBreakdown mixed = VatBreakdown.of(List.of(taxed(outside, 1), taxed(ZERO, 1)));
    assertThatThrownBy(() -> mixed.requireOneScope("invoice"))
        .isInstanceOf(Refused.class)
        .hasMessageContaining("stands alone on its invoice");
  }

  @Test
  void the_reverse_charge_needs_the_customers_vat_number() {
    VatTreatment reverse =
        VatTreatment.untaxed("reverse", VatCategory.REVERSE_CHARGE, "Construction services");
    VatBreakdown vat = VatBreakdown.of(List.of(taxed(reverse, 100)));
    assertThat(vat.gross()).isEqualTo(Money.ofMinor(100));
    assertThatThrownBy(() -> vat.requireVatNumber(" ")).isInstanceOf(Refused.class);
    assertThatCode(() -> vat.requireVatNumber("GB 1")).doesNotThrowAnyException();
  }

  @Test
  void a_group_says_why_there_is_no_tax_where_its_category_asks_for_it_and_nowhere_else() {
    assertThat(EXEMPT.group().reason()).isEqualTo("A burial");
    assertThat(STANDARD.group().reason()).isEmpty();
    assertThatThrownBy(() -> VatTreatment.untaxed("exempt", VatCategory.EXEMPT, ""))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> VatTreatment.untaxed("zero", VatCategory.ZERO, "A reason"))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> VatTreatment.rated("standard", "0"))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void the_highest_rate_stands_first() {
    var vat = VatBreakdown.of(List.of(taxed(ZERO, 1), taxed(STANDARD, 1), taxed(REDUCED, 1)));
    assertThat(vat.groups())
        .map(VatBreakdown.Taxed::group)
        .containsExactly(STANDARD.group(), REDUCED.group(), ZERO.group());
  }

  @Test
  void no_lines_give_no_rates_and_nothing_to_pay() {
    assertThat(VatBreakdown.of(List.of()).groups()).isEmpty();
    assertThat(VatBreakdown.of(List.of()).gross()).isEqualTo(Money.ZERO);
  }

  @Property
  void rounding_neither_loses_nor_makes_a_penny_between_lines_and_totals(
      @ForAll("taxedLines") List<Net> lines) {
    VatBreakdown vat = VatBreakdown.of(lines);
    Money net = lines.stream().map(Net::net).collect(Money.sum());
    assertThat(vat.net()).isEqualTo(net);
    assertThat(vat.gross()).isEqualTo(net.plus(vat.vat()));
  }

  @Property
  void the_order_of_the_lines_does_not_matter(@ForAll("taxedLines") List<Net> lines) {
    assertThat(VatBreakdown.of(lines.reversed())).isEqualTo(VatBreakdown.of(lines));
  }

  @Property
  void each_rates_vat_is_within_half_a_penny_of_the_exact_tax(
      @ForAll("taxedLines") List<Net> lines) {
    assertThat(VatBreakdown.of(lines).groups())
        .allSatisfy(
            rate -> {
              BigDecimal exact =
                  rate.net().major().multiply(rate.group().percent().movePointLeft(2));
              assertThat(rate.vat().major().subtract(exact).abs())
                  .isLessThanOrEqualTo(new BigDecimal("0.005"));
            });
  }

  @Provide
  Arbitrary<List<Net>> taxedLines() {
    Arbitrary<VatTreatment> rates =
        Arbitraries.of(Stream.of(STANDARD, REDUCED, ZERO, EXEMPT).toList());
    Arbitrary<Money> amounts = Arbitraries.longs().between(0, 5_000_000).map(Money::ofMinor);
    return Combinators.combine(rates, amounts).as(Net::new).list().ofMaxSize(40);
  }

  private static Net taxed(VatTreatment rate, long minor) {
    return new Net(rate, Money.ofMinor(minor));
  }
}
