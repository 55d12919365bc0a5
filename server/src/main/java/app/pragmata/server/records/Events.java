package app.pragmata.server.records;

import static app.pragmata.server.generated.Tables.AUDIT_ENTRY;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.toMap;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.val;

import app.pragmata.server.generated.tables.records.AuditEntryRecord;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.RowN;
import org.jooq.Table;
import org.jooq.UpdatableRecord;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import tools.jackson.databind.json.JsonMapper;

/**
 * The one way to change a record: stores it and writes down who did what to it, when, from what to
 * what and why, in the same transaction. All of a transaction is told to whoever follows it as one
 * {@link WhatHappened}.
 */
@Repository
public class Events {
  private static final int PORTION = 1_000;

  private final DSLContext database;
  private final ApplicationEventPublisher followers;
  private final JsonMapper json;

  Events(DSLContext database, ApplicationEventPublisher followers, JsonMapper json) {
    this.database = database;
    this.followers = followers;
    this.json = json;
  }

  /** Stores a new or changed record; a changed one gets its next version. */
  public void store(Act act, Event event, UpdatableRecord<?> row) {
    store(act, event, row, About.NOTHING);
  }

  /** The same with a reason and what else is to be said. */
  public void store(Act act, Event event, UpdatableRecord<?> row, About about) {
    Values values = storeRow(row).and(about);
    write(act, event, row, about, values);
  }

  /**
   * Stores a record that something else changed: its version counts on and whoever follows is told,
   * but nothing is written down where nothing of its own differs.
   */
  public void touch(Act act, Event event, UpdatableRecord<?> row) {
    Values values = storeRow(row);
    if (values.differ()) {
      write(act, event, row, About.NOTHING, values);
    } else {
      collected()
          .happened
          .add(new Happened(event, id(row), owner(event, row, About.NOTHING), values.changed()));
    }
  }

  /** Inserts many in a few statements; all must have the same columns set. They get their ids. */
  public <R extends UpdatableRecord<R>> void insertAll(
      Act act, Event event, Table<R> table, List<R> rows) {
    Field<Long> id = Objects.requireNonNull(table.field("id", Long.class));
    for (int from = 0; from < rows.size(); from += PORTION) {
      List<R> portion = rows.subList(from, Math.min(from + PORTION, rows.size()));
      List<Long> ids = database.insertInto(table).set(portion).returning(id).fetch().getValues(id);
      for (int i = 0; i < portion.size(); i++) {
        portion.get(i).set(id, ids.get(i));
        write(act, event, portion.get(i), About.NOTHING, Values.ofNew(portion.get(i)));
      }
    }
  }

  /** Stores many changed records in a few statements. */
  public <R extends UpdatableRecord<R>> void updateAll(Act act, Event event, List<R> rows) {
    updateAll(act, event, rows, Collections.nCopies(rows.size(), About.NOTHING));
  }

  /** The same with what is to be said of each. */
  public <R extends UpdatableRecord<R>> void updateAll(
      Act act, Event event, List<R> rows, List<About> abouts) {
    for (int i = 0; i < rows.size(); i++) {
      Values values = Values.ofChanged(rows.get(i)).and(abouts.get(i));
      write(act, event, rows.get(i), abouts.get(i), values);
      countOn(rows.get(i));
    }
    writeAll(rows);
  }

  /** The same as {@link #touch} for many of a table with versions, in a few statements. */
  public <R extends UpdatableRecord<R>> void touchAll(Act act, Event event, List<R> rows) {
    var changed = new ArrayList<R>();
    var moved = new ArrayList<R>();
    for (R row : rows) {
      Values values = Values.ofChanged(row);
      if (values.differ()) {
        write(act, event, row, About.NOTHING, values);
        changed.add(row);
      } else {
        collected()
            .happened
            .add(new Happened(event, id(row), owner(event, row, About.NOTHING), values.changed()));
        moved.add(row);
      }
    }
    changed.forEach(Events::countOn);
    writeAll(changed);
    if (!moved.isEmpty()) {
      countOn(moved);
    }
  }

  /** Writes what changed of these, in one statement for all of which the same columns changed. */
  private <R extends UpdatableRecord<R>> void writeAll(List<R> rows) {
    rows.stream()
        .filter(UpdatableRecord::touched)
        .collect(groupingBy(Events::changed))
        .forEach(
            (changed, alike) -> {
              for (int from = 0; from < alike.size(); from += PORTION) {
                writeAlike(changed, alike.subList(from, Math.min(from + PORTION, alike.size())));
              }
            });
    rows.forEach(row -> row.touched(false));
  }

  private static List<Field<?>> changed(UpdatableRecord<?> row) {
    return Stream.of(row.fields()).filter(row::touched).<Field<?>>map(field -> field).toList();
  }

  private <R extends UpdatableRecord<R>> void writeAlike(List<Field<?>> changed, List<R> rows) {
    Table<R> table = rows.getFirst().getTable();
    Field<Long> id = Objects.requireNonNull(table.field("id", Long.class));
    List<Field<?>> columns = Stream.concat(Stream.of(id), changed.stream()).toList();
    Table<?> written =
        DSL.values(rows.stream().map(row -> valuesOf(row, columns)).toArray(RowN[]::new))
            .as("written", columns.stream().map(Field::getName).toArray(String[]::new));
    database
        .update(table)
        .set(changed.stream().collect(toMap(column -> column, column -> written(column))))
        .from(written)
        .where(id.eq(written(id)))
        .execute();
  }

