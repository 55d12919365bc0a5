package app.pragmata.server.quoting;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to quotes and to the kits that they are made from. */
public enum QuoteEvent implements Event {
  CREATED(RecordKind.QUOTE),
  SAVED(RecordKind.QUOTE),
  SENT(RecordKind.QUOTE),
  TAKEN_BACK(RecordKind.QUOTE),
  ACCEPTED(RecordKind.QUOTE),
  DECLINED(RecordKind.QUOTE),
  LINK_WITHDRAWN(RecordKind.QUOTE),
  QUESTION_ANSWERED(RecordKind.QUOTE),
  KIT_KEPT(RecordKind.KIT);

  private final RecordKind kind;

  QuoteEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
