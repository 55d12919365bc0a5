package app.pragmata.server.field;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens in the field beside jobs and their visits. */
public enum FieldEvent implements Event {
  UNLISTED_PART_NOTED(RecordKind.UNLISTED_PART),
  UNLISTED_PART_PRICED(RecordKind.UNLISTED_PART),
  UNLISTED_PART_DROPPED(RecordKind.UNLISTED_PART),
  CAME_IN_LATE(RecordKind.LATE_ACT),
  LATE_WRITTEN_DOWN(RecordKind.LATE_ACT),
  LATE_REFUSED(RecordKind.LATE_ACT),
  MESSAGE_SENT(RecordKind.JOB_MESSAGE),
  MESSAGE_SEEN(RecordKind.JOB_MESSAGE),
  VISIT_SIGNED(RecordKind.VISIT),
  VISIT_RATED(RecordKind.VISIT),
  PHOTO_ADDED(RecordKind.VISIT_PHOTO),
  PHOTO_REMOVED(RecordKind.VISIT_PHOTO);

  private final RecordKind kind;

  FieldEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
