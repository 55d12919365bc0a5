package app.pragmata.server.importing;

import app.pragmata.core.Reading;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.util.Map;

/** Knows what the rows of one kind of list become. Used for one run. */
interface ListTaker {
  /** What becomes of a row. */
  enum Becomes {
    ADDED,
    CHANGED,
    UNCHANGED
  }

  /**
   * Reads a row against what is on record and against the rows before it; every fault is noted with
   * its column. What a faulty row becomes means nothing.
   *
   * @param cells the texts of the mapped columns; a column that the list does not bring is not
   *     there
   */
  Becomes take(int row, Map<String, String> cells, Reading reading);

  /** Stores what was taken since it was asked last, and tells what happened. */
  void store(Act act, Events events);
}
