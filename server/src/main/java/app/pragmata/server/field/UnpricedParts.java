package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.UNLISTED_PART;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.util.Collection;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Whether visits have parts on them that nobody has priced. */
@Component
public class UnpricedParts {
  /** Whether one is neither priced nor dropped. */
  public static final Condition OPEN =
      UNLISTED_PART.VISIT_PART_ID.isNull().and(UNLISTED_PART.DROPPED_AT.isNull());

  private final DSLContext database;

  UnpricedParts(DSLContext database) {
    this.database = database;
  }

  /** Refuses to go on while one of these visits has such a part. */
  void refuse(Collection<Long> visitIds) {
    database
        .select(JOB.NUMBER, UNLISTED_PART.NAME)
        .from(UNLISTED_PART)
        .join(VISIT)
        .on(VISIT.ID.eq(UNLISTED_PART.VISIT_ID))
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(UNLISTED_PART.VISIT_ID.in(visitIds).and(OPEN))
        .orderBy(UNLISTED_PART.ID)
        .limit(1)
        .fetchOptional()
        .ifPresent(
            row -> {
              throw new Refused(
                  Rule.PART_NOT_PRICED,
                  "“%s” of job %d is on no price list. Price it first, or say that it was none."
                      .formatted(row.value2(), row.value1()));
            });
  }
}
