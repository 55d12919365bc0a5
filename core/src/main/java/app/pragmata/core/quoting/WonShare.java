package app.pragmata.core.quoting;

import java.math.BigDecimal;
import java.math.RoundingMode;
import org.jspecify.annotations.Nullable;

/** How much was won of all that was answered or lapsed, as a count of quotes or as their value. */
public record WonShare(long won, long lost) {
  public WonShare {
    if (won < 0 || lost < 0) {
      throw new IllegalArgumentException("Won %d, lost %d".formatted(won, lost));
    }
  }

  /** Per cent with one decimal, rounded half up; null while nothing is decided. */
  public @Nullable BigDecimal percent() {
    long decided = won + lost;
    return decided == 0
        ? null
        : BigDecimal.valueOf(won)
            .movePointRight(2)
            .divide(BigDecimal.valueOf(decided), 1, RoundingMode.HALF_UP);
  }
}
