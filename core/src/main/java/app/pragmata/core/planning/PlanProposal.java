package app.pragmata.core.planning;

import app.pragmata.core.Coded;
import java.time.LocalDate;
import java.util.List;

/**
 * Who makes which visit when.
 *
 * @param placed the earliest first
 * @param unplaced by visit
 */
public record PlanProposal(List<Placed> placed, List<Unplaced> unplaced, Figures figures) {
  /**
   * A visit with its people and time.
   *
   * @param personId who is responsible
   * @param companionIds who comes along; empty for nobody
   */
  public record Placed(
      long visitId,
      long personId,
      List<Long> companionIds,
      LocalDate day,
      Stretch at,
      int lateMinutes) {
    public Placed {
      companionIds = List.copyOf(companionIds);
    }
  }

  /** A visit that nobody makes, with why. */
  public record Unplaced(long visitId, Why why) {}

  /** Why nobody makes a visit. */
  public enum Why implements Coded {
    /** What it waits for, such as a part, is there only after these days. */
    WAITS_LONGER,
    /** Nobody knows all that it needs on any of these days. */
    NOBODY_SKILLED,
    /** Whoever knows it does not go to its postcode district. */
    OUT_OF_AREA,
    /** Whoever could make it has no room left that is long enough. */
    NO_ROOM
  }

  /**
   * What the plan is judged by.
   *
   * @param drivingMinutes of all days, with what stood on them before
   * @param lateMinutes of the visits that were placed
   * @param minutesOver by how long people are out longer than they work
   * @param waitingDays of the visits that were placed, from the first day
   * @param notPreferred how many of them somebody else makes than should
   * @param penalty the sum by the penalties, tenths of a minute of driving
   */
  public record Figures(
      int drivingMinutes,
      int lateMinutes,
      int minutesOver,
      int waitingDays,
      int notPreferred,
      int unplaced,
      long penalty) {}

  public PlanProposal {
    placed = List.copyOf(placed);
    unplaced = List.copyOf(unplaced);
  }
}
