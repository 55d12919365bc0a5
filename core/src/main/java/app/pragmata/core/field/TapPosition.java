package app.pragmata.core.field;

import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.planning.Place;
import java.math.BigDecimal;
import java.math.RoundingMode;

/**
 * Where a phone was when its technician tapped.
 *
 * @param accuracyMetres it was within so many metres of there, as the phone says; not negative
 */
public record TapPosition(Place place, int accuracyMetres) {
  /** Vans park around the corner, and sites are larger than the point that stands for them. */
  static final int AT_THE_SITE_METRES = 400;

  private static final double METRES_PER_MILE = 1609.344;

  public TapPosition {
    if (accuracyMetres < 0) {
      throw new IllegalArgumentException("A position is not more accurate than exact");
    }
  }

  /**
   * Whether a clock is started, or stopped, at the site by its nature: a drive to it only ends
   * there.
   */
  public static boolean isExpectedAtSite(TimeEntry.Kind kind, boolean atStart) {
    return switch (kind) {
      case LABOUR -> true;
      case DRIVE -> !atStart;
      case BREAK -> false;
    };
  }

  /** Whether it was surely not at the site, however inaccurate it is. */
  public boolean isAwayFrom(Place site) {
    return place.metresTo(site) - accuracyMetres > AT_THE_SITE_METRES;
  }

  /** How far it was from the site in a straight line: miles with one decimal, rounded half up. */
  public BigDecimal milesFrom(Place site) {
    return BigDecimal.valueOf(place.metresTo(site) / METRES_PER_MILE)
        .setScale(1, RoundingMode.HALF_UP);
  }
}
