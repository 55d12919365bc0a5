package app.pragmata.core.planning;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** The minutes between the places of one search, each asked once. */
final class Drives {
  static final int NOWHERE = -1;
  private static final int NOT_ASKED = -1;

  private final Ways ways;
  private final Map<Place, Integer> numbers = new HashMap<>();
  private final List<Place> places = new ArrayList<>();
  private int[][] minutes = {};

  Drives(Ways ways) {
    this.ways = ways;
  }

  /** The number of a place from now on. */
  int number(@Nullable Place place) {
    if (place == null) {
      return NOWHERE;
    }
    return numbers.computeIfAbsent(
        place,
        added -> {
          places.add(added);
          return places.size() - 1;
        });
  }

  /** No minutes to or from where nobody knows. */
  int minutes(int from, int to) {
    if (from == NOWHERE || to == NOWHERE) {
      return 0;
    }
    if (minutes.length < places.size()) {
      minutes = new int[places.size()][places.size()];
      for (int[] row : minutes) {
        Arrays.fill(row, NOT_ASKED);
      }
    }
    if (minutes[from][to] == NOT_ASKED) {
      minutes[from][to] =
          Objects.requireNonNull(ways.between(places.get(from), places.get(to))).minutes();
    }
    return minutes[from][to];
  }
}
