package app.pragmata.server.importing;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.importing.ListTaker.Becomes;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Event;
import app.pragmata.server.records.Events;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.UpdatableRecord;
import org.jspecify.annotations.Nullable;

/**
 * The records that the rows of a list became: which row each is from, and which are to be stored.
 */
final class Taken<R extends UpdatableRecord<R>> {
  private final Table<R> table;
  private final IdentityHashMap<R, Integer> rowOf = new IdentityHashMap<>();
  private final List<R> added = new ArrayList<>();
  private final List<R> changed = new ArrayList<>();

  Taken(Table<R> table) {
    this.table = table;
  }

  /**
   * Whether an earlier row became this record already; then that is noted as a fault of the column.
   *
   * @param what such as {@code is the same site}
   */
  boolean isRepeated(@Nullable R known, String column, String what, Reading reading) {
    Integer row = known == null ? null : rowOf.get(known);
    if (row != null) {
      reading.fault(column, Rule.REPEATED, "Row %d %s. Keep one of the two.".formatted(row, what));
    }
    return row != null;
  }

  /** Sets what the list brings; an empty cell (null or no text) leaves what is on record. */
  <T> void set(R record, Field<T> field, @Nullable T value) {
    if (value != null && !value.equals("") && !value.equals(record.get(field))) {
      record.set(field, value);
    }
  }

  /** Keeps a record that was not known before. */
  Becomes add(int row, R record) {
    rowOf.put(record, row);
    added.add(record);
    return Becomes.ADDED;
  }

  /** Keeps a record that was known before, to be stored when the row changed it. */
  Becomes change(int row, R known) {
    rowOf.put(known, row);
    if (!known.touched()) {
      return Becomes.UNCHANGED;
    }
    changed.add(known);
    return Becomes.CHANGED;
  }

  /** Those that were not known before, in the order of their rows. */
  List<R> added() {
    return List.copyOf(added);
  }

  /** Stores what is new and what changed, once. */
  void store(Act act, Event event, Events events) {
    events.insertAll(act, event, table, added);
    events.updateAll(act, event, changed);
    added.clear();
    changed.clear();
  }
}
