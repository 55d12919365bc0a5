package app.pragmata.core.planning;

import ai.timefold.solver.core.api.domain.common.PlanningId;
import ai.timefold.solver.core.api.domain.entity.PlanningEntity;
import ai.timefold.solver.core.api.domain.solution.PlanningEntityCollectionProperty;
import ai.timefold.solver.core.api.domain.solution.PlanningScore;
import ai.timefold.solver.core.api.domain.solution.PlanningSolution;
import ai.timefold.solver.core.api.domain.valuerange.ValueRangeProvider;
import ai.timefold.solver.core.api.domain.variable.InverseRelationShadowVariable;
import ai.timefold.solver.core.api.domain.variable.PlanningListVariable;
import ai.timefold.solver.core.api.domain.variable.PreviousElementShadowVariable;
import ai.timefold.solver.core.api.domain.variable.ShadowSources;
import ai.timefold.solver.core.api.domain.variable.ShadowVariable;
import ai.timefold.solver.core.api.score.HardMediumSoftScore;
import ai.timefold.solver.core.api.score.stream.Constraint;
import ai.timefold.solver.core.api.score.stream.ConstraintFactory;
import ai.timefold.solver.core.api.score.stream.ConstraintProvider;
import ai.timefold.solver.core.api.solver.SolutionManager;
import ai.timefold.solver.core.api.solver.SolverFactory;
import ai.timefold.solver.core.config.localsearch.LocalSearchPhaseConfig;
import ai.timefold.solver.core.config.localsearch.LocalSearchType;
import ai.timefold.solver.core.config.solver.SolverConfig;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * The same day planned by a solver library in its best setting that was found: tabu search from the
 * cheapest insertion. It knows one day of people who work all of it and goes by the same penalties.
 */
final class SolverYardstick {
  private SolverYardstick() {}

  /** How much is driven, and how many visits have no place. */
  record Outcome(long driving, int unplaced) {}

  /** Somebody's day. */
  @PlanningEntity
  public static class Technician {
    @PlanningId public Long id = 0L;
    public @Nullable PersonDay day;

    @PlanningListVariable(allowsUnassignedValues = true)
    public List<Stop> stops = new ArrayList<>();

    /** For the library. */
    public Technician() {}

    Technician(PersonDay day) {
      this.id = day.personId();
      this.day = day;
    }

    PersonDay known() {
      return Objects.requireNonNull(day);
    }

    int ends() {
      return known().working().getLast().to();
    }
  }

  /** A visit, with when it begins where it stands. */
  @PlanningEntity
  public static class Stop {
    @PlanningId public Long id = 0L;
    public @Nullable PlanTask task;

    @InverseRelationShadowVariable(sourceVariableName = "stops")
    public @Nullable Technician technician;

    @PreviousElementShadowVariable(sourceVariableName = "stops")
    public @Nullable Stop previous;

    @ShadowVariable(supplierName = "startOf")
    public @Nullable Integer start;

    /** For the library. */
    public Stop() {}

    Stop(PlanTask task) {
      this.id = task.visitId();
      this.task = task;
    }

    Wanted wanted() {
      return Objects.requireNonNull(task).wanted();
    }

    /** The first minute at which somebody can be there, in fives. */
    @ShadowSources({"technician", "previous.start"})
    public @Nullable Integer startOf() {
      if (technician == null) {
        return null;
      }
      int there = technician.known().working().getFirst().from();
      if (previous != null) {
        if (previous.start == null) {
          return null;
        }
        there = previous.start + previous.wanted().minutes() + minutes(previous.wanted().place());
      }
      return (there + 4) / 5 * 5;
    }

    int minutes(@Nullable Place from) {
      return PersonDay.way(WAYS, from, wanted().place()).minutes();
    }

    /** The drive to it. */
    int drive() {
      return previous == null
          ? minutes(Objects.requireNonNull(technician).known().base())
          : minutes(previous.wanted().place());
    }

    int end() {
      return Objects.requireNonNull(start) + wanted().minutes();
    }

    int late() {
      return wanted().respondBy() == null
          ? 0
          : Math.max(
              0,
              Objects.requireNonNull(start) - Stretch.minuteOf(wanted().respondBy().toLocalTime()));
    }
  }

  /** All of it. */
  @PlanningSolution
  public static class Whole {
    @PlanningEntityCollectionProperty public List<Technician> technicians = new ArrayList<>();

