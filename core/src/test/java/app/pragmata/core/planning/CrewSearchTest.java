package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import app.pragmata.core.planning.PersonDay.Stop;
import app.pragmata.core.planning.PlanProposal.Placed;
import app.pragmata.core.planning.PlanProposal.Unplaced;
import app.pragmata.core.planning.PlanProposal.Why;
import app.pragmata.core.planning.TimeSearch.Found;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Times for several people at once, in areas that not everybody covers, and as was told. */
class CrewSearchTest {
  private static final LocalDate MONDAY = LocalDate.of(2026, 11, 30);
  private static final LocalDateTime EARLY = MONDAY.atTime(5, 0);
  private static final TimeSearch SEARCH =
      new TimeSearch(CrewSearchTest::way, EARLY, new Stretch(0, Stretch.DAY));

  private static Way way(Place from, Place to) {
    int minutes = (int) Math.round(Math.abs(from.longitude() - to.longitude()) * 1000);
    return new Way(minutes, minutes * 1000, false);
  }

  private static Place at(int minutesFromHome) {
    return new Place(53, minutesFromHome / 1000.0);
  }

  private static Stop stop(long visit, int minutesFromHome, int from, int to) {
    return new Stop(visit, at(minutesFromHome), new Stretch(from, to));
  }

  private static PersonDay day(long person, Set<Long> skillIds, Stop... stops) {
    return covering(person, Set.of(), skillIds, stops);
  }

  private static PersonDay covering(
      long person, Set<String> districts, Set<Long> skillIds, Stop... stops) {
    return new PersonDay(
        person,
        MONDAY,
        at(0),
        List.of(new Stretch(480, 1020)),
        List.of(),
        List.of(),
        skillIds,
        districts,
        List.of(stops));
  }

  private static Wanted wanted(
      int minutes, int people, Set<Long> skillIds, @Nullable Promised promised) {
    return new Wanted(99L, at(10), "OS5", null, minutes, skillIds, people, null, null, promised);
  }

  @Test
  void a_crew_begins_when_the_last_of_them_can() {
    PersonDay busy = day(2, Set.of(), stop(7, 10, 480, 605));
    assertThat(SEARCH.best(wanted(60, 2, Set.of(), null), List.of(day(1, Set.of()), busy), 3))
        .first()
        .returns(605, found -> found.at().from())
        .returns(20, Found::addedMinutes);
  }

  @Test
  void whoever_knows_what_is_needed_is_responsible_and_the_nearest_come_along() {
    List<PersonDay> days =
        List.of(
            day(1, Set.of(), stop(7, 40, 480, 600)),
            day(2, Set.of(), stop(8, 10, 480, 540)),
            day(3, Set.of(5L), stop(9, 50, 480, 500)));
    assertThat(SEARCH.best(wanted(60, 2, Set.of(5L), null), days, 1))
        .singleElement()
        .returns(3L, Found::personId)
        .returns(List.of(2L), Found::companionIds);
  }

  @Test
  void a_crew_that_only_together_knows_everything_is_found() {
    List<PersonDay> days =
        List.of(day(1, Set.of(5L)), day(2, Set.of(5L)), day(3, Set.of(6L, 7L)), day(4, Set.of(7L)));
    List<Found> found = SEARCH.best(wanted(60, 2, Set.of(5L, 6L, 7L), null), days, 9);
    assertThat(found)
        .isNotEmpty()
        .allSatisfy(each -> assertThat(crewIds(each)).contains(3L).containsAnyOf(1L, 2L));
    assertThat(SEARCH.best(wanted(60, 2, Set.of(5L, 6L, 8L), null), days, 9)).isEmpty();
  }

  @Test
  void whoever_does_not_go_to_a_district_is_not_offered_there() {
    List<PersonDay> days =
        List.of(covering(1, Set.of("OS1"), Set.of()), covering(2, Set.of("OS1", "OS5"), Set.of()));
    Wanted visit = wanted(60, 1, Set.of(), null);
    assertThat(SEARCH.best(visit, days, 9)).extracting(Found::personId).containsExactly(2L);
    assertThat(days.getFirst().clashes(visit, new Stretch(600, 660), CrewSearchTest::way))
        .containsExactly(Clash.OUT_OF_AREA);
  }

  @Test
  void somebody_else_comes_as_the_customer_was_told_where_they_can() {
    var told = Promised.of(MONDAY, LocalTime.of(14, 10));
    Wanted visit = wanted(60, 1, Set.of(), told);
    assertThat(Relay.propose(List.of(visit), List.of(day(1, Set.of())), SEARCH))
        .singleElement()
        .returns(840, move -> move.found().at().from());
    PersonDay taken = day(1, Set.of(), stop(7, 10, 780, 1000));
    assertThat(Relay.propose(List.of(visit), List.of(taken), SEARCH))
        .singleElement()
        .returns(480, move -> move.found().at().from());
  }

