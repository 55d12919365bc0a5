package app.pragmata.server.billing;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to bills, ours and those of suppliers. */
public enum BillingEvent implements Event {
  INVOICE_POSTED(RecordKind.INVOICE),
  DEPOSIT_TAKEN_OFF(RecordKind.INVOICE),
  INVOICE_PAID(RecordKind.INVOICE),
  MONEY_RECEIVED(RecordKind.RECEIPT);

  private final RecordKind kind;

  BillingEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
