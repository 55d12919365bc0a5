package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.generated.tables.Job;
import app.pragmata.server.generated.tables.Person;
import app.pragmata.server.generated.tables.Visit;
import java.time.LocalDate;
import java.util.List;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Records;

/**
 * An earlier visit at the same site.
 *
 * @param note what was done, in its technician's words; may be empty
 * @param parts the names of what was fitted
 */
public record EarlierVisit(
    LocalDate day, String title, String technician, String note, List<String> parts) {
  private static final int MOST = 3;
  private static final Visit PAST = VISIT.as("past");
  private static final Job PAST_JOB = JOB.as("past_job");
  private static final Person WHO = PERSON.as("past_technician");

  private static final Field<List<String>> PARTS =
      multiset(
              select(PART.NAME)
                  .from(VISIT_PART)
                  .join(PART)
                  .on(PART.ID.eq(VISIT_PART.PART_ID))
                  .where(VISIT_PART.VISIT_ID.eq(PAST.ID).and(VISIT_PART.REMOVED_AT.isNull()))
                  .orderBy(VISIT_PART.ID))
          .as("parts")
          .convertFrom(rows -> rows.map(Record1::value1));

  /** The last three that were over before the day of a visit, nested into a query of visits. */
  public static Field<List<EarlierVisit>> before() {
    return multiset(
            select(PAST.DAY, PAST_JOB.TITLE, WHO.NAME, PAST.NOTE, PARTS)
                .from(PAST)
                .join(PAST_JOB)
                .on(PAST_JOB.ID.eq(PAST.JOB_ID))
                .join(WHO)
                .on(WHO.ID.eq(PAST.TECHNICIAN_ID))
                .where(PAST_JOB.SITE_ID.eq(JOB.SITE_ID).and(PAST.DAY.lt(VISIT.DAY)))
                .and(PAST.STATE.in(VisitState.Code.FINISHED, VisitState.Code.CHECKED))
                .orderBy(PAST.DAY.desc(), PAST.ID.desc())
                .limit(MOST))
        .as("earlier")
        .convertFrom(rows -> rows.map(Records.mapping(EarlierVisit::new)));
  }
}
