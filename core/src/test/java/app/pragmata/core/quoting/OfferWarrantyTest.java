package app.pragmata.core.quoting;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What the warranty bears of an offer, and in which order things come off. */
class OfferWarrantyTest {
  private static OfferLine.Priced part(String price, AmountOrShare discount, String percent) {
    return new OfferLine.Priced(
        new QuoteLine.Part(
            1, "Ram", BigDecimal.ONE, new BigDecimal("10"), UnitPrice.of(price), STANDARD),
        discount,
        new LineWarranty(Share.ofPercent(percent), ""),
        new Choice.Included());
  }

  private static AmountOrShare share(String percent) {
    return new AmountOrShare.OfTotal(Share.ofPercent(percent));
  }

  private static Offer offer(AmountOrShare discount, OfferLine... lines) {
    return new Offer(List.of(lines), discount, AmountOrShare.nothing(), List.of());
  }

  @Test
  void a_lines_discount_comes_off_first_then_warranty_then_its_part_of_the_wholes_discount() {
    Offer offer = offer(share("50"), part("100.00", share("10"), "60"));
    Reductions off = offer.promised().getFirst().reductions();
    assertThat(off.discount()).isEqualTo(Money.of("10.00"));
    assertThat(off.warranty()).isEqualTo(Money.of("54.00"));
    assertThat(off.discountOfWhole()).isEqualTo(Money.of("18.00"));
    assertThat(offer.totals().vat().net()).isEqualTo(Money.of("18.00"));
  }

  @Test
  void the_wholes_discount_is_spread_over_what_the_warranty_leaves() {
    Offer offer =
        offer(
            new AmountOrShare.Fixed(Money.of("14.00")),
            part("100.00", AmountOrShare.nothing(), "60"),
            part("100.00", AmountOrShare.nothing(), "0"));
    assertThat(offer.promised())
        .map(line -> line.reductions().discountOfWhole().toString())
        .containsExactly("4.00", "10.00");
  }

  @Test
  void what_costs_nothing_by_warranty_alone_may_be_sent() {
    assertThat(
            offer(AmountOrShare.nothing(), part("100.00", AmountOrShare.nothing(), "100")).faults())
        .isEmpty();
    assertThat(
            offer(
                    new AmountOrShare.Fixed(Money.of("5.00")),
                    part("100.00", AmountOrShare.nothing(), "100"))
                .faults())
        .isEmpty();
  }

  @Test
  void what_costs_nothing_by_discount_may_not_whatever_the_warranty_bears() {
    Offer offer =
        offer(
            new AmountOrShare.Fixed(Money.of("40.00")),
            part("100.00", AmountOrShare.nothing(), "60"));
    assertThat(offer.faults()).singleElement().extracting("field").isEqualTo("discount");
  }

  @Test
  void a_line_that_is_taken_out_of_warranty_is_offered_at_its_full_price() {
    var out =
        new OfferLine.Priced(
            part("100.00", AmountOrShare.nothing(), "60").line(),
            AmountOrShare.nothing(),
            new LineWarranty(Share.ofPercent("60"), "Driven into"),
            new Choice.Included());
    assertThat(offer(AmountOrShare.nothing(), out).totals().vat().net())
        .isEqualTo(Money.of("100.00"));
  }

  @Test
  void half_a_penny_that_the_warranty_bears_rounds_up() {
    assertThat(
            offer(AmountOrShare.nothing(), part("0.25", AmountOrShare.nothing(), "50"))
                .promised()
                .getFirst()
                .reductions()
                .warranty())
        .isEqualTo(Money.of("0.13"));
  }
}
