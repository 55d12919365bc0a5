package app.pragmata.core.planning;

import app.pragmata.core.planning.PlanProposal.Placed;
import app.pragmata.core.planning.SolverYardstick.Outcome;
import app.pragmata.core.planning.TimeSearch.Found;
import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * How much is driven and how many visits have no place on made-up days of 5, 20 and 50 technicians:
 * each visit to the first who has time (the floor), each where it costs least, the search in 5 and
 * 30 seconds, and the solver library in as many. Asserts nothing.
 */
@Tag("bench")
class PlanSearchBenchTest {
  private static final LocalDate DAY = LocalDate.of(2026, 11, 30);
  private static final LocalDateTime EARLY = DAY.atStartOfDay();
  private static final int VISITS_EACH = 8;
  private static final Ways WAYS = new StraightLines();

  @Test
  void a_day_of_many() {
    System.out.printf("%n%-28s %10s %10s %8s%n", "Day of", "driven min", "unplaced", "x floor");
    for (int people : new int[] {5, 20, 50}) {
      var dice = new Random(people);
      List<PersonDay> days = days(dice, people);
      List<PlanTask> tasks = tasks(dice, people * VISITS_EACH);
      Outcome floor = oneByOne(days, tasks, true, new ArrayList<>());
      print(people + ", first who has time", floor, floor);
      List<Placed> least = new ArrayList<>();
      print(people + ", where it costs least", oneByOne(days, tasks, false, least), floor);
      for (int seconds : new int[] {5, 30}) {
        print("%d, search of %d s".formatted(people, seconds), search(days, tasks, seconds), floor);
        print(
            "%d, solver of %d s".formatted(people, seconds),
            SolverYardstick.plan(days, tasks, least, seconds),
            floor);
      }
    }
  }

  private static void print(String name, Outcome outcome, Outcome floor) {
    System.out.printf(
        "%-28s %10d %10d %8.2f%n",
        name, outcome.driving(), outcome.unplaced(), (double) outcome.driving() / floor.driving());
  }

  private static Place place(Random dice) {
    return new Place(53 + dice.nextInt(1_800) / 10_000d, dice.nextInt(3_000) / 10_000d);
  }

  private static List<PersonDay> days(Random dice, int people) {
    return IntStream.rangeClosed(1, people)
        .mapToObj(
            person ->
                new PersonDay(
                    person,
                    DAY,
                    place(dice),
                    List.of(new Stretch(480, 1020)),
                    List.of(),
                    List.of(),
                    dice.nextInt(3) == 0 ? Set.of(1L, 2L) : Set.of(1L),
                    List.of()))
        .toList();
  }

  private static List<PlanTask> tasks(Random dice, int count) {
    return IntStream.rangeClosed(1, count)
        .mapToObj(
            id ->
                new PlanTask(
                    new Wanted(
                        (long) id,
                        place(dice),
                        30 + 15 * dice.nextInt(4),
                        dice.nextInt(6) == 0 ? Set.of(2L) : Set.of(),
                        null,
                        dice.nextInt(5) == 0 ? DAY.atTime(10 + dice.nextInt(6), 0) : null),
                    null))
        .toList();
  }

  private static Outcome oneByOne(
      List<PersonDay> days, List<PlanTask> tasks, boolean firstFit, List<Placed> placed) {
    var search = new TimeSearch(WAYS, EARLY, new Stretch(0, Stretch.DAY));
    List<PersonDay> left = days;
    int unplaced = 0;
    for (PlanTask task : tasks) {
      Found found = firstFit ? first(search, task, left) : best(search, task, left);
      if (found == null) {
        unplaced++;
        continue;
      }
      left = found.taken(task.wanted(), left);
      placed.add(new Placed(task.visitId(), found.personId(), List.of(), DAY, found.at(), 0));
    }
    long driving =
        left.stream()
            .flatMap(day -> day.legs(WAYS).stream())
            .mapToLong(leg -> leg.way().minutes())
            .sum();
    placed.sort(Comparator.comparingInt(each -> each.at().from()));
    return new Outcome(driving, unplaced);
  }

  private static @Nullable Found first(TimeSearch search, PlanTask task, List<PersonDay> days) {
    return days.stream()
        .map(day -> best(search, task, List.of(day)))
        .filter(Objects::nonNull)
        .findFirst()
        .orElse(null);
  }

  private static @Nullable Found best(TimeSearch search, PlanTask task, List<PersonDay> days) {
    return search.best(task.wanted(), days, 1).stream().findFirst().orElse(null);
  }

  private static Outcome search(List<PersonDay> days, List<PlanTask> tasks, int seconds) {
    ThreadMXBean threads = ManagementFactory.getThreadMXBean();
    long began = threads.getCurrentThreadCpuTime();
    long nanos = Duration.ofSeconds(seconds).toNanos();
    PlanProposal found =
        new PlanSearch(WAYS, EARLY, days, tasks, Penalties.USUAL, 1)
            .search(
                () -> (double) (threads.getCurrentThreadCpuTime() - began) / nanos, better -> {});
    return new Outcome(found.figures().drivingMinutes(), found.figures().unplaced());
  }
}
