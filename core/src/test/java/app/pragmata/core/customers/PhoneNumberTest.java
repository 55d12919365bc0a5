package app.pragmata.core.customers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Unreadable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PhoneNumberTest {
  @ParameterizedTest
  @CsvSource({
    "01632 960121, 01632 960121",
    "'  01632   960 121 ', 01632 960 121",
    "+44 1632 960121, 01632 960121",
    "+44 (0)1632 960121, 01632 960121",
    "0044 1632 960121, 01632 960121",
    "+46 8 123 456 78, +46812345678"
  })
  void a_number_is_read_however_it_is_said(String typed, String kept) {
    assertThat(PhoneNumber.parse(typed, "44").text()).isEqualTo(kept);
  }

  @ParameterizedTest
  @ValueSource(strings = {"01632 9601", "960121", "1", "+44"})
  void half_a_number_is_told_apart_by_its_digits(String half) {
    assertThatThrownBy(() -> PhoneNumber.parse(half, "44"))
        .isInstanceOf(Unreadable.class)
        .hasMessageContaining("digits; a whole number has 10 to 15");
  }

  @ParameterizedTest
  @ValueSource(strings = {"ring twice", "01632 960121 ask for Ines", "01632+960121"})
  void what_is_no_number_is_refused_with_an_example(String text) {
    assertThatThrownBy(() -> PhoneNumber.parse(text, "44"))
        .isInstanceOf(Unreadable.class)
        .hasMessageContaining("01632 960121");
  }

  @Test
  void the_country_is_a_setting() {
    assertThat(PhoneNumber.parse("+353 1 555 0123", "353").text()).isEqualTo("015550123");
  }
}
