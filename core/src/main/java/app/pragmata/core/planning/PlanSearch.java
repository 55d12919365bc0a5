package app.pragmata.core.planning;

import app.pragmata.core.planning.Lane.Free;
import app.pragmata.core.planning.Lane.Item;
import app.pragmata.core.planning.PlanProposal.Figures;
import app.pragmata.core.planning.PlanProposal.Placed;
import app.pragmata.core.planning.PlanProposal.Unplaced;
import app.pragmata.core.planning.PlanProposal.Why;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Lays many visits on people's days at once, so that the sum of the penalties is small, by ruin and
 * recreate (Schrimpf and others, Journal of Computational Physics 159, 2000): again and again some
 * visits near each other are taken off and each is put back where it costs least; what comes out
 * worse is kept with a chance that falls while the search goes on. Whatever is on a day already
 * stays where it is, and so do visits for several people, which are placed first, one after the
 * other where each costs least. A customer who was told a time is visited then. A visit is made by
 * somebody who knows what it needs, while they are at work and not away, with time to drive there
 * and on.
 */
public final class PlanSearch {
  /** How long is searched. */
  public interface Effort {
    /** The part of it that is used up; the search ends at 1. */
    double used();
  }

  private static final int MOST_TAKEN_OFF = 12;
  private static final double PASSED_OVER = 0.02;
  private static final long FARTHEST = Duration.ofDays(3 * 365).toMinutes();
  private static final double WARM = 120;
  private static final double COLD = 1;

  private final Penalties penalties;
  private final Drives drives;
  private final List<PersonDay> days;
  private final List<Placed> crews = new ArrayList<>();
  private final List<PlanTask> withoutCrew = new ArrayList<>();
  private int crewsNotPreferred;
  private final List<Lane> lanes = new ArrayList<>();
  private final List<Free> tasks = new ArrayList<>();
  private final List<List<Item>> before = new ArrayList<>();
  private final Random random;
  private final LocalDate firstDay;

  /** A plan on the way: the stops of each lane, what each lane costs, and where each task is. */
  private static final class State {
    final List<List<Item>> stops;
    final long[] costs;
    final int[] laneOf;
    long penalty;

    State(List<List<Item>> stops, long[] costs, int[] laneOf) {
      this.stops = stops;
      this.costs = costs;
      this.laneOf = laneOf;
    }

    State copy() {
      var copy = new State(new ArrayList<>(stops), costs.clone(), laneOf.clone());
      copy.penalty = penalty;
      return copy;
    }
  }

  /** A visit with how far it is from another. */
  private record Near(Free task, double apart) {}

  private static final int NOWHERE = -1;

  /**
   * A search over these days and visits.
   *
   * @param days of everybody who may make them
   * @param earliest before which nothing begins, by the company's clock
   * @param seed the same one gives the same plan for the same effort
   */
  public PlanSearch(
      Ways ways,
      LocalDateTime earliest,
      List<PersonDay> days,
      List<PlanTask> wanted,
      Penalties penalties,
      long seed) {
    this.penalties = penalties;
    this.drives = new Drives(ways);
    this.random = new Random(seed);
    this.firstDay = earliest.toLocalDate();
    this.days =
        placeCrews(
            wanted.stream().filter(PlanSearch::isForSeveral).toList(),
            days.stream().filter(day -> !day.day().isBefore(firstDay)).toList(),
            new TimeSearch(ways, earliest, new Stretch(0, Stretch.DAY)));
    for (PersonDay day : this.days) {
      int number = dayNumber(day.day());
      int first = number == 0 ? Stretch.minuteOf(earliest.toLocalTime()) : 0;
      lanes.add(new Lane(day, drives.number(day.base()), first, number, drives, penalties));
      before.add(
          day.stops().stream()
              .map(
                  stop ->
                      new Item(
                          drives.number(stop.place()), stop.at().from(), stop.at().minutes(), null))
              .toList());
    }
    for (PlanTask task : wanted) {
      if (!isForSeveral(task)) {
        tasks.add(free(task));
      }
    }
  }

  private Free free(PlanTask task) {
    Wanted wanted = task.wanted();
    Promised told = wanted.promised();
    int notBefore = minutes(firstDay, wanted.notBefore(), 0);
    return new Free(
        tasks.size(),
        drives.number(wanted.place()),
        task,
        told == null ? notBefore : Math.max(notBefore, minutes(firstDay, told.earliest(), 0)),
        told == null ? Integer.MAX_VALUE : minutes(firstDay, told.latest(), 0),
        minutes(firstDay, wanted.respondBy(), Integer.MAX_VALUE));
  }

  private static boolean isForSeveral(PlanTask task) {
    return task.wanted().crewSize() > 1;
  }

  private int dayNumber(LocalDate day) {
    return Math.toIntExact(ChronoUnit.DAYS.between(firstDay, day));
  }

