package app.pragmata.server.field;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.TapPosition;
import app.pragmata.core.planning.Place;
import org.jspecify.annotations.Nullable;

/**
 * Where a phone is when somebody taps, as it says itself.
 *
 * @param latitude in degrees (WGS 84), as is the longitude
 * @param accuracyMetres it is within so many metres of there
 */
public record PositionForm(
    @Nullable Double latitude, @Nullable Double longitude, @Nullable Double accuracyMetres) {
  /** Half around the earth: no phone is less accurate. */
  private static final double LEAST_ACCURATE = 20_100_000;

  /** What was sent beside a file; null where nothing of it was. */
  static @Nullable PositionForm of(
      @Nullable Double latitude, @Nullable Double longitude, @Nullable Double accuracyMetres) {
    return latitude == null && longitude == null && accuracyMetres == null
        ? null
        : new PositionForm(latitude, longitude, accuracyMetres);
  }

  /**
   * The position.
   *
   * @throws Refused when there is no such place
   */
  TapPosition read() {
    var reading = new Reading();
    if (latitude == null
        || longitude == null
        || accuracyMetres == null
        || !(Math.abs(latitude) <= 90)
        || !(Math.abs(longitude) <= 180)
        || !(accuracyMetres >= 0 && accuracyMetres <= LEAST_ACCURATE)) {
      reading.fault(
          "position",
          Rule.UNREADABLE,
          "This is no position. Send latitude, longitude and accuracy, or none.");
      throw new Refused(reading.faults());
    }
    return new TapPosition(new Place(latitude, longitude), (int) Math.ceil(accuracyMetres));
  }
}
