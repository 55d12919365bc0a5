package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.planning.PersonDay.Leg;
import app.pragmata.core.planning.PersonDay.Stop;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class PersonDayTest {
  private static final LocalDate DAY = LocalDate.of(2026, 11, 30);
  private static final Place HOME = new Place(53, 0);
  private static final Place QUAY = new Place(53.1, 0);
  private static final Place SHED = new Place(53.2, 0);

  private static final List<Stretch> HELD = List.of(new Stretch(60, 120));

  /** Every drive takes a quarter of an hour. */
  private static final Ways WAYS = (from, to) -> new Way(15, 9_000, false);

  private static PersonDay day(@Nullable Place base, List<Stretch> away, Stop... stops) {
    return new PersonDay(
        1, DAY, base, List.of(new Stretch(480, 1020)), away, HELD, Set.of(4L), List.of(stops));
  }

  private static Set<Clash> clashes(PersonDay day, int from, int to) {
    return day.clashes(
        new Wanted(9L, SHED, to - from, Set.of(4L), null, DAY.atTime(15, 0)),
        new Stretch(from, to),
        WAYS);
  }

  @Test
  void a_time_that_is_held_for_somebody_is_open_to_nobody_else() {
    assertThat(clashes(day(HOME, List.of()), 100, 160)).contains(Clash.HELD);
    assertThat(clashes(day(HOME, List.of()), 120, 180)).doesNotContain(Clash.HELD);
    var held =
        new PersonDay(
            1,
            DAY,
            HOME,
            List.of(new Stretch(480, 1020)),
            List.of(),
            List.of(new Stretch(600, 660)),
            Set.of(),
            List.of());
    assertThat(held.open()).containsExactly(new Stretch(480, 600), new Stretch(660, 1020));
  }

  @Test
  void a_site_that_closes_before_the_work_ends_speaks_against_it() {
    var school =
        new Wanted(9L, SHED, "", new Stretch(480, 930), 60, Set.of(4L), 1, null, null, null);
    PersonDay day = day(HOME, List.of());
    assertThat(day.clashes(school, new Stretch(880, 940), WAYS)).contains(Clash.SITE_CLOSED);
    assertThat(day.clashes(school, new Stretch(870, 930), WAYS)).doesNotContain(Clash.SITE_CLOSED);
  }

  @Test
  void a_drive_begins_as_late_as_it_may() {
    PersonDay day = day(HOME, List.of(), new Stop(5, QUAY, new Stretch(600, 660)));
    assertThat(day.legs(WAYS))
        .containsExactly(
            new Leg(null, 5L, WAYS.between(HOME, QUAY), 585, 0),
            new Leg(5L, null, WAYS.between(QUAY, HOME), 660, 0));
  }

  @Test
  void a_day_without_a_base_begins_and_ends_at_its_stops() {
    assertThat(day(null, List.of(), new Stop(5, QUAY, new Stretch(600, 660))).legs(WAYS)).isEmpty();
  }

  @Test
  void a_drive_that_does_not_fit_says_by_how_much() {
    PersonDay day =
        day(
            null,
            List.of(),
            new Stop(6, SHED, new Stretch(665, 700)),
            new Stop(5, QUAY, new Stretch(600, 660)));
    assertThat(day.legs(WAYS)).extracting(Leg::lateMinutes).containsExactly(10);
  }

  @Test
  void nothing_speaks_against_a_time_that_is_free() {
    PersonDay day = day(HOME, List.of(), new Stop(5, QUAY, new Stretch(600, 660)));
    assertThat(clashes(day, 675, 720)).isEmpty();
  }

  @Test
  void two_places_at_once_overlap() {
    PersonDay day = day(HOME, List.of(), new Stop(5, QUAY, new Stretch(600, 660)));
    assertThat(clashes(day, 659, 700)).containsExactly(Clash.OVERLAP);
  }

  @Test
  void a_drive_has_to_fit_before_and_after() {
    PersonDay day =
        day(
            HOME,
            List.of(),
            new Stop(5, QUAY, new Stretch(600, 660)),
            new Stop(6, QUAY, new Stretch(780, 840)));
    assertThat(clashes(day, 674, 700)).containsExactly(Clash.DRIVE_DOES_NOT_FIT);
    assertThat(clashes(day, 675, 766)).containsExactly(Clash.DRIVE_DOES_NOT_FIT);
    assertThat(clashes(day, 675, 765)).isEmpty();
  }

  @Test
  void whoever_is_away_is_not_there() {
    assertThat(clashes(day(HOME, List.of(new Stretch(0, 720))), 700, 760))
        .containsExactly(Clash.ABSENT);
  }

  @Test
  void work_lies_in_the_hours_of_whoever_does_it() {
    assertThat(clashes(day(HOME, List.of()), 470, 500)).containsExactly(Clash.OUTSIDE_HOURS);
  }

  @Test
  void a_promise_is_kept_by_beginning_in_time() {
    assertThat(clashes(day(HOME, List.of()), 900, 1000)).isEmpty();
    assertThat(clashes(day(HOME, List.of()), 901, 1000)).containsExactly(Clash.AFTER_RESPOND_BY);
  }

  @Test
  void what_is_needed_has_to_be_known() {
    Wanted wanted = new Wanted(9L, SHED, 60, Set.of(4L, 8L), null, null);
    assertThat(day(HOME, List.of()).clashes(wanted, new Stretch(600, 660), WAYS))
        .containsExactly(Clash.SKILL_MISSING);
  }
}
