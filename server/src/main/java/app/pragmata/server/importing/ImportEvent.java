package app.pragmata.server.importing;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to imported lists. */
public enum ImportEvent implements Event {
  LIST_TAKEN_IN(RecordKind.IMPORT);

  private final RecordKind kind;

  ImportEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
