package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.IMPORT;
import static app.pragmata.server.generated.Tables.IMPORT_FAULT;
import static app.pragmata.server.generated.Tables.IMPORT_ROW;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.generated.tables.records.ImportFaultRecord;
import app.pragmata.server.generated.tables.records.ImportRecord;
import app.pragmata.server.generated.tables.records.ImportRowRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Retention;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Lists on their way in: read once, then kept row by row. */
@Repository
class ImportStore implements Retention.KeptForAWhile {
  /** So long the rows of a list and what was wrong with them can be looked at. */
  private static final Duration KEPT = Duration.ofDays(30);

  private static final int PORTION = 1_000;

  private final DSLContext database;

  ImportStore(DSLContext database) {
    this.database = database;
  }

  /** Keeps what was read of a file; gives the import's id. */
  long insert(Act act, ImportKind kind, String fileName, ListReader.Read read) {
    long id =
        database
            .insertInto(IMPORT)
            .set(IMPORT.KIND, kind)
            .set(IMPORT.FILE_NAME, fileName)
            .set(IMPORT.HEADINGS, read.headings().toArray(String[]::new))
            .set(IMPORT.MAPPING, kind.guess(read.headings()).toArray(String[]::new))
            .set(IMPORT.STATE, ImportState.READ)
            .set(IMPORT.ROW_COUNT, read.rows().size())
            .set(IMPORT.UPLOADED_AT, act.at())
            .set(IMPORT.UPLOADED_BY, act.personId())
            .returning(IMPORT.ID)
            .fetchSingle(IMPORT.ID);
    Short[][] formulas = formulas(read);
    var portion = new ArrayList<ImportRowRecord>();
    for (int i = 0; i < read.rows().size(); i++) {
      String[] cells = read.rows().get(i).toArray(String[]::new);
      portion.add(new ImportRowRecord(id, i + 1, cells, formulas[i]));
      if (portion.size() == PORTION || i == read.rows().size() - 1) {
        database.insertInto(IMPORT_ROW).set(portion).execute();
        portion.clear();
      }
    }
    return id;
  }

  private static Short[][] formulas(ListReader.Read read) {
    var formulas = new ArrayList<List<Short>>();
    read.rows().forEach(row -> formulas.add(new ArrayList<>()));
    read.formulas().forEach(cell -> formulas.get(cell.row()).add((short) (cell.column() + 1)));
    return formulas.stream().map(row -> row.toArray(Short[]::new)).toArray(Short[][]::new);
  }

  ImportRecord get(long id) {
    return database
        .selectFrom(IMPORT)
        .where(IMPORT.ID.eq(id))
        .fetchOptional()
        .orElseThrow(
            () -> new Refused(Rule.NOT_FOUND, "There is no such import. Choose the file again."));
  }

  /** At most so many rows below this position, the first ones first. */
  List<ImportRowRecord> listRows(long id, int after, int most) {
    return database
        .selectFrom(IMPORT_ROW)
        .where(IMPORT_ROW.IMPORT_ID.eq(id))
        .and(IMPORT_ROW.POSITION.gt(after))
        .orderBy(IMPORT_ROW.POSITION)
        .limit(most)
        .fetch();
  }

  /**
   * Notes that a run is further than before.
   *
   * @return whether it was as far as the run believes; else another one is at it too
   */
  boolean advance(long id, int before, int rowsDone) {
    return database
            .update(IMPORT)
            .set(IMPORT.ROWS_DONE, rowsDone)
            .where(IMPORT.ID.eq(id))
            .and(IMPORT.ROWS_DONE.eq(before))
            .execute()
        == 1;
  }

  void addFaults(List<ImportFaultRecord> faults) {
    if (!faults.isEmpty()) {
      database.batchInsert(faults).execute();
    }
  }

  void deleteFaults(long id) {
    database.deleteFrom(IMPORT_FAULT).where(IMPORT_FAULT.IMPORT_ID.eq(id)).execute();
  }

  @Override
  public void forget(Instant now) {
    var old = database.select(IMPORT.ID).from(IMPORT).where(IMPORT.UPLOADED_AT.lt(now.minus(KEPT)));
    database.deleteFrom(IMPORT_ROW).where(IMPORT_ROW.IMPORT_ID.in(old)).execute();
    database.deleteFrom(IMPORT_FAULT).where(IMPORT_FAULT.IMPORT_ID.in(old)).execute();
  }
}
