package app.pragmata.server.stores;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to parts. */
public enum StoresEvent implements Event {
  PART_IMPORTED(RecordKind.PART),
  PART_LISTED(RecordKind.PART);

  private final RecordKind kind;

  StoresEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
