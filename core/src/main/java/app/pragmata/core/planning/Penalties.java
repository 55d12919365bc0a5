package app.pragmata.core.planning;

/**
 * What is bad about a plan and how bad it is, in tenths of a minute of driving. What must not be at
 * all has no penalty: such a plan is none.
 *
 * @param unplaced for a visit that nobody makes; more than any lateness, for whoever waits longest
 *     would be left out first
 * @param minuteLate for a minute later than was promised
 * @param minuteOfDriving for a minute on the road, the ways from and to the base among them
 * @param dayOfWaiting for a day that a visit is later than the first of the days
 * @param notPreferred for a visit that somebody else makes than it should be
 * @param halfHourOver for half an hour that somebody is out longer than they work; twice as long is
 *     four times as bad, so that it is shared out
 */
public record Penalties(
    int unplaced,
    int minuteLate,
    int minuteOfDriving,
    int dayOfWaiting,
    int notPreferred,
    int halfHourOver) {
  /**
   * As an office weighs them that wants its promises kept; left out is as bad as ten weeks late.
   */
  public static final Penalties USUAL = new Penalties(2_000_000, 20, 10, 150, 100, 300);
}
