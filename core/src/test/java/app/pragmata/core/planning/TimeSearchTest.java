package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.planning.PersonDay.Stop;
import app.pragmata.core.planning.TimeSearch.Found;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class TimeSearchTest {
  private static final LocalDate MONDAY = LocalDate.of(2026, 11, 30);
  private static final Stretch ANY = new Stretch(0, Stretch.DAY);

  /** Everywhere lies on one road from west to east, a minute for each thousandth of a degree. */
  private static final Ways ROAD =
      (from, to) -> {
        int minutes = (int) Math.round(Math.abs(from.longitude() - to.longitude()) * 1000);
        return new Way(minutes, minutes * 1000, false);
      };

  private static final Place HOME = at(0);

  private static Place at(int minutesFromHome) {
    return new Place(53, minutesFromHome / 1000.0);
  }

  private static Stop stop(long visit, int minutesFromHome, int from, int to) {
    return new Stop(visit, at(minutesFromHome), new Stretch(from, to));
  }

  private static PersonDay day(long person, LocalDate day, Stop... stops) {
    return new PersonDay(
        person,
        day,
        HOME,
        List.of(new Stretch(480, 1020)),
        List.of(),
        List.of(),
        Set.of(1L),
        List.of(stops));
  }

  private static Wanted wanted(
      int minutesFromHome, int minutes, @Nullable LocalDateTime respondBy) {
    return new Wanted(99L, at(minutesFromHome), minutes, Set.of(1L), null, respondBy);
  }

  private static TimeSearch from(LocalDateTime earliest) {
    return new TimeSearch(ROAD, earliest, ANY);
  }

  private static List<Found> best(Wanted wanted, PersonDay... days) {
    return from(MONDAY.atTime(6, 0)).best(wanted, List.of(days), 3);
  }

  @Test
  void a_visit_begins_and_ends_while_its_site_is_open() {
    var open = new Stretch(610, 700);
    var wanted = new Wanted(99L, at(10), "", open, 60, Set.of(1L), 1, null, null, null);
    assertThat(best(wanted, day(1, MONDAY)))
        .extracting(Found::at)
        .containsExactly(new Stretch(610, 670));
    assertThat(best(wanted, day(1, MONDAY, new Stop(7, HOME, new Stretch(600, 640)))))
        .as("too late to end by then")
        .isEmpty();
  }

  @Test
  void an_empty_day_begins_with_it() {
    assertThat(best(wanted(10, 60, null), day(1, MONDAY)))
        .containsExactly(
            new Found(
                1,
                List.of(),
                MONDAY,
                new Stretch(480, 540),
                null,
                new Way(10, 10_000, false),
                20,
                0));
  }

  @Test
  void the_drive_from_the_stop_before_is_part_of_it() {
    Found found = best(wanted(20, 60, null), day(1, MONDAY, stop(5, 12, 480, 901))).getFirst();
    assertThat(found.at()).isEqualTo(new Stretch(910, 970));
    assertThat(found.afterVisitId()).isEqualTo(5);
    assertThat(found.drive().minutes()).isEqualTo(8);
  }

  @Test
  void whoever_is_near_anyway_goes_rather_than_somebody_who_is_free_an_hour_earlier() {
    PersonDay near = day(1, MONDAY, stop(5, 40, 480, 600));
    PersonDay far = day(2, MONDAY);
    assertThat(best(wanted(40, 60, null), far, near)).first().returns(1L, Found::personId);
  }

  @Test
  void what_was_promised_is_kept_even_if_somebody_else_would_drive_less() {
    PersonDay near = day(1, MONDAY, stop(5, 40, 480, 840));
    PersonDay far = day(2, MONDAY);
    List<Found> found = best(wanted(40, 60, MONDAY.atTime(10, 0)), near, far);
    assertThat(found).extracting(Found::personId).containsExactly(2L, 1L);
    assertThat(found).extracting(Found::lateMinutes).containsExactly(0, 240);
  }

  @Test
  void whoever_lacks_what_is_needed_is_not_offered() {
    var unskilled =
        new PersonDay(
            3,
            MONDAY,
            HOME,
            List.of(new Stretch(480, 1020)),
            List.of(),
            List.of(),
            Set.of(),
            List.of());
    assertThat(best(wanted(10, 60, null), unskilled)).isEmpty();
  }

  @Test
  void nothing_is_offered_before_what_a_visit_waits_for() {
    var part = new Wanted(99L, HOME, 60, Set.of(1L), MONDAY.plusDays(1).atTime(10, 2), null);
    List<PersonDay> days = List.of(day(1, MONDAY), day(1, MONDAY.plusDays(1)));
    assertThat(best(part, days.toArray(PersonDay[]::new)))
        .extracting(found -> found.day().atTime(found.at().start()))
        .containsExactly(MONDAY.plusDays(1).atTime(10, 5));
    assertThat(day(1, MONDAY).clashes(part, new Stretch(600, 660), ROAD))
        .containsExactly(Clash.TOO_EARLY);
  }

  @Test
  void nothing_is_offered_while_somebody_is_away() {
    var away =
        new PersonDay(
            3,
            MONDAY,
            HOME,
            List.of(new Stretch(480, 1020)),
            List.of(new Stretch(0, 720)),
            List.of(),
            Set.of(1L),
            List.of());
    assertThat(best(wanted(10, 60, null), away)).first().returns(720, each -> each.at().from());
  }

  @Test
  void nothing_is_offered_before_somebody_could_be_there() {
    Found found =
        from(MONDAY.atTime(9, 58))
            .best(wanted(30, 60, null), List.of(day(1, MONDAY)), 3)
            .getFirst();
    assertThat(found.at().from()).isEqualTo(630);
  }

  @Test
  void days_that_have_passed_are_not_offered() {
    assertThat(best(wanted(10, 60, null), day(1, MONDAY.minusDays(3)))).isEmpty();
  }

  @Test
  void only_the_part_of_a_day_that_suits_is_offered() {
    var afternoons = new TimeSearch(ROAD, MONDAY.atTime(6, 0), new Stretch(720, Stretch.DAY));
    assertThat(afternoons.best(wanted(10, 60, null), List.of(day(1, MONDAY)), 3))
        .first()
        .returns(720, each -> each.at().from());
  }

  @Test
  void a_visit_does_not_stand_in_its_own_way() {
    PersonDay own = day(1, MONDAY, stop(99, 10, 480, 1020));
    assertThat(best(wanted(10, 60, null), own)).first().returns(480, each -> each.at().from());
  }

  @Test
  void each_day_of_each_person_is_offered_once() {
    assertThat(
            best(wanted(10, 60, null), day(1, MONDAY), day(1, MONDAY.plusDays(1)), day(2, MONDAY)))
        .extracting(found -> found.personId() + " " + found.day())
        .containsExactly("1 2026-11-30", "2 2026-11-30", "1 2026-12-01");
  }

  @Property(tries = 500)
  void a_time_that_is_found_clashes_with_nothing_but_a_promise(@ForAll Random random) {
    PersonDay day = anyDay(random);
    Wanted wanted =
        wanted(
            random.nextInt(60),
            15 + random.nextInt(240),
            random.nextBoolean() ? null : MONDAY.atTime(random.nextInt(24), 0));
    for (Found found : best(wanted, day)) {
      Set<Clash> allowed = EnumSet.noneOf(Clash.class);
      if (found.lateMinutes() > 0) {
        allowed.add(Clash.AFTER_RESPOND_BY);
      }
      assertThat(day.clashes(wanted, found.at(), ROAD)).isEqualTo(allowed);
    }
  }

  @Property(tries = 500)
  void the_added_minutes_are_by_how_much_the_days_driving_grows(@ForAll Random random) {
    PersonDay day = anyDay(random);
    Wanted wanted = wanted(random.nextInt(60), 15 + random.nextInt(120), null);
    for (Found found : best(wanted, day)) {
      var stops = new ArrayList<>(day.stops());
      stops.add(new Stop(99, wanted.place(), found.at()));
      var with =
          new PersonDay(
              1, MONDAY, HOME, day.working(), day.away(), day.held(), day.skillIds(), stops);
      assertThat(driving(with) - driving(day)).isEqualTo(found.addedMinutes());
    }
  }

  @Property(tries = 500)
  void where_nothing_is_found_every_time_clashes(@ForAll Random random) {
    PersonDay day = anyDay(random);
    Wanted wanted = wanted(random.nextInt(60), 120 + random.nextInt(300), null);
    if (best(wanted, day).isEmpty()) {
      for (int from = 0; from < Stretch.DAY; from += 5) {
        assertThat(day.clashes(wanted, new Stretch(from, from + wanted.minutes()), ROAD))
            .isNotEmpty();
      }
    }
  }

  private static int driving(PersonDay day) {
    return day.legs(ROAD).stream().mapToInt(leg -> leg.way().minutes()).sum();
  }

  /** A day of up to three stops, one after the other but not always with time to drive between. */
  private static PersonDay anyDay(Random random) {
    var stops = new ArrayList<Stop>();
    int from = 400 + random.nextInt(200);
    int count = random.nextInt(4);
    for (int visit = 1; visit <= count; visit++) {
      int to = from + 15 + random.nextInt(150);
      stops.add(stop(visit, random.nextInt(60), from, to));
      from = to + random.nextInt(120);
    }
    List<Stretch> away =
        random.nextInt(3) > 0 ? List.of() : List.of(new Stretch(600, 660 + random.nextInt(200)));
    return new PersonDay(
        1, MONDAY, HOME, List.of(new Stretch(480, 1020)), away, List.of(), Set.of(1L), stops);
  }
}
