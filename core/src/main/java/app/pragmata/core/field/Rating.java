package app.pragmata.core.field;

/** How a customer found a visit, from one (bad) to five (good). */
public final class Rating {
  /** The worst of five. */
  public static final int LEAST = 1;

  /** The best of five. */
  public static final int MOST = 5;

  private Rating() {}

  /** Whether somebody of the office had better call them: one or two of five. */
  public static boolean isBad(int rating) {
    return rating <= 2;
  }
}
