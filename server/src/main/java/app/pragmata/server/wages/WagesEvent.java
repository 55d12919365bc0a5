package app.pragmata.server.wages;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to the hours that people are paid for. */
public enum WagesEvent implements Event {
  WAGES_SENT;

  @Override
  public RecordKind kind() {
    return RecordKind.WAGES_RUN;
  }
}
