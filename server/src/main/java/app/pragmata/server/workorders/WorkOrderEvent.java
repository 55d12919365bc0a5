package app.pragmata.server.workorders;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to an order of a subcontractor's work. */
public enum WorkOrderEvent implements Event {
  WORK_ORDERED,
  WORK_BILLED,
  WORK_ORDER_DROPPED;

  @Override
  public RecordKind kind() {
    return RecordKind.WORK_ORDER;
  }
}
