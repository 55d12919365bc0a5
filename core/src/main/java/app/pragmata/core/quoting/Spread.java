package app.pragmata.core.quoting;

import java.util.List;
import java.util.Optional;

/**
 * Where past values lie: the median, and the quartiles between which the middle half of them is
 * found (by the nearest-rank method, so that each is a value that really occurred).
 */
public record Spread(int count, long lowerQuartile, long median, long upperQuartile) {
  /** Fewer values than this say nothing. */
  public static final int ENOUGH = 5;

  /** Empty when there are too few values. */
  public static Optional<Spread> of(List<Long> values) {
    if (values.size() < ENOUGH) {
      return Optional.empty();
    }
    List<Long> sorted = values.stream().sorted().toList();
    return Optional.of(
        new Spread(sorted.size(), rank(sorted, 25), rank(sorted, 50), rank(sorted, 75)));
  }

  private static long rank(List<Long> sorted, int percent) {
    return sorted.get((sorted.size() * percent + 99) / 100 - 1);
  }
}
