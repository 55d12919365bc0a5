package app.pragmata.core.stores;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.company.Markup;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ChargeOutPriceTest {
  private final ChargeOutPrice price =
      new ChargeOutPrice(
          new Markup(
              LocalDate.EPOCH,
              List.of(
                  new Markup.Band(Money.of("500.00"), new BigDecimal("0.35")),
                  new Markup.Band(Money.of("20.00"), new BigDecimal("0.90")),
                  new Markup.Band(Money.of("100.00"), new BigDecimal("0.60")))));

  @ParameterizedTest
  @CsvSource({
    "14.25,27.075",
    "20.00,38.00",
    "20.01,32.016",
    "100.00,160.00",
    "100.01,135.0135",
    "900.00,1215.00",
    "0,0.00"
  })
  void a_part_without_its_own_price_sells_for_cost_and_the_markup_of_its_band(
      BigDecimal cost, String expected) {
    assertThat(price.of(null, cost)).isEqualTo(UnitPrice.of(expected));
  }

  @Test
  void
      cheap_parts_by_the_metre_are_priced_to_four_decimals_so_that_a_long_piece_costs_what_it_should() {
    UnitPrice cable = price.of(null, new BigDecimal("1.35"));
    assertThat(cable).isEqualTo(UnitPrice.of("2.565"));
    assertThat(cable.times(new BigDecimal("20"))).isEqualTo(Money.of("51.30"));
  }

  @Test
  void a_part_with_its_own_price_sells_for_it_whatever_it_cost() {
    assertThat(price.of(UnitPrice.of("26.90"), new BigDecimal("14.25")))
        .isEqualTo(UnitPrice.of("26.90"));
  }

  @Test
  void a_part_that_is_given_away_has_a_price_of_nothing_and_not_the_bands() {
    assertThat(price.of(UnitPrice.ZERO, new BigDecimal("14.25"))).isEqualTo(UnitPrice.ZERO);
  }

  @ParameterizedTest
  @CsvSource({"26.90, 14.25, 24.21", "318.60, 212.40, 286.74", ", 14.25, 24.3675", "0, 5.00, 0.00"})
  void a_price_list_takes_its_share_off_whichever_price_it_is(
      String own, BigDecimal cost, String expected) {
    UnitPrice ownPrice = own == null ? null : UnitPrice.of(own);
    assertThat(price.less(new Share(new BigDecimal("0.10"))).of(ownPrice, cost))
        .isEqualTo(UnitPrice.of(expected));
  }

  @Test
  void prices_without_any_band_cannot_be_set() {
    assertThatThrownBy(() -> new Markup(LocalDate.EPOCH, List.of()))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
