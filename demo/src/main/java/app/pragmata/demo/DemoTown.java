package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.JUNCTION;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.POSTCODE_DISTRICT;
import static app.pragmata.server.generated.Tables.ROAD;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.WORK_BASE;

import app.pragmata.core.people.Role;
import app.pragmata.core.planning.Place;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * Ostmere on the map, invented: a harbour town north of the water, whose roads run around it in
 * arcs, with spokes between them. Every third arc and every fifth spoke is a main road.
 */
@Component
class DemoTown {
  private static final double LATITUDE = 53.4;
  private static final double LONGITUDE = -0.9;
  private static final double METRES_PER_DEGREE = 111_195;
  private static final int ARCS = 12;
  private static final int SPOKES = 21;
  private static final int FIRST_ARC_METRES = 900;
  private static final int BETWEEN_ARCS_METRES = 1_050;
  private static final int DISTRICTS = 6;

  // Kilometres per hour, with all that one waits for.
  private static final int MAIN_ROAD = 45;
  private static final int SIDE_ROAD = 28;

  private final DSLContext database;
  private final List<Place> junctions = new ArrayList<>();
  private Random random = new Random(0);

  DemoTown(DSLContext database) {
    this.database = database;
  }

  /** Lays the roads, and puts every site and every technician's home somewhere beside them. */
  void lay() {
    random = new Random(1_707);
    junctions.clear();
    for (int arc = 0; arc < ARCS; arc++) {
      for (int spoke = 0; spoke < SPOKES; spoke++) {
        junctions.add(bent(arc, spoke));
      }
    }
    for (int i = 0; i < junctions.size(); i++) {
      database
          .insertInto(JUNCTION)
          .values(i, degrees(junctions.get(i).latitude()), degrees(junctions.get(i).longitude()))
          .execute();
    }
    for (int arc = 0; arc < ARCS; arc++) {
      for (int spoke = 0; spoke < SPOKES; spoke++) {
        int here = arc * SPOKES + spoke;
        if (spoke + 1 < SPOKES && random.nextInt(9) > 0) {
          road(here, here + 1, arc % 3 == 0 ? MAIN_ROAD : SIDE_ROAD);
        }
        if (arc + 1 < ARCS && (spoke % 5 == 0 || random.nextInt(4) > 0)) {
          road(here, here + SPOKES, spoke % 5 == 0 ? MAIN_ROAD : SIDE_ROAD);
        }
      }
    }
    for (int district = 1; district <= DISTRICTS; district++) {
      Place middle = inDistrict(district);
      database
          .insertInto(POSTCODE_DISTRICT)
          .values("OS" + district, degrees(middle.latitude()), degrees(middle.longitude()))
          .execute();
    }
    placeSites();
    placeHomes();
  }

  /** The junction of an arc and a spoke, off the drawing board's line as in life. */
  private Place bent(int arc, int spoke) {
    double turn = Math.PI * (0.1 + 0.8 * spoke / (SPOKES - 1)) + random.nextGaussian() * 0.02;
    double metres =
        FIRST_ARC_METRES
            + BETWEEN_ARCS_METRES * arc
            + random.nextGaussian() * BETWEEN_ARCS_METRES / 7;
    return from(LATITUDE, LONGITUDE, metres * Math.cos(turn), metres * Math.sin(turn));
  }

  private static Place from(double latitude, double longitude, double east, double north) {
    return new Place(
        latitude + north / METRES_PER_DEGREE,
        longitude + east / (METRES_PER_DEGREE * Math.cos(Math.toRadians(LATITUDE))));
  }

  private void road(int from, int to, int kilometresPerHour) {
    // No road is quite straight.
    double metres = junctions.get(from).metresTo(junctions.get(to)) * 1.08;
    database
        .insertInto(ROAD)
        .values(from, to, (int) Math.ceil(metres), (short) kilometresPerHour)
        .execute();
  }

  /** Districts are numbered along the water; each is as wide as the spokes that lead to it. */
  private Place inDistrict(int district) {
    int spokes = SPOKES / DISTRICTS;
    int spoke = (district - 1) * spokes + random.nextInt(spokes + 1);
    return junctions.get(random.nextInt(ARCS * 2 / 3) * SPOKES + spoke);
  }

  private void placeSites() {
    database
        .select(SITE.ID, SITE.AREA)
        .from(SITE)
        .orderBy(SITE.ID)
        .forEach(
            site -> {
              Place corner = inDistrict(site.value2().charAt(2) - '0');
              Place door =
                  from(
                      corner.latitude(),
                      corner.longitude(),
                      random.nextInt(300) - 150,
                      random.nextInt(300) - 150);
              // Nobody has said yet where every eighth is.
              if (random.nextInt(8) > 0) {
                database
                    .update(SITE)
                    .set(SITE.LATITUDE, degrees(door.latitude()))
                    .set(SITE.LONGITUDE, degrees(door.longitude()))
                    .where(SITE.ID.eq(site.value1()))
                    .execute();
              }
            });
  }

  private void placeHomes() {
    database
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.ROLE.eq(Role.TECHNICIAN))
        .orderBy(PERSON.ID)
        .forEach(
            person -> {
              int district = 1 + random.nextInt(DISTRICTS);
              Place home = inDistrict(district);
              database
                  .insertInto(WORK_BASE)
                  .values(
                      person.value1(),
                      "OS" + district,
                      degrees(home.latitude()),
                      degrees(home.longitude()))
                  .execute();
            });
  }

  private static BigDecimal degrees(double value) {
    return BigDecimal.valueOf(value).setScale(6, RoundingMode.HALF_UP);
  }
}
