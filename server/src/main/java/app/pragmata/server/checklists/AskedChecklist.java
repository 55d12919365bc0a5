package app.pragmata.server.checklists;

import static app.pragmata.server.generated.Tables.CHECKLIST;
import static app.pragmata.server.generated.Tables.CHECKLIST_ANSWER;
import static app.pragmata.server.generated.Tables.CHECKLIST_ITEM;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_CHECKLIST;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Decimal;
import app.pragmata.core.checklists.Asks;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.generated.tables.Visit;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Records;
import org.jooq.Result;
import org.jspecify.annotations.Nullable;

/**
 * A checklist as a visit goes through it.
 *
 * @param edition of the questions, which stays once the first is answered
 */
public record AskedChecklist(long checklistId, String name, int edition, List<AskedItem> items) {
  /**
   * A question, and what was answered to it.
   *
   * @param choices of a choice; empty for anything else
   * @param wrong the answers that are out of limits, of a choice or of "yes" and "no"
   * @param unit of a measurement; may be empty
   * @param least of a measurement that is within limits, itself included; null where there is none,
   *     as is the most
   * @param given null where nothing is answered, and of a photo
   * @param before what was answered to it last, on an earlier visit to the same equipment or, where
   *     the job is about none, the same site; null for nothing
   */
  public record AskedItem(
      long id,
      String question,
      Asks.Code asks,
      List<String> choices,
      List<String> wrong,
      String unit,
      @Nullable BigDecimal least,
      @Nullable BigDecimal most,
      boolean required,
      @Nullable GivenAnswer given,
      @Nullable EarlierAnswer before) {}

  /**
   * What was answered.
   *
   * @param answer empty where the question does not apply
   * @param outOfLimits as it was when it was answered
   * @param word why it does not apply, or what was done about it; may be empty
   */
  public record GivenAnswer(
      long id,
      int version,
      String answer,
      boolean doesNotApply,
      boolean outOfLimits,
      String word,
      LocalDateTime answeredAt,
      String answeredBy) {}

  /** What was answered to the same question before. */
  public record EarlierAnswer(LocalDate day, String answer, boolean outOfLimits) {}

  private static final Field<List<EarlierAnswer>> BEFORE = before();

  /** On which visits a checklist is gone through: on all of its kinds, in use or not. */
  public static Condition isOf() {
    return CHECKLIST
        .KIND_OF_JOB_ID
        .isNull()
        .or(CHECKLIST.KIND_OF_JOB_ID.eq(JOB.KIND_OF_JOB_ID))
        .and(
            CHECKLIST
                .EQUIPMENT_KIND_ID
                .isNull()
                .or(
                    CHECKLIST.EQUIPMENT_KIND_ID.eq(
                        select(EQUIPMENT.EQUIPMENT_KIND_ID)
                            .from(EQUIPMENT)
                            .where(EQUIPMENT.ID.eq(JOB.EQUIPMENT_ID)))));
  }

  /**
   * The checklists of a visit, nested into a query of visits and their jobs: those that it has
   * begun with, and until it is over those that are in use for its work.
   */
  public static Field<List<AskedChecklist>> ofVisit(ZoneId zone) {
    var answerer = PERSON.as("answerer");
    return multiset(
            select(
                    CHECKLIST.ID,
                    CHECKLIST.NAME,
                    coalesce(VISIT_CHECKLIST.EDITION, CHECKLIST.EDITION),
                    CHECKLIST_ITEM.ID,
                    CHECKLIST_ITEM.QUESTION,
                    CHECKLIST_ITEM.ASKS,
                    CHECKLIST_ITEM.CHOICES,
                    CHECKLIST_ITEM.WRONG,
                    CHECKLIST_ITEM.UNIT,
                    CHECKLIST_ITEM.LEAST,
                    CHECKLIST_ITEM.MOST,
                    CHECKLIST_ITEM.REQUIRED,
                    CHECKLIST_ANSWER.ID,
                    CHECKLIST_ANSWER.VERSION,
                    CHECKLIST_ANSWER.ANSWER,
                    CHECKLIST_ANSWER.DOES_NOT_APPLY,
                    CHECKLIST_ANSWER.OUT_OF_LIMITS,
                    CHECKLIST_ANSWER.WORD,
                    CHECKLIST_ANSWER.ANSWERED_AT,
                    answerer.NAME,
                    BEFORE)
                .from(CHECKLIST)
                .leftJoin(VISIT_CHECKLIST)
                .on(VISIT_CHECKLIST.CHECKLIST_ID.eq(CHECKLIST.ID))
                .and(VISIT_CHECKLIST.VISIT_ID.eq(VISIT.ID))
                .join(CHECKLIST_ITEM)
                .on(CHECKLIST_ITEM.CHECKLIST_ID.eq(CHECKLIST.ID))
                .leftJoin(CHECKLIST_ANSWER)
                .on(CHECKLIST_ANSWER.CHECKLIST_ITEM_ID.eq(CHECKLIST_ITEM.ID))
                .and(CHECKLIST_ANSWER.VISIT_ID.eq(VISIT.ID))
                .leftJoin(answerer)
                .on(answerer.ID.eq(CHECKLIST_ANSWER.ANSWERED_BY))
                // What was answered by another edition, because a phone knew no newer, stays seen.
                .where(
                    CHECKLIST_ITEM
                        .EDITION
                        .eq(coalesce(VISIT_CHECKLIST.EDITION, CHECKLIST.EDITION))
                        .or(CHECKLIST_ANSWER.ID.isNotNull()))
                .and(VISIT_CHECKLIST.VISIT_ID.isNotNull().or(toCome()))
                .orderBy(
                    CHECKLIST.NAME,
                    CHECKLIST.ID,
                    CHECKLIST_ITEM.EDITION.desc(),
                    CHECKLIST_ITEM.POSITION))
        .as("checklists")
        .convertFrom(rows -> grouped(rows, zone, answerer.NAME));
  }

