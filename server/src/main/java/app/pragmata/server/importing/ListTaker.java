package app.pragmata.server.importing;

import app.pragmata.core.Reading;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Table;
import org.jooq.UpdatableRecord;

/** Knows what the rows of one kind of list become. Used for one run, in one transaction. */
interface ListTaker {
  int PORTION = 1_000;

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

  /** Stores everything that was taken. */
  void store();

  /**
   * Stores new rows a thousand at a time, and changed ones each for itself; new ones have all
   * values that are not the table's own.
   */
  static <R extends UpdatableRecord<R>> void store(
      DSLContext database, Table<R> table, List<R> added, List<R> changed) {
    for (int from = 0; from < added.size(); from += PORTION) {
      database
          .insertInto(table)
          .set(added.subList(from, Math.min(from + PORTION, added.size())))
          .execute();
    }
    database.batchUpdate(changed).execute();
  }
}
