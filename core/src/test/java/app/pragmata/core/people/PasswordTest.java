package app.pragmata.core.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PasswordTest {
  @ParameterizedTest
  @ValueSource(
      strings = {"harbour teapot seven", " Gate & 12 pegs ", "ääkkösiä on paljon", "x9!kQ2#vB7@z"})
  void a_long_password_is_taken_exactly_as_it_is_typed(String typed) {
    assertThat(Password.parse(typed, "aino")).isEqualTo(typed);
  }

  @ParameterizedTest
  @CsvSource({
    "elevenchars, TOO_SHORT",
    "password1234, EASILY_GUESSED",
    "Password 12345!, EASILY_GUESSED",
    "salasana123456, EASILY_GUESSED",
    "correct horse battery staple, EASILY_GUESSED",
    "123456789012, EASILY_GUESSED",
    "abcdefghijklmn, EASILY_GUESSED",
    "aaaaaaaaaaaaaa, EASILY_GUESSED",
    "abcabcabcabcabc, EASILY_GUESSED",
    "Ainokivi12345, EASILY_GUESSED",
    "2026ainokivi!, EASILY_GUESSED"
  })
  void what_is_guessed_first_is_refused(String typed, Rule rule) {
    refuses(typed, rule);
  }

  @Test
  void a_password_of_72_bytes_is_the_longest() {
    assertThat(Password.parse("ab cd ef gh ".repeat(6), "aino")).hasSize(72);
    refuses("ab cd ef gh ".repeat(6) + "i", Rule.TOO_LONG);
    refuses("å1".repeat(24) + "ä", Rule.TOO_LONG);
  }

  private static void refuses(String typed, Rule rule) {
    assertThatThrownBy(() -> Password.parse(typed, "ainokivi"))
        .isInstanceOfSatisfying(
            Unreadable.class, unreadable -> assertThat(unreadable.rule()).isEqualTo(rule));
  }
}
