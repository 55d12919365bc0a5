package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.WORK_BASE;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.planning.Place;
import app.pragmata.server.generated.tables.Job;
import app.pragmata.server.generated.tables.Site;
import app.pragmata.server.generated.tables.Visit;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.List;
import org.jooq.Field;
import org.jooq.Records;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How far somebody drives to a visit by the roads that the company knows. */
@Component
public class SuggestedMiles {
  /** A place as it is stored; latitude and longitude are null where only the postcode is known. */
  public record Stored(
      @Nullable BigDecimal latitude, @Nullable BigDecimal longitude, String postcode) {}

  private static final BigDecimal METRES_PER_MILE = new BigDecimal("1609.344");
  private static final Visit LAST = VISIT.as("last_visit");
  private static final Job LAST_JOB = JOB.as("last_job");
  private static final Site LAST_SITE = SITE.as("last_site");

  private final RoadMap roads;

  SuggestedMiles(RoadMap roads) {
    this.roads = roads;
  }

  /**
   * Where a person was last on a day, nested into a query of visits: on another visit, or else from
   * where their day starts; none where nobody knows.
   */
  public static Field<List<Stored>> whereLast(long personId, LocalDate day) {
    return multiset(
            select(LAST_SITE.LATITUDE, LAST_SITE.LONGITUDE, LAST_SITE.POSTCODE)
                .from(TIME_ENTRY)
                .join(LAST)
                .on(LAST.ID.eq(TIME_ENTRY.VISIT_ID))
                .join(LAST_JOB)
                .on(LAST_JOB.ID.eq(LAST.JOB_ID))
                .join(LAST_SITE)
                .on(LAST_SITE.ID.eq(LAST_JOB.SITE_ID))
                .where(TIME_ENTRY.PERSON_ID.eq(personId).and(TIME_ENTRY.DAY.eq(day)))
                .and(TIME_ENTRY.VISIT_ID.ne(VISIT.ID).and(TIME_ENTRY.REMOVED_AT.isNull()))
                .orderBy(TIME_ENTRY.STARTED_AT.desc())
                .limit(1)
                .unionAll(
                    select(WORK_BASE.LATITUDE, WORK_BASE.LONGITUDE, DSL.inline(""))
                        .from(WORK_BASE)
                        .where(WORK_BASE.PERSON_ID.eq(personId))))
        .as("where_last")
        .convertFrom(rows -> rows.map(Records.mapping(Stored::new)));
  }

  /**
   * From the first of these places to another, to one decimal; null where nobody knows one of them.
   */
  public @Nullable BigDecimal between(List<Stored> whereLast, Stored to) {
    return whereLast.isEmpty() ? null : between(whereLast.getFirst(), to);
  }

  /**
   * Minutes from one place to another by the roads; null where nobody knows exactly where one of
   * them is.
   */
  public @Nullable Integer minutes(Stored from, Stored to) {
    if (from.latitude() == null || to.latitude() == null) {
      return null;
    }
    Place start = place(from);
    Place end = place(to);
    return start == null || end == null ? null : roads.between(start, end).minutes();
  }

  private @Nullable BigDecimal between(Stored from, Stored to) {
    Place start = place(from);
    Place end = place(to);
    return start == null || end == null
        ? null
        : BigDecimal.valueOf(roads.between(start, end).metres())
            .divide(METRES_PER_MILE, 1, RoundingMode.HALF_UP);
  }

  private @Nullable Place place(Stored stored) {
    RoadMap.Located located =
        roads.locate(stored.latitude(), stored.longitude(), stored.postcode());
    return located == null ? null : located.place();
  }
}
