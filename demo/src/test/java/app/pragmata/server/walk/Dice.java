package app.pragmata.server.walk;

import java.util.List;

/** What chance says for one step, throw by throw. */
final class Dice {
  private final List<Integer> thrown;
  private int next;

  Dice(List<Integer> thrown) {
    this.thrown = thrown;
  }

  /** From nought to one less than the sides. */
  int next(int sides) {
    return thrown.get(next++ % thrown.size()) % sides;
  }

  boolean oneIn(int sides) {
    return next(sides) == 0;
  }

  <T> T of(List<T> choices) {
    return choices.get(next(choices.size()));
  }

  /** An amount from 0.01 up to about so many, as somebody types it. */
  String amount(int most) {
    return "%d.%02d".formatted(next(most), 1 + next(99));
  }
}
