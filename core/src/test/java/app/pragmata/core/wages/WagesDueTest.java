package app.pragmata.core.wages;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.PayClass;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.wages.PaidWeek.PaidTime;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

class WagesDueTest {
  private static final LocalDate MONDAY = LocalDate.of(2026, 11, 23);

  private static PaidTime labour(int day, PayClass payClass, long job, int minutes) {
    return new PaidTime(MONDAY.plusDays(day), payClass, Kind.LABOUR, job, "", minutes);
  }

  @Test
  void what_never_went_out_is_due_as_it_stands() {
    List<PaidTime> standing = List.of(labour(0, PayClass.NORMAL, 2001, 95));
    assertThat(WagesDue.of(standing, List.of())).isEqualTo(standing);
  }

  @Test
  void a_clock_that_was_put_right_afterwards_is_due_by_what_it_differs() {
    assertThat(
            WagesDue.of(
                List.of(
                    labour(0, PayClass.NORMAL, 2001, 480), labour(0, PayClass.OVERTIME, 2001, 15)),
                List.of(
                    labour(0, PayClass.NORMAL, 2001, 480), labour(0, PayClass.OVERTIME, 2001, 45))))
        .containsExactly(labour(0, PayClass.OVERTIME, 2001, -30));
  }

  @Test
  void time_that_was_moved_to_another_job_leaves_the_one_and_joins_the_other() {
    assertThat(
            WagesDue.of(
                List.of(labour(1, PayClass.NORMAL, 2002, 60)),
                List.of(labour(1, PayClass.NORMAL, 2001, 60))))
        .containsExactlyInAnyOrder(
            labour(1, PayClass.NORMAL, 2001, -60), labour(1, PayClass.NORMAL, 2002, 60));
  }

  @Property
  void what_went_out_and_what_is_due_add_up_to_what_stands(
      @ForAll("times") List<PaidTime> standing,
      @ForAll("times") List<PaidTime> first,
      @ForAll("times") List<PaidTime> second) {
    List<PaidTime> sent = new ArrayList<>();
    for (List<PaidTime> stood : List.of(first, second, standing)) {
      sent.addAll(WagesDue.of(stood, sent));
    }
    assertThat(PaidWeek.minutesByClass(sent).values().stream().filter(minutes -> minutes != 0))
        .containsExactlyElementsOf(PaidWeek.minutesByClass(standing).values());
    assertThat(WagesDue.of(standing, sent)).isEmpty();
  }

  @Provide
  Arbitrary<List<PaidTime>> times() {
    return Combinators.combine(
            Arbitraries.integers().between(0, 2),
            Arbitraries.of(PayClass.NORMAL, PayClass.OVERTIME),
            Arbitraries.longs().between(2001, 2002),
            Arbitraries.integers().between(1, 600))
        .as(WagesDueTest::labour)
        .list()
        .ofMaxSize(8);
  }
}
