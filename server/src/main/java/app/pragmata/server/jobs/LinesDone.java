package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.LINE_DONE;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Category;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What was promised and is done, line by line, as whoever does it ticks it off. */
@Component
public class LinesDone {
  /**
   * Work that a job promised.
   *
   * @param promisedMinutes how long it may take; null for what is not promised by time
   * @param workedMinutes how long everybody has worked on it by their clocks that have ended
   * @param onClock whether the clock of whoever asks runs on it
   * @param doneBy who ticked it off; null while nobody has
   */
  public record WorkToDo(
      long lineId,
      String description,
      @Nullable Integer promisedMinutes,
      int workedMinutes,
      boolean onClock,
      @Nullable String doneBy,
      @Nullable LocalDateTime doneAt) {}

  private final DSLContext database;
  private final VisitStore visits;

  LinesDone(DSLContext database, VisitStore visits) {
    this.database = database;
    this.visits = visits;
  }

  /**
   * The work that the selected job promised, as it was promised: all but drives and parts, which
   * stand by themselves.
   */
  public static Field<List<WorkToDo>> ofJob(ZoneId zone, long personId) {
    return multiset(
            select(
                    PROMISED_LINE.ID,
                    PROMISED_LINE.DESCRIPTION,
                    PROMISED_LINE.MINUTES,
                    workedMinutes(),
                    isOnClock(personId),
                    PERSON.NAME,
                    LINE_DONE.DONE_AT.convertFrom(at -> local(at, zone)))
                .from(PROMISED_LINE)
                .join(ACCEPTED_QUOTE)
                .on(ACCEPTED_QUOTE.QUOTE_ID.eq(PROMISED_LINE.QUOTE_ID))
                .leftJoin(LINE_DONE)
                .on(LINE_DONE.PROMISED_LINE_ID.eq(PROMISED_LINE.ID))
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(LINE_DONE.DONE_BY))
                .where(ACCEPTED_QUOTE.JOB_ID.eq(JOB.ID))
                .and(PROMISED_LINE.CATEGORY.in(Category.LABOUR, Category.OTHER))
                .orderBy(
                    ACCEPTED_QUOTE.ACCEPTED_AT, PROMISED_LINE.QUOTE_ID, PROMISED_LINE.POSITION))
        .convertFrom(rows -> rows.map(mapping(WorkToDo::new)));
  }

  /** How long everybody has worked on the selected line by their clocks that have ended. */
  public static Field<Integer> workedMinutes() {
    return field(
        select(TimeEntries.minutes())
            .from(TIME_ENTRY)
            .where(TIME_ENTRY.PROMISED_LINE_ID.eq(PROMISED_LINE.ID))
            .and(TIME_ENTRY.REMOVED_AT.isNull()));
  }

  private static Field<Boolean> isOnClock(long personId) {
    return field(
        exists(
            selectOne()
                .from(TIME_ENTRY)
                .where(TIME_ENTRY.PROMISED_LINE_ID.eq(PROMISED_LINE.ID))
                .and(TIME_ENTRY.PERSON_ID.eq(personId))
                .and(TIME_ENTRY.ENDED_AT.isNull().and(TIME_ENTRY.REMOVED_AT.isNull()))));
  }

  private static @Nullable LocalDateTime local(@Nullable Instant at, ZoneId zone) {
    return at == null ? null : LocalDateTime.ofInstant(at, zone);
  }

  /** What a clock is for that runs on a promised line; refused where the job promised none such. */
  public ClockedWork work(LockedVisit visit, long lineId) {
    return new ClockedWork(TimeEntry.Kind.LABOUR, describe(visit, lineId), lineId);
  }

  private String describe(LockedVisit visit, long lineId) {
    return database
        .select(PROMISED_LINE.DESCRIPTION)
        .from(PROMISED_LINE)
        .join(ACCEPTED_QUOTE)
        .on(ACCEPTED_QUOTE.QUOTE_ID.eq(PROMISED_LINE.QUOTE_ID))
        .where(PROMISED_LINE.ID.eq(lineId))
        .and(ACCEPTED_QUOTE.JOB_ID.eq(visit.job().id()))
        .fetchOptional(PROMISED_LINE.DESCRIPTION)
        .orElseThrow(
            () -> new Refused(Rule.NOT_FOUND, "This job promised no such line. Reload the page."));
  }

  /**
   * Ticks a promised line off on a visit of its job, or takes that back; twice is once.
   *
   * @param moment when it was done
   */
  public void tick(Act act, LockedVisit visit, long lineId, boolean done, Instant moment) {
    String description = describe(visit, lineId);
    int changed =
        done
            ? database
                .insertInto(LINE_DONE)
                .values(lineId, visit.id(), act.personId(), moment)
                .onConflictDoNothing()
                .execute()
            : database.deleteFrom(LINE_DONE).where(LINE_DONE.PROMISED_LINE_ID.eq(lineId)).execute();
    if (changed > 0) {
      visits.store(
          act,
          done ? JobEvent.LINE_DONE : JobEvent.LINE_NOT_DONE,
          visit,
          visit.state(),
          description);
    }
  }
}
