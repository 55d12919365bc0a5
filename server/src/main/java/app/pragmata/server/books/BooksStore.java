package app.pragmata.server.books;

import static app.pragmata.server.generated.Tables.ACCOUNT;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static app.pragmata.server.generated.Tables.JOURNAL_LINE;
import static app.pragmata.server.generated.Tables.POSTING_ACCOUNT;

import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.ChartOfAccounts;
import app.pragmata.core.books.JournalEntry;
import app.pragmata.core.books.Posting;
import app.pragmata.server.generated.tables.records.JournalLineRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.NumberSeries;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Posts to the journal; nothing in it is ever changed. */
@Repository
public class BooksStore {
  /** Where an entry comes from: the source document, its job and its cost centre. */
  public record Source(
      String type, long id, String description, @Nullable Job job, String costCentre) {}

  /** The job of which an entry is. */
  public record Job(long id, long number) {}

  /** A journal line as people read it. */
  public record AccountLine(
      String accountCode, String accountName, long debitMinor, long creditMinor) {}

  private final DSLContext database;
  private final NumberSeries numbers;

  BooksStore(DSLContext database, NumberSeries numbers) {
    this.database = database;
    this.numbers = numbers;
  }

  /** Posts an event on the act's day; null when it moves no money and so leaves no entry. */
  public @Nullable Long post(Act act, BooksEvent event, Source source) {
    return post(act, event, source, act.today());
  }

  /**
   * Posts an event on the day on which it happened, which must lie in an open period; null when it
   * moves no money and so leaves no entry.
   */
  public @Nullable Long post(Act act, BooksEvent event, Source source, LocalDate day) {
    JournalEntry entry = Posting.entryFor(event);
    return entry.lines().isEmpty()
        ? null
        : insert(act, day, event.code(), source, codedLines(entry), null);
  }

  /** Undoes an entry by its mirror image; the first entry stays as it is. */
  public void reverse(Act act, long entryId, Source source) {
    List<CodedLine> mirrored =
        database
            .selectFrom(JOURNAL_LINE)
            .where(JOURNAL_LINE.ENTRY_ID.eq(entryId))
            .orderBy(JOURNAL_LINE.POSITION)
            .fetch(
                line ->
                    new CodedLine(
                        line.getAccountCode(), line.getCreditMinor(), line.getDebitMinor()));
    insert(act, act.today(), BooksEvent.Code.REVERSAL, source, mirrored, entryId);
  }

  /** The entry of this event and source that was not reversed; empty when there is none. */
  public Optional<Long> findUnreversed(BooksEvent.Code event, String sourceType, long sourceId) {
    var reversal = JOURNAL_ENTRY.as("reversal");
    return database
        .select(JOURNAL_ENTRY.ID)
        .from(JOURNAL_ENTRY)
        .leftJoin(reversal)
        .on(reversal.REVERSES_ID.eq(JOURNAL_ENTRY.ID))
        .where(JOURNAL_ENTRY.SOURCE_TYPE.eq(sourceType).and(JOURNAL_ENTRY.SOURCE_ID.eq(sourceId)))
        .and(JOURNAL_ENTRY.EVENT.eq(event).and(reversal.ID.isNull()))
        .fetchOptional(JOURNAL_ENTRY.ID);
  }

  /** The lines that an event would post, with the accounts' names. */
  public List<AccountLine> preview(BooksEvent event) {
    var names = database.selectFrom(ACCOUNT).fetchMap(ACCOUNT.CODE, ACCOUNT.NAME);
    return codedLines(Posting.entryFor(event)).stream()
        .map(
            line ->
                new AccountLine(
                    line.accountCode(), names.get(line.accountCode()), line.debit(), line.credit()))
        .toList();
  }

  private record CodedLine(String accountCode, long debit, long credit) {}

  private List<CodedLine> codedLines(JournalEntry entry) {
    ChartOfAccounts chart = chart();
    return entry.lines().stream()
        .map(
            line ->
                new CodedLine(
                    chart.accountFor(line.category()), line.debit().minor(), line.credit().minor()))
        .toList();
  }

  private ChartOfAccounts chart() {
    return new ChartOfAccounts(
        database.selectFrom(POSTING_ACCOUNT).fetch().stream()
            .collect(
                Collectors.toMap(row -> row.getPostingCategory(), row -> row.getAccountCode())));
  }

  private long insert(
      Act act,
      LocalDate day,
      BooksEvent.Code event,
      Source source,
      List<CodedLine> lines,
      @Nullable Long reverses) {
    long id =
        database
            .insertInto(JOURNAL_ENTRY)
            .set(JOURNAL_ENTRY.NUMBER, numbers.next(NumberSeries.Series.JOURNAL))
            .set(JOURNAL_ENTRY.ENTRY_DATE, day)
            .set(JOURNAL_ENTRY.EVENT, event)
            .set(JOURNAL_ENTRY.DESCRIPTION, source.description())
            .set(JOURNAL_ENTRY.SOURCE_TYPE, source.type())
            .set(JOURNAL_ENTRY.SOURCE_ID, source.id())
            .set(JOURNAL_ENTRY.JOB_ID, source.job() == null ? null : source.job().id())
            .set(JOURNAL_ENTRY.JOB_NUMBER, source.job() == null ? null : source.job().number())
            .set(JOURNAL_ENTRY.COST_CENTRE, source.costCentre())
            .set(JOURNAL_ENTRY.REVERSES_ID, reverses)
            .set(JOURNAL_ENTRY.POSTED_AT, act.at())
            .set(JOURNAL_ENTRY.POSTED_BY, act.personId())
            .returning(JOURNAL_ENTRY.ID)
            .fetchSingle(JOURNAL_ENTRY.ID);
    var records = new ArrayList<JournalLineRecord>();
    for (CodedLine line : lines) {
      records.add(
          new JournalLineRecord(
              id, (short) (records.size() + 1), line.accountCode(), line.debit(), line.credit()));
    }
    database.insertInto(JOURNAL_LINE).set(records).execute();
    return id;
  }
}
