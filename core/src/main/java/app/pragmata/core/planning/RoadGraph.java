package app.pragmata.core.planning;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Roads between junctions, driven by the quickest way (Dijkstra's algorithm). Whoever is not at a
 * junction drives to the nearest one in a straight line. What was found from a junction is kept.
 */
public final class RoadGraph implements Ways {
  /** Where roads meet. */
  public record Junction(int id, Place place) {}

  /**
   * A road that is driven both ways.
   *
   * @param metres how long it is, at least 1
   * @param kilometresPerHour how fast it is driven, at least 1
   */
  public record Road(int from, int to, int metres, int kilometresPerHour) {
    public Road {
      if (metres < 1 || kilometresPerHour < 1) {
        throw new IllegalArgumentException("A road has a length and a speed");
      }
    }

    private int seconds() {
      return (int) Math.ceil(metres * 3.6 / kilometresPerHour);
    }
  }

  /** To and from the nearest junction, such as along a yard or a lane. */
  private static final double LANE_METRES_PER_SECOND = 30 / 3.6;

  private record Step(int to, int seconds, int metres) {}

  /** From one junction to all others; seconds are {@link #UNREACHED} where no road leads. */
  private static final class Reached {
    private final int[] seconds;
    private final int[] metres;

    private Reached(int junctions) {
      seconds = new int[junctions];
      metres = new int[junctions];
      Arrays.fill(seconds, UNREACHED);
    }
  }

  private record Lane(int junction, double metres) {}

  private static final int UNREACHED = Integer.MAX_VALUE;

  /** Of so many places it is kept at which junction they are. */
  private static final int MOST_LANES = 50_000;

  private final List<Junction> junctions;
  private final List<List<Step>> steps = new ArrayList<>();
  private final Ways elsewhere = new StraightLines();
  private final Map<Integer, Reached> found = new ConcurrentHashMap<>();
  private final Map<Place, Lane> lanes = new ConcurrentHashMap<>();

  /**
   * The roads of a region.
   *
   * @param junctions at least one
   */
  public RoadGraph(List<Junction> junctions, List<Road> roads) {
    if (junctions.isEmpty()) {
      throw new IllegalArgumentException("Roads lead somewhere");
    }
    this.junctions = List.copyOf(junctions);
    var indexes = new HashMap<Integer, Integer>();
    for (Junction junction : this.junctions) {
      indexes.put(junction.id(), steps.size());
      steps.add(new ArrayList<>());
    }
    for (Road road : roads) {
      int from = indexes.get(road.from());
      int to = indexes.get(road.to());
      steps.get(from).add(new Step(to, road.seconds(), road.metres()));
      steps.get(to).add(new Step(from, road.seconds(), road.metres()));
    }
  }

  @Override
  public Way between(Place from, Place to) {
    if (from.equals(to)) {
      return Way.NONE;
    }
    Lane out = lane(from);
    Lane in = lane(to);
    Reached reached = found.computeIfAbsent(out.junction(), this::search);
    if (reached.seconds[in.junction()] == UNREACHED) {
      return elsewhere.between(from, to);
    }
    // Two doors of one lane are as far apart as they are, not by way of its end.
    double lanes =
        out.junction() == in.junction()
            ? Math.min(from.metresTo(to), out.metres() + in.metres())
            : out.metres() + in.metres();
    double seconds = reached.seconds[in.junction()] + lanes / LANE_METRES_PER_SECOND;
    return new Way(
        (int) Math.ceil(seconds / 60),
        (int) Math.round(reached.metres[in.junction()] + lanes),
        false);
  }

  private Lane lane(Place place) {
    if (lanes.size() > MOST_LANES) {
      lanes.clear();
    }
    return lanes.computeIfAbsent(place, this::nearest);
  }

  private Lane nearest(Place place) {
    int nearest = 0;
    double shortest = Double.MAX_VALUE;
    for (int i = 0; i < junctions.size(); i++) {
      double metres = junctions.get(i).place().metresTo(place);
      if (metres < shortest) {
        nearest = i;
        shortest = metres;
      }
    }
    return new Lane(nearest, shortest);
  }

  private Reached search(int start) {
    var reached = new Reached(junctions.size());
    reached.seconds[start] = 0;
    // Seconds in the upper half, the junction in the lower.
    var next = new PriorityQueue<Long>();
    next.add((long) start);
    while (!next.isEmpty()) {
      long nearest = next.remove();
      int at = (int) nearest;
      if (nearest >> 32 > reached.seconds[at]) {
        continue;
      }
      for (Step step : steps.get(at)) {
        int there = reached.seconds[at] + step.seconds();
        if (there < reached.seconds[step.to()]) {
          reached.seconds[step.to()] = there;
          reached.metres[step.to()] = reached.metres[at] + step.metres();
          next.add((long) there << 32 | step.to());
        }
      }
    }
    return reached;
  }
}
