package app.pragmata.core.customers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Unreadable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class MailAddressTest {
  @ParameterizedTest
  @ValueSource(
      strings = {
        "name@example.org",
        "first.last+gates@sub.example.co.uk",
        "o'hara@example.org",
        "x@xn--ksmr-gra.example",
        "1234@9.example"
      })
  void an_address_stays_as_it_is(String typed) {
    assertThat(MailAddress.parse(typed)).isEqualTo(typed);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "name",
        "name@example",
        "@example.org",
        "na me@example.org",
        "a..b@example.org",
        ".a@example.org",
        "a.@example.org",
        "a\"b@example.org",
        "a@b@example.org",
        "a@example..org",
        "a@-example.org",
        "a@example.1",
        "a@[127.0.0.1]",
        "a@example.org,b@example.org",
        "Name <a@example.org>",
        "a@example.org\nBcc: b@example.org"
      })
  void what_mail_could_not_be_sent_to_is_refused(String typed) {
    assertThatThrownBy(() -> MailAddress.parse(typed)).isInstanceOf(Unreadable.class);
  }

  @Test
  void an_address_longer_than_mail_carries_is_refused() {
    assertThatThrownBy(() -> MailAddress.parse("a".repeat(65) + "@example.org"))
        .isInstanceOf(Unreadable.class);
    assertThatThrownBy(
            () -> MailAddress.parse("a@" + "b".repeat(60) + (".c" + "d".repeat(50)).repeat(4)))
        .isInstanceOf(Unreadable.class);
  }
}
