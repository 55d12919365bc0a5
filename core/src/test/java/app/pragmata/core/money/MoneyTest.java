package app.pragmata.core.money;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MoneyTest {
  @ParameterizedTest
  @CsvSource({"450,450.00", "'1,284.50',1284.50", "£45,45.00", ".5,0.50", "45.,45.00"})
  void money_is_read_the_way_people_type_it(String typed, String expected) {
    assertThat(Money.parse(typed)).isEqualTo(Money.of(expected));
  }

  @ParameterizedTest
  @CsvSource({
    "12.345,UNREADABLE",
    "-5,NEGATIVE",
    "lots,UNREADABLE",
    "999999999999,TOO_LARGE",
    "1e5,UNREADABLE"
  })
  void what_is_no_amount_is_refused_by_its_rule(String typed, Rule rule) {
    assertThatThrownBy(() -> Money.parse(typed))
        .isInstanceOfSatisfying(
            Unreadable.class, unreadable -> assertThat(unreadable.rule()).isEqualTo(rule));
  }

  @ParameterizedTest
  @CsvSource({"0.005,0.01", "0.004,0.00", "-0.005,-0.01", "62.279,62.28"})
  void half_a_penny_rounds_away_from_nothing(String exact, String rounded) {
    assertThat(Money.rounded(new BigDecimal(exact))).isEqualTo(Money.of(rounded));
  }

  @Property
  void what_is_written_reads_back_the_same(
      @ForAll @LongRange(min = 0, max = 1_000_000_000) long minor) {
    assertThat(Money.parse(Money.ofMinor(minor).toString()).minor()).isEqualTo(minor);
  }

  @ParameterizedTest
  @CsvSource({
    "2:35,155",
    "2h35,155",
    "2h,120",
    "45m,45",
    "2.5,150",
    "1,60",
    "90,90",
    "0:05,5",
    "2 h 15 min,135"
  })
  void lengths_of_time_are_read_the_way_people_type_them(String typed, int minutes) {
    assertThat(Minutes.parse(typed)).isEqualTo(minutes);
  }

  @ParameterizedTest
  @CsvSource({"-1:00,NEGATIVE", "1:75,UNREADABLE", "soon,UNREADABLE", "99999:00,UNREADABLE"})
  void what_is_no_length_of_time_is_refused_by_its_rule(String typed, Rule rule) {
    assertThatThrownBy(() -> Minutes.parse(typed))
        .isInstanceOfSatisfying(
            Unreadable.class, unreadable -> assertThat(unreadable.rule()).isEqualTo(rule));
  }

  @Test
  void vat_is_computed_per_rate_on_the_sum_of_its_lines() {
    var standard = new VatRate("standard", "S", new BigDecimal("20"));
    var reduced = new VatRate("reduced", "S", new BigDecimal("5"));
    var vat =
        VatBreakdown.of(
            List.of(
                new VatBreakdown.Taxed(standard, Money.of("0.02")),
                new VatBreakdown.Taxed(reduced, Money.of("10.00")),
                new VatBreakdown.Taxed(standard, Money.of("0.02"))));
    assertThat(vat.rates()).map(rate -> rate.vat().toString()).containsExactly("0.01", "0.50");
  }
}
