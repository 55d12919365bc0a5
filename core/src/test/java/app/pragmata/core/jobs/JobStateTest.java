package app.pragmata.core.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

class JobStateTest {
  @Test
  void a_job_with_a_finished_visit_waits_for_the_check_even_when_another_is_planned() {
    assertThat(after(new VisitState.Finished(), new VisitState.Planned()))
        .isInstanceOf(JobState.Worked.class);
  }

  @Test
  void a_job_is_checked_once_every_visit_that_happened_is() {
    assertThat(after(new VisitState.Checked(), new VisitState.CalledOff()))
        .isInstanceOf(JobState.Checked.class);
  }

  @Test
  void a_job_with_a_visit_still_ahead_stays_open_after_one_is_checked() {
    assertThat(after(new VisitState.Checked(), new VisitState.Planned()))
        .isInstanceOf(JobState.Open.class);
  }

  @Test
  void a_job_whose_only_visit_did_not_happen_makes_no_invoice() {
    assertThat(after(new VisitState.NotThisTime())).isInstanceOf(JobState.Open.class);
  }

  @Test
  void a_job_without_visits_is_open() {
    assertThat(after()).isInstanceOf(JobState.Open.class);
  }

  @Test
  void a_checked_job_whose_visit_is_reopened_waits_for_the_check_again() {
    assertThat(new JobState.Checked().after(List.of(new VisitState.Finished()), false))
        .isInstanceOf(JobState.Worked.class);
  }

  @Test
  void a_job_whose_work_is_checked_is_open_while_a_part_is_wanted() {
    List<VisitState> visits = List.of(new VisitState.Checked());
    assertThat(new JobState.Open().after(visits, true)).isInstanceOf(JobState.Open.class);
    assertThat(new JobState.Open().after(visits, false)).isInstanceOf(JobState.Checked.class);
  }

  @Property
  void the_order_of_the_visits_does_not_matter(@ForAll("visits") List<VisitState> visits) {
    assertThat(new JobState.Open().after(visits.reversed(), false))
        .isEqualTo(new JobState.Open().after(visits, false));
  }

  @Property
  void nothing_can_be_billed_while_a_visit_waits_for_its_check(
      @ForAll("visits") List<VisitState> visits) {
    if (visits.stream().anyMatch(VisitState.Finished.class::isInstance)) {
      assertThat(new JobState.Open().after(visits, false)).isInstanceOf(JobState.Worked.class);
    }
  }

  @Property
  void a_job_is_never_checked_without_a_checked_visit(@ForAll("visits") List<VisitState> visits) {
    if (visits.stream().noneMatch(VisitState.Checked.class::isInstance)) {
      assertThat(new JobState.Open().after(visits, false)).isNotInstanceOf(JobState.Checked.class);
    }
  }

  @Provide
  Arbitrary<List<VisitState>> visits() {
    return Arbitraries.<VisitState>of(
            new VisitState.Unplanned(),
            new VisitState.Planned(),
            new VisitState.Driving(),
            new VisitState.OnSite(),
            new VisitState.Finished(),
            new VisitState.Checked(),
            new VisitState.NotThisTime(),
            new VisitState.CalledOff())
        .list()
        .ofMaxSize(5);
  }

  private static JobState after(VisitState... visits) {
    return new JobState.Open().after(List.of(visits), false);
  }
}