    @PlanningEntityCollectionProperty @ValueRangeProvider
    public List<Stop> stops = new ArrayList<>();

    @PlanningScore public @Nullable HardMediumSoftScore score;
  }

  /** What must not be, what should all be, and what costs. */
  public static class Rules implements ConstraintProvider {
    @Override
    public Constraint[] defineConstraints(ConstraintFactory factory) {
      return new Constraint[] {
        factory
            .forEach(Stop.class)
            .filter(stop -> stop.technician != null && stop.start != null)
            .filter(stop -> stop.end() > Objects.requireNonNull(stop.technician).ends())
            .penalize(
                HardMediumSoftScore.ONE_HARD,
                stop -> stop.end() - Objects.requireNonNull(stop.technician).ends())
            .asConstraint("over"),
        factory
            .forEach(Stop.class)
            .filter(stop -> stop.technician != null)
            .filter(
                stop ->
                    !Objects.requireNonNull(stop.technician)
                        .known()
                        .skillIds()
                        .containsAll(stop.wanted().skillIds()))
            .penalize(HardMediumSoftScore.ONE_HARD)
            .asConstraint("skill"),
        factory
            .forEachIncludingUnassigned(Stop.class)
            .filter(stop -> stop.technician == null)
            .penalize(HardMediumSoftScore.ONE_MEDIUM)
            .asConstraint("unplaced"),
        factory
            .forEach(Stop.class)
            .filter(stop -> stop.technician != null && stop.start != null)
            .penalize(
                HardMediumSoftScore.ONE_SOFT,
                stop ->
                    (long) Penalties.USUAL.minuteOfDriving() * stop.drive()
                        + (long) Penalties.USUAL.minuteLate() * stop.late())
            .asConstraint("drives"),
        factory
            .forEach(Technician.class)
            .filter(technician -> !technician.stops.isEmpty())
            .penalize(
                HardMediumSoftScore.ONE_SOFT,
                technician ->
                    (long) Penalties.USUAL.minuteOfDriving()
                        * technician.stops.getLast().minutes(technician.known().base()))
            .asConstraint("home")
      };
    }
  }

  private static final Ways WAYS = new StraightLines();

  /** Seconds of this thread, so that whatever else runs takes nothing away. */
  private static final class OwnTime extends Clock {
    private final long began = now();

    private static long now() {
      return ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
    }

    @Override
    public ZoneId getZone() {
      return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
      return this;
    }

    @Override
    public Instant instant() {
      return Instant.EPOCH.plusNanos(now() - began);
    }
  }

  /**
   * The best plan within so much time.
   *
   * @param first where each visit is by cheapest insertion, in the order of its start; a visit
   *     without a place is not there
   */
  static Outcome plan(
      List<PersonDay> days, List<PlanTask> tasks, List<PlanProposal.Placed> first, int seconds) {
    var whole = new Whole();
    days.forEach(day -> whole.technicians.add(new Technician(day)));
    tasks.forEach(task -> whole.stops.add(new Stop(task)));
    Map<Long, Technician> technicians =
        whole.technicians.stream().collect(Collectors.toMap(each -> each.id, Function.identity()));
    Map<Long, Stop> stops =
        whole.stops.stream().collect(Collectors.toMap(each -> each.id, Function.identity()));
    first.forEach(
        placed ->
            Objects.requireNonNull(technicians.get(placed.personId()))
                .stops
                .add(Objects.requireNonNull(stops.get(placed.visitId()))));
    var search = new LocalSearchPhaseConfig();
    search.setLocalSearchType(LocalSearchType.TABU_SEARCH);
    SolverFactory<Whole> factory =
        SolverFactory.create(
            new SolverConfig(new OwnTime())
                .withSolutionClass(Whole.class)
                .withEntityClasses(Technician.class, Stop.class)
                .withConstraintProviderClass(Rules.class)
                .withPhases(search)
                .withTerminationSpentLimit(Duration.ofSeconds(seconds)));
    SolutionManager.updateShadowVariables(whole);
    Whole best = factory.buildSolver().solve(whole);
    long driving =
        best.technicians.stream()
            .filter(technician -> !technician.stops.isEmpty())
            .mapToLong(
                technician ->
                    technician.stops.stream().mapToLong(Stop::drive).sum()
                        + technician.stops.getLast().minutes(technician.known().base()))
            .sum();
    long unplaced = best.stops.stream().filter(stop -> stop.technician == null).count();
    return new Outcome(driving, Math.toIntExact(unplaced));
  }
}
