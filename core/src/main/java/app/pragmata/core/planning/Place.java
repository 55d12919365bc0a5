package app.pragmata.core.planning;

/**
 * A point of the earth in degrees (WGS 84), north and east counted up.
 *
 * @param latitude from -90 to 90
 * @param longitude from -180 to 180
 */
public record Place(double latitude, double longitude) {
  private static final double EARTH_RADIUS_METRES = 6_371_008.8;

  public Place {
    if (!(Math.abs(latitude) <= 90) || !(Math.abs(longitude) <= 180)) {
      throw new IllegalArgumentException(latitude + ", " + longitude + " is nowhere on the earth");
    }
  }

  /** The way of a bird to another place in metres (haversine formula). */
  public double metresTo(Place other) {
    double north = Math.toRadians(other.latitude - latitude);
    double east = Math.toRadians(other.longitude - longitude);
    double chord =
        Math.pow(Math.sin(north / 2), 2)
            + Math.cos(Math.toRadians(latitude))
                * Math.cos(Math.toRadians(other.latitude))
                * Math.pow(Math.sin(east / 2), 2);
    return 2 * EARTH_RADIUS_METRES * Math.asin(Math.sqrt(chord));
  }
}
