package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.planning.PersonDay.Stop;
import app.pragmata.core.planning.PlanProposal.Placed;
import app.pragmata.core.planning.PlanProposal.Why;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class PlanSearchTest {
  private static final LocalDate DAY = LocalDate.of(2026, 11, 30);
  private static final LocalDateTime EARLY = DAY.atStartOfDay();
  private static final Place HOME = new Place(53, 0);

  /** A degree is a hundred minutes, along both. */
  private static final Ways WAYS =
      (from, to) -> {
        double degrees =
            Math.abs(from.latitude() - to.latitude()) + Math.abs(from.longitude() - to.longitude());
        return new Way((int) Math.round(100 * degrees), (int) Math.round(100_000 * degrees), false);
      };

  /** So many rounds, told one by one. */
  private static PlanSearch.Effort rounds(int most) {
    var done = new int[1];
    return () -> (double) done[0]++ / most;
  }

  private static PersonDay day(long person, Set<Long> skillIds, Stop... stops) {
    return new PersonDay(
        person,
        DAY,
        HOME,
        List.of(new Stretch(480, 1020)),
        List.of(),
        List.of(),
        skillIds,
        List.of(stops));
  }

  private static PlanTask task(long id, Place place, int minutes, @Nullable LocalDateTime by) {
    return new PlanTask(new Wanted(id, place, minutes, Set.of(), null, by), null);
  }

  private static PlanProposal search(List<PersonDay> days, List<PlanTask> tasks, int rounds) {
    return new PlanSearch(WAYS, EARLY, days, tasks, Penalties.USUAL, 7)
        .search(rounds(rounds), better -> {});
  }

  private static Place at(int minutesNorth, int minutesEast) {
    return new Place(53 + minutesNorth / 100d, minutesEast / 100d);
  }

  @Test
  void what_nobody_knows_how_to_do_and_what_nobody_has_time_for_is_told_apart() {
    var skilled = new Wanted(1L, HOME, 60, Set.of(5L), null, null);
    PlanProposal proposal =
        search(
            List.of(day(1, Set.of())),
            List.of(new PlanTask(skilled, null), task(2, HOME, 600, null)),
            10);
    assertThat(proposal.unplaced())
        .extracting(PlanProposal.Unplaced::why)
        .containsExactly(Why.NOBODY_SKILLED, Why.NO_ROOM);
  }

  @Test
  void whoever_was_promised_first_is_visited_first() {
    PlanProposal proposal =
        search(
            List.of(day(1, Set.of())),
            List.of(task(1, at(5, 0), 60, null), task(2, at(5, 0), 60, DAY.atTime(8, 30))),
            200);
    assertThat(proposal.placed()).extracting(Placed::visitId).containsExactly(2L, 1L);
    assertThat(proposal.figures().lateMinutes()).isZero();
  }

  @Test
  void a_visit_is_laid_where_its_site_is_open() {
    var open = new Stretch(900, 960);
    var wanted = new Wanted(1L, at(3, 0), "", open, 60, Set.of(), 1, null, null, null);
    PlanProposal proposal =
        search(List.of(day(1, Set.of())), List.of(new PlanTask(wanted, null)), 50);
    assertThat(proposal.placed()).extracting(Placed::at).containsExactly(open);
  }

  @Test
  void whoever_has_waited_for_days_is_visited_all_the_same() {
    PlanProposal proposal =
        search(List.of(day(1, Set.of())), List.of(task(1, at(5, 0), 60, EARLY.minusDays(9))), 20);
    assertThat(proposal.placed()).extracting(Placed::visitId).containsExactly(1L);
  }

  @Test
  void whoever_should_go_goes_when_it_costs_little() {
    var wanted = new Wanted(1L, at(3, 0), 60, Set.of(), null, null);
    PlanProposal proposal =
        search(List.of(day(1, Set.of()), day(2, Set.of())), List.of(new PlanTask(wanted, 2L)), 50);
    assertThat(proposal.placed()).extracting(Placed::personId).containsExactly(2L);
    assertThat(proposal.figures().notPreferred()).isZero();
  }

  @Test
  void nothing_is_placed_before_what_a_visit_waits_for() {
    var wanted = new Wanted(1L, at(5, 0), 60, Set.of(), DAY.atTime(13, 10), null);
    assertThat(search(List.of(day(1, Set.of())), List.of(new PlanTask(wanted, null)), 20).placed())
        .extracting(placed -> placed.at().from())
        .containsExactly(790);
  }

  @Test
  void what_is_waited_for_after_these_days_is_told_as_the_reason() {
    var later = new Wanted(1L, HOME, 60, Set.of(), DAY.plusDays(1).atStartOfDay(), null);
    var never = new Wanted(2L, HOME, 60, Set.of(), DAY.plusYears(50).atStartOfDay(), null);
    PlanProposal proposal =
        search(
            List.of(day(1, Set.of())),
            List.of(new PlanTask(later, null), new PlanTask(never, null)),
            20);
    assertThat(proposal.unplaced())
        .extracting(PlanProposal.Unplaced::why)
        .containsExactly(Why.WAITS_LONGER, Why.WAITS_LONGER);
  }

  @Test
  void on_days_at_which_nobody_works_there_is_no_room_whatever_a_visit_needs() {
    var skilled = new Wanted(1L, HOME, 60, Set.of(5L), null, null);
    var idle = new PersonDay(1, DAY, HOME, List.of(), List.of(), List.of(), Set.of(), List.of());
    assertThat(search(List.of(idle), List.of(new PlanTask(skilled, null)), 10).unplaced())
        .extracting(PlanProposal.Unplaced::why)
        .containsExactly(Why.NO_ROOM);
  }

  @Test
  void nothing_is_placed_before_a_technician_can_be_there_today() {
    PlanProposal proposal =
        new PlanSearch(
                WAYS,
                DAY.atTime(10, 2),
                List.of(day(1, Set.of())),
                List.of(task(1, at(20, 0), 60, null)),
                Penalties.USUAL,
                1)
            .search(rounds(20), better -> {});
    assertThat(proposal.placed()).extracting(placed -> placed.at().from()).containsExactly(625);
  }

  private static List<PlanTask> tasks(Random dice, int count) {
    return IntStream.rangeClosed(1, count)
        .mapToObj(
            id ->
                task(
                    id,
                    at(dice.nextInt(30), dice.nextInt(30)),
                    30 + 15 * dice.nextInt(5),
                    dice.nextInt(3) == 0 ? DAY.atTime(9 + dice.nextInt(7), 0) : null))
        .toList();
  }

  private static List<PersonDay> days(Random dice, int count) {
    return IntStream.rangeClosed(1, count)
        .mapToObj(
            person -> {
              var stop =
                  new Stop(
                      1000 + person,
                      at(dice.nextInt(30), dice.nextInt(30)),
                      Stretch.of(LocalTime.of(9 + dice.nextInt(5), 0), 60));
              return dice.nextBoolean() ? day(person, Set.of(), stop) : day(person, Set.of());
            })
        .toList();
  }

  @Property(tries = 100)
  void nothing_that_is_placed_clashes_with_anything_but_a_promise(@ForAll Random dice) {
    List<PersonDay> days = days(dice, 3);
    List<PlanTask> tasks = tasks(dice, 12);
    PlanProposal proposal = search(days, tasks, 60);
    List<PersonDay> after = new ArrayList<>(days);
    for (Placed placed : proposal.placed()) {
      after.replaceAll(day -> isOf(placed, day) ? day.with(stop(placed, tasks)) : day);
    }
    for (Placed placed : proposal.placed()) {
      PersonDay day = after.stream().filter(each -> isOf(placed, each)).findFirst().orElseThrow();
      Set<Clash> clashes = day.clashes(wanted(placed, tasks), placed.at(), WAYS);
      assertThat(clashes).isSubsetOf(Clash.AFTER_RESPOND_BY);
      assertThat(clashes.contains(Clash.AFTER_RESPOND_BY)).isEqualTo(placed.lateMinutes() > 0);
    }
    int driving =
        after.stream()
            .flatMap(day -> day.legs(WAYS).stream())
            .mapToInt(leg -> leg.way().minutes())
            .sum();
    assertThat(proposal.figures().drivingMinutes()).isEqualTo(driving);
    assertThat(proposal.placed().size() + proposal.unplaced().size()).isEqualTo(tasks.size());
  }

  private static boolean isOf(Placed placed, PersonDay day) {
    return day.personId() == placed.personId() && day.day().equals(placed.day());
  }

  private static Wanted wanted(Placed placed, List<PlanTask> tasks) {
    return tasks.get((int) placed.visitId() - 1).wanted();
  }

  private static Stop stop(Placed placed, List<PlanTask> tasks) {
    return new Stop(placed.visitId(), wanted(placed, tasks).place(), placed.at());
  }

  @Property(tries = 40)
  void the_penalty_is_the_sum_of_what_it_says(@ForAll Random dice) {
    PlanProposal.Figures figures = search(days(dice, 2), tasks(dice, 10), 40).figures();
    long atLeast =
        (long) Penalties.USUAL.unplaced() * figures.unplaced()
            + 20L * figures.lateMinutes()
            + 10L * figures.drivingMinutes();
    assertThat(figures.penalty()).isGreaterThanOrEqualTo(atLeast);
    if (figures.minutesOver() == 0) {
      assertThat(figures.penalty()).isEqualTo(atLeast);
    }
  }

  @Property(tries = 30)
  void small_days_are_within_a_fiftieth_of_the_best_there_is(
      @ForAll Random dice, @ForAll @IntRange(min = 1, max = 6) int count) {
    List<PlanTask> tasks = tasks(dice, count);
    PlanProposal found = search(List.of(day(1, Set.of()), day(2, Set.of())), tasks, 800);
    long best = best(tasks, new ArrayList<>(), new ArrayList<>());
    assertThat(found.figures().penalty()).isBetween(best, best + best / 50);
  }

  /** The least penalty of all ways to lay the rest after what two people have, tried one by one. */
  private static long best(List<PlanTask> rest, List<PlanTask> one, List<PlanTask> two) {
    long best =
        penalty(one) == Long.MAX_VALUE || penalty(two) == Long.MAX_VALUE
            ? Long.MAX_VALUE
            : penalty(one) + penalty(two) + (long) Penalties.USUAL.unplaced() * rest.size();
    for (PlanTask task : rest) {
      List<PlanTask> left = rest.stream().filter(other -> !other.equals(task)).toList();
      for (List<PlanTask> lane : List.of(one, two)) {
        lane.add(task);
        if (penalty(lane) < Long.MAX_VALUE) {
          best = Math.min(best, best(left, one, two));
        }
        lane.removeLast();
      }
    }
    return best;
  }

  private static long penalty(List<PlanTask> lane) {
    Place place = HOME;
    int time = 480;
    int out = 0;
    int driving = 0;
    long late = 0;
    for (PlanTask task : lane) {
      int drive = WAYS.between(place, task.wanted().place()).minutes();
      int begins = lane.getFirst().equals(task) ? 480 : (time + drive + 4) / 5 * 5;
      out = lane.getFirst().equals(task) ? begins - drive : out;
      time = begins + task.wanted().minutes();
      driving += drive;
      if (time > 1020) {
        return Long.MAX_VALUE;
      }
      if (task.wanted().respondBy() != null) {
        int by = Stretch.minuteOf(task.wanted().respondBy().toLocalTime());
        late += Math.max(0, begins - by);
      }
      place = task.wanted().place();
    }
    int home = lane.isEmpty() ? 0 : WAYS.between(place, HOME).minutes();
    long over = Math.max(0, time + home - out - 540);
    return 10L * (driving + home) + 20 * late + (lane.isEmpty() ? 0 : 300 * over * over / 900);
  }

  @Test
  void the_same_seed_finds_the_same_plan() {
    List<PersonDay> days = days(new Random(3), 3);
    List<PlanTask> tasks = tasks(new Random(4), 15);
    assertThat(search(days, tasks, 100)).isEqualTo(search(days, tasks, 100));
  }

  @Test
  void each_plan_that_is_told_of_is_better_than_the_one_before() {
    var told = new ArrayList<Long>();
    new PlanSearch(
            WAYS, EARLY, days(new Random(5), 3), tasks(new Random(6), 18), Penalties.USUAL, 2)
        .search(rounds(300), better -> told.add(better.figures().penalty()));
    assertThat(told).hasSizeGreaterThan(1).isSortedAccordingTo((a, b) -> Long.compare(b, a));
  }
}
