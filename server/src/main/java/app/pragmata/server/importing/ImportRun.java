package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.IMPORT;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.ImportFaultRecord;
import app.pragmata.server.generated.tables.records.ImportRecord;
import app.pragmata.server.generated.tables.records.ImportRowRecord;
import app.pragmata.server.importing.ListTaker.Becomes;
import app.pragmata.server.live.LiveNotices;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RecordKind;
import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.ExecutionOperations;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Runs through a list. First every row is looked at and nothing is changed: one that cannot be
 * taken keeps the whole list out. Then the rows are taken in, portion by portion, each in one
 * transaction with how far the list is; when the server is killed, the next one goes on from there.
 */
@Component
class ImportRun {
  private static final Logger LOG = LoggerFactory.getLogger(ImportRun.class);
  private static final TaskDescriptor<Order> TASK = TaskDescriptor.of("import", Order.class);
  private static final int PORTION = 1_000;
  private static final int MOST_FAULTS_KEPT = 5_000;
  private static final int TRIES = 3;
  private static final Duration PAUSE = Duration.ofSeconds(2);

  /** Which list is to be run through, for whom. */
  record Order(long importId, Act act) {}

  private final DSLContext database;
  private final ImportStore store;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final Events events;
  private final LiveNotices live;
  private final TransactionTemplate transaction;

  ImportRun(
      DSLContext database,
      ImportStore store,
      CompanyStore companies,
      NumberSeries numbers,
      Events events,
      LiveNotices live,
      TransactionTemplate transaction) {
    this.database = database;
    this.store = store;
    this.companies = companies;
    this.numbers = numbers;
    this.events = events;
    this.live = live;
    this.transaction = transaction;
  }

  static TaskInstance<Order> of(Act act, long importId) {
    // A name of its own for each run: the one before may not have been cleared away yet.
    return TASK.instance(UUID.randomUUID().toString()).data(new Order(importId, act)).build();
  }

  @Bean
  static Task<Order> importTask(ImportRun run) {
    return Tasks.oneTime(TASK)
        .onFailure(run::failed)
        .execute((work, context) -> run.run(work.getData()));
  }

  private void failed(ExecutionComplete execution, ExecutionOperations<Order> operations) {
    Throwable cause = execution.getCause().orElse(null);
    Order order = (Order) execution.getExecution().taskInstance.getData();
    LOG.error("Import {} failed", order.importId(), cause);
    if (execution.getExecution().consecutiveFailures + 1 < TRIES) {
      operations.reschedule(execution, Instant.now().plus(PAUSE));
      return;
    }
    database
        .update(IMPORT)
        .set(IMPORT.STATE, ImportState.FAILED)
        .set(
            IMPORT.PROBLEM,
            "Something went wrong here before the list was through. Take it in again: what is in already stays as it is.")
        .where(IMPORT.ID.eq(order.importId()))
        .execute();
    live.tell(RecordKind.IMPORT);
    operations.remove();
  }

  private void run(Order order) {
    ImportRecord list = store.get(order.importId());
    boolean take =
        switch (list.getState()) {
          case TRYING, LOOKING -> isFitToBeTaken(order.act(), list);
          case TAKING -> true;
          // The server was killed when the list was through and before that was noted.
          case READ, TRIED, TAKEN, FAILED -> false;
        };
    if (take) {
      take(order.act(), store.get(order.importId()));
    }
  }

  /** How the rows came out. */
  private static final class Tally {
    private final EnumMap<Becomes, Integer> becomes = new EnumMap<>(Becomes.class);
    private final List<ImportFaultRecord> faults = new ArrayList<>();
    private int faulty;

    private int count(Becomes outcome) {
      return becomes.getOrDefault(outcome, 0);
    }
  }

