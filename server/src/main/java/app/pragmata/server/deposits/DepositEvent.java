package app.pragmata.server.deposits;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to deposits. */
public enum DepositEvent implements Event {
  DEPOSIT_RECEIVED(RecordKind.DEPOSIT),
  DEPOSIT_USED(RecordKind.DEPOSIT),
  DEPOSIT_GIVEN_BACK(RecordKind.DEPOSIT);

  private final RecordKind kind;

  DepositEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
