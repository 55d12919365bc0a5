package app.pragmata.server.todos;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to something that is to be done. */
public enum ToDoEvent implements Event {
  ADDED(RecordKind.TO_DO),
  CHANGED(RecordKind.TO_DO),
  DONE(RecordKind.TO_DO),
  DROPPED(RecordKind.TO_DO),
  OPENED_AGAIN(RecordKind.TO_DO);

  private final RecordKind kind;

  ToDoEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
