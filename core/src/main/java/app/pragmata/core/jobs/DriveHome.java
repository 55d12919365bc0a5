package app.pragmata.core.jobs;

import app.pragmata.core.money.LargestRemainder;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The drive home, and any other drive that leads to no visit: it costs, is never charged, and is
 * shared over the visits of its person and day.
 */
public final class DriveHome {
  /**
   * A visit of the day.
   *
   * @param minutesOnSite the person's own on that day
   */
  public record Stop(long visitId, int minutesOnSite) {}

  /** What one visit bears of a drive. */
  public record Share(long visitId, int minutes, BigDecimal miles, TimeEntry.Cost cost) {}

  private static final int DECIMALS_OF_MILES = 1;

  private DriveHome() {}

  /**
   * Shares a drive over the day's visits by the minutes on site, or equally where there are none.
   * Minutes, miles and both costs add up to the drive's by {@link LargestRemainder}; the earlier
   * visit comes first.
   *
   * @param stops at least one
   */
  public static List<Share> share(TimeEntry drive, TimeEntry.Cost cost, List<Stop> stops) {
    if (stops.isEmpty()) {
      throw new IllegalArgumentException("No visit bears the drive " + drive.id());
    }
    List<BigInteger> weights = weights(stops);
    List<Long> minutes = LargestRemainder.spread(drive.minutes(), weights);
    List<Long> tenths =
        LargestRemainder.spread(
            drive.miles().movePointRight(DECIMALS_OF_MILES).longValueExact(), weights);
    List<Money> time = cost.time().spreadByShare(weights);
    List<Money> distance = cost.distance().spreadByShare(weights);
    return IntStream.range(0, stops.size())
        .mapToObj(
            i ->
                new Share(
                    stops.get(i).visitId(),
                    Math.toIntExact(minutes.get(i)),
                    BigDecimal.valueOf(tenths.get(i), DECIMALS_OF_MILES),
                    new TimeEntry.Cost(time.get(i), distance.get(i))))
        .toList();
  }

  private static List<BigInteger> weights(List<Stop> stops) {
    boolean nowhereOnSite = stops.stream().allMatch(stop -> stop.minutesOnSite() == 0);
    return stops.stream()
        .map(stop -> nowhereOnSite ? BigInteger.ONE : BigInteger.valueOf(stop.minutesOnSite()))
        .toList();
  }
}
