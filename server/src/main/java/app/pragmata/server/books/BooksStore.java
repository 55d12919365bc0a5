package app.pragmata.server.books;

import static app.pragmata.server.generated.Tables.ACCOUNT;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static app.pragmata.server.generated.Tables.JOURNAL_LINE;
import static app.pragmata.server.generated.Tables.PERIOD;
import static app.pragmata.server.generated.Tables.POSTING_ACCOUNT;

import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.ChartOfAccounts;
import app.pragmata.core.books.CostObject;
import app.pragmata.core.books.JournalEntry;
import app.pragmata.core.books.Posting;
import app.pragmata.server.generated.tables.records.JournalEntryRecord;
import app.pragmata.server.generated.tables.records.JournalLineRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RecordKind;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Row1;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Posts to the journal; nothing in it is ever changed. What a transaction posts is written as the
 * last thing in it, in a few statements however much it is, so that the journal's numbers wait for
 * nothing else.
 */
@Repository
public class BooksStore {
  /**
   * Where an entry comes from.
   *
   * @param number of the document as people read it; null where it has none
   */
  public record Source(RecordKind kind, long id, @Nullable Long number, String description) {}

  /** An event to be posted on a day, which must lie in an open period. */
  public record Dated(BooksEvent event, Source source, LocalDate day) {}

  /**
   * A journal line as people read it.
   *
   * @param jobId of which job it is; null on the lines of control accounts
   */
  public record AccountLine(
      String accountCode,
      String accountName,
      @Nullable Long jobId,
      @Nullable Long jobNumber,
      @Nullable String costCentre,
      long debitMinor,
      long creditMinor) {}

  private static final int PORTION = 1_000;

  private final DSLContext database;
  private final NumberSeries numbers;

  BooksStore(DSLContext database, NumberSeries numbers) {
    this.database = database;
    this.numbers = numbers;
  }

  /** Posts an event on the act's day; one that moves no money leaves no entry. */
  public void post(Act act, BooksEvent event, Source source) {
    post(act, List.of(new Dated(event, source, act.today())));
  }

  /** Posts events, each on its day; those that move no money leave no entry. */
  public void post(Act act, List<Dated> events) {
    for (Dated dated : events) {
      JournalEntry entry = Posting.entryFor(dated.event());
      if (!entry.lines().isEmpty()) {
        waiting()
            .add(new Waiting(act, dated.event().code(), entry, dated.source(), dated.day(), false));
      }
    }
  }

  /**
   * Undoes an event that was posted, by the mirror image of what it would be by now: its cost may
   * stand elsewhere since. The first entry stays as it is.
   */
  public void reverse(Act act, BooksEvent event, Source source) {
    JournalEntry entry = Posting.entryFor(event);
    if (entry.lines().isEmpty()) {
      return;
    }
    var undo = new Waiting(act, event.code(), entry.reversed(), source, act.today(), true);
    // What this transaction has not posted yet it need not undo.
    boolean unposted = waiting().removeIf(each -> !each.reversal() && undoes(undo, each));
    if (!unposted) {
      waiting().add(undo);
    }
  }

  /** The lines that an event would post, with the accounts' names. */
  public List<AccountLine> preview(BooksEvent event) {
    var names = database.selectFrom(ACCOUNT).fetchMap(ACCOUNT.CODE, ACCOUNT.NAME);
    ChartOfAccounts chart = chart();
    return Posting.entryFor(event).lines().stream()
        .map(
            line -> {
              String code = chart.accountFor(line.category());
              CostObject of = line.of();
              return new AccountLine(
                  code,
                  names.get(code),
                  of == null ? null : of.jobId(),
                  of == null ? null : of.jobNumber(),
                  of == null ? null : of.costCentre(),
                  line.debit().minor(),
                  line.credit().minor());
            })
        .toList();
  }

  private ChartOfAccounts chart() {
    return new ChartOfAccounts(
        database.selectFrom(POSTING_ACCOUNT).where(POSTING_ACCOUNT.NOW).fetch().stream()
            .collect(
                Collectors.toMap(row -> row.getPostingCategory(), row -> row.getAccountCode())));
  }

  /** An entry that the transaction will post; a reversal names the event that it undoes. */
  private record Waiting(
      Act act,
      BooksEvent.Code event,
      JournalEntry entry,
      Source source,
      LocalDate day,
      boolean reversal) {}

  private static boolean undoes(Waiting undo, Waiting posted) {
    return Undone.of(undo).equals(Undone.of(posted));
  }

  private List<Waiting> waiting() {
    Unposted unposted = (Unposted) TransactionSynchronizationManager.getResource(this);
    if (unposted == null) {
      unposted = new Unposted();
      TransactionSynchronizationManager.bindResource(this, unposted);
      TransactionSynchronizationManager.registerSynchronization(unposted);
    }
    return unposted.entries;
  }