  /** Looks at all rows; gives whether they are to be taken in now. */
  private boolean isFitToBeTaken(Act act, ImportRecord list) {
    ListTaker taker = taker(act, list.getKind());
    var tally = new Tally();
    int done = 0;
    for (List<ImportRowRecord> rows = rows(list, done); !rows.isEmpty(); rows = rows(list, done)) {
      look(taker, list, rows, tally);
      done = rows.getLast().getPosition();
      database
          .update(IMPORT)
          .set(IMPORT.ROWS_DONE, done)
          .where(IMPORT.ID.eq(list.getId()))
          .execute();
      live.tell(RecordKind.IMPORT);
    }
    boolean take = list.getState() == ImportState.LOOKING && tally.faulty == 0;
    transaction.executeWithoutResult(
        status -> {
          store.deleteFaults(list.getId());
          store.addFaults(tally.faults);
          database
              .update(IMPORT)
              .set(IMPORT.STATE, take ? ImportState.TAKING : ImportState.TRIED)
              .set(IMPORT.ROWS_DONE, take ? 0 : list.getRowCount())
              .set(IMPORT.ADDED, tally.count(Becomes.ADDED))
              .set(IMPORT.CHANGED, tally.count(Becomes.CHANGED))
              .set(IMPORT.UNCHANGED, tally.count(Becomes.UNCHANGED))
              .set(IMPORT.FAULTY, tally.faulty)
              .where(IMPORT.ID.eq(list.getId()))
              .execute();
          live.tell(RecordKind.IMPORT);
        });
    return take;
  }

  private List<ImportRowRecord> rows(ImportRecord list, int after) {
    return store.listRows(list.getId(), after, PORTION);
  }

  private static void look(
      ListTaker taker, ImportRecord list, List<ImportRowRecord> rows, Tally tally) {
    for (ImportRowRecord row : rows) {
      var reading = new Reading();
      refuseFormulas(list.getMapping(), row, reading);
      // The first row below the headings is the second of the file, as spreadsheets count.
      int number = row.getPosition() + 1;
      Becomes outcome =
          reading.faults().isEmpty()
              ? taker.take(number, cells(list.getMapping(), row), reading)
              : Becomes.UNCHANGED;
      if (reading.faults().isEmpty()) {
        tally.becomes.merge(outcome, 1, Integer::sum);
        continue;
      }
      tally.faulty++;
      for (Fault fault : reading.faults()) {
        if (tally.faults.size() < MOST_FAULTS_KEPT) {
          tally.faults.add(
              new ImportFaultRecord(list.getId(), number, fault.field(), fault.message()));
        }
      }
    }
  }

  private static void refuseFormulas(String[] mapping, ImportRowRecord row, Reading reading) {
    for (short place : row.getFormulas()) {
      if (!mapping[place - 1].isEmpty()) {
        reading.fault(
            mapping[place - 1],
            Rule.FORMULA,
            "This cell holds a formula. Put its value there instead (copy, then paste values only).");
      }
    }
  }

  private static Map<String, String> cells(String[] mapping, ImportRowRecord row) {
    var cells = new HashMap<String, String>();
    for (int column = 0; column < mapping.length; column++) {
      if (!mapping[column].isEmpty()) {
        cells.put(mapping[column], row.getCells()[column]);
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

  /**
   * Takes in what is left of a list. A row that can no longer be taken, because somebody changed
   * what it is about since all rows were looked at, is left out and named.
   */
  private void take(Act act, ImportRecord list) {
    ListTaker taker = taker(act, list.getKind());
    int done = list.getRowsDone();
    for (List<ImportRowRecord> rows = rows(list, done); !rows.isEmpty(); rows = rows(list, done)) {
      done = takePortion(act, list, taker, rows, done);
    }
    transaction.executeWithoutResult(
        status -> {
          events.tell(
              act,
              ImportEvent.LIST_TAKEN_IN,
              list.getId(),
              About.because(list.getFileName())
                  .with(Map.of(), Map.of("kind", list.getKind(), "rows", list.getRowCount())));
          database
              .update(IMPORT)
              .set(IMPORT.STATE, ImportState.TAKEN)
              .where(IMPORT.ID.eq(list.getId()))
              .execute();
        });
  }

  private int takePortion(
      Act act, ImportRecord list, ListTaker taker, List<ImportRowRecord> rows, int before) {
    int last = rows.getLast().getPosition();
    transaction.executeWithoutResult(
        status -> {
          if (!store.advance(list.getId(), before, last)) {
            throw new Refused(
                Rule.LIST_BEING_READ,
                "This list is being read just now. Wait until it is through.");
          }
          var tally = new Tally();
          look(taker, list, rows, tally);
          taker.store(act, events);
          store.addFaults(tally.faults);
          database
              .update(IMPORT)
              .set(IMPORT.FAULTY, IMPORT.FAULTY.plus(tally.faulty))
              .where(IMPORT.ID.eq(list.getId()))
              .execute();
          live.tell(RecordKind.IMPORT);
        });
    return last;
  }
}
