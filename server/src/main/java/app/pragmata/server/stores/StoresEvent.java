package app.pragmata.server.stores;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to parts. */
public enum StoresEvent implements Event {
  PART_IMPORTED(RecordKind.PART),
  PART_LISTED(RecordKind.PART),
  PART_DELIVERED(RecordKind.PART),
  PART_COUNTED(RecordKind.PART),
  PART_MOVED(RecordKind.PART),
  HANDOVER_ASKED(RecordKind.HANDOVER),
  HANDOVER_AGREED(RecordKind.HANDOVER),
  HANDOVER_REFUSED(RecordKind.HANDOVER),
  HANDOVER_WITHDRAWN(RecordKind.HANDOVER);

  private final RecordKind kind;

  StoresEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
