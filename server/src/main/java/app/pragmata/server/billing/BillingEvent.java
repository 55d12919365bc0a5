package app.pragmata.server.billing;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to our bills. */
public enum BillingEvent implements Event {
  INVOICE_POSTED(RecordKind.INVOICE),
  INVOICE_CREDITED(RecordKind.INVOICE),
  CREDIT_POSTED(RecordKind.CREDIT_NOTE),
  BILL_FILED(RecordKind.OTHER_COST);

  private final RecordKind kind;

  BillingEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
