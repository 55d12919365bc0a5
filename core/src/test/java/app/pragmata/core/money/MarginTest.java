package app.pragmata.core.money;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MarginTest {
  @ParameterizedTest
  @CsvSource({
    "450.99,353.36,97.63,21.65",
    "100.00,100.00,0.00,0.00",
    "100.00,150.00,-50.00,-50.00",
    "300.00,200.00,100.00,33.33",
    "0.03,0.01,0.02,66.67"
  })
  void a_margin_is_net_less_cost_and_its_share_is_of_the_net(
      String net, String cost, String amount, String percent) {
    var margin = new Margin(Money.of(net), Money.of(cost));
    assertThat(margin.amount()).isEqualTo(Money.of(amount));
    assertThat(margin.percent()).isEqualTo(percent);
  }

  @Test
  void nothing_charged_has_a_margin_in_money_and_no_share() {
    var margin = new Margin(Money.ZERO, Money.of("353.36"));
    assertThat(margin.amount()).isEqualTo(Money.of("-353.36"));
    assertThat(margin.percent()).isNull();
  }

  @Property
  void margin_and_cost_add_up_to_the_net(
      @ForAll @LongRange(min = 0, max = 10_000_000) long net,
      @ForAll @LongRange(min = 0, max = 10_000_000) long cost) {
    var margin = new Margin(Money.ofMinor(net), Money.ofMinor(cost));
    assertThat(margin.amount().plus(margin.cost())).isEqualTo(margin.net());
  }

  @ParameterizedTest
  @CsvSource({"60,318.60,191.16", "12.5,0.04,0.01", "100,45.00,45.00", "0,45.00,0.00"})
  void a_share_of_an_amount_rounds_half_up(String percent, String whole, String part) {
    assertThat(Share.ofPercent(percent).of(Money.of(whole))).isEqualTo(Money.of(part));
  }

  @ParameterizedTest
  @CsvSource({"-0.01", "1.0001"})
  void a_share_below_nothing_or_above_all_cannot_be_built(BigDecimal fraction) {
    assertThatThrownBy(() -> new Share(fraction)).isInstanceOf(IllegalArgumentException.class);
  }

  @ParameterizedTest
  @CsvSource({"60,60", "12.50,12.5", "100,100", "0,0"})
  void a_share_reads_as_a_percentage_without_idle_decimals(String percent, String read) {
    assertThat(Share.ofPercent(percent).percent()).isEqualTo(read);
  }

  @Property
  void a_share_never_takes_more_than_the_whole(
      @ForAll @LongRange(min = 0, max = 10_000) long hundredthsOfPercent,
      @ForAll @LongRange(min = 0, max = 10_000_000) long whole) {
    Money part = new Share(BigDecimal.valueOf(hundredthsOfPercent, 4)).of(Money.ofMinor(whole));
    assertThat(part.minor()).isBetween(0L, whole);
  }
}