  private static Condition toCome() {
    return CHECKLIST
        .ACTIVE
        .isTrue()
        .and(
            VISIT.STATE.in(
                VisitState.Code.UNPLANNED,
                VisitState.Code.PLANNED,
                VisitState.Code.DRIVING,
                VisitState.Code.ON_SITE))
        .and(isOf());
  }

  private static Field<List<EarlierAnswer>> before() {
    var answer = CHECKLIST_ANSWER.as("earlier_answer");
    var item = CHECKLIST_ITEM.as("earlier_item");
    Visit visit = VISIT.as("earlier_visit");
    var job = JOB.as("earlier_job");
    return multiset(
            select(visit.DAY, answer.ANSWER, answer.OUT_OF_LIMITS)
                .from(answer)
                .join(item)
                .on(item.ID.eq(answer.CHECKLIST_ITEM_ID))
                .join(visit)
                .on(visit.ID.eq(answer.VISIT_ID))
                .join(job)
                .on(job.ID.eq(visit.JOB_ID))
                .where(item.CHECKLIST_ID.eq(CHECKLIST_ITEM.CHECKLIST_ID))
                .and(item.QUESTION.eq(CHECKLIST_ITEM.QUESTION))
                .and(item.ASKS.eq(CHECKLIST_ITEM.ASKS).and(item.UNIT.eq(CHECKLIST_ITEM.UNIT)))
                .and(job.SITE_ID.eq(JOB.SITE_ID))
                .and(job.EQUIPMENT_ID.isNotDistinctFrom(JOB.EQUIPMENT_ID))
                .and(visit.ID.ne(VISIT.ID).and(visit.DAY.le(VISIT.DAY)))
                .and(answer.DOES_NOT_APPLY.isFalse())
                .orderBy(visit.DAY.desc(), answer.ANSWERED_AT.desc())
                .limit(1))
        .as("answered_before")
        .convertFrom(rows -> rows.map(Records.mapping(EarlierAnswer::new)));
  }

  private static List<AskedChecklist> grouped(
      Result<? extends Record> rows, ZoneId zone, Field<String> answerer) {
    var lists = new LinkedHashMap<Long, AskedChecklist>();
    for (Record row : rows) {
      lists
          .computeIfAbsent(
              Objects.requireNonNull(row.get(CHECKLIST.ID)),
              id ->
                  new AskedChecklist(
                      id, row.get(CHECKLIST.NAME), row.get(2, Integer.class), new ArrayList<>()))
          .items()
          .add(item(row, zone, answerer));
    }
    return List.copyOf(lists.values());
  }

  private static AskedItem item(Record row, ZoneId zone, Field<String> answerer) {
    Instant at = row.get(CHECKLIST_ANSWER.ANSWERED_AT);
    return new AskedItem(
        row.get(CHECKLIST_ITEM.ID),
        row.get(CHECKLIST_ITEM.QUESTION),
        row.get(CHECKLIST_ITEM.ASKS),
        List.of(row.get(CHECKLIST_ITEM.CHOICES)),
        List.of(row.get(CHECKLIST_ITEM.WRONG)),
        row.get(CHECKLIST_ITEM.UNIT),
        plain(row.get(CHECKLIST_ITEM.LEAST)),
        plain(row.get(CHECKLIST_ITEM.MOST)),
        row.get(CHECKLIST_ITEM.REQUIRED),
        at == null
            ? null
            : new GivenAnswer(
                row.get(CHECKLIST_ANSWER.ID),
                row.get(CHECKLIST_ANSWER.VERSION),
                row.get(CHECKLIST_ANSWER.ANSWER),
                row.get(CHECKLIST_ANSWER.DOES_NOT_APPLY),
                row.get(CHECKLIST_ANSWER.OUT_OF_LIMITS),
                row.get(CHECKLIST_ANSWER.WORD),
                LocalDateTime.ofInstant(at, zone),
                Objects.requireNonNull(row.get(answerer))),
        row.get(BEFORE).stream().findFirst().orElse(null));
  }

  private static @Nullable BigDecimal plain(@Nullable BigDecimal limit) {
    return limit == null ? null : new BigDecimal(Decimal.text(limit));
  }
}
