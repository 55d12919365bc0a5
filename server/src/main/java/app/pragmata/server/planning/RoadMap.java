package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.JUNCTION;
import static app.pragmata.server.generated.Tables.POSTCODE_DISTRICT;
import static app.pragmata.server.generated.Tables.ROAD;

import app.pragmata.core.planning.Districts;
import app.pragmata.core.planning.Place;
import app.pragmata.core.planning.RoadGraph;
import app.pragmata.core.planning.StraightLines;
import app.pragmata.core.planning.Way;
import app.pragmata.core.planning.Ways;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * The stand-in for a routing service: the roads that the company knows, read once, with what was
 * found on them kept; straight lines where it knows none.
 */
@Component
class RoadMap implements Ways {
  /** A place, and whether it is only the middle of its postcode district. */
  record Located(Place place, boolean guessed) {}

  /** What is drawn of it. */
  record Drawn(List<RoadGraph.Junction> junctions, List<RoadGraph.Road> roads) {}

  /** What was read, and when by the machine's ticks. */
  private record Known(Ways ways, Drawn drawn, Map<String, Place> districts, long readAt) {}

  private static final long LOOK_AGAIN_AFTER = Duration.ofMinutes(1).toNanos();

  private final DSLContext database;
  private volatile @Nullable Known known;

  RoadMap(DSLContext database) {
    this.database = database;
  }

  @Override
  public Way between(Place from, Place to) {
    return known().ways().between(from, to);
  }

  Drawn drawn() {
    return known().drawn();
  }

  /** Where a site is: its own place or the middle of its district; null where nobody knows. */
  @Nullable Located locate(
      @Nullable BigDecimal latitude, @Nullable BigDecimal longitude, String postcode) {
    if (latitude != null && longitude != null) {
      return new Located(place(latitude, longitude), false);
    }
    Place middle = known().districts().get(Districts.of(postcode));
    return middle == null ? null : new Located(middle, true);
  }

  static Place place(BigDecimal latitude, BigDecimal longitude) {
    return new Place(latitude.doubleValue(), longitude.doubleValue());
  }

  private Known known() {
    Known read = known;
    // A company without roads may still get some.
    if (read == null
        || (read.drawn().junctions().isEmpty()
            && System.nanoTime() - read.readAt() > LOOK_AGAIN_AFTER)) {
      read = read();
      known = read;
    }
    return read;
  }

  private Known read() {
    List<RoadGraph.Junction> junctions =
        database
            .selectFrom(JUNCTION)
            .orderBy(JUNCTION.ID)
            .fetch(
                row ->
                    new RoadGraph.Junction(
                        row.getId(), place(row.getLatitude(), row.getLongitude())));
    List<RoadGraph.Road> roads =
        database
            .selectFrom(ROAD)
            .orderBy(ROAD.FROM_ID, ROAD.TO_ID)
            .fetch(
                row ->
                    new RoadGraph.Road(
                        row.getFromId(),
                        row.getToId(),
                        row.getMetres(),
                        row.getKilometresPerHour()));
    var districts = new HashMap<String, Place>();
    database
        .selectFrom(POSTCODE_DISTRICT)
        .forEach(
            row -> districts.put(row.getDistrict(), place(row.getLatitude(), row.getLongitude())));
    return new Known(
        junctions.isEmpty() ? new StraightLines() : new RoadGraph(junctions, roads),
        new Drawn(junctions, roads),
        districts,
        System.nanoTime());
  }
}
