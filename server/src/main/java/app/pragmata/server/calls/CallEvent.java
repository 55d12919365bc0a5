package app.pragmata.server.calls;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to fault talks and codes. */
public enum CallEvent implements Event {
  TALK_SAVED(RecordKind.FAULT_TALK),
  FAULT_CODE_SAVED(RecordKind.FAULT_CODE),
  CAUSE_CODE_SAVED(RecordKind.CAUSE_CODE);

  private final RecordKind kind;

  CallEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
