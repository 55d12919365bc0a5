package app.pragmata.core.money;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.math.BigDecimal;
import java.util.Locale;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Scale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MoneyTest {
  private static final TypedMoney TYPED = TypedMoney.of("GBP", Locale.UK);

  @ParameterizedTest
  @CsvSource({
    "450,450.00",
    "'1,284.50',1284.50",
    "£45,45.00",
    "'£1,284,500.05',1284500.05",
    "1 284,1284.00",
    "100000000,100000000.00",
    ".5,0.50",
    "45.,45.00"
  })
  void money_is_read_the_way_people_type_it(String typed, String expected) {
    assertThat(TYPED.money(typed)).isEqualTo(Money.of(expected));
  }

  @ParameterizedTest
  @CsvSource({
    "12.345,UNREADABLE",
    "-5,NEGATIVE",
    "lots,UNREADABLE",
    "999999999999,TOO_LARGE",
    "100000000.01,TOO_LARGE",
    "'1,50',UNREADABLE",
    "'1,2345',UNREADABLE",
    "..5,UNREADABLE",
    "1e5,UNREADABLE"
  })
  void what_is_no_amount_is_refused_by_its_rule(String typed, Rule rule) {
    assertThatThrownBy(() -> TYPED.money(typed))
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
    assertThat(TYPED.money(Money.ofMinor(minor).toString()).minor()).isEqualTo(minor);
  }

  @Property
  void minutes_at_a_rate_are_within_half_a_penny_of_the_exact_amount(
      @ForAll @IntRange(max = 6_000) int minutes,
      @ForAll @BigRange(min = "0.01", max = "250") @Scale(4) BigDecimal ratePerHour) {
    BigDecimal exactSixtieths = ratePerHour.multiply(BigDecimal.valueOf(minutes));
    BigDecimal rounded = Money.forMinutes(minutes, ratePerHour).major();
    assertThat(rounded.multiply(BigDecimal.valueOf(60)).subtract(exactSixtieths).abs())
        .isLessThanOrEqualTo(new BigDecimal("0.3"));
  }

  @Property
  void an_amount_and_its_negative_leave_nothing(
      @ForAll @LongRange(min = -1_000_000_000, max = 1_000_000_000) long minor) {
    assertThat(Money.ofMinor(minor).plus(Money.ofMinor(minor).negated())).isEqualTo(Money.ZERO);
  }

  @Test
  void an_amount_too_large_to_count_fails_instead_of_turning_over() {
    assertThatThrownBy(() -> Money.ofMinor(Long.MAX_VALUE).plus(Money.ofMinor(1)))
        .isInstanceOf(ArithmeticException.class);
  }

  @Test
  void an_amount_written_with_three_decimals_cannot_be_built() {
    assertThatThrownBy(() -> Money.of("1.005")).isInstanceOf(ArithmeticException.class);
  }

  @ParameterizedTest
  @ValueSource(strings = {"$45", "45 €", "₹45.00"})
  void a_sign_of_another_currency_is_refused_in_words(String typed) {
    assertThatThrownBy(() -> TYPED.money(typed))
        .isInstanceOf(Unreadable.class)
        .hasMessageContaining("is in another currency. Enter the amount in £.");
  }

  @ParameterizedTest
  @ValueSource(strings = {"€ 45", "45 EUR", "45"})
  void the_sign_or_the_code_of_the_companys_own_currency_may_be_typed(String typed) {
    assertThat(TypedMoney.of("EUR", Locale.GERMANY).money(typed)).isEqualTo(Money.of("45.00"));
  }
}