  private void write(List<Waiting> entries) {
    openPeriods(entries);
    Map<Undone, Long> undone = findUndone(entries);
    ChartOfAccounts chart = chart();
    long number = numbers.nextBlock(NumberSeries.Series.JOURNAL, entries.size());
    var heads = new ArrayList<JournalEntryRecord>();
    for (Waiting waiting : entries) {
      heads.add(head(waiting, number + heads.size(), undone));
    }
    List<Long> ids = new ArrayList<>();
    inPortions(
        heads,
        portion ->
            ids.addAll(
                database
                    .insertInto(JOURNAL_ENTRY)
                    .set(portion)
                    .returning(JOURNAL_ENTRY.ID)
                    .fetch()
                    .getValues(JOURNAL_ENTRY.ID)));
    for (int from = 0; from < entries.size(); from += PORTION) {
      var lines = new ArrayList<JournalLineRecord>();
      for (int i = from; i < Math.min(from + PORTION, entries.size()); i++) {
        lines.addAll(lines(ids.get(i), entries.get(i).entry(), chart));
      }
      database.insertInto(JOURNAL_LINE).set(lines).execute();
    }
  }

  private static <T> void inPortions(List<T> all, Consumer<List<T>> work) {
    for (int from = 0; from < all.size(); from += PORTION) {
      work.accept(all.subList(from, Math.min(from + PORTION, all.size())));
    }
  }

  private void openPeriods(List<Waiting> entries) {
    List<Row1<LocalDate>> months =
        entries.stream()
            .map(waiting -> waiting.day().withDayOfMonth(1))
            .distinct()
            .sorted()
            .map(DSL::row)
            .toList();
    database.insertInto(PERIOD, PERIOD.MONTH).valuesOfRows(months).onConflictDoNothing().execute();
  }

  private record Undone(BooksEvent.Code event, RecordKind kind, long id) {
    static Undone of(Waiting waiting) {
      return new Undone(waiting.event(), waiting.source().kind(), waiting.source().id());
    }
  }

  /** The entries that the reversals undo: of each event and source the one not reversed yet. */
  private Map<Undone, Long> findUndone(List<Waiting> entries) {
    List<Waiting> reversals = entries.stream().filter(Waiting::reversal).toList();
    if (reversals.isEmpty()) {
      return Map.of();
    }
    var reversal = JOURNAL_ENTRY.as("reversal");
    var found = new HashMap<Undone, Long>();
    database
        .select(
            JOURNAL_ENTRY.EVENT,
            JOURNAL_ENTRY.SOURCE_KIND,
            JOURNAL_ENTRY.SOURCE_ID,
            JOURNAL_ENTRY.ID)
        .from(JOURNAL_ENTRY)
        .leftJoin(reversal)
        .on(reversal.REVERSES_ID.eq(JOURNAL_ENTRY.ID))
        .where(
            DSL.row(JOURNAL_ENTRY.SOURCE_KIND, JOURNAL_ENTRY.SOURCE_ID)
                .in(
                    reversals.stream()
                        .map(each -> DSL.row(each.source().kind(), each.source().id()))
                        .toList()))
        .and(reversal.ID.isNull())
        .orderBy(JOURNAL_ENTRY.ID)
        .forEach(
            row -> found.put(new Undone(row.value1(), row.value2(), row.value3()), row.value4()));
    return found;
  }

  private static JournalEntryRecord head(Waiting waiting, long number, Map<Undone, Long> undone) {
    var head = new JournalEntryRecord();
    head.setNumber(number);
    head.setEntryDate(waiting.day());
    head.setEvent(waiting.reversal() ? BooksEvent.Code.REVERSAL : waiting.event());
    head.setDescription(waiting.source().description());
    head.setSourceKind(waiting.source().kind());
    head.setSourceId(waiting.source().id());
    head.setSourceNumber(waiting.source().number());
    head.setReversesId(
        waiting.reversal() ? Objects.requireNonNull(undone.get(Undone.of(waiting))) : null);
    head.setPostedAt(waiting.act().at());
    head.setPostedBy(waiting.act().personId());
    return head;
  }

  private static List<JournalLineRecord> lines(
      long entryId, JournalEntry entry, ChartOfAccounts chart) {
    var lines = new ArrayList<JournalLineRecord>();
    for (JournalEntry.Line line : entry.lines()) {
      CostObject of = line.of();
      lines.add(
          new JournalLineRecord(
              entryId,
              (short) (lines.size() + 1),
              chart.accountFor(line.category()),
              line.category(),
              of == null ? null : of.jobId(),
              of == null ? null : of.jobNumber(),
              of == null ? null : of.costCentre(),
              line.debit().minor(),
              line.credit().minor()));
    }
    return lines;
  }

  /** What one transaction posts, written as its last act. */
  private final class Unposted implements TransactionSynchronization {
    private final List<Waiting> entries = new ArrayList<>();

    // A transaction of its own inside this one has its own list.
    @Override
    public void suspend() {
      TransactionSynchronizationManager.unbindResource(BooksStore.this);
    }

    @Override
    public void resume() {
      TransactionSynchronizationManager.bindResource(BooksStore.this, this);
    }

    @Override
    public void beforeCommit(boolean readOnly) {
      if (!entries.isEmpty()) {
        write(entries);
      }
    }

    @Override
    public void beforeCompletion() {
      TransactionSynchronizationManager.unbindResourceIfPossible(BooksStore.this);
    }
  }
}
