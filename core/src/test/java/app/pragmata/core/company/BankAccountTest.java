package app.pragmata.core.company;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class BankAccountTest {
  private static final String KNOWN = "FI2112345600000785";

  @ParameterizedTest
  @CsvSource({
    "FI21 1234 5600 0007 85, FI2112345600000785",
    "gb29 nwbk 6016 1331 9268 19, GB29NWBK60161331926819",
    "DE89370400440532013000, DE89370400440532013000"
  })
  void an_iban_is_read_with_and_without_blanks(String typed, String iban) {
    assertThat(BankAccount.parseIban(typed)).isEqualTo(iban);
  }

  @Property
  void one_wrong_digit_is_always_found(
      @ForAll @IntRange(min = 2, max = 17) int place,
      @ForAll @IntRange(min = 1, max = 9) int more) {
    int digit = (KNOWN.charAt(place) - '0' + more) % 10;
    String wrong = KNOWN.substring(0, place) + digit + KNOWN.substring(place + 1);
    assertThatThrownBy(() -> BankAccount.parseIban(wrong))
        .isInstanceOfSatisfying(
            Unreadable.class,
            unreadable -> assertThat(unreadable.rule()).isEqualTo(Rule.WRONG_CHECK_SUM));
  }

  @ParameterizedTest
  @ValueSource(strings = {"12345678", "FI21", "FI2112345600000785FI2112345600000785", "FI21-1234"})
  void what_is_no_iban_is_said_to_be_none(String typed) {
    assertThatThrownBy(() -> BankAccount.parseIban(typed)).hasMessageContaining("is no IBAN");
  }

  @Test
  void a_bic_has_eight_or_eleven_signs() {
    assertThat(BankAccount.parseBic("ndeafihh")).isEqualTo("NDEAFIHH");
    assertThatThrownBy(() -> BankAccount.parseBic("NDEAFIHHX")).hasMessageContaining("is no BIC");
  }

  @Test
  void only_what_there_is_is_printed() {
    assertThat(new BankAccount("Lanternbank", KNOWN, "").printed())
        .isEqualTo("Lanternbank, IBAN FI21 1234 5600 0007 85");
    assertThat(BankAccount.NONE.printed()).isEmpty();
  }
}