  private static RowN valuesOf(UpdatableRecord<?> row, List<Field<?>> columns) {
    return row(columns.stream().map(column -> val(row.get(column), column)).toList());
  }

  private static <T> Field<T> written(Field<T> column) {
    return field(name("written", column.getName()), column.getDataType());
  }

  private <R extends UpdatableRecord<R>> void countOn(List<R> rows) {
    Table<R> table = rows.getFirst().getTable();
    Field<Long> id = Objects.requireNonNull(table.field("id", Long.class));
    Field<Integer> version = Objects.requireNonNull(table.field("version", Integer.class));
    database
        .update(table)
        .set(version, version.plus(1))
        .where(id.in(rows.stream().map(row -> row.get(id)).toList()))
        .execute();
    for (R row : rows) {
      countOn(row);
      // It is stored already.
      row.touched(version, false);
    }
  }

  /** Deletes a record; what it was stays written down. */
  public void delete(Act act, Event event, UpdatableRecord<?> row) {
    delete(act, event, row, About.NOTHING);
  }

  /** The same with a reason and what it was a part of. */
  public void delete(Act act, Event event, UpdatableRecord<?> row, About about) {
    write(act, event, row, about, Values.ofGone(row));
    row.delete();
  }

  /** Writes down what happened to a record that was stored in another way. */
  public void tell(Act act, Event event, long recordId, About about) {
    Values values = Values.NONE.and(about);
    collect(act, event, recordId, about.ownerId(), about.reason(), values);
  }

  private Values storeRow(UpdatableRecord<?> row) {
    row.attach(database.configuration());
    if (isNew(row)) {
      Field<Integer> version = row.field("version", Integer.class);
      if (version != null) {
        row.set(version, 1);
      }
      row.store();
      return Values.ofNew(row);
    }
    Values values = Values.ofChanged(row);
    countOn(row);
    row.store();
    return values;
  }

  private static void countOn(UpdatableRecord<?> row) {
    Field<Integer> version = row.field("version", Integer.class);
    if (version != null) {
      row.set(version, row.get(version) + 1);
    }
  }

  private static boolean isNew(UpdatableRecord<?> row) {
    return row.original(row.getTable().getPrimaryKey().getFields().getFirst()) == null;
  }

  private void write(Act act, Event event, UpdatableRecord<?> row, About about, Values values) {
    collect(act, event, id(row), owner(event, row, about), about.reason(), values);
  }

  private static long id(UpdatableRecord<?> row) {
    return row.get("id", Long.class);
  }

  private static @Nullable Long owner(Event event, UpdatableRecord<?> row, About about) {
    RecordKind owner = event.kind().owner();
    if (about.ownerId() != null || owner == null) {
      return about.ownerId();
    }
    Field<?> column = row.field(owner.code() + "_id");
    return column == null ? null : row.get(column, Long.class);
  }

  private void collect(
      Act act, Event event, long recordId, @Nullable Long ownerId, String reason, Values values) {
    var entry = new AuditEntryRecord();
    entry.setAt(act.at());
    entry.setPersonId(act.personId());
    entry.setRecordKind(event.kind());
    entry.setRecordId(recordId);
    entry.setOwnerKind(ownerId == null ? null : event.kind().owner());
    entry.setOwnerId(ownerId);
    entry.setEvent(event.code());
    entry.setReason(reason);
    entry.setBefore(json(values.before()));
    entry.setAfter(json(values.after()));
    Collected collected = collected();
    collected.entries.add(entry);
    collected.happened.add(new Happened(event, recordId, ownerId, values.changed()));
    if (collected.entries.size() >= PORTION) {
      collected.write();
    }
  }

  private JSONB json(Map<String, String> values) {
    return JSONB.valueOf(json.writeValueAsString(values));
  }

  private Collected collected() {
    Collected collected = (Collected) TransactionSynchronizationManager.getResource(this);
    if (collected == null) {
      collected = new Collected();
      TransactionSynchronizationManager.bindResource(this, collected);
      TransactionSynchronizationManager.registerSynchronization(collected);
    }
    return collected;
  }

  /** What happened in one transaction so far. */
  private final class Collected implements TransactionSynchronization {
    private final List<AuditEntryRecord> entries = new ArrayList<>();
    private final List<Happened> happened = new ArrayList<>();

    private void write() {
      if (!entries.isEmpty()) {
        database.insertInto(AUDIT_ENTRY).set(entries).execute();
        entries.clear();
      }
    }

    // A transaction of its own inside this one has its own list.
    @Override
    public void suspend() {
      TransactionSynchronizationManager.unbindResource(Events.this);
    }

    @Override
    public void resume() {
      TransactionSynchronizationManager.bindResource(Events.this, this);
    }

    // Whoever follows is told before the last act of a transaction, the posting to the books.
    @Override
    public int getOrder() {
      return 0;
    }

    @Override
    public void beforeCommit(boolean readOnly) {
      write();
      followers.publishEvent(new WhatHappened(List.copyOf(happened)));
    }

    @Override
    public void beforeCompletion() {
      TransactionSynchronizationManager.unbindResourceIfPossible(Events.this);
    }
  }
}
