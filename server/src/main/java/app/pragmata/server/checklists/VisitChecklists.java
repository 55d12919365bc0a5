package app.pragmata.server.checklists;

import static app.pragmata.server.generated.Tables.CHECKLIST;
import static app.pragmata.server.generated.Tables.CHECKLIST_ANSWER;
import static app.pragmata.server.generated.Tables.CHECKLIST_ITEM;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_CHECKLIST;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.checklists.Answer;
import app.pragmata.core.checklists.Asks;
import app.pragmata.core.checklists.ChecklistItem;
import app.pragmata.server.generated.tables.records.ChecklistAnswerRecord;
import app.pragmata.server.generated.tables.records.ChecklistItemRecord;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What was answered to checklists on visits. A visit keeps the edition with which it began; an
 * answer that is out of limits takes a word, and the office hears of it where the list says so.
 */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class VisitChecklists {
  /**
   * An answer as it is given.
   *
   * @param answer as typed or chosen; empty where the question does not apply
   * @param word why it does not apply, or what was done about an answer that is out of limits
   */
  public record AnswerForm(
      @Nullable Long checklistItemId,
      @Nullable String answer,
      boolean doesNotApply,
      @Nullable String word) {}

  private static final int LONGEST_WORD = 300;

  private final DSLContext database;
  private final ToDoService toDos;
  private final Events events;

  VisitChecklists(DSLContext database, ToDoService toDos, Events events) {
    this.database = database;
    this.toDos = toDos;
    this.events = events;
  }

  /**
   * Notes an answer, or another one; gives its id. Refused of a list that is not gone through on
   * such work.
   *
   * @param visit locked
   */
  public long answer(Act act, LockedVisit visit, AnswerForm form, String reason) {
    var reading = new Reading();
    ChecklistItemRecord item = find(reading, visit, form.checklistItemId());
    reading.refuseIfFaulty();
    return answer(act, visit, begin(visit, Objects.requireNonNull(item)), form, reason);
  }

  /**
   * Has a visit go through the list of a question, as with its first answer, because there is a
   * photo of it. Null is no question; one of another list is a fault at the field.
   */
  public void begin(Reading reading, LockedVisit visit, String field, @Nullable Long itemId) {
    if (itemId == null) {
      return;
    }
    var own = new Reading();
    ChecklistItemRecord item = find(own, visit, itemId);
    if (item == null || item.getAsks() != Asks.Code.PHOTO) {
      reading.fault(field, Rule.NOT_FOUND, "No checklist of this visit asks for this photo.");
    } else {
      begin(visit, item);
    }
  }

  private @Nullable ChecklistItemRecord find(
      Reading reading, LockedVisit visit, @Nullable Long itemId) {
    if (itemId == null) {
      reading.fault("checklistItemId", Rule.MISSING, "Say which question this answers.");
      return null;
    }
    ChecklistItemRecord item =
        database
            .select(CHECKLIST_ITEM.fields())
            .from(CHECKLIST_ITEM)
            .join(CHECKLIST)
            .on(CHECKLIST.ID.eq(CHECKLIST_ITEM.CHECKLIST_ID))
            .join(VISIT)
            .on(VISIT.ID.eq(visit.id()))
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .leftJoin(VISIT_CHECKLIST)
            .on(VISIT_CHECKLIST.VISIT_ID.eq(VISIT.ID))
            .and(VISIT_CHECKLIST.CHECKLIST_ID.eq(CHECKLIST.ID))
            .where(CHECKLIST_ITEM.ID.eq(itemId))
            .and(VISIT_CHECKLIST.VISIT_ID.isNotNull().or(AskedChecklist.isOf()))
            .fetchOneInto(CHECKLIST_ITEM);
    if (item == null) {
      reading.fault(
          "checklistItemId",
          Rule.NOT_FOUND,
          "This checklist is not gone through on this work any more. Reload the page, and write what you found in the note.");
    }
    return item;
  }

  /** The question in the edition of the visit, where that asks the same; else the one given. */
  private ChecklistItemRecord begin(LockedVisit visit, ChecklistItemRecord item) {
    database
        .insertInto(VISIT_CHECKLIST)
        .values(visit.id(), item.getChecklistId(), item.getEdition())
        .onConflictDoNothing()
        .execute();
    ChecklistItem asked = ChecklistStore.item(item);
    return database
        .select(CHECKLIST_ITEM.fields())
        .from(CHECKLIST_ITEM)
        .join(VISIT_CHECKLIST)
        .on(VISIT_CHECKLIST.CHECKLIST_ID.eq(CHECKLIST_ITEM.CHECKLIST_ID))
        .and(VISIT_CHECKLIST.EDITION.eq(CHECKLIST_ITEM.EDITION))
        .where(VISIT_CHECKLIST.VISIT_ID.eq(visit.id()))
        .and(CHECKLIST_ITEM.CHECKLIST_ID.eq(item.getChecklistId()))
        .and(CHECKLIST_ITEM.QUESTION.eq(item.getQuestion()))
        .fetchInto(CHECKLIST_ITEM)
        .stream()
        .filter(same -> ChecklistStore.item(same).asks().equals(asked.asks()))
        .findFirst()
        .orElse(item);
  }

  private long answer(
      Act act, LockedVisit visit, ChecklistItemRecord item, AnswerForm form, String reason) {
    ChecklistItem asked = ChecklistStore.item(item);
    var reading = new Reading();
    String word = reading.optionalText("word", form.word(), LONGEST_WORD);
    Answer answer =
        form.doesNotApply()
            ? new Answer("", false)
            : reading.required("answer", form.answer(), asked.asks()::read);
    if (form.doesNotApply() && word.isEmpty()) {
      reading.fault("word", Rule.MISSING, "Say in a word why it does not apply here.");
    } else if (answer != null && answer.outOfLimits() && word.isEmpty()) {
      reading.fault(
          "word",
          Rule.OUT_OF_LIMITS,
          "%s is out of limits. Say in a word what you did about it."
              .formatted(said(item, answer)));
    }
    reading.refuseIfFaulty();
    return store(act, visit, item, Objects.requireNonNull(answer), word, reason);
  }

  private long store(
      Act act,
      LockedVisit visit,
      ChecklistItemRecord item,
      Answer answer,
      String word,
      String reason) {
    ChecklistAnswerRecord row =
        database
            .selectFrom(CHECKLIST_ANSWER)
            .where(CHECKLIST_ANSWER.VISIT_ID.eq(visit.id()))
            .and(CHECKLIST_ANSWER.CHECKLIST_ITEM_ID.eq(item.getId()))
            .fetchOptional()
            .orElseGet(() -> database.newRecord(CHECKLIST_ANSWER));
    boolean isNew = row.getId() == null;
    if (!isNew && row.getAnswer().equals(answer.text()) && row.getWord().equals(word)) {
      return row.getId();
    }
    if (row.getToDoId() != null) {
      toDos.settle(act, row.getToDoId(), cut("Answered anew: " + said(item, answer)));
    }
    row.setVisitId(visit.id());
    row.setChecklistItemId(item.getId());
    row.setAnswer(answer.text());
    row.setDoesNotApply(answer.text().isEmpty());
    row.setOutOfLimits(answer.outOfLimits());
    row.setWord(word);
    row.setAnsweredAt(act.at());
    row.setAnsweredBy(act.personId());
    row.setToDoId(
        answer.outOfLimits() && item.getRaisesToDo()
            ? tellOffice(act, visit, item, answer, word)
            : null);
    events.store(
        act,
        isNew ? ChecklistEvent.CHECKLIST_ANSWERED : ChecklistEvent.CHECKLIST_ANSWER_CHANGED,
        row,
        About.partOf(visit.job().id()).why(reason));
    return row.getId();
  }

  private long tellOffice(
      Act act, LockedVisit visit, ChecklistItemRecord item, Answer answer, String word) {
    String what =
        "Out of limits at %s: %s: %s. “%s”"
            .formatted(
                database.fetchValue(SITE.NAME, SITE.ID.eq(visit.job().siteId())),
                item.getQuestion(),
                said(item, answer),
                word);
    return toDos.insertForOffice(
        act,
        act.personId(),
        ToDoForm.ofJob(what, act.today(), visit.job().customerId(), visit.job().id()));
  }

  /** Such as "420 N"; that it does not apply, where nothing was answered. */
  private static String said(ChecklistItemRecord item, Answer answer) {
    return answer.text().isEmpty()
        ? "does not apply"
        : item.getUnit().isEmpty() ? answer.text() : answer.text() + " " + item.getUnit();
  }

  private static String cut(String said) {
    return said.length() > LONGEST_WORD ? said.substring(0, LONGEST_WORD) : said;
  }
}
