package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.IMPORT;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.generated.tables.records.ImportRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.LaterWork;
import java.util.HashSet;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Takes lists up and has them tried or taken in, which goes on after the request is answered. */
@Service
class ImportService {
  private final DSLContext database;
  private final ImportStore store;
  private final LaterWork later;

  ImportService(DSLContext database, ImportStore store, LaterWork later) {
    this.database = database;
    this.store = store;
    this.later = later;
  }

  /** Keeps a file that can be read, with the columns that its headings most likely mean; its id. */
  @Transactional
  public long upload(Act act, ImportKind kind, String fileName, String encoding, byte[] content) {
    var list = store.add(act, kind, fileName.isBlank() ? "list" : fileName.strip());
    ListReader.read(content, encoding, list);
    return list.end();
  }

  /**
   * Has the whole list run through with this mapping.
   *
   * @param take whether what is read is kept; a trial leaves everything as it was
   */
  @Transactional
  public void start(Act act, long id, List<String> mapping, boolean take) {
    ImportRecord row = store.get(id);
    requireMapped(row.getKind(), mapping, row.getHeadings().length);
    int begun =
        database
            .update(IMPORT)
            .set(IMPORT.MAPPING, mapping.toArray(String[]::new))
            .set(IMPORT.STATE, take ? ImportState.LOOKING : ImportState.TRYING)
            .set(IMPORT.ROWS_DONE, 0)
            .set(IMPORT.PROBLEM, "")
            .where(IMPORT.ID.eq(id))
            .and(IMPORT.STATE.in(ImportState.READ, ImportState.TRIED, ImportState.FAILED))
            .execute();
    if (begun == 0) {
      throw row.getState() == ImportState.TAKEN
          ? new Refused(
              Rule.LIST_TAKEN_IN,
              "This list was taken in already. Choose the file again to take in a newer one.")
          : new Refused(
              Rule.LIST_BEING_READ, "This list is being read just now. Wait until it is through.");
    }
    later.soon(ImportRun.of(act, id));
  }

  private static void requireMapped(ImportKind kind, List<String> mapping, int headings) {
    var reading = new Reading();
    var seen = new HashSet<String>();
    for (int i = 0; i < mapping.size(); i++) {
      String column = mapping.get(i);
      if (!column.isEmpty() && !seen.add(column)) {
        reading.fault(
            "mapping/" + i,
            Rule.REPEATED,
            "Two columns stand for the same. Leave one of them out.");
      }
    }
    for (ImportKind.Column column : kind.columns()) {
      if (column.needed() && !seen.contains(column.name())) {
        reading.fault(
            "mapping",
            Rule.MISSING,
            "Say which column holds the " + column.label() + "; no row can do without it.");
      }
    }
    if (mapping.size() != headings) {
      reading.fault("mapping", Rule.OTHER_COLUMNS, "The file has other columns. Choose it again.");
    }
    reading.refuseIfFaulty();
  }
}