  @Test
  void a_proposal_keeps_what_a_customer_was_told_or_leaves_the_visit_out() {
    var told = Promised.of(MONDAY, LocalTime.of(14, 10));
    var task = new PlanTask(wanted(60, 1, Set.of(), told), null);
    assertThat(plan(List.of(day(1, Set.of())), task).placed())
        .extracting(placed -> placed.at().from())
        .containsExactly(840);
    PersonDay taken = day(1, Set.of(), stop(7, 10, 780, 1000));
    assertThat(plan(List.of(taken), task).unplaced())
        .containsExactly(new Unplaced(99, Why.NO_ROOM));
    PersonDay elsewhere = covering(1, Set.of("OS1"), Set.of());
    assertThat(plan(List.of(elsewhere), task).unplaced())
        .containsExactly(new Unplaced(99, Why.OUT_OF_AREA));
  }

  @Test
  void a_proposal_sends_a_crew_and_lays_the_others_around_it() {
    var alone = new PlanTask(new Wanted(1L, at(10), 240, Set.of(), null, null), null);
    var crew = new PlanTask(wanted(240, 2, Set.of(), null), null);
    PlanProposal proposal = plan(List.of(day(1, Set.of()), day(2, Set.of())), alone, crew);
    assertThat(proposal.placed())
        .extracting(Placed::visitId, placed -> placed.companionIds().size(), p -> p.at().from())
        .containsExactly(tuple(99L, 1, 480), tuple(1L, 0, 720));
    assertThat(proposal.figures().drivingMinutes()).isEqualTo(40);
  }

  private static PlanProposal plan(List<PersonDay> days, PlanTask... tasks) {
    var rounds = new int[1];
    return new PlanSearch(CrewSearchTest::way, EARLY, days, List.of(tasks), Penalties.USUAL, 7)
        .search(() -> rounds[0]++ / 20d, better -> {});
  }

  @Property(tries = 300)
  void a_crew_that_is_found_clashes_with_nothing_and_grows_its_days_by_what_is_added(
      @ForAll Random dice) {
    List<PersonDay> days = anyDays(dice);
    Wanted visit = anyWanted(dice);
    for (Found found : SEARCH.best(visit, days, 9)) {
      assertThat(Crew.of(of(found, days), found.at()).clashes(visit, CrewSearchTest::way))
          .isEmpty();
      assertThat(driving(found.taken(visit, days)) - driving(days)).isEqualTo(found.addedMinutes());
    }
  }

  @Property(tries = 100)
  void where_no_crew_is_found_every_crew_clashes_at_every_time(@ForAll Random dice) {
    List<PersonDay> days = anyDays(dice);
    Wanted visit = anyWanted(dice);
    if (SEARCH.best(visit, days, 1).isEmpty()) {
      for (List<PersonDay> crew : crews(days, visit.crewSize())) {
        for (int from = 0; from < Stretch.DAY; from += 5) {
          var at = new Stretch(from, from + visit.minutes());
          assertThat(Crew.of(crew, at).clashes(visit, CrewSearchTest::way)).isNotEmpty();
        }
      }
    }
  }

  @Property(tries = 300)
  void putting_a_visit_on_and_taking_it_off_again_changes_nothing(@ForAll Random dice) {
    List<PersonDay> days = anyDays(dice);
    Wanted visit = anyWanted(dice);
    for (Found found : SEARCH.best(visit, days, 3)) {
      assertThat(found.taken(visit, days).stream().map(day -> day.without(99L))).isEqualTo(days);
    }
  }

  private static List<List<PersonDay>> crews(List<PersonDay> from, int size) {
    if (size == 0) {
      return List.of(List.of());
    }
    return IntStream.range(0, from.size())
        .boxed()
        .flatMap(
            i ->
                crews(from.subList(i + 1, from.size()), size - 1).stream()
                    .map(rest -> Stream.concat(Stream.of(from.get(i)), rest.stream()).toList()))
        .toList();
  }

  private static Wanted anyWanted(Random dice) {
    Set<Long> skillIds =
        IntStream.range(0, dice.nextInt(3)).mapToObj(i -> (long) i).collect(Collectors.toSet());
    return wanted(60 + dice.nextInt(300), 2 + dice.nextInt(2), skillIds, null);
  }

  private static List<PersonDay> anyDays(Random dice) {
    return IntStream.rangeClosed(1, 2 + dice.nextInt(3))
        .mapToObj(
            person -> {
              var stops = new ArrayList<Stop>();
              int from = 400 + dice.nextInt(200);
              for (int i = dice.nextInt(3); i > 0; i--) {
                int to = from + 15 + dice.nextInt(150);
                stops.add(stop(10L * person + i, dice.nextInt(40), from, to));
                from = to + dice.nextInt(120);
              }
              Set<String> districts = dice.nextInt(4) == 0 ? Set.of("OS1") : Set.of();
              return covering(person, districts, skills(dice), stops.toArray(Stop[]::new));
            })
        .toList();
  }

  private static Set<Long> skills(Random dice) {
    return Stream.of(0L, 1L).filter(skill -> dice.nextBoolean()).collect(Collectors.toSet());
  }

  private static List<PersonDay> of(Found found, List<PersonDay> days) {
    return crewIds(found).stream()
        .map(id -> days.stream().filter(day -> day.personId() == id).findFirst().orElseThrow())
        .toList();
  }

  private static List<Long> crewIds(Found found) {
    return Stream.concat(Stream.of(found.personId()), found.companionIds().stream()).toList();
  }

  private static int driving(List<PersonDay> days) {
    return days.stream()
        .flatMap(day -> day.legs(CrewSearchTest::way).stream())
        .mapToInt(leg -> leg.way().minutes())
        .sum();
  }
}
