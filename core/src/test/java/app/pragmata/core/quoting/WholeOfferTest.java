package app.pragmata.core.quoting;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.junit.jupiter.api.Test;

/**
 * One offer with everything in it, reckoned by hand: two VAT treatments, a discount on a line and
 * on all, an option, a deposit and stages.
 */
class WholeOfferTest {
  private static final TypedMoney TYPED = TypedMoney.of("GBP", Locale.UK);

  private static final VatTreatment REDUCED = VatTreatment.rated("reduced", "5");
  private static final BigDecimal COST_PER_HOUR = new BigDecimal("24.108");
  private static final int LAMP = 4;

  private static final Offer OFFER =
      new Offer(
          List.of(
              new OfferLine.Words("The gate", true),
              priced(
                  new QuoteLine.Labour(
                      "Hang the gate",
                      390,
                      RateClass.NORMAL,
                      COST_PER_HOUR,
                      UnitPrice.of("58.00"),
                      STANDARD),
                  "5%",
                  new Choice.Included()),
              priced(
                  new QuoteLine.Part(
                      1,
                      "Photocell pair",
                      new BigDecimal("3"),
                      new BigDecimal("14.25"),
                      UnitPrice.of("26.90"),
                      STANDARD),
                  "",
                  new Choice.Included()),
              priced(
                  new QuoteLine.Other(
                      "Door of the safe room",
                      BigDecimal.ONE,
                      Money.of("92.00"),
                      UnitPrice.of("150.00"),
                      REDUCED),
                  "",
                  new Choice.Included()),
              priced(
                  new QuoteLine.Part(
                      2,
                      "Flashing lamp",
                      BigDecimal.ONE,
                      new BigDecimal("16.80"),
                      UnitPrice.of("34.00"),
                      STANDARD),
                  "",
                  new Choice.Option(false))),
          TYPED.amountOrShare("50.00"),
          TYPED.amountOrShare("30%"),
          List.of(
              new Stage("when the posts stand", TYPED.amountOrShare("33.33%")),
              new Stage("when it runs", TYPED.amountOrShare("66.67%"))));

  private static OfferLine priced(QuoteLine line, String discount, Choice choice) {
    return new OfferLine.Priced(line, TYPED.amountOrShare(discount), choice);
  }

  @Test
  void its_lines_bear_the_discount_in_proportion_to_what_is_left_of_them() {
    assertThat(OFFER.promised())
        .extracting(QuoteLine::net)
        .containsExactly(Money.of("327.74"), Money.of("73.85"), Money.of("137.26"));
  }

  @Test
  void its_vat_is_taken_rate_by_rate_on_the_reduced_lines() {
    assertThat(OFFER.totals().vat().groups())
        .extracting(VatBreakdown.Taxed::net, VatBreakdown.Taxed::vat)
        .containsExactlyInAnyOrder(
            org.assertj.core.api.Assertions.tuple(Money.of("401.59"), Money.of("80.32")),
            org.assertj.core.api.Assertions.tuple(Money.of("137.26"), Money.of("6.86")));
    assertThat(OFFER.totals().vat().gross()).isEqualTo(Money.of("626.03"));
  }

  @Test
  void its_margin_is_what_is_left_of_the_reduced_price() {
    assertThat(OFFER.totals().cost()).isEqualTo(Money.of("291.45"));
    assertThat(OFFER.totals().margin().amount()).isEqualTo(Money.of("247.40"));
  }

  @Test
  void its_deposit_is_of_the_total_with_vat() {
    assertThat(OFFER.depositDue()).isEqualTo(Money.of("187.81"));
  }

  @Test
  void its_stages_add_up_to_the_total_with_and_without_vat() {
    assertThat(OFFER.stageAmounts()).containsExactly(Money.of("179.60"), Money.of("359.25"));
    assertThat(OFFER.stageGross()).containsExactly(Money.of("208.66"), Money.of("417.37"));
  }

  @Test
  void with_the_lamp_the_discount_is_spread_anew_and_everything_follows() {
    Offer withLamp = OFFER.choose(Set.of(LAMP));
    assertThat(withLamp.totals().vat().net()).isEqualTo(Money.of("572.85"));
    assertThat(withLamp.promised().getLast().net()).isEqualTo(Money.of("31.27"));
    assertThat(withLamp.stageAmounts().stream().collect(Money.sum())).isEqualTo(Money.of("572.85"));
    assertThat(withLamp.faults()).isEmpty();
  }

  @Test
  void nothing_of_it_keeps_it_from_being_sent() {
    assertThat(OFFER.faults()).isEmpty();
  }
}