  private List<PersonDay> placeCrews(
      List<PlanTask> wanted, List<PersonDay> free, TimeSearch search) {
    List<PersonDay> left = free;
    Comparator<PlanTask> order = Comparator.comparing(PlanTask::wanted, Relay.ORDER);
    for (PlanTask task : wanted.stream().sorted(order).toList()) {
      Wanted visit = task.wanted();
      List<TimeSearch.Found> best =
          visit.promised() == null
              ? search.best(visit, left, 1)
              : search.keeping(visit.promised(), visit, left);
      if (best.isEmpty()) {
        withoutCrew.add(task);
        continue;
      }
      TimeSearch.Found found = best.getFirst();
      left = found.taken(visit, left);
      crewsNotPreferred +=
          task.preferredId() == null || task.preferredId() == found.personId() ? 0 : 1;
      crews.add(
          new Placed(
              task.visitId(),
              found.personId(),
              found.companionIds(),
              found.day(),
              found.at(),
              found.lateMinutes()));
    }
    return left;
  }

  /** From the first day's midnight to then; what lies farther off than years is as far as years. */
  private static int minutes(LocalDate firstDay, @Nullable LocalDateTime then, int without) {
    if (then == null) {
      return without;
    }
    long minutes = Duration.between(firstDay.atStartOfDay(), then).toMinutes();
    return (int) Math.clamp(minutes, -FARTHEST, FARTHEST);
  }

  /**
   * The best plan that was found.
   *
   * @param better told of each plan that is better than all before it
   */
  public PlanProposal search(Effort effort, Consumer<PlanProposal> better) {
    State now = empty();
    recreate(now, new ArrayList<>(tasks));
    State best = now;
    better.accept(proposal(best));
    if (tasks.isEmpty() || lanes.isEmpty()) {
      return proposal(best);
    }
    for (double used = effort.used(); used < 1; used = effort.used()) {
      State next = now.copy();
      recreate(next, ruin(next));
      double warmth = WARM * Math.pow(COLD / WARM, used);
      if (next.penalty < now.penalty - warmth * Math.log(1 - random.nextDouble())) {
        now = next;
      }
      if (now.penalty < best.penalty) {
        best = now;
        better.accept(proposal(best));
      }
    }
    return proposal(best);
  }

  private State empty() {
    long[] costs = new long[lanes.size()];
    for (int i = 0; i < costs.length; i++) {
      costs[i] = lanes.get(i).cost(before.get(i));
    }
    int[] laneOf = new int[tasks.size()];
    Arrays.fill(laneOf, NOWHERE);
    var state = new State(new ArrayList<>(before), costs, laneOf);
    state.penalty =
        Arrays.stream(costs).sum()
            + penaltyOfCrews()
            + (long) penalties.unplaced() * (tasks.size() + withoutCrew.size());
    return state;
  }

  private long penaltyOfCrews() {
    return (long) penalties.minuteLate() * crews.stream().mapToInt(Placed::lateMinutes).sum()
        + (long) penalties.dayOfWaiting()
            * crews.stream().mapToInt(crew -> dayNumber(crew.day())).sum()
        + (long) penalties.notPreferred() * crewsNotPreferred;
  }

  /** Takes some visits off that lie near each other; gives them and all that have no place. */
  private List<Free> ruin(State state) {
    List<Free> placed = tasks.stream().filter(task -> isPlaced(state, task)).toList();
    if (!placed.isEmpty()) {
      Free middle = placed.get(random.nextInt(placed.size()));
      int most = 1 + random.nextInt(Math.min(MOST_TAKEN_OFF, placed.size()));
      placed.stream()
          .map(task -> new Near(task, apart(state, middle, task)))
          .sorted(Comparator.comparingDouble(Near::apart))
          .limit(most)
          .forEach(near -> takeOff(state, near.task()));
    }
    return tasks.stream()
        .filter(task -> !isPlaced(state, task))
        .collect(Collectors.toCollection(ArrayList::new));
  }

  private static boolean isPlaced(State state, Free task) {
    return state.laneOf[task.number()] != NOWHERE;
  }

  /** How far two visits are from each other, by the road and by whose day they are on. */
  private double apart(State state, Free one, Free other) {
    int sameLane = state.laneOf[one.number()] == state.laneOf[other.number()] ? 0 : 10;
    int road = drives.minutes(one.item().place(), other.item().place());
    return (road + sameLane) * (0.5 + random.nextDouble());
  }

  private void takeOff(State state, Free task) {
    int lane = state.laneOf[task.number()];
    List<Item> left = state.stops.get(lane).stream().filter(stop -> !isOf(task, stop)).toList();
    state.laneOf[task.number()] = NOWHERE;
    replace(state, lane, left, lanes.get(lane).cost(left));
    state.penalty += penalties.unplaced();
  }

  private static boolean isOf(Free task, Item stop) {
    return stop.task() != null && stop.task().number() == task.number();
  }

  private static void replace(State state, int lane, List<Item> stops, long cost) {
    state.penalty += cost - state.costs[lane];
    state.stops.set(lane, stops);
    state.costs[lane] = cost;
  }

