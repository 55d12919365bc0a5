package app.pragmata.core.field;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TapTest {
  private static final Instant NOW = Instant.parse("2026-11-24T15:00:00Z");

  @Test
  void a_tap_without_a_moment_happened_now() {
    assertThat(Tap.moment(null, null, NOW)).isEqualTo(NOW);
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-24T14:10:00Z, 2026-11-24T14:10:00Z",
    "2026-11-22T15:00:00Z, 2026-11-22T15:00:00Z",
    "2026-11-24T15:02:00Z, 2026-11-24T15:00:00Z"
  })
  void a_believable_moment_counts_and_never_lies_ahead(String tapped, String counts) {
    assertThat(Tap.moment(Instant.parse(tapped), null, NOW)).isEqualTo(Instant.parse(counts));
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-24T15:02:01Z, TAPPED_IN_THE_FUTURE",
    "2026-11-22T14:59:59Z, TAPPED_TOO_LONG_AGO"
  })
  void a_moment_that_cannot_be_is_refused_by_its_rule(String tapped, String rule) {
    assertThatThrownBy(() -> Tap.moment(Instant.parse(tapped), null, NOW))
        .isInstanceOfSatisfying(
            Refused.class,
            refused -> assertThat(refused.faults().getFirst().rule().name()).isEqualTo(rule));
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-24T13:10:00Z, 2026-11-24T13:30:00Z",
    "2031-01-01T00:00:00Z, 2031-01-01T00:20:00Z"
  })
  void how_far_the_phones_clock_is_off_does_not_matter_when_it_says_when_it_sent(
      String tapped, String sent) {
    assertThat(Tap.moment(Instant.parse(tapped), Instant.parse(sent), NOW))
        .isEqualTo("2026-11-24T14:40:00Z");
  }

  @ParameterizedTest
  @CsvSource({"2026-11-24T15:01:50Z, 0", "2026-11-24T16:00:00Z, 60", "2026-11-24T14:30:00Z, -30"})
  void a_phones_clock_that_is_off_by_more_than_anybody_minds_is_noticed(String sent, int ahead) {
    assertThat(Tap.minutesAhead(Instant.parse(sent), NOW)).isEqualTo(ahead);
  }
}
