package app.pragmata.core.stores;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

class StockBalanceTest {
  private static final StockBalance FOUR_PAIRS =
      new StockBalance(new BigDecimal("4"), Money.of("57.00"));

  @Test
  void two_photocell_pairs_leave_at_their_average_cost() {
    assertThat(FOUR_PAIRS.issue(new BigDecimal("2")).cost()).isEqualTo(Money.of("28.50"));
  }

  @Test
  void a_dearer_delivery_moves_the_average() {
    StockBalance after = FOUR_PAIRS.receive(new BigDecimal("4"), Money.of("63.00")).after();
    assertThat(after.averageCost()).isEqualByComparingTo("15.00");
  }

  @Test
  void more_than_is_held_is_refused_by_name() {
    assertThatThrownBy(() -> FOUR_PAIRS.issue(new BigDecimal("5")))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(Rule.NOT_ENOUGH_STOCK));
  }

  @Property
  void issuing_piece_by_piece_to_the_last_leaves_no_penny(
      @ForAll @IntRange(min = 1, max = 60) int pieces,
      @ForAll @LongRange(min = 0, max = 1_000_000) long valueMinor) {
    StockBalance balance =
        StockBalance.EMPTY.receive(BigDecimal.valueOf(pieces), Money.ofMinor(valueMinor)).after();
    for (int i = 0; i < pieces; i++) {
      balance = balance.issue(BigDecimal.ONE).after();
    }
    assertThat(balance.value()).isEqualTo(Money.ZERO);
  }

  @Test
  void a_part_without_its_own_price_sells_for_cost_and_the_markup_of_its_band() {
    var price =
        new ChargeOutPrice(
            List.of(
                new ChargeOutPrice.Band(Money.of("500.00"), new BigDecimal("0.35")),
                new ChargeOutPrice.Band(Money.of("20.00"), new BigDecimal("0.90"))));
    assertThat(price.of(null, new BigDecimal("14.25"))).isEqualTo(Money.of("27.08"));
    assertThat(price.of(null, new BigDecimal("900"))).isEqualTo(Money.of("1215.00"));
    assertThat(price.of(Money.of("26.90"), new BigDecimal("14.25"))).isEqualTo(Money.of("26.90"));
  }
}
