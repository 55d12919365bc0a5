package app.pragmata.server.books;

import static app.pragmata.server.generated.Tables.ACCOUNT;
import static app.pragmata.server.generated.Tables.ACCOUNT_TOTAL;
import static app.pragmata.server.generated.Tables.COST_CENTRE;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static app.pragmata.server.generated.Tables.JOURNAL_LINE;
import static app.pragmata.server.generated.Tables.PERIOD;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.table;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.AccountKind;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.server.http.AskedDays;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record2;
import org.jooq.Records;
import org.jooq.Result;
import org.jooq.SelectField;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Reads the books: the journal, each account with its running balance, the trial balance. */
@RestController
public class BooksApi {
  private static final int PAGE = 50;

  /**
   * The document or fact of which an entry is.
   *
   * @param number as people read it; null where it has none
   */
  public record EntrySource(RecordKind kind, long id, @Nullable Long number) {}

  /**
   * An entry with its lines and the way back to where it comes from.
   *
   * @param reverses the number of the entry that it undoes; null for none
   * @param jobNumber of the one job that its lines are of; null for none or several
   */
  public record BooksEntry(
      long id,
      long number,
      LocalDate date,
      BooksEvent.Code event,
      String description,
      EntrySource source,
      @Nullable Long reverses,
      @Nullable Long jobNumber,
      String postedBy,
      List<BooksStore.AccountLine> lines) {}

  /** A month of the books; closed for good from a moment on, or open while that is null. */
  record Period(LocalDate month, @Nullable Instant closedAt, int entries) {}

  /** A part of the company that answers for what it sells and costs. */
  record CostCentre(String code, String name) {}

  record Journal(List<BooksEntry> entries, @Nullable Long before) {}

  record TrialBalance(List<AccountBalance> accounts, long debitMinor, long creditMinor) {}

  /** An account's balance on the side where it stands; the other side is nothing. */
  record AccountBalance(
      String code, String name, AccountKind kind, long debitMinor, long creditMinor, int entries) {}

  record Account(
      String code,
      String name,
      AccountKind kind,
      long balanceMinor,
      List<AccountEntry> entries,
      @Nullable String next) {}

  /** One line of an account; the balance after it is debit less credit. */
  record AccountEntry(
      long entryId,
      long number,
      LocalDate date,
      BooksEvent.Code event,
      String description,
      EntrySource source,
      @Nullable Long jobNumber,
      @Nullable String costCentre,
      long debitMinor,
      long creditMinor,
      long balanceMinor) {
    AccountEntry with(long balance) {
      return new AccountEntry(
          entryId,
          number,
          date,
          event,
          description,
          source,
          jobNumber,
          costCentre,
          debitMinor,
          creditMinor,
          balance);
    }
  }

  /** So many entries are read at once for the file. */
  private static final int PORTION = 2_000;

  private final DSLContext database;

  BooksApi(DSLContext database) {
    this.database = database;
  }

  /**
   * The newest entries first; {@code before} is the number of the oldest entry of the page before
   * this one. With days only the entries dated on them or between.
   */
  @GetMapping("/api/books/journal")
  Journal getJournal(
      Act act,
      @RequestParam(required = false) @Nullable Long before,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to) {
    Condition older = before == null ? noCondition() : JOURNAL_ENTRY.NUMBER.lt(before);
    List<BooksEntry> entries =
        listEntries(
            AskedDays.read(act, from, to).contain(JOURNAL_ENTRY.ENTRY_DATE).and(older), PAGE);
    return new Journal(entries, entries.size() < PAGE ? null : entries.getLast().number());
  }

  /** The entries with a line of this job, and those of receipts for it, newest first. */
  public List<BooksEntry> listEntries(long jobId, Collection<Long> receiptIds) {
    var ofReceipt = JOURNAL_ENTRY.as("of_receipt");
    return listEntries(
        JOURNAL_ENTRY.ID.in(
            select(JOURNAL_LINE.ENTRY_ID)
                .from(JOURNAL_LINE)
                .where(JOURNAL_LINE.JOB_ID.eq(jobId))
                .unionAll(
                    select(ofReceipt.ID)
                        .from(ofReceipt)
                        .where(ofReceipt.SOURCE_KIND.eq(RecordKind.RECEIPT))
                        .and(ofReceipt.SOURCE_ID.in(receiptIds)))),
        Integer.MAX_VALUE);
  }

