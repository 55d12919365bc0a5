package app.pragmata.core.jobs;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import app.pragmata.core.jobs.PromisedParts.Quantity;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.Scale;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class PromisedPartsTest {
  private static QuoteLine promised(long partId, String quantity) {
    return new QuoteLine.Part(
        partId,
        "Part " + partId,
        new BigDecimal(quantity),
        BigDecimal.ONE,
        UnitPrice.of("2.00"),
        STANDARD);
  }

  private static BigDecimal use(PromisedParts parts, long partId, String quantity) {
    return parts.use(partId, "Part " + partId, new BigDecimal(quantity));
  }

  @Test
  void what_is_not_fitted_yet_is_to_be_fitted_in_the_order_of_the_promise() {
    var parts = new PromisedParts(List.of(promised(2, "1"), promised(1, "3.00")));
    assertThat(parts.toFit())
        .extracting(Quantity::partId, quantity -> quantity.quantity().toPlainString())
        .containsExactly(tuple(2L, "1"), tuple(1L, "3"));
  }

  @Test
  void two_lines_of_one_part_are_one_promise() {
    var parts = new PromisedParts(List.of(promised(1, "2"), promised(1, "1.5")));
    assertThat(parts.toFit()).extracting(Quantity::quantity).containsExactly(new BigDecimal("3.5"));
  }

  @Test
  void a_use_within_the_promise_goes_not_beyond_it() {
    var parts = new PromisedParts(List.of(promised(1, "2")));
    assertThat(use(parts, 1, "2")).isZero();
    assertThat(parts.toFit()).isEmpty();
    assertThat(parts.beyond()).isEmpty();
  }

  @Test
  void of_a_use_that_exceeds_the_promise_only_the_excess_goes_beyond_it() {
    var parts = new PromisedParts(List.of(promised(1, "2")));
    assertThat(use(parts, 1, "1.5")).isZero();
    assertThat(use(parts, 1, "1.5")).isEqualByComparingTo("1");
    assertThat(use(parts, 1, "2")).isEqualByComparingTo("2");
  }

  @Test
  void what_nobody_promised_goes_beyond_all_of_it() {
    var parts = new PromisedParts(List.of());
    assertThat(use(parts, 7, "4")).isEqualByComparingTo("4");
    assertThat(parts.beyond()).extracting(Quantity::description).containsExactly("Part 7");
  }

  @Property
  void what_goes_beyond_use_by_use_is_what_goes_beyond_in_all(
      @ForAll @BigRange(min = "0", max = "40") @Scale(2) BigDecimal promise,
      @ForAll @Size(max = 12) List<@BigRange(min = "0", max = "9") @Scale(2) BigDecimal> uses) {
    var parts = new PromisedParts(List.of(promised(1, promise.toPlainString())));
    BigDecimal beyond =
        uses.stream()
            .map(quantity -> parts.use(1, "Part 1", quantity))
            .reduce(BigDecimal.ZERO, BigDecimal::add);
    BigDecimal fitted = uses.stream().reduce(BigDecimal.ZERO, BigDecimal::add);
    BigDecimal excess = fitted.subtract(promise).max(BigDecimal.ZERO);
    assertThat(beyond).isEqualByComparingTo(excess);
    assertThat(
            parts.beyond().stream()
                .map(Quantity::quantity)
                .reduce(BigDecimal.ZERO, BigDecimal::add))
        .isEqualByComparingTo(excess);
  }
}