  private void recreate(State state, List<Free> off) {
    switch (random.nextInt(3)) {
      case 0 -> Collections.shuffle(off, random);
      case 1 -> off.sort(Comparator.comparingInt(Free::respondBy));
      default -> off.sort(Comparator.comparingInt((Free task) -> -task.item().minutes()));
    }
    for (Free task : off) {
      putWhereItCostsLeast(state, task);
    }
  }

  private void putWhereItCostsLeast(State state, Free task) {
    int bestLane = NOWHERE;
    List<Item> bestStops = List.of();
    long bestCost = 0;
    long least = penalties.unplaced();
    Item stop = task.stop();
    for (int i = 0; i < lanes.size(); i++) {
      Lane lane = lanes.get(i);
      long anyway = lane.costOf(task);
      if (!lane.takes(task) || anyway >= least) {
        continue;
      }
      List<Item> stops = state.stops.get(i);
      for (int at = 0; at <= stops.size(); at++) {
        if (anyway + lane.addedDriving(stops, at, stop.place()) >= least
            || random.nextDouble() < PASSED_OVER) {
          continue;
        }
        var with = new ArrayList<Item>(stops.size() + 1);
        with.addAll(stops.subList(0, at));
        with.add(stop);
        with.addAll(stops.subList(at, stops.size()));
        long cost = lane.cost(with);
        if (cost != Lane.IMPOSSIBLE && cost - state.costs[i] < least) {
          least = cost - state.costs[i];
          bestLane = i;
          bestStops = with;
          bestCost = cost;
        }
      }
    }
    if (bestLane != NOWHERE) {
      state.laneOf[task.number()] = bestLane;
      replace(state, bestLane, bestStops, bestCost);
      state.penalty -= penalties.unplaced();
    }
  }

  private PlanProposal proposal(State state) {
    var placed = new ArrayList<>(crews);
    var sum = new Lane.Tally(0);
    sum.late = crews.stream().mapToInt(Placed::lateMinutes).sum();
    sum.waiting = crews.stream().mapToInt(crew -> dayNumber(crew.day())).sum();
    sum.notPreferred = crewsNotPreferred;
    for (int i = 0; i < lanes.size(); i++) {
      List<Item> stops = state.stops.get(i);
      var tally = new Lane.Tally(stops.size());
      lanes.get(i).lay(stops, tally);
      sum.driving += tally.driving;
      sum.late += tally.late;
      sum.over += tally.over;
      sum.waiting += tally.waiting;
      sum.notPreferred += tally.notPreferred;
      PersonDay day = lanes.get(i).day();
      for (int at = 0; at < stops.size(); at++) {
        Free task = stops.get(at).task();
        if (task != null) {
          placed.add(placed(task, day, tally.starts[at]));
        }
      }
    }
    placed.sort(
        Comparator.comparing(Placed::day)
            .thenComparingInt(visit -> visit.at().from())
            .thenComparingLong(Placed::visitId));
    List<Unplaced> unplaced =
        Stream.concat(
                withoutCrew.stream(),
                tasks.stream().filter(task -> !isPlaced(state, task)).map(Free::task))
            .map(task -> new Unplaced(task.visitId(), why(task.wanted())))
            .sorted(Comparator.comparingLong(Unplaced::visitId))
            .toList();
    return new PlanProposal(
        placed,
        unplaced,
        new Figures(
            sum.driving,
            sum.late,
            sum.over,
            sum.waiting,
            sum.notPreferred,
            unplaced.size(),
            state.penalty));
  }

  private static Placed placed(Free task, PersonDay day, int start) {
    LocalDateTime respondBy = task.task().wanted().respondBy();
    var at = new Stretch(start, start + task.item().minutes());
    long late =
        respondBy == null
            ? 0
            : Math.max(0, Duration.between(respondBy, day.day().atTime(at.start())).toMinutes());
    return new Placed(
        task.task().visitId(), day.personId(), List.of(), day.day(), at, Math.toIntExact(late));
  }

  private Why why(Wanted wanted) {
    LocalDateTime notBefore = wanted.notBefore();
    if (notBefore != null
        && days.stream().allMatch(day -> day.day().isBefore(notBefore.toLocalDate()))) {
      return Why.WAITS_LONGER;
    }
    List<PersonDay> open = days.stream().filter(day -> !day.open().isEmpty()).toList();
    if (open.isEmpty()) {
      return Why.NO_ROOM;
    }
    if (!isKnown(wanted, open)) {
      return Why.NOBODY_SKILLED;
    }
    List<PersonDay> there = open.stream().filter(day -> day.covers(wanted)).toList();
    return isKnown(wanted, there) ? Why.NO_ROOM : Why.OUT_OF_AREA;
  }

  /** Whether somebody knows all that a visit needs, or several do who may go together. */
  private static boolean isKnown(Wanted wanted, List<PersonDay> days) {
    return wanted.crewSize() == 1
        ? days.stream().anyMatch(day -> day.skillIds().containsAll(wanted.skillIds()))
        : wanted.skillIds().stream()
            .allMatch(skill -> days.stream().anyMatch(day -> day.skillIds().contains(skill)));
  }
}
