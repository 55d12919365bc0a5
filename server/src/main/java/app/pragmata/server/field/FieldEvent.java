package app.pragmata.server.field;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to parts that are not on the price list. */
public enum FieldEvent implements Event {
  UNLISTED_PART_NOTED,
  UNLISTED_PART_PRICED,
  UNLISTED_PART_DROPPED;

  @Override
  public RecordKind kind() {
    return RecordKind.UNLISTED_PART;
  }
}
