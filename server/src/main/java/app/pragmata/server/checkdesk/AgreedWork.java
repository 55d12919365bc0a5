package app.pragmata.server.checkdesk;

import static app.pragmata.server.generated.Tables.AGREEMENT;
import static app.pragmata.server.generated.Tables.ROUND;
import static app.pragmata.server.generated.Tables.ROUND_DATE;
import static java.util.stream.Collectors.toMap;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.checkdesk.WorkedVisit;
import app.pragmata.server.checkdesk.FinishedVisits.Shown;
import app.pragmata.server.records.Cells;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Reads by which agreements the jobs of finished visits were made. */
@Component
class AgreedWork {
  /**
   * What an agreement says of a job that its round made.
   *
   * @param until its last day; null for without end
   * @param withParts whether parts are agreed too, or are charged as they are used
   * @param minutes that were agreed
   */
  record Agreed(long jobId, @Nullable LocalDate until, boolean withParts, int minutes) {}

  /**
   * What is asked about one visit.
   *
   * @param agreed by job, where a round made it
   */
  record OfVisits(Map<Long, Agreed> agreed) {
    /** What its agreement says of the parts that it used; null where no round made it. */
    WorkedVisit.@Nullable Agreed agreed(Shown visit, List<String> used) {
      Agreed of = agreed.get(visit.jobId());
      return of == null
          ? null
          : WorkedVisit.Agreed.of(visit.day(), of.until(), of.withParts(), used);
    }

    /** The labour that was agreed; 0 for none. */
    int minutes(Shown visit) {
      Agreed of = agreed.get(visit.jobId());
      return of == null ? 0 : of.minutes();
    }
  }

  private final DSLContext database;

  AgreedWork(DSLContext database) {
    this.database = database;
  }

  /** Those of these visits, read at once. */
  OfVisits read(List<Shown> shown) {
    return new OfVisits(
        Cells.fetch(
                database
                    .select(
                        ROUND_DATE.JOB_ID,
                        DSL.least(AGREEMENT.UNTIL_DAY, ROUND.UNTIL_DAY),
                        field(ROUND.WITH_PARTS.isTrue().or(ROUND.PRICE_MINOR.isNull())),
                        ROUND.EXPECTED_MINUTES)
                    .from(ROUND_DATE)
                    .join(ROUND)
                    .on(ROUND.ID.eq(ROUND_DATE.ROUND_ID))
                    .join(AGREEMENT)
                    .on(AGREEMENT.ID.eq(ROUND.AGREEMENT_ID))
                    .where(
                        ROUND_DATE.JOB_ID.eq(
                            any(val(shown.stream().map(Shown::jobId).toArray(Long[]::new))))),
                cells -> new Agreed(cells.number(), cells.day(), cells.truth(), cells.count()))
            .stream()
            .collect(toMap(Agreed::jobId, of -> of)));
  }
}
