package app.pragmata.core.stores;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
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
  void what_the_books_do_not_hold_comes_in_first_for_what_the_last_one_cost() {
    StockBalance.Movement missing =
        FOUR_PAIRS.missing(new BigDecimal("6"), new BigDecimal("15.125"));
    assertThat(missing.cost()).isEqualTo(Money.of("30.25"));
    assertThat(missing.after().issue(new BigDecimal("6")).cost()).isEqualTo(Money.of("87.25"));
  }

  @Test
  void nothing_is_missing_of_what_the_books_hold() {
    StockBalance.Movement missing = FOUR_PAIRS.missing(new BigDecimal("4"), BigDecimal.TEN);
    assertThat(missing.quantity()).isEqualByComparingTo("0");
    assertThat(missing.cost()).isEqualTo(Money.ZERO);
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

  @Property
  void quantity_and_value_are_what_the_movements_add_up_to(
      @ForAll @Size(max = 40) List<@IntRange(min = -20, max = 20) Integer> movements,
      @ForAll @LongRange(min = 0, max = 50_000) long costOfEachMinor) {
    StockBalance balance = StockBalance.EMPTY;
    long valueMinor = 0;
    int quantity = 0;
    for (int movement : movements) {
      if (movement > 0) {
        Money cost = Money.ofMinor(costOfEachMinor * movement);
        balance = balance.receive(BigDecimal.valueOf(movement), cost).after();
        valueMinor += cost.minor();
        quantity += movement;
      } else if (movement < 0 && -movement <= quantity) {
        StockBalance.Movement issued = balance.issue(BigDecimal.valueOf(-movement));
        balance = issued.after();
        valueMinor -= issued.cost().minor();
        quantity += movement;
      }
    }
    assertThat(balance.quantity()).isEqualByComparingTo(BigDecimal.valueOf(quantity));
    assertThat(balance.value().minor()).isEqualTo(valueMinor);
  }

  @Property
  void a_part_that_comes_back_at_what_it_cost_leaves_everything_as_it_was(
      @ForAll @IntRange(min = 2, max = 500) int held,
      @ForAll @LongRange(min = 0, max = 1_000_000) long valueMinor,
      @ForAll @IntRange(min = 1, max = 500) int used) {
    var before = new StockBalance(BigDecimal.valueOf(held), Money.ofMinor(valueMinor));
    BigDecimal quantity = BigDecimal.valueOf(Math.min(used, held));
    StockBalance.Movement out = before.issue(quantity);
    assertThat(out.after().receive(quantity, out.cost()).after()).isEqualTo(before);
  }

  @Test
  void metres_of_cable_leave_at_their_share_of_the_drum() {
    var drum = new StockBalance(new BigDecimal("90.000"), Money.of("100.00"));
    assertThat(drum.issue(new BigDecimal("13.5")).cost()).isEqualTo(Money.of("15.00"));
  }

  @Test
  void stock_below_nothing_or_an_empty_shelf_with_value_cannot_be_built() {
    assertThatThrownBy(() -> new StockBalance(new BigDecimal("-1"), Money.ZERO))
        .isInstanceOf(IllegalStateException.class);
    assertThatThrownBy(() -> new StockBalance(BigDecimal.ZERO, Money.of("0.01")))
        .isInstanceOf(IllegalStateException.class);
  }

  @Test
  void a_part_on_an_empty_shelf_is_expected_to_cost_what_the_last_one_did() {
    assertThat(StockBalance.EMPTY.expectedCost(new BigDecimal("14.25"))).isEqualTo("14.25");
    assertThat(FOUR_PAIRS.expectedCost(new BigDecimal("99"))).isEqualByComparingTo("14.25");
  }
}
