package app.pragmata.core.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

class CapturedTest {
  @Test
  void what_is_wanted_and_not_there_is_missing_once() {
    assertThat(
            new Captured(false, true, false)
                .missing(List.of(Capture.CAUSE, Capture.SIGNATURE, Capture.PHOTO, Capture.PHOTO)))
        .containsExactly(Capture.PHOTO, Capture.CAUSE);
  }

  @Test
  void nothing_is_missing_where_nothing_is_wanted() {
    assertThat(new Captured(false, false, false).missing(List.of())).isEmpty();
  }
}
