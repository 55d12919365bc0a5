package app.pragmata.core.quoting;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class WonShareTest {
  @Test
  void the_share_won_is_of_what_was_decided() {
    assertThat(new WonShare(2, 1).percent()).isEqualTo("66.7");
  }

  @Test
  void while_nothing_is_decided_there_is_no_share() {
    assertThat(new WonShare(0, 0).percent()).isNull();
  }
}
