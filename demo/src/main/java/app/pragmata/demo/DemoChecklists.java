package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.CHECKLIST;
import static app.pragmata.server.generated.Tables.CHECKLIST_EDITION;
import static app.pragmata.server.generated.Tables.CHECKLIST_ITEM;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.checklists.Asks;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import app.pragmata.server.checklists.VisitChecklists;
import app.pragmata.server.checklists.VisitChecklists.AnswerForm;
import app.pragmata.server.generated.tables.records.ChecklistItemRecord;
import app.pragmata.server.generated.tables.records.VisitRecord;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What is gone through on a safety check, and what the last of them found. */
@Component
class DemoChecklists {
  private static final String KIND = "Safety check";
  private static final int ANSWERED = 12;

  /** One of so many gates closes too hard. */
  private static final int TOO_HARD = 4;

  private final DSLContext database;
  private final VisitChecklists checklists;
  private final VisitStore visits;

  DemoChecklists(DSLContext database, VisitChecklists checklists, VisitStore visits) {
    this.database = database;
    this.checklists = checklists;
    this.visits = visits;
  }

  void fill(Act act) {
    List<ChecklistItemRecord> items = insert(act.at());
    List<VisitRecord> checked =
        database
            .select(VISIT.fields())
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(KIND_OF_JOB)
            .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
            .where(KIND_OF_JOB.NAME.eq(KIND))
            .and(VISIT.STATE.in(VisitState.Code.FINISHED, VisitState.Code.CHECKED))
            .orderBy(VISIT.DAY.desc(), VISIT.ID.desc())
            .limit(ANSWERED)
            .fetchInto(VISIT);
    for (int i = 0; i < checked.size(); i++) {
      VisitRecord visit = checked.get(checked.size() - 1 - i);
      var technician =
          new Act(visit.getTechnicianId(), Role.TECHNICIAN, visit.getFinishedAt(), act.zone());
      int seed = i % 7;
      boolean tooHard = seed == TOO_HARD;
      for (ChecklistItemRecord item : items) {
        String answer = answer(item, seed, tooHard);
        if (answer != null) {
          checklists.answer(
              technician,
              visits.lock(visit.getId()),
              new AnswerForm(item.getId(), answer, false, tooHard ? "Force limiter set anew." : ""),
              "");
        }
      }
    }
  }

  private static @Nullable String answer(ChecklistItemRecord item, int seed, boolean tooHard) {
    return switch (item.getAsks()) {
      case MEASUREMENT ->
          item.getUnit().isEmpty()
              ? String.valueOf(41_200 + 1_310 * seed)
              : String.valueOf(tooHard ? 430 : 310 + 11 * seed);
      case YES_NO -> "yes";
      case CHOICE -> seed % 3 == 0 ? "worn" : "good";
      case TEXT, PHOTO -> null;
    };
  }

  private List<ChecklistItemRecord> insert(Instant since) {
    long list =
        database
            .insertInto(CHECKLIST)
            .set(CHECKLIST.NAME, "Safety check of a powered gate or door")
            .set(
                CHECKLIST.KIND_OF_JOB_ID,
                database.fetchValue(KIND_OF_JOB.ID, KIND_OF_JOB.NAME.eq(KIND)))
            .set(CHECKLIST.EDITION, 1)
            .returning(CHECKLIST.ID)
            .fetchSingle(CHECKLIST.ID);
    database
        .insertInto(CHECKLIST_EDITION)
        .set(CHECKLIST_EDITION.CHECKLIST_ID, list)
        .set(CHECKLIST_EDITION.EDITION, 1)
        .set(CHECKLIST_EDITION.SINCE, since)
        .execute();
    ChecklistItemRecord force = item(list, 1, "Closing force at the edge", Asks.Code.MEASUREMENT);
    force.setUnit("N");
    force.setMost(new BigDecimal("400"));
    force.setRaisesToDo(true);
    ChecklistItemRecord obstacle =
        item(list, 2, "Stops and opens again at an obstacle", Asks.Code.YES_NO);
    obstacle.setWrong(new String[] {"no"});
    obstacle.setRaisesToDo(true);
    ChecklistItemRecord photocells =
        item(list, 3, "Photocells stop it on the way", Asks.Code.YES_NO);
    photocells.setWrong(new String[] {"no"});
    ChecklistItemRecord hinges = item(list, 4, "Hinges, rollers and guides", Asks.Code.CHOICE);
    hinges.setChoices(new String[] {"good", "worn", "broken"});
    hinges.setWrong(new String[] {"broken"});
    ChecklistItemRecord cycles = item(list, 5, "Openings on the counter", Asks.Code.MEASUREMENT);
    cycles.setRequired(false);
    ChecklistItemRecord plate = item(list, 6, "The rating plate", Asks.Code.PHOTO);
    plate.setRequired(false);
    ChecklistItemRecord remarks = item(list, 7, "What the customer should know", Asks.Code.TEXT);
    remarks.setRequired(false);
    List<ChecklistItemRecord> items =
        List.of(force, obstacle, photocells, hinges, cycles, plate, remarks);
    items.forEach(ChecklistItemRecord::store);
    return items;
  }

  private ChecklistItemRecord item(long list, int position, String question, Asks.Code asks) {
    ChecklistItemRecord row = database.newRecord(CHECKLIST_ITEM);
    row.setChecklistId(list);
    row.setEdition(1);
    row.setPosition((short) position);
    row.setQuestion(question);
    row.setAsks(asks);
    row.setUnit("");
    row.setRequired(true);
    row.setRaisesToDo(false);
    return row;
  }
}
