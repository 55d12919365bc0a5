package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.IMPORT;
import static app.pragmata.server.generated.Tables.IMPORT_FAULT;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.ImportFaultRecord;
import app.pragmata.server.generated.tables.records.ImportRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Tries lists and takes them in. A run goes on after its request is answered; how far it is stands
 * in the database. It is one transaction: all of the list is taken in, or nothing.
 */
@Service
class ImportService {
  private static final Logger LOG = LoggerFactory.getLogger(ImportService.class);
  private static final int ROWS_BETWEEN_SIGNS = 2_000;
  private static final int MOST_FAULTS_KEPT = 5_000;
  private static final Duration GIVEN_UP_AFTER = Duration.ofMinutes(2);

  private final DSLContext database;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final Events events;
  private final TransactionTemplate transaction;
  private final TransactionTemplate beside;

  ImportService(
      DSLContext database,
      CompanyStore companies,
      NumberSeries numbers,
      Events events,
      PlatformTransactionManager transactions) {
    this.database = database;
    this.companies = companies;
    this.numbers = numbers;
    this.events = events;
    this.transaction = new TransactionTemplate(transactions);
    this.beside = new TransactionTemplate(transactions);
    beside.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
  }

  /** Keeps a file that can be read, with the columns that its headings most likely mean; its id. */
  long upload(Act act, ImportKind kind, String fileName, String encoding, byte[] content) {
    ListReader.Read read = ListReader.read(content, encoding);
    return database
        .insertInto(IMPORT)
        .set(IMPORT.KIND, kind)
        .set(IMPORT.FILE_NAME, fileName.isBlank() ? "list" : fileName.strip())
        .set(IMPORT.ENCODING, encoding)
        .set(IMPORT.CONTENT, content)
        .set(IMPORT.MAPPING, kind.guess(read.headings()).toArray(String[]::new))
        .set(IMPORT.STATE, ImportState.READ)
        .set(IMPORT.ROW_COUNT, read.rows().size())
        .set(IMPORT.LAST_SIGN_AT, act.at())
        .set(IMPORT.UPLOADED_AT, act.at())
        .set(IMPORT.UPLOADED_BY, act.personId())
        .returning(IMPORT.ID)
        .fetchSingle(IMPORT.ID);
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
   * Starts a run over the whole list with this mapping.
   *
   * @param take whether what is read is kept; a trial leaves everything as it was
   */
  void start(Act act, long id, List<String> mapping, boolean take) {
    ImportRecord row = get(id);
    ImportKind kind = row.getKind();
    requireMapped(kind, mapping, row.getMapping().length);
    int begun =
        database
            .update(IMPORT)
            .set(IMPORT.MAPPING, mapping.toArray(String[]::new))
            .set(IMPORT.STATE, take ? ImportState.TAKING : ImportState.TRYING)
            .set(IMPORT.ROWS_DONE, 0)
            .set(IMPORT.PROBLEM, "")
            .set(IMPORT.LAST_SIGN_AT, act.at())
            .where(IMPORT.ID.eq(id))
            .and(IMPORT.STATE.ne(ImportState.TAKEN))
            .and(
                IMPORT
                    .STATE
                    .notIn(ImportState.TRYING, ImportState.TAKING)
                    .or(IMPORT.LAST_SIGN_AT.lt(act.at().minus(GIVEN_UP_AFTER))))
            .execute();
    if (begun == 0) {
      throw new Refused(
          row.getState() == ImportState.TAKEN ? Rule.LIST_TAKEN_IN : Rule.LIST_BEING_READ,
          row.getState() == ImportState.TAKEN
              ? "This list was taken in already. Choose the file again to take in a newer one."
              : "This list is being read just now. Wait until it is through.");
    }
    Thread.ofVirtual().name("import " + id).start(() -> run(act, id, kind, take));
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

  private void run(Act act, long id, ImportKind kind, boolean take) {
    try {
      Tally tally =
          transaction.execute(
              status -> {
                Tally counted = work(act, id, kind, take);
                if (!take || counted.faulty() > 0) {
                  status.setRollbackOnly();
                }
                return counted;
              });
      finish(act, id, tally, take);
    } catch (RuntimeException failed) {
      LOG.error("Import {} failed", id, failed);
      beside.executeWithoutResult(
          status ->
              database
                  .update(IMPORT)
                  .set(IMPORT.STATE, ImportState.FAILED)
                  .set(
                      IMPORT.PROBLEM,
                      failed instanceof Refused refused
                          ? refused.getMessage()
                          : "Something went wrong here and nothing was taken in. Try again.")
                  .where(IMPORT.ID.eq(id))
                  .execute());
    }
  }

  /** How the rows of a run came out, with the faults of those that cannot be taken. */
  private record Tally(
      int added, int changed, int unchanged, int faulty, List<ImportFaultRecord> faults) {}

  private Tally work(Act act, long id, ImportKind kind, boolean take) {
    ImportRecord row = get(id);
    ListReader.Read read = ListReader.read(row.getContent(), row.getEncoding());
    String[] mapping = row.getMapping();
    ListTaker taker = taker(act, kind);
    Map<Integer, List<ListReader.Formula>> formulas = new HashMap<>();
    read.formulas().forEach(f -> formulas.computeIfAbsent(f.row(), at -> new ArrayList<>()).add(f));
    var becomes = new EnumMap<ListTaker.Becomes, Integer>(ListTaker.Becomes.class);
    int faulty = 0;
    var faults = new ArrayList<ImportFaultRecord>();
    for (int i = 0; i < read.rows().size(); i++) {
      var reading = new Reading();
      for (ListReader.Formula formula : formulas.getOrDefault(i, List.of())) {
        if (!mapping[formula.column()].isEmpty()) {
          reading.fault(
              mapping[formula.column()],
              Rule.FORMULA,
              "This cell holds a formula. Put its value there instead (copy, then paste values only).");
        }
      }
      // The first row below the headings is the second of the file, as spreadsheets count.
      int number = i + 2;
      ListTaker.Becomes outcome =
          reading.faults().isEmpty()
              ? taker.take(number, cells(mapping, read.rows().get(i)), reading)
              : ListTaker.Becomes.UNCHANGED;
      if (reading.faults().isEmpty()) {
        becomes.merge(outcome, 1, Integer::sum);
      } else {
        faulty++;
        keep(id, number, reading.faults(), faults);
      }
      if (i % ROWS_BETWEEN_SIGNS == 0) {
        sign(id, i);
      }
    }
    if (take && faulty == 0) {
      taker.store(act, events);
      events.tell(
          act,
          ImportEvent.LIST_TAKEN_IN,
          id,
          About.because(row.getFileName())
              .with(Map.of(), Map.of("kind", row.getKind(), "rows", read.rows().size())));
    }
    return new Tally(
        becomes.getOrDefault(ListTaker.Becomes.ADDED, 0),
        becomes.getOrDefault(ListTaker.Becomes.CHANGED, 0),
        becomes.getOrDefault(ListTaker.Becomes.UNCHANGED, 0),
        faulty,
        faults);
  }

  private static void keep(long id, int number, List<Fault> found, List<ImportFaultRecord> faults) {
    for (Fault fault : found) {
      if (faults.size() < MOST_FAULTS_KEPT) {
        faults.add(new ImportFaultRecord(id, number, fault.field(), fault.message()));
      }
    }
  }

  private static Map<String, String> cells(String[] mapping, List<String> row) {
    var cells = new HashMap<String, String>();
    for (int column = 0; column < mapping.length; column++) {
      if (!mapping[column].isEmpty()) {
        cells.put(mapping[column], row.get(column));
      }
    }
    return cells;
  }

  private ListTaker taker(Act act, ImportKind kind) {
    return switch (kind) {
      case CUSTOMERS -> new CustomerTaker(database, companies.getCompany(), numbers, act.today());
      case SITES -> new SiteTaker(database, companies.getCompany());
      case CONTACTS -> new ContactTaker(database, companies.getCompany());
      case EQUIPMENT -> new EquipmentTaker(database, act.today());
      case PRICE_LIST -> new PartTaker(database, companies.getCompany());
    };
  }

  /** Lets whoever watches see how far it is, while the run itself is not committed yet. */
  private void sign(long id, int rowsDone) {
    beside.executeWithoutResult(
        status ->
            database
                .update(IMPORT)
                .set(IMPORT.ROWS_DONE, rowsDone)
                .set(IMPORT.LAST_SIGN_AT, DSL.currentInstant())
                .where(IMPORT.ID.eq(id))
                .execute());
  }

  private void finish(Act act, long id, Tally tally, boolean take) {
    beside.executeWithoutResult(
        status -> {
          boolean taken = take && tally.faulty() == 0;
          database.deleteFrom(IMPORT_FAULT).where(IMPORT_FAULT.IMPORT_ID.eq(id)).execute();
          if (!tally.faults().isEmpty()) {
            database.batchInsert(tally.faults()).execute();
          }
          database
              .update(IMPORT)
              .set(IMPORT.STATE, taken ? ImportState.TAKEN : ImportState.TRIED)
              .set(IMPORT.ROWS_DONE, IMPORT.ROW_COUNT)
              .set(IMPORT.ADDED, tally.added())
              .set(IMPORT.CHANGED, tally.changed())
              .set(IMPORT.UNCHANGED, tally.unchanged())
              .set(IMPORT.FAULTY, tally.faulty())
              .set(IMPORT.LAST_SIGN_AT, act.at())
              .where(IMPORT.ID.eq(id))
              .execute();
        });
  }
}