  private List<BooksEntry> listEntries(Condition condition, int limit) {
    var reversed = JOURNAL_ENTRY.as("reversed");
    return database
        .select(
            JOURNAL_ENTRY.ID,
            JOURNAL_ENTRY.NUMBER,
            JOURNAL_ENTRY.ENTRY_DATE,
            JOURNAL_ENTRY.EVENT,
            JOURNAL_ENTRY.DESCRIPTION,
            source(),
            reversed.NUMBER,
            theJob(),
            PERSON.NAME,
            multiset(
                    select(
                            JOURNAL_LINE.ACCOUNT_CODE,
                            ACCOUNT.NAME,
                            JOURNAL_LINE.JOB_ID,
                            JOURNAL_LINE.JOB_NUMBER,
                            JOURNAL_LINE.COST_CENTRE,
                            JOURNAL_LINE.DEBIT_MINOR,
                            JOURNAL_LINE.CREDIT_MINOR)
                        .from(JOURNAL_LINE)
                        .join(ACCOUNT)
                        .on(ACCOUNT.CODE.eq(JOURNAL_LINE.ACCOUNT_CODE))
                        .where(JOURNAL_LINE.ENTRY_ID.eq(JOURNAL_ENTRY.ID))
                        .orderBy(JOURNAL_LINE.POSITION))
                .convertFrom(rows -> rows.map(Records.mapping(BooksStore.AccountLine::new))))
        .from(JOURNAL_ENTRY)
        .join(PERSON)
        .on(PERSON.ID.eq(JOURNAL_ENTRY.POSTED_BY))
        .leftJoin(reversed)
        .on(reversed.ID.eq(JOURNAL_ENTRY.REVERSES_ID))
        .where(condition)
        .orderBy(JOURNAL_ENTRY.NUMBER.desc())
        .limit(limit)
        .fetch(Records.mapping(BooksEntry::new));
  }

  private static SelectField<EntrySource> source() {
    return row(JOURNAL_ENTRY.SOURCE_KIND, JOURNAL_ENTRY.SOURCE_ID, JOURNAL_ENTRY.SOURCE_NUMBER)
        .mapping(EntrySource::new);
  }

  /** The job that all lines of an entry are of that are of any. */
  private static Field<Long> theJob() {
    var line = JOURNAL_LINE.as("line");
    return field(
        select(max(line.JOB_NUMBER))
            .from(line)
            .where(line.ENTRY_ID.eq(JOURNAL_ENTRY.ID))
            .having(max(line.JOB_NUMBER).eq(min(line.JOB_NUMBER))));
  }

  @GetMapping("/api/books/periods")
  List<Period> listPeriods() {
    return database
        .select(PERIOD.MONTH, PERIOD.CLOSED_AT, count(JOURNAL_ENTRY.ID))
        .from(PERIOD)
        .leftJoin(JOURNAL_ENTRY)
        .on(JOURNAL_ENTRY.PERIOD.eq(PERIOD.MONTH))
        .groupBy(PERIOD.MONTH)
        .orderBy(PERIOD.MONTH.desc())
        .fetch(Records.mapping(Period::new));
  }

  @GetMapping("/api/books/cost-centres")
  List<CostCentre> listCostCentres() {
    return database
        .select(COST_CENTRE.CODE, COST_CENTRE.NAME)
        .from(COST_CENTRE)
        .orderBy(COST_CENTRE.NAME)
        .fetch(Records.mapping(CostCentre::new));
  }

  /** What each account comes to, or what the entries of some days add to it. */
  @GetMapping("/api/books/trial-balance")
  TrialBalance getTrialBalance(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to) {
    AskedDays days = AskedDays.read(act, from, to);
    var totals =
        days.areAll()
            ? table(
                select(
                        ACCOUNT_TOTAL.ACCOUNT_CODE,
                        ACCOUNT_TOTAL.DEBIT_MINOR.minus(ACCOUNT_TOTAL.CREDIT_MINOR).as("balance"),
                        ACCOUNT_TOTAL.LINES)
                    .from(ACCOUNT_TOTAL))
            : table(
                select(
                        JOURNAL_LINE.ACCOUNT_CODE,
                        sum(JOURNAL_LINE.DEBIT_MINOR.minus(JOURNAL_LINE.CREDIT_MINOR))
                            .cast(Long.class)
                            .as("balance"),
                        count().cast(Long.class).as(ACCOUNT_TOTAL.LINES.getName()))
                    .from(JOURNAL_LINE)
                    .join(JOURNAL_ENTRY)
                    .on(JOURNAL_ENTRY.ID.eq(JOURNAL_LINE.ENTRY_ID))
                    .where(days.contain(JOURNAL_ENTRY.ENTRY_DATE))
                    .groupBy(JOURNAL_LINE.ACCOUNT_CODE));
    List<AccountBalance> accounts =
        database
            .select(
                ACCOUNT.CODE,
                ACCOUNT.NAME,
                ACCOUNT.KIND,
                coalesce(totals.field("balance", Long.class), 0L),
                coalesce(totals.field("lines", Long.class), 0L))
            .from(ACCOUNT)
            .leftJoin(totals)
            .on(Objects.requireNonNull(totals.field("account_code", String.class)).eq(ACCOUNT.CODE))
            .orderBy(ACCOUNT.CODE)
            .fetch(
                row ->
                    new AccountBalance(
                        row.value1(),
                        row.value2(),
                        row.value3(),
                        Math.max(row.value4(), 0),
                        Math.max(-row.value4(), 0),
                        Math.toIntExact(row.value5())));
    return new TrialBalance(
        accounts,
        accounts.stream().mapToLong(AccountBalance::debitMinor).sum(),
        accounts.stream().mapToLong(AccountBalance::creditMinor).sum());
  }

