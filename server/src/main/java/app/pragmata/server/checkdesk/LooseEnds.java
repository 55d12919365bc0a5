package app.pragmata.server.checkdesk;

import static app.pragmata.server.generated.Tables.CHECKLIST;
import static app.pragmata.server.generated.Tables.CHECKLIST_ANSWER;
import static app.pragmata.server.generated.Tables.CHECKLIST_EDITION;
import static app.pragmata.server.generated.Tables.CHECKLIST_ITEM;
import static app.pragmata.server.generated.Tables.EXTRA_WORK_OFFER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.LATE_ACT;
import static app.pragmata.server.generated.Tables.PHONE_UNSENT;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_CHECKLIST;
import static app.pragmata.server.generated.Tables.VISIT_PHOTO;
import static app.pragmata.server.generated.Tables.VISIT_SIGNATURE;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.toMap;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.checkdesk.WorkedVisit;
import app.pragmata.core.field.LateActState;
import app.pragmata.core.jobs.Capture;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.checkdesk.FinishedVisits.Shown;
import app.pragmata.server.checklists.AskedChecklist;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Record3;
import org.jooq.Select;
import org.springframework.stereotype.Component;

/** Reads what is not settled on finished visits, and is on few of them. */
@Component
class LooseEnds {
  enum What {
    EXTRA_WORK,
    QUESTIONS_OPEN,
    OUT_OF_LIMITS,
    SIGNATURES,
    UNSENT,
    UNDECIDED
  }

  /**
   * What is asked about one visit.
   *
   * @param counted by visit
   * @param kindsToSign the kinds of job that want a signature
   */
  record OfVisits(Map<Long, Map<What, Integer>> counted, Set<Long> kindsToSign) {
    /** Offers of extra work that the customer has not answered. */
    int extraWorkOpen(Shown visit) {
      return things(visit, What.EXTRA_WORK);
    }

    /** Questions of its checklists that want an answer and have none; 0 where it is not done. */
    int questionsOpen(Shown visit) {
      return visit.done() ? things(visit, What.QUESTIONS_OPEN) : 0;
    }

    int answersOutOfLimits(Shown visit) {
      return things(visit, What.OUT_OF_LIMITS);
    }

    /** Whether it is done, its kind of job wants a signature and there is none. */
    boolean signatureMissing(Shown visit) {
      return visit.done()
          && kindsToSign.contains(visit.kindOfJobId())
          && things(visit, What.SIGNATURES) == 0;
    }

    WorkedVisit.Phone phone(Shown visit) {
      return new WorkedVisit.Phone(things(visit, What.UNSENT), things(visit, What.UNDECIDED));
    }

    private int things(Shown visit, What what) {
      return counted.getOrDefault(visit.id(), Map.of()).getOrDefault(what, 0);
    }
  }

  private record Counted(What what, long visitId, int things) {}

  private final DSLContext database;

  LooseEnds(DSLContext database) {
    this.database = database;
  }

  /** Those of these visits, read at once. */
  OfVisits read(List<Shown> shown) {
    return new OfVisits(
        fetch(val(shown.stream().map(Shown::id).toArray(Long[]::new))).stream()
            .collect(groupingBy(Counted::visitId, toMap(Counted::what, Counted::things))),
        kindsToSign());
  }

