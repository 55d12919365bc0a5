package app.pragmata.server.field;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;
import java.util.List;
import java.util.stream.Stream;

/** What happens to recorded time and parts. */
public enum FieldEvent implements Event {
  TIME_STARTED(RecordKind.TIME_ENTRY),
  TIME_STOPPED(RecordKind.TIME_ENTRY),
  TIME_ADDED(RecordKind.TIME_ENTRY),
  TIME_CORRECTED(RecordKind.TIME_ENTRY),
  TIME_REMOVED(RecordKind.TIME_ENTRY),
  PART_USED(RecordKind.VISIT_PART),
  PART_ADDED(RecordKind.VISIT_PART),
  PART_CORRECTED(RecordKind.VISIT_PART),
  PART_REMOVED(RecordKind.VISIT_PART),
  PART_NOT_UNDER_WARRANTY(RecordKind.VISIT_PART),
  PART_UNDER_WARRANTY(RecordKind.VISIT_PART);

  private final RecordKind kind;

  FieldEvent(RecordKind kind) {
    this.kind = kind;
  }

  /** The codes of what the office wrote down or put right afterwards. */
  public static List<String> corrections() {
    return Stream.of(TIME_ADDED, TIME_CORRECTED, PART_ADDED, PART_CORRECTED)
        .map(Event::code)
        .toList();
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
