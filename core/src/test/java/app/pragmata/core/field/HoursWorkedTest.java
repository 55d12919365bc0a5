package app.pragmata.core.field;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.RateClass;
import app.pragmata.core.field.HoursWorked.Worked;
import app.pragmata.core.jobs.TimeEntry.Kind;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class HoursWorkedTest {
  @Test
  void a_week_is_summed_by_what_was_done_and_by_class_and_a_break_is_paid_to_nobody() {
    assertThat(
            HoursWorked.of(
                List.of(
                    new Worked(Kind.DRIVE, true, RateClass.NORMAL, 40),
                    new Worked(Kind.LABOUR, true, RateClass.NORMAL, 155),
                    new Worked(Kind.LABOUR, true, RateClass.OVERTIME, 45),
                    new Worked(Kind.BREAK, false, RateClass.NORMAL, 30),
                    new Worked(Kind.LABOUR, false, RateClass.NORMAL, 90),
                    new Worked(Kind.DRIVE, false, RateClass.NIGHT, 20))))
        .isEqualTo(new HoursWorked(200, 90, 60, 30, 285, 45, 20));
  }

  @Property
  void what_is_paid_is_the_sum_of_its_classes_and_nothing_is_lost(
      @ForAll @Size(max = 30) List<Kind> kinds,
      @ForAll boolean onVisit,
      @ForAll RateClass rateClass,
      @ForAll @IntRange(max = 960) int minutes) {
    HoursWorked worked =
        HoursWorked.of(
            kinds.stream().map(kind -> new Worked(kind, onVisit, rateClass, minutes)).toList());
    assertThat(worked.normal() + worked.overtime() + worked.night()).isEqualTo(worked.paid());
    assertThat(worked.paid() + worked.breaks()).isEqualTo(kinds.size() * minutes);
  }
}