  private List<Counted> fetch(Field<Long[]> visitIds) {
    return database
        .select(inline(What.EXTRA_WORK.name()), EXTRA_WORK_OFFER.VISIT_ID, count())
        .from(EXTRA_WORK_OFFER)
        .join(QUOTE)
        .on(QUOTE.ID.eq(EXTRA_WORK_OFFER.QUOTE_ID))
        .where(EXTRA_WORK_OFFER.VISIT_ID.eq(any(visitIds)))
        .and(QUOTE.STATE.eq(QuoteState.Code.SENT))
        .groupBy(EXTRA_WORK_OFFER.VISIT_ID)
        .unionAll(questionsOpen(visitIds))
        .unionAll(
            select(inline(What.OUT_OF_LIMITS.name()), CHECKLIST_ANSWER.VISIT_ID, count())
                .from(CHECKLIST_ANSWER)
                .where(CHECKLIST_ANSWER.VISIT_ID.eq(any(visitIds)))
                .and(CHECKLIST_ANSWER.OUT_OF_LIMITS)
                .groupBy(CHECKLIST_ANSWER.VISIT_ID))
        .unionAll(
            select(inline(What.SIGNATURES.name()), VISIT_SIGNATURE.VISIT_ID, count())
                .from(VISIT_SIGNATURE)
                .where(VISIT_SIGNATURE.VISIT_ID.eq(any(visitIds)))
                .groupBy(VISIT_SIGNATURE.VISIT_ID))
        .unionAll(
            select(
                    inline(What.UNSENT.name()),
                    PHONE_UNSENT.VISIT_ID,
                    sum(PHONE_UNSENT.THINGS).cast(Integer.class))
                .from(PHONE_UNSENT)
                .where(PHONE_UNSENT.VISIT_ID.eq(any(visitIds)))
                .groupBy(PHONE_UNSENT.VISIT_ID))
        .unionAll(
            select(inline(What.UNDECIDED.name()), LATE_ACT.VISIT_ID, count())
                .from(LATE_ACT)
                .where(LATE_ACT.VISIT_ID.eq(any(visitIds)))
                .and(LATE_ACT.STATE.eq(LateActState.WAITING))
                .groupBy(LATE_ACT.VISIT_ID))
        .fetch(row -> new Counted(What.valueOf(row.value1()), row.value2(), row.value3()));
  }

  /**
   * Of the checklists by which a visit was done, and of those that it never began with: what they
   * asked when it was over.
   */
  private static Select<Record3<String, Long, Integer>> questionsOpen(Field<Long[]> visitIds) {
    return select(inline(What.QUESTIONS_OPEN.name()), VISIT.ID, count())
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .crossJoin(CHECKLIST)
        .leftJoin(VISIT_CHECKLIST)
        .on(VISIT_CHECKLIST.CHECKLIST_ID.eq(CHECKLIST.ID))
        .and(VISIT_CHECKLIST.VISIT_ID.eq(VISIT.ID))
        .join(CHECKLIST_ITEM)
        .on(CHECKLIST_ITEM.CHECKLIST_ID.eq(CHECKLIST.ID).and(CHECKLIST_ITEM.REQUIRED))
        .and(CHECKLIST_ITEM.EDITION.eq(coalesce(VISIT_CHECKLIST.EDITION, field(editionAtItsEnd()))))
        .where(VISIT.ID.eq(any(visitIds)))
        .and(
            VISIT_CHECKLIST
                .VISIT_ID
                .isNotNull()
                .or(CHECKLIST.ACTIVE.isTrue().and(AskedChecklist.isOf())))
        .andNotExists(
            selectOne()
                .from(CHECKLIST_ANSWER)
                .where(CHECKLIST_ANSWER.VISIT_ID.eq(VISIT.ID))
                .and(CHECKLIST_ANSWER.CHECKLIST_ITEM_ID.eq(CHECKLIST_ITEM.ID)))
        .andNotExists(
            selectOne()
                .from(VISIT_PHOTO)
                .where(VISIT_PHOTO.VISIT_ID.eq(VISIT.ID))
                .and(VISIT_PHOTO.CHECKLIST_ITEM_ID.eq(CHECKLIST_ITEM.ID))
                .and(VISIT_PHOTO.REMOVED_AT.isNull()))
        .groupBy(VISIT.ID);
  }

  /** None where the checklist came later. */
  private static Select<Record1<Integer>> editionAtItsEnd() {
    return select(max(CHECKLIST_EDITION.EDITION))
        .from(CHECKLIST_EDITION)
        .where(CHECKLIST_EDITION.CHECKLIST_ID.eq(CHECKLIST.ID))
        .and(CHECKLIST_EDITION.SINCE.le(VISIT.FINISHED_AT));
  }

  private Set<Long> kindsToSign() {
    return database
        .select(KIND_OF_JOB.ID)
        .from(KIND_OF_JOB)
        .where(inline(Capture.SIGNATURE.code()).eq(any(KIND_OF_JOB.BEFORE_FINISH)))
        .fetchSet(KIND_OF_JOB.ID);
  }
}
