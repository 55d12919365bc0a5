package app.pragmata.server.rounds;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to agreements and their rounds. */
public enum RoundEvent implements Event {
  AGREEMENT_MADE(RecordKind.AGREEMENT),
  AGREEMENT_CHANGED(RecordKind.AGREEMENT),
  ROUND_AGREED(RecordKind.ROUND),
  ROUND_CHANGED(RecordKind.ROUND),
  ROUND_REMOVED(RecordKind.ROUND),
  ROUND_DATE_MADE(RecordKind.ROUND),
  ROUND_WENT_ON(RecordKind.ROUND);

  private final RecordKind kind;

  RoundEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
