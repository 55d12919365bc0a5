package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.LineVisit.JobVisit;
import app.pragmata.core.planning.LineVisit.Standing;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class LineVisitTest {
  private static final LocalDate DAY = LocalDate.of(2026, 12, 1);
  private static final Instant PROMISED = Instant.parse("2026-12-02T09:00:00Z");

  private static final JobVisit DONE_BEFORE =
      new JobVisit(1, VisitState.Code.CHECKED, DAY, Instant.parse("2026-12-01T15:00:00Z"));
  private static final JobVisit DONE_AFTER =
      new JobVisit(2, VisitState.Code.FINISHED, DAY, Instant.parse("2026-12-03T15:00:00Z"));
  private static final JobVisit PLANNED =
      new JobVisit(3, VisitState.Code.PLANNED, DAY.plusDays(5), null);
  private static final JobVisit WAITING = new JobVisit(4, VisitState.Code.UNPLANNED, null, null);
  private static final JobVisit CALLED_OFF =
      new JobVisit(5, VisitState.Code.CALLED_OFF, DAY.plusDays(5), null);

  private static LineVisit of(@Nullable Long chosen, JobVisit... visits) {
    return LineVisit.of(PROMISED, chosen, null, List.of(visits));
  }

  @Test
  void the_next_visit_of_its_job_does_a_line() {
    assertThat(of(null, DONE_AFTER, WAITING, PLANNED))
        .isEqualTo(new LineVisit(Standing.PLANNED, PLANNED));
    assertThat(of(null, DONE_AFTER, WAITING)).isEqualTo(new LineVisit(Standing.WAITING, WAITING));
    assertThat(of(null, DONE_AFTER)).isEqualTo(new LineVisit(Standing.DONE, DONE_AFTER));
  }

  @Test
  void a_visit_that_was_over_before_a_line_was_promised_did_not_do_it() {
    assertThat(of(null, DONE_BEFORE)).isEqualTo(new LineVisit(Standing.MISSING, null));
    assertThat(of(1L, DONE_BEFORE).standing()).isEqualTo(Standing.DONE);
  }

  @Test
  void a_line_whose_chosen_visit_is_called_off_needs_one_again() {
    assertThat(of(5L, CALLED_OFF, PLANNED).standing()).isEqualTo(Standing.MISSING);
    assertThat(of(null, CALLED_OFF).standing()).isEqualTo(Standing.MISSING);
  }

  @Test
  void a_line_that_is_ticked_off_is_done_whatever_visit_comes_next() {
    assertThat(LineVisit.of(PROMISED, null, 2L, List.of(DONE_AFTER, PLANNED)))
        .isEqualTo(new LineVisit(Standing.DONE, DONE_AFTER));
  }
}
