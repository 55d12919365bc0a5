package app.pragmata.core.money;

import java.math.BigInteger;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The largest remainder method: parts of a whole number in proportion that add up to it exactly.
 */
public final class LargestRemainder {
  private LargestRemainder() {}

  /**
   * Parts of the whole in proportion to these weights, which are not negative: each is rounded
   * toward nothing, and the units that are left go to the largest remainders, the earlier one
   * first. Without any weight every part is nothing.
   */
  public static List<Long> spread(long whole, List<BigInteger> weights) {
    BigInteger sum = weights.stream().reduce(BigInteger.ZERO, BigInteger::add);
    if (sum.signum() == 0) {
      return weights.stream().map(weight -> 0L).toList();
    }
    var parts = new long[weights.size()];
    var remainders = new BigInteger[weights.size()];
    long left = whole;
    for (int i = 0; i < parts.length; i++) {
      BigInteger[] divided =
          BigInteger.valueOf(whole).multiply(weights.get(i)).divideAndRemainder(sum);
      parts[i] = divided[0].longValueExact();
      remainders[i] = divided[1].abs();
      left -= parts[i];
    }
    List<Integer> largestFirst =
        IntStream.range(0, parts.length)
            .boxed()
            .sorted(Comparator.comparing((Integer i) -> remainders[i]).reversed())
            .limit(Math.abs(left))
            .toList();
    for (int i : largestFirst) {
      parts[i] += Long.signum(left);
    }
    return Arrays.stream(parts).boxed().toList();
  }
}
