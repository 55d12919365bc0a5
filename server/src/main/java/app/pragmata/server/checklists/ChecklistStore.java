package app.pragmata.server.checklists;

import static app.pragmata.server.generated.Tables.CHECKLIST;
import static app.pragmata.server.generated.Tables.CHECKLIST_EDITION;
import static app.pragmata.server.generated.Tables.CHECKLIST_ITEM;

import app.pragmata.core.checklists.Asks;
import app.pragmata.core.checklists.Checklist;
import app.pragmata.core.checklists.ChecklistItem;
import app.pragmata.server.generated.tables.records.ChecklistItemRecord;
import app.pragmata.server.generated.tables.records.ChecklistRecord;
import app.pragmata.server.records.Act;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Checklists as the database keeps them: every edition of their questions. */
@Repository
class ChecklistStore {
  private final DSLContext database;

  ChecklistStore(DSLContext database) {
    this.database = database;
  }

  /** Locked until the transaction ends; empty when there is none. */
  Optional<ChecklistRecord> lock(long id) {
    return database.selectFrom(CHECKLIST).where(CHECKLIST.ID.eq(id)).forUpdate().fetchOptional();
  }

  /** The questions of an edition. */
  Checklist items(long checklistId, int edition) {
    return new Checklist(
        database
            .selectFrom(CHECKLIST_ITEM)
            .where(CHECKLIST_ITEM.CHECKLIST_ID.eq(checklistId))
            .and(CHECKLIST_ITEM.EDITION.eq(edition))
            .orderBy(CHECKLIST_ITEM.POSITION)
            .fetch(ChecklistStore::item));
  }

  static ChecklistItem item(ChecklistItemRecord row) {
    return new ChecklistItem(row.getQuestion(), asks(row), row.getRequired(), row.getRaisesToDo());
  }

  private static Asks asks(ChecklistItemRecord row) {
    return switch (row.getAsks()) {
      case YES_NO -> new Asks.YesNo(Set.of(row.getWrong()));
      case CHOICE -> new Asks.Choice(List.of(row.getChoices()), Set.of(row.getWrong()));
      case MEASUREMENT -> new Asks.Measurement(row.getUnit(), row.getLeast(), row.getMost());
      case TEXT -> new Asks.Text();
      case PHOTO -> new Asks.Photo();
    };
  }

  /** Keeps the questions of an edition for good; they are asked from now on. */
  void insert(Act act, long checklistId, int edition, Checklist checklist) {
    database
        .insertInto(CHECKLIST_EDITION)
        .set(CHECKLIST_EDITION.CHECKLIST_ID, checklistId)
        .set(CHECKLIST_EDITION.EDITION, edition)
        .set(CHECKLIST_EDITION.SINCE, act.at())
        .execute();
    var rows = new ArrayList<ChecklistItemRecord>();
    for (ChecklistItem item : checklist.items()) {
      rows.add(row(checklistId, edition, rows.size() + 1, item));
    }
    database.batchInsert(rows).execute();
  }

  private ChecklistItemRecord row(long checklistId, int edition, int position, ChecklistItem item) {
    ChecklistItemRecord row = database.newRecord(CHECKLIST_ITEM);
    row.setChecklistId(checklistId);
    row.setEdition(edition);
    row.setPosition((short) position);
    row.setQuestion(item.question());
    row.setAsks(item.asks().code());
    row.setRequired(item.required());
    row.setRaisesToDo(item.raisesToDo());
    row.setChoices(new String[0]);
    row.setWrong(new String[0]);
    row.setUnit("");
    switch (item.asks()) {
      case Asks.YesNo yesNo -> row.setWrong(words(yesNo.wrong()));
      case Asks.Choice choice -> {
        row.setChoices(choice.choices().toArray(String[]::new));
        row.setWrong(words(choice.wrong()));
      }
      case Asks.Measurement measurement -> {
        row.setUnit(measurement.unit());
        row.setLeast(measurement.least());
        row.setMost(measurement.most());
      }
      case Asks.Text text -> {}
      case Asks.Photo photo -> {}
    }
    return row;
  }

  private static String[] words(Set<String> words) {
    return words.stream().sorted().toArray(String[]::new);
  }
}
