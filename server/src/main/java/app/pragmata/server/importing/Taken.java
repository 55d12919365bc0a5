package app.pragmata.server.importing;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.importing.ListTaker.Becomes;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jooq.UpdatableRecord;
import org.jspecify.annotations.Nullable;

/**
 * The records that the rows of a list became: which row each is from, and which are to be stored.
 */
final class Taken<R extends UpdatableRecord<R>> {
  private static final int PORTION = 1_000;

  private final Table<R> table;
  private final @Nullable Field<Integer> version;
  private final IdentityHashMap<R, Integer> rowOf = new IdentityHashMap<>();
  private final List<R> added = new ArrayList<>();
  private final List<R> changed = new ArrayList<>();

  Taken(Table<R> table) {
    this.table = table;
    this.version = table.field("version", Integer.class);
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
    if (version != null) {
      known.set(version, known.get(version) + 1);
    }
    changed.add(known);
    return Becomes.CHANGED;
  }

  /** Those that were not known before, in the order of their rows. */
  List<R> added() {
    return added;
  }

  /** Stores what is new and what changed. */
  void store(DSLContext database) {
    insert(database, table, added);
    database.batchUpdate(changed).execute();
  }

  /** Inserts records a thousand at a time; all must have the same columns set. */
  static <R extends UpdatableRecord<R>> void insert(
      DSLContext database, Table<R> table, List<R> records) {
    for (int from = 0; from < records.size(); from += PORTION) {
      database
          .insertInto(table)
          .set(records.subList(from, Math.min(from + PORTION, records.size())))
          .execute();
    }
  }
}
