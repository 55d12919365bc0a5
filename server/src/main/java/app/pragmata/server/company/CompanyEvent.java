package app.pragmata.server.company;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to what holds for the whole company. */
public enum CompanyEvent implements Event {
  FOUNDED(RecordKind.COMPANY),
  QUOTING_SETTINGS_CHANGED(RecordKind.COMPANY),
  HOLIDAY_ADDED(RecordKind.HOLIDAY),
  HOLIDAY_REMOVED(RecordKind.HOLIDAY),
  TERMS_ADDED(RecordKind.RESPONSE_TERMS),
  TERMS_CHANGED(RecordKind.RESPONSE_TERMS),
  TERMS_DELETED(RecordKind.RESPONSE_TERMS);

  private final RecordKind kind;

  CompanyEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
