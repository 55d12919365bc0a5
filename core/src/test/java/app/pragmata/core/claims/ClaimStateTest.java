package app.pragmata.core.claims;

import static app.pragmata.core.claims.ClaimState.CREDITED;
import static app.pragmata.core.claims.ClaimState.OPEN;
import static app.pragmata.core.claims.ClaimState.REFUSED;
import static app.pragmata.core.claims.ClaimState.SENT;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import org.junit.jupiter.api.Test;

class ClaimStateTest {
  @Test
  void a_claim_is_sent_and_credited_and_then_stays_so() {
    assertThat(OPEN.become(SENT).become(CREDITED)).isEqualTo(CREDITED);
    for (ClaimState next : ClaimState.values()) {
      assertThatThrownBy(() -> CREDITED.become(next)).isInstanceOf(Refused.class);
    }
  }

  @Test
  void one_that_was_refused_may_be_sent_again_and_credited_after_all() {
    assertThat(SENT.become(REFUSED).become(SENT).become(CREDITED)).isEqualTo(CREDITED);
    assertThatThrownBy(() -> REFUSED.become(CREDITED)).isInstanceOf(Refused.class);
  }

  @Test
  void an_answer_is_waited_for_until_there_is_one() {
    assertThat(OPEN.isOpen()).isTrue();
    assertThat(SENT.isOpen()).isTrue();
    assertThat(CREDITED.isOpen()).isFalse();
    assertThat(REFUSED.isOpen()).isFalse();
  }
}
