package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;

import java.time.LocalTime;
import org.jooq.Field;
import org.jooq.SelectField;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;

/**
 * When somebody is to be at a visit: all the time, or for the hours for which they come along.
 *
 * @param start by the company's clock
 */
public record OwnHours(LocalTime start, int minutes) {
  /** Of this person at a visit that is planned, nested into a query of visits. */
  public static SelectField<OwnHours> of(long personId) {
    return row(
            VISIT.START_TIME,
            VISIT.EXPECTED_MINUTES,
            ofCompanion(VISIT_COMPANION.STARTS_AFTER, personId),
            ofCompanion(VISIT_COMPANION.MINUTES, personId))
        .mapping(OwnHours.class, OwnHours::read);
  }

  private static Field<Short> ofCompanion(Field<Short> field, long personId) {
    return DSL.field(
        select(field)
            .from(VISIT_COMPANION)
            .where(VISIT_COMPANION.VISIT_ID.eq(VISIT.ID))
            .and(VISIT_COMPANION.PERSON_ID.eq(personId)));
  }

  private static OwnHours read(
      LocalTime start, int expected, @Nullable Short startsAfter, @Nullable Short minutes) {
    return startsAfter == null || minutes == null
        ? new OwnHours(start, expected)
        : new OwnHours(start.plusMinutes(startsAfter), minutes);
  }
}
