package app.pragmata.core.checklists;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;

/**
 * One question of a checklist.
 *
 * @param required whether a visit is not finished as done without an answer
 * @param raisesToDo whether the office is to do something about an answer that is out of limits
 */
public record ChecklistItem(String question, Asks asks, boolean required, boolean raisesToDo) {
  /** Notes what is wrong with it, each at its field below {@code at}. */
  void check(String at, Reading reading) {
    asks.check(at, reading);
    if (raisesToDo && !asks.hasLimits()) {
      reading.fault(
          at + "/raisesToDo",
          Rule.WRONG_KIND,
          "No answer here is out of limits, so the office would never hear of it. Say first what is out of limits.");
    }
  }
}
