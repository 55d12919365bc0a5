package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class CrewTest {
  private static final LocalDate DAY = LocalDate.of(2026, 11, 30);
  private static final Ways WAYS = (from, to) -> Way.NONE;
  private static final Stretch AT = new Stretch(600, 720);

  private static PersonDay day(long person, Set<Long> skillIds, PersonDay.Stop... stops) {
    return new PersonDay(
        person,
        DAY,
        null,
        List.of(new Stretch(480, 1020)),
        List.of(),
        List.of(),
        skillIds,
        List.of(stops));
  }

  private static Map<Clash, Set<Long>> clashes(PersonDay... crew) {
    var wanted = new Wanted(9L, null, 120, Set.of(1L, 2L), null, DAY.atTime(9, 0));
    return Crew.of(List.of(crew), AT).clashes(wanted, WAYS);
  }

  @Test
  void a_crew_knows_what_its_people_know_together() {
    assertThat(clashes(day(1, Set.of(1L)), day(2, Set.of(2L))))
        .doesNotContainKey(Clash.SKILL_MISSING);
    assertThat(clashes(day(1, Set.of(1L)), day(2, Set.of())))
        .containsEntry(Clash.SKILL_MISSING, Set.of(1L));
  }

  @Test
  void whoever_is_elsewhere_is_named_and_a_late_crew_is_late_once() {
    var elsewhere = new PersonDay.Stop(4, null, new Stretch(700, 800));
    assertThat(clashes(day(1, Set.of(1L, 2L)), day(2, Set.of(), elsewhere)))
        .isEqualTo(Map.of(Clash.OVERLAP, Set.of(2L), Clash.AFTER_RESPOND_BY, Set.of(1L)));
  }

  @Test
  void of_a_past_day_it_only_matters_that_nobody_was_at_two_places() {
    assertThat(Crew.ofThePast(Set.of(Clash.OVERLAP, Clash.OUTSIDE_HOURS)))
        .containsExactly(Clash.OVERLAP);
    assertThat(Crew.ofThePast(Set.of())).isEmpty();
  }
}
