package app.pragmata.server.walk;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor.Answer;
import app.pragmata.server.laws.Laws;
import app.pragmata.server.walk.Steps.Step;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/**
 * Office, technicians, customers and bookkeeper do what comes to their minds, over HTTP, in a
 * company of their own. So many steps from such a seed as {@code -Dpragmata.walk.steps} and {@code
 * -Dpragmata.walk.seed} say; proved after each one, or after so many as {@code
 * -Dpragmata.walk.proved-every} says.
 */
class RandomWalkTest {
  private static final int STEPS = Integer.getInteger("pragmata.walk.steps", 300);
  private static final long SEED = Long.getLong("pragmata.walk.seed", 20_261_127);
  private static final int PROVED_EVERY = Integer.getInteger("pragmata.walk.proved-every", 1);
  private static final int MANY_STEPS = 10_000;
  private static final int OFTEN = 20;

  /** How the steps of one kind came out. */
  private static final class Count {
    private int made;
    private int done;
    private final Map<String, Integer> refused = new TreeMap<>();
  }

  private final Map<Move, Count> counts = new EnumMap<>(Move.class);

  @Test
  void after_every_step_the_laws_hold_and_what_stands_is_as_computed_from_scratch() {
    Arrays.stream(Move.values()).forEach(move -> counts.put(move, new Count()));
    try (var company = new WalkedCompany(RunningPragmata.databaseForTests() + "_walk")) {
      int number = 0;
      for (Step step : Steps.draw(STEPS, SEED)) {
        walk(company, ++number, step);
      }
    }
    print();
    int made = counts.values().stream().mapToInt(count -> count.made).sum();
    int done = counts.values().stream().mapToInt(count -> count.done).sum();
    assertThat(2 * done).isGreaterThanOrEqualTo(made);
    if (STEPS >= MANY_STEPS) {
      assertThat(counts).allSatisfy((move, count) -> assertThat(count.made).isGreaterThan(OFTEN));
    }
  }

  private void walk(WalkedCompany company, int number, Step step) {
    Answer answer = step.move().make(company, new Dice(step.thrown()));
    if (answer == null) {
      return;
    }
    String where = "seed %d, step %d, %s: %s".formatted(SEED, number, step.move(), answer);
    counts.get(step.move()).made++;
    if (answer.status() == 200) {
      counts.get(step.move()).done++;
    } else {
      assertThat(answer.status()).as(where).isIn(403, 404, 409, 422);
      assertThat(answer.rule()).as(where).isNotEmpty();
      counts.get(step.move()).refused.merge(answer.rule(), 1, Integer::sum);
    }
    if (number % PROVED_EVERY != 0) {
      return;
    }
    assertThat(Laws.check(company.database())).as(where).allMatch(Laws.Finding::holds);
    assertThat(company.wrongStandings()).as(where).isEmpty();
  }

  private void print() {
    System.out.printf("Random walk, seed %d, %d steps (made, done):%n", SEED, STEPS);
    counts.forEach(
        (move, count) ->
            System.out.printf(
                "  %-22s %5d %5d  %s%n", move, count.made, count.done, count.refused));
  }
}
