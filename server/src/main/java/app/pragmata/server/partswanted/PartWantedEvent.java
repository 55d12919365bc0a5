package app.pragmata.server.partswanted;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to a part that a job waits for. */
public enum PartWantedEvent implements Event {
  PART_WANTED,
  PART_ORDERED,
  WANTED_PART_ARRIVED,
  WANTED_PART_FITTED,
  PART_NO_LONGER_WANTED,
  PART_STEP_TAKEN_BACK;

  @Override
  public RecordKind kind() {
    return RecordKind.PART_WANTED;
  }
}
