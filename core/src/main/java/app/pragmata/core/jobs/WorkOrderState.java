package app.pragmata.core.jobs;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;

/** How far work is that a subcontractor was ordered to do, or something that was hired. */
public enum WorkOrderState implements Coded {
  /** They have it, and their bill is awaited. */
  ORDERED,
  /** Their bill is among the job's costs. */
  BILLED,
  /** Nobody wants it any more. */
  DROPPED;

  /** The next state; refused of one whose bill is no longer awaited. */
  public WorkOrderState become(WorkOrderState next) {
    if (this != ORDERED) {
      throw new Refused(
          Rule.WORK_ORDER_MOVED_ON,
          "This work order is %s already. Reload the page.".formatted(code()));
    }
    return next;
  }
}
