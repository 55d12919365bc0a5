package app.pragmata.core.customers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Unreadable;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PlaceTest {
  private static final Postcode POSTCODES =
      new Postcode(Pattern.compile("[A-Z]{1,2}[0-9][A-Z0-9]? [0-9][A-Z]{2}"), "OS4 2TD");

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "12 Weir Street, Ostmere OS4 2TD | 12 Weir Street, Ostmere | OS4 2TD",
        "12 Weir Street, Ostmere, os42td | 12 Weir Street, Ostmere | OS4 2TD",
        "The Lantern House os11  4bq | The Lantern House | OS11 4BQ",
        "Shed 5, behind the ice house | Shed 5, behind the ice house | ''",
        "OS4 2TD | '' | OS4 2TD"
      })
  void a_place_said_in_one_breath_gives_address_and_postcode(
      String typed, String address, String postcode) {
    assertThat(Place.parse(typed, POSTCODES)).isEqualTo(new Place(address, postcode));
  }

  @Test
  void a_postcode_that_breaks_off_is_not_taken_for_a_street() {
    assertThatThrownBy(() -> Place.parse("12 Weir Street, OS4 2T", POSTCODES))
        .isInstanceOf(Unreadable.class)
        .hasMessageContaining("fits no postcode")
        .hasMessageContaining("OS4 2TD");
  }

  @ParameterizedTest
  @ValueSource(strings = {"O 1", "OS4-2TD", "12345", "OS4 2TDX"})
  void a_text_that_fits_no_postcode_is_refused(String typed) {
    assertThatThrownBy(() -> POSTCODES.parse(typed)).isInstanceOf(Unreadable.class);
  }

  @ParameterizedTest
  @ValueSource(strings = {"ines@example.org", "front.desk+gate@tansy.example.com"})
  void a_mail_address_is_kept_as_typed(String typed) {
    assertThat(MailAddress.parse(typed)).isEqualTo(typed);
  }

  @ParameterizedTest
  @ValueSource(strings = {"ines", "ines@example", "ines@@example.org", "a b@example.org"})
  void what_no_mail_could_reach_is_refused(String typed) {
    assertThatThrownBy(() -> MailAddress.parse(typed)).isInstanceOf(Unreadable.class);
  }
}