  /**
   * An account's newest lines first, each with the balance that it led to.
   *
   * @param after the key of the page before, which knows the balance from which this one goes on
   */
  @GetMapping("/api/books/accounts/{code}")
  Account getAccount(@PathVariable String code, @RequestParam(defaultValue = "") String after) {
    var account = database.selectFrom(ACCOUNT).where(ACCOUNT.CODE.eq(code)).fetchOne();
    if (account == null) {
      throw new Refused(
          Rule.NOT_FOUND, "There is no account %s.".formatted(Reading.abridged(code)));
    }
    long balance = balance(code);
    PageKey key = after.isEmpty() ? null : PageKey.parse(after, 3);
    long running = key == null ? balance : key.number(2);
    Condition further =
        key == null
            ? noCondition()
            : row(JOURNAL_LINE.ENTRY_ID, JOURNAL_LINE.POSITION.cast(Long.class))
                .lt(key.number(0), key.number(1));
    var entries = new ArrayList<AccountEntry>();
    PageKey last = null;
    for (var line : lines(code, further)) {
      entries.add(line.value1().with(running));
      running -= line.value1().debitMinor() - line.value1().creditMinor();
      last = PageKey.of(line.value1().entryId(), line.value2(), running);
    }
    return new Account(
        code,
        account.getName(),
        account.getKind(),
        balance,
        entries,
        entries.size() < PAGE * 2 || last == null ? null : last.text());
  }

  private Result<Record2<AccountEntry, Short>> lines(String code, Condition further) {
    return database
        .select(
            row(
                    JOURNAL_ENTRY.ID,
                    JOURNAL_ENTRY.NUMBER,
                    JOURNAL_ENTRY.ENTRY_DATE,
                    JOURNAL_ENTRY.EVENT,
                    JOURNAL_ENTRY.DESCRIPTION,
                    source(),
                    theJob(),
                    JOURNAL_LINE.COST_CENTRE,
                    JOURNAL_LINE.DEBIT_MINOR,
                    JOURNAL_LINE.CREDIT_MINOR,
                    inline(0L))
                .mapping(AccountEntry::new),
            JOURNAL_LINE.POSITION)
        .from(JOURNAL_LINE)
        .join(JOURNAL_ENTRY)
        .on(JOURNAL_ENTRY.ID.eq(JOURNAL_LINE.ENTRY_ID))
        .where(JOURNAL_LINE.ACCOUNT_CODE.eq(code))
        .and(further)
        .orderBy(JOURNAL_LINE.ENTRY_ID.desc(), JOURNAL_LINE.POSITION.desc())
        .limit(PAGE * 2)
        .fetch();
  }

  private long balance(String code) {
    return database
        .select(ACCOUNT_TOTAL.DEBIT_MINOR.minus(ACCOUNT_TOTAL.CREDIT_MINOR))
        .from(ACCOUNT_TOTAL)
        .where(ACCOUNT_TOTAL.ACCOUNT_CODE.eq(code))
        .fetchOptional()
        .map(total -> total.value1())
        .orElse(0L);
  }

  @GetMapping("/api/books/trial-balance/file")
  ResponseEntity<byte[]> downloadTrialBalance(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("trial-balance", format)
        .head("Account", "Name", "Debit", "Credit")
        .rows(
            getTrialBalance(act, from, to).accounts(),
            a ->
                new Object[] {
                  a.code(),
                  a.name(),
                  ListFile.amount(a.debitMinor()),
                  ListFile.amount(a.creditMinor())
                })
        .answer();
  }

  /** The journal, the newest entry first; written while it is read, however long it is. */
  @GetMapping("/api/books/journal/file")
  void downloadJournal(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "csv") ListFile.Format format,
      HttpServletResponse response)
      throws IOException {
    Condition asked = AskedDays.read(act, from, to).contain(JOURNAL_ENTRY.ENTRY_DATE);
    ListFile file =
        ListFile.into(response, "journal", format)
            .head(
                "Entry",
                "Date",
                "Event",
                "Description",
                "Source",
                "Source number",
                "Job",
                "Cost centre",
                "Account",
                "Name",
                "Debit",
                "Credit");
    Condition further = noCondition();
    List<BooksEntry> entries;
    do {
      entries = listEntries(asked.and(further), PORTION);
      entries.forEach(entry -> file.rows(entry.lines(), line -> cells(entry, line)));
      if (!entries.isEmpty()) {
        further = JOURNAL_ENTRY.NUMBER.lt(entries.getLast().number());
      }
    } while (entries.size() == PORTION);
    file.end();
  }

  private static @Nullable Object[] cells(BooksEntry entry, BooksStore.AccountLine line) {
    return new @Nullable Object[] {
      entry.number(),
      entry.date(),
      entry.event().code().replace('_', ' '),
      entry.description(),
      entry.source().kind().code().replace('_', ' '),
      entry.source().number(),
      line.jobNumber(),
      line.costCentre(),
      line.accountCode(),
      line.accountName(),
      ListFile.amount(line.debitMinor()),
      ListFile.amount(line.creditMinor())
    };
  }
}
