package app.pragmata.core.field;

import static app.pragmata.core.jobs.TimeEntry.Kind.BREAK;
import static app.pragmata.core.jobs.TimeEntry.Kind.DRIVE;
import static app.pragmata.core.jobs.TimeEntry.Kind.LABOUR;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.TimeEntry;
import java.time.Instant;
import java.time.ZoneId;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ForgottenClockTest {
  private static final ZoneId LONDON = ZoneId.of("Europe/London");
  private static final Instant END = Instant.parse("2026-11-24T17:30:00Z");

  private static ForgottenClock started(String at, @Nullable Instant hoursEnd) {
    return new ForgottenClock(LABOUR, 1L, Instant.parse(at), hoursEnd);
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-24T18:30:00Z, false",
    "2026-11-24T18:30:01Z, true",
    "2026-11-25T06:00:00Z, true"
  })
  void a_clock_of_the_day_is_forgotten_an_hour_after_the_working_hours(
      String now, boolean forgotten) {
    assertThat(started("2026-11-24T15:00:00Z", END).isPastHours(Instant.parse(now)))
        .isEqualTo(forgotten);
  }

  @Test
  void whoever_is_called_out_in_the_evening_has_forgotten_nothing() {
    var night = Instant.parse("2026-11-25T01:00:00Z");
    assertThat(started("2026-11-24T17:30:00Z", END).isPastHours(night)).isFalse();
    assertThat(started("2026-11-24T17:30:00Z", END).mustBeSaid(night, LONDON)).isFalse();
  }

  @Test
  void work_on_a_day_without_hours_is_never_past_them() {
    assertThat(started("2026-11-24T09:00:00Z", null).isPastHours(END.plusSeconds(80_000)))
        .isFalse();
  }

  @ParameterizedTest
  @CsvSource({"2026-11-24T23:59:00Z, false", "2026-11-25T00:00:00Z, true"})
  void its_end_must_be_said_once_its_day_is_over(String now, boolean must) {
    assertThat(started("2026-11-24T15:00:00Z", END).mustBeSaid(Instant.parse(now), LONDON))
        .isEqualTo(must);
  }

  @ParameterizedTest
  @CsvSource({
    // What ran, on which visit; what is started, on which.
    "LABOUR, 1, LABOUR, 2, true",
    "DRIVE, 1, LABOUR, 2, true",
    "DRIVE, 1, LABOUR, 1, false",
    "LABOUR, 1, DRIVE, 2, false",
    "LABOUR, 1, DRIVE, , false",
    "LABOUR, 1, BREAK, , false",
    "DRIVE, 1, DRIVE, 2, false",
    "LABOUR, , LABOUR, 2, false",
    "DRIVE, , LABOUR, 2, false"
  })
  void only_work_elsewhere_leaves_open_when_the_clock_before_ended(
      TimeEntry.Kind kind,
      @Nullable Long visit,
      TimeEntry.Kind next,
      @Nullable Long nextVisit,
      boolean inDoubt) {
    assertThat(new ForgottenClock(kind, visit, END, null).isInDoubt(next, nextVisit))
        .isEqualTo(inDoubt);
  }

  @Test
  void a_break_ends_with_whatever_comes_next() {
    assertThat(new ForgottenClock(BREAK, null, END, null).isInDoubt(LABOUR, 2L)).isFalse();
    assertThat(new ForgottenClock(BREAK, null, END, null).isInDoubt(DRIVE, 2L)).isFalse();
  }
}
