package app.pragmata.core.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SignInWaitTest {
  @ParameterizedTest
  @CsvSource({
    "OF_A_NAME, 0, 0",
    "OF_A_NAME, 4, 0",
    "OF_A_NAME, 5, 1",
    "OF_A_NAME, 6, 2",
    "OF_A_NAME, 9, 16",
    "OF_A_NAME, 11, 60",
    "OF_A_NAME, 1000000, 60",
    "OF_AN_ADDRESS, 19, 0",
    "OF_AN_ADDRESS, 20, 1",
    "OF_AN_ADDRESS, 28, 256",
    "OF_AN_ADDRESS, 29, 300"
  })
  void the_wait_doubles_with_each_wrong_password_up_to_its_longest(
      SignInWait wait, int refused, long seconds) {
    assertThat(wait.after(refused)).isEqualTo(Duration.ofSeconds(seconds));
  }
}
