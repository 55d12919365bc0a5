package app.pragmata.server.walk;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.RandomDistribution;
import net.jqwik.api.sessions.JqwikSession;

/** The steps of a walk, drawn by chance: the same ones from the same seed. */
final class Steps {
  private static final int THROWS = 16;

  private Steps() {}

  /** What chance says of one step. */
  record Step(Move move, List<Integer> thrown) {}

  static List<Step> draw(int count, long seed) {
    var steps = new ArrayList<Step>();
    JqwikSession.run(
        () -> {
          var chance = new Random(seed);
          var generator = step().generator(count);
          for (int i = 0; i < count; i++) {
            steps.add(generator.next(chance).value());
          }
        });
    return steps;
  }

  private static Arbitrary<Step> step() {
    List<Move> asOftenAsMade =
        Arrays.stream(Move.values())
            .flatMap(move -> Collections.nCopies(move.weight(), move).stream())
            .toList();
    return Combinators.combine(
            upTo(asOftenAsMade.size()).map(asOftenAsMade::get), upTo(10_000).list().ofSize(THROWS))
        .as(Step::new);
  }

  /** Each as likely as any other, where jqwik would rather try what is small. */
  private static Arbitrary<Integer> upTo(int end) {
    return Arbitraries.integers()
        .between(0, end - 1)
        .withDistribution(RandomDistribution.uniform())
        .withoutEdgeCases();
  }
}
