package app.pragmata.server.checklists;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to checklists, and to what was answered to them. */
public enum ChecklistEvent implements Event {
  CHECKLIST_ADDED(RecordKind.CHECKLIST),
  CHECKLIST_CHANGED(RecordKind.CHECKLIST),
  CHECKLIST_ANSWERED(RecordKind.CHECKLIST_ANSWER),
  CHECKLIST_ANSWER_CHANGED(RecordKind.CHECKLIST_ANSWER);

  private final RecordKind kind;

  ChecklistEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
