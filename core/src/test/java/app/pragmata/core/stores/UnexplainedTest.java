package app.pragmata.core.stores;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

class UnexplainedTest {
  /** Two were used of an empty shelf, taken to cost 10.00 each. */
  private static final Unexplained TWO =
      Unexplained.NONE.plus(StockBalance.EMPTY.missing(BigDecimal.TWO, BigDecimal.TEN));

  @Test
  void a_delivery_takes_out_what_was_used_before_it_for_what_that_was_taken_to_cost() {
    Unexplained.Explanation explained = TWO.by(new BigDecimal("5"), held("5", "60.00"));
    assertThat(explained.movement().cost()).isEqualTo(Money.of("20.00"));
    assertThat(explained.movement().after()).isEqualTo(held("3", "40.00"));
    assertThat(explained.left()).isEqualTo(unexplained("0", "0.00"));
  }

  @Test
  void a_delivery_of_less_explains_its_share() {
    Unexplained.Explanation explained =
        unexplained("3", "10.00").by(BigDecimal.ONE, held("1", "9.00"));
    assertThat(explained.left()).isEqualTo(unexplained("2", "6.67"));
    assertThat(explained.movement().after()).isEqualTo(held("0", "0.00"));
  }

  @Test
  void where_nothing_is_held_afterwards_all_value_goes() {
    Unexplained.Explanation explained = TWO.by(BigDecimal.TWO, held("2", "24.00"));
    assertThat(explained.movement().cost()).isEqualTo(Money.of("24.00"));
  }

  @Test
  void no_more_goes_out_than_what_came_in_was_worth() {
    Unexplained.Explanation explained = TWO.by(new BigDecimal("4"), held("4", "12.00"));
    assertThat(explained.movement().cost()).isEqualTo(Money.of("12.00"));
  }

  @Test
  void nothing_is_explained_where_nothing_was_missing() {
    StockBalance held = held("5", "60.00");
    Unexplained.Explanation explained = Unexplained.NONE.by(new BigDecimal("5"), held);
    assertThat(explained.movement().after()).isEqualTo(held);
    assertThat(explained.movement().cost()).isEqualTo(Money.ZERO);
  }

  @Property
  void a_part_used_beyond_the_stock_and_put_back_leaves_everything_as_it_was(
      @ForAll @IntRange(min = 0, max = 20) int pieces,
      @ForAll @LongRange(min = 0, max = 100_000) long valueMinor,
      @ForAll @IntRange(min = 1, max = 40) int used,
      @ForAll @LongRange(min = 0, max = 9_999) long lastCostMinor) {
    var before =
        new StockBalance(BigDecimal.valueOf(pieces), Money.ofMinor(pieces == 0 ? 0 : valueMinor));
    BigDecimal quantity = BigDecimal.valueOf(used);
    StockBalance.Movement missing = before.missing(quantity, BigDecimal.valueOf(lastCostMinor, 2));
    StockBalance.Movement out = missing.after().issue(quantity);
    Unexplained.Explanation explained =
        Unexplained.NONE
            .plus(missing)
            .by(quantity, out.after().receive(quantity, out.cost()).after());
    assertThat(explained.left().quantity()).isEqualByComparingTo("0");
    assertThat(explained.left().value()).isEqualTo(Money.ZERO);
    assertThat(explained.movement().after().quantity()).isEqualByComparingTo(before.quantity());
    assertThat(explained.movement().after().value()).isEqualTo(before.value());
  }

  private static StockBalance held(String quantity, String value) {
    return new StockBalance(new BigDecimal(quantity), Money.of(value));
  }

  private static Unexplained unexplained(String quantity, String value) {
    return new Unexplained(new BigDecimal(quantity), Money.of(value));
  }
}
