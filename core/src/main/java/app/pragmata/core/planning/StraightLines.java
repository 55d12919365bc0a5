package app.pragmata.core.planning;

/** Where no roads are known, drives are reckoned from the straight line; every one is a guess. */
public final class StraightLines implements Ways {
  /** Roads are longer than the straight line by about as much. */
  private static final double DETOUR = 1.3;

  private static final double METRES_PER_MINUTE = 40_000 / 60.0;

  @Override
  public Way between(Place from, Place to) {
    double metres = from.metresTo(to) * DETOUR;
    return new Way((int) Math.ceil(metres / METRES_PER_MINUTE), (int) Math.round(metres), true);
  }
}
