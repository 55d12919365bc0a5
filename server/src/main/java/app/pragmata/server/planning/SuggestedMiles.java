package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.WORK_BASE;

import app.pragmata.core.planning.Place;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How far somebody drives to a visit by the roads that the company knows. */
@Component
public class SuggestedMiles {
  private static final BigDecimal METRES_PER_MILE = new BigDecimal("1609.344");

  private final DSLContext database;
  private final RoadMap roads;

  SuggestedMiles(DSLContext database, RoadMap roads) {
    this.database = database;
    this.roads = roads;
  }

  /**
   * From where the person was last on this day, or from where their day starts, to one decimal;
   * null where nobody knows one of the places.
   */
  public @Nullable BigDecimal to(long visitId, long personId, LocalDate day) {
    Place to = site(visitId);
    Place from = lastPlace(personId, day, visitId).orElseGet(() -> base(personId));
    return to == null || from == null
        ? null
        : BigDecimal.valueOf(roads.between(from, to).metres())
            .divide(METRES_PER_MILE, 1, RoundingMode.HALF_UP);
  }

  private Optional<Place> lastPlace(long personId, LocalDate day, long visitId) {
    return database
        .select(TIME_ENTRY.VISIT_ID)
        .from(TIME_ENTRY)
        .where(TIME_ENTRY.PERSON_ID.eq(personId).and(TIME_ENTRY.DAY.eq(day)))
        .and(TIME_ENTRY.VISIT_ID.ne(visitId).and(TIME_ENTRY.REMOVED_AT.isNull()))
        .orderBy(TIME_ENTRY.STARTED_AT.desc())
        .limit(1)
        .fetchOptional(TIME_ENTRY.VISIT_ID)
        .map(this::site);
  }

  private @Nullable Place base(long personId) {
    return database
        .selectFrom(WORK_BASE)
        .where(WORK_BASE.PERSON_ID.eq(personId))
        .fetchOptional(row -> RoadMap.place(row.getLatitude(), row.getLongitude()))
        .orElse(null);
  }

  private @Nullable Place site(long visitId) {
    return database
        .select(SITE.LATITUDE, SITE.LONGITUDE, SITE.POSTCODE)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .where(VISIT.ID.eq(visitId))
        .fetchOptional(row -> roads.locate(row.value1(), row.value2(), row.value3()))
        .map(RoadMap.Located::place)
        .orElse(null);
  }
}
