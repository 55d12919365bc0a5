package app.pragmata.core.money;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.money.VatBreakdown.Taxed;
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
  private static final VatRate STANDARD = new VatRate("standard", "S", new BigDecimal("20"));
  private static final VatRate REDUCED = new VatRate("reduced", "S", new BigDecimal("5"));
  private static final VatRate ZERO = new VatRate("zero", "Z", BigDecimal.ZERO);
  private static final VatRate EXEMPT = new VatRate("exempt", "E", BigDecimal.ZERO);

  @Test
  void vat_is_computed_per_rate_on_the_sum_of_its_lines() {
    var vat =
        VatBreakdown.of(List.of(taxed(STANDARD, 2), taxed(REDUCED, 1000), taxed(STANDARD, 2)));
    assertThat(vat.rates()).map(rate -> rate.vat().toString()).containsExactly("0.01", "0.50");
  }

  @Test
  void vat_on_each_line_would_have_lost_the_penny_that_the_sum_keeps() {
    var perLine =
        VatBreakdown.vatOn(STANDARD, Money.ofMinor(2))
            .plus(VatBreakdown.vatOn(STANDARD, Money.ofMinor(2)));
    assertThat(perLine).isEqualTo(Money.ZERO);
  }

  @Test
  void half_a_penny_of_vat_rounds_up() {
    assertThat(VatBreakdown.vatOn(REDUCED, Money.of("0.10"))).isEqualTo(Money.of("0.01"));
  }

  @Test
  void rates_of_the_same_percentage_stay_apart_by_their_category() {
    var vat = VatBreakdown.of(List.of(taxed(ZERO, 100), taxed(EXEMPT, 200)));
    assertThat(vat.rates()).map(rate -> rate.rate().category()).containsExactly("E", "Z");
  }

  @Test
  void the_highest_rate_stands_first() {
    var vat = VatBreakdown.of(List.of(taxed(ZERO, 1), taxed(STANDARD, 1), taxed(REDUCED, 1)));
    assertThat(vat.rates())
        .map(VatBreakdown.PerRate::rate)
        .containsExactly(STANDARD, REDUCED, ZERO);
  }

  @Test
  void no_lines_give_no_rates_and_nothing_to_pay() {
    assertThat(VatBreakdown.of(List.of()).rates()).isEmpty();
    assertThat(VatBreakdown.of(List.of()).gross()).isEqualTo(Money.ZERO);
  }

  @Property
  void rounding_neither_loses_nor_makes_a_penny_between_lines_and_totals(
      @ForAll("taxedLines") List<Taxed> lines) {
    VatBreakdown vat = VatBreakdown.of(lines);
    Money net = lines.stream().map(Taxed::net).collect(Money.sum());
    assertThat(vat.net()).isEqualTo(net);
    assertThat(vat.gross()).isEqualTo(net.plus(vat.vat()));
  }

  @Property
  void the_order_of_the_lines_does_not_matter(@ForAll("taxedLines") List<Taxed> lines) {
    assertThat(VatBreakdown.of(lines.reversed())).isEqualTo(VatBreakdown.of(lines));
  }

  @Property
  void each_rates_vat_is_within_half_a_penny_of_the_exact_tax(
      @ForAll("taxedLines") List<Taxed> lines) {
    assertThat(VatBreakdown.of(lines).rates())
        .allSatisfy(
            rate -> {
              BigDecimal exact =
                  rate.net().major().multiply(rate.rate().percent().movePointLeft(2));
              assertThat(rate.vat().major().subtract(exact).abs())
                  .isLessThanOrEqualTo(new BigDecimal("0.005"));
            });
  }

  @Provide
  Arbitrary<List<Taxed>> taxedLines() {
    Arbitrary<VatRate> rates = Arbitraries.of(Stream.of(STANDARD, REDUCED, ZERO, EXEMPT).toList());
    Arbitrary<Money> amounts = Arbitraries.longs().between(0, 5_000_000).map(Money::ofMinor);
    return Combinators.combine(rates, amounts).as(Taxed::new).list().ofMaxSize(40);
  }

  private static Taxed taxed(VatRate rate, long minor) {
    return new Taxed(rate, Money.ofMinor(minor));
  }
}
