package app.pragmata.core.planning;

/**
 * A drive from one place to another.
 *
 * @param minutes how long it takes, rounded up
 * @param metres how far it is
 * @param guessed nobody knows the roads: it is reckoned from the straight line
 */
public record Way(int minutes, int metres, boolean guessed) {
  /** Somebody is there already. */
  public static final Way NONE = new Way(0, 0, false);

  public Way {
    if (minutes < 0 || metres < 0) {
      throw new IllegalArgumentException("A way is not shorter than nothing");
    }
  }
}
