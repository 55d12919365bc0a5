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
import java.util.Arrays;
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

  /** Keeps a file that is to be read, and its rows as they come. */
  NewImport add(Act act, ImportKind kind, String fileName) {
    long id =
        database
            .insertInto(IMPORT)
            .set(IMPORT.KIND, kind)
            .set(IMPORT.FILE_NAME, fileName)
            .set(IMPORT.HEADINGS, new String[0])
            .set(IMPORT.MAPPING, new String[0])
            .set(IMPORT.STATE, ImportState.READ)
            .set(IMPORT.ROW_COUNT, 0)
            .set(IMPORT.UPLOADED_AT, act.at())
            .set(IMPORT.UPLOADED_BY, act.personId())
            .returning(IMPORT.ID)
            .fetchSingle(IMPORT.ID);
    return new NewImport(id, kind);
  }

  /** A list that is being read. */
  final class NewImport implements ListReader.Rows {
    private final long id;
    private final ImportKind kind;
    private final List<String> headings = new ArrayList<>();
    private final List<ImportRowRecord> portion = new ArrayList<>();
    private int count = -1;

    private NewImport(long id, ImportKind kind) {
      this.id = id;
      this.kind = kind;
    }

    @Override
    public void take(List<String> cells, List<Short> formulas) {
      count++;
      if (count == 0) {
        headings.addAll(cells);
        return;
      }
      while (headings.size() < cells.size()) {
        headings.add("");
      }
      portion.add(
          new ImportRowRecord(
              id, count, cells.toArray(String[]::new), formulas.toArray(Short[]::new)));
      if (portion.size() == PORTION) {
        store();
      }
    }

    private void store() {
      if (!portion.isEmpty()) {
        database.insertInto(IMPORT_ROW).set(portion).execute();
        portion.clear();
      }
    }

    /** Keeps what is known only at the end; gives the import's id. */
    long end() {
      store();
      database
          .update(IMPORT)
          .set(IMPORT.HEADINGS, headings.toArray(String[]::new))
          .set(IMPORT.MAPPING, kind.guess(headings).toArray(String[]::new))
          .set(IMPORT.ROW_COUNT, count)
          .where(IMPORT.ID.eq(id))
          .execute();
      return id;
    }
  }

  ImportRecord get(long id) {
    return database
        .selectFrom(IMPORT)
        .where(IMPORT.ID.eq(id))
        .fetchOptional()
        .orElseThrow(
            () -> new Refused(Rule.NOT_FOUND, "There is no such import. Choose the file again."));
  }

  /**
   * At most so many rows below this position, the first ones first, each with a cell for every
   * heading.
   */
  List<ImportRowRecord> listRows(long id, int after, int most) {
    int width = get(id).getHeadings().length;
    return database
        .selectFrom(IMPORT_ROW)
        .where(IMPORT_ROW.IMPORT_ID.eq(id))
        .and(IMPORT_ROW.POSITION.gt(after))
        .orderBy(IMPORT_ROW.POSITION)
        .limit(most)
        .fetch(
            row -> {
              row.setCells(padded(row.getCells(), width));
              return row;
            });
  }

  private static String[] padded(String[] cells, int width) {
    String[] padded = Arrays.copyOf(cells, width);
    Arrays.fill(padded, cells.length, width, "");
    return padded;
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
