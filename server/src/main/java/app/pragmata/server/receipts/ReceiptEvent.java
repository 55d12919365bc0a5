package app.pragmata.server.receipts;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to customers' money, and by it to what they owe. */
public enum ReceiptEvent implements Event {
  MONEY_RECEIVED(RecordKind.RECEIPT),
  MONEY_GIVEN_BACK(RecordKind.RECEIPT),
  RECEIPT_TAKEN_BACK(RecordKind.RECEIPT),
  MONEY_ALLOCATED(RecordKind.INVOICE),
  ALLOCATION_TAKEN_BACK(RecordKind.INVOICE);

  private final RecordKind kind;

  ReceiptEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
