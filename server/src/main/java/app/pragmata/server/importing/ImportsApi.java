package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.IMPORT_FAULT;

import app.pragmata.server.generated.tables.records.ImportRecord;
import app.pragmata.server.http.BodyLimit;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Made;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.Semaphore;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Imports over HTTP: a file goes up, its columns are mapped, it is tried, it is taken in. */
@RestController
class ImportsApi {
  private static final int LARGEST_FILE = 50_000_000;
  private static final int SAMPLE = 4;
  private static final int FAULTS_SHOWN = 200;

  /** A column that the kind of list may bring. */
  record ColumnChoice(String name, String label, boolean needed) {}

  /**
   * How far an import is.
   *
   * @param headings the file's, each with the column that it stands for in {@code mapping}
   * @param sample the first rows as they are in the file
   */
  record ImportView(
      long id,
      ImportKind kind,
      String fileName,
      ImportState state,
      List<ColumnChoice> columns,
      List<String> headings,
      List<String> mapping,
      List<List<String>> sample,
      int rowCount,
      int rowsDone,
      int added,
      int changed,
      int unchanged,
      int faulty,
      String problem,
      List<RowFault> faults) {}

  record RowFault(int row, String column, String message) {}

  record MappingForm(List<String> mapping) {}

  /** A file is in memory while it is read; two people who bring one wait for each other. */
  private final Semaphore oneAtATime = new Semaphore(1, true);

  private final ImportService service;
  private final ImportStore store;
  private final DSLContext database;

  ImportsApi(ImportService service, ImportStore store, DSLContext database) {
    this.service = service;
    this.store = store;
    this.database = database;
  }

  /**
   * Takes a file up; its name and the kind of list are told in the address.
   *
   * @param encoding empty for UTF-8 and workbooks, else how a CSV file's letters are written
   */
  @PostMapping(path = "/api/imports", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(
              mediaType = "application/octet-stream",
              schema = @Schema(type = "string", format = "binary")))
  Made uploadImport(
      Act act,
      @RequestParam ImportKind kind,
      @RequestParam(defaultValue = "") String fileName,
      @RequestParam(defaultValue = "") String encoding,
      HttpServletRequest request)
      throws IOException {
    oneAtATime.acquireUninterruptibly();
    try {
      byte[] content =
          BodyLimit.read(
              request,
              LARGEST_FILE,
              "This file has more than 50 MB. Keep only the columns that are needed, or cut the list in two.");
      return new Made(service.upload(act, kind, fileName, encoding, content));
    } finally {
      oneAtATime.release();
    }
  }

  @GetMapping("/api/imports/{id}")
  ImportView getImport(@PathVariable long id) {
    ImportRecord row = store.get(id);
    ImportKind kind = row.getKind();
    return new ImportView(
        id,
        row.getKind(),
        row.getFileName(),
        row.getState(),
        kind.columns().stream()
            .map(column -> new ColumnChoice(column.name(), column.label(), column.needed()))
            .toList(),
        Arrays.asList(row.getHeadings()),
        Arrays.asList(row.getMapping()),
        store.listRows(id, 0, SAMPLE).stream().map(line -> Arrays.asList(line.getCells())).toList(),
        row.getRowCount(),
        row.getRowsDone(),
        row.getAdded(),
        row.getChanged(),
        row.getUnchanged(),
        row.getFaulty(),
        row.getProblem(),
        faults(id, FAULTS_SHOWN));
  }

  private List<RowFault> faults(long id, int most) {
    return database
        .select(IMPORT_FAULT.ROW_NUMBER, IMPORT_FAULT.COLUMN_NAME, IMPORT_FAULT.MESSAGE)
        .from(IMPORT_FAULT)
        .where(IMPORT_FAULT.IMPORT_ID.eq(id))
        .orderBy(IMPORT_FAULT.ROW_NUMBER)
        .limit(most)
        .fetch(Records.mapping(RowFault::new));
  }

  @GetMapping("/api/imports/{id}/faults/file")
  ResponseEntity<byte[]> faultsFile(
      @PathVariable long id, @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("rows-to-mend", format)
        .head("Row", "Column", "What is wrong")
        .rows(
            faults(id, ListFile.MOST_ROWS),
            fault -> new @Nullable Object[] {fault.row(), fault.column(), fault.message()})
        .answer();
  }

  @PostMapping("/api/imports/{id}/try")
  Made tryImport(Act act, @PathVariable long id, @RequestBody MappingForm form) {
    service.start(act, id, form.mapping(), false);
    return new Made(id);
  }

  @PostMapping("/api/imports/{id}/take")
  Made takeImport(Act act, @PathVariable long id, @RequestBody MappingForm form) {
    service.start(act, id, form.mapping(), true);
    return new Made(id);
  }
}
