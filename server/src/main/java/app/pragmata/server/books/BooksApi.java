package app.pragmata.server.books;

import static app.pragmata.server.generated.Tables.ACCOUNT;
import static app.pragmata.server.generated.Tables.ACCOUNT_TOTAL;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static app.pragmata.server.generated.Tables.JOURNAL_LINE;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.AccountKind;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.http.PageKey;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record2;
import org.jooq.Records;
import org.jooq.Result;
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

  /** An entry with its lines and the way back to its job. */
  public record BooksEntry(
      long id,
      long number,
      LocalDate date,
      BooksEvent.Code event,
      String description,
      @Nullable Long jobId,
      @Nullable Long jobNumber,
      String costCentre,
      String postedBy,
      List<BooksStore.AccountLine> lines) {}

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
      @Nullable Long jobId,
      @Nullable Long jobNumber,
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
          jobId,
          jobNumber,
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
   * this one.
   */
  @GetMapping("/api/books/journal")
  Journal journal(@RequestParam(required = false) @Nullable Long before) {
    List<BooksEntry> entries =
        listEntries(before == null ? noCondition() : JOURNAL_ENTRY.NUMBER.lt(before), PAGE);
    return new Journal(entries, entries.size() < PAGE ? null : entries.getLast().number());
  }

  /** The entries of one job and of its quotes, newest first. */
  public List<BooksEntry> listEntries(long jobId, List<Long> quoteIds) {
    Condition ofItsQuote =
        JOURNAL_ENTRY.SOURCE_TYPE.eq("quote").and(JOURNAL_ENTRY.SOURCE_ID.in(quoteIds));
    return listEntries(JOURNAL_ENTRY.JOB_ID.eq(jobId).or(ofItsQuote), Integer.MAX_VALUE);
  }

  private List<BooksEntry> listEntries(Condition condition, int limit) {
    return database
        .select(
            JOURNAL_ENTRY.ID,
            JOURNAL_ENTRY.NUMBER,
            JOURNAL_ENTRY.ENTRY_DATE,
            JOURNAL_ENTRY.EVENT,
            JOURNAL_ENTRY.DESCRIPTION,
            JOURNAL_ENTRY.JOB_ID,
            JOURNAL_ENTRY.JOB_NUMBER,
            JOURNAL_ENTRY.COST_CENTRE,
            PERSON.NAME,
            multiset(
                    select(
                            JOURNAL_LINE.ACCOUNT_CODE,
                            ACCOUNT.NAME,
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
        .where(condition)
        .orderBy(JOURNAL_ENTRY.NUMBER.desc())
        .limit(limit)
        .fetch(Records.mapping(BooksEntry::new));
  }

  @GetMapping("/api/books/trial-balance")
  TrialBalance trialBalance() {
    List<AccountBalance> accounts =
        database
            .select(
                ACCOUNT.CODE,
                ACCOUNT.NAME,
                ACCOUNT.KIND,
                coalesce(ACCOUNT_TOTAL.DEBIT_MINOR.minus(ACCOUNT_TOTAL.CREDIT_MINOR), 0L),
                coalesce(ACCOUNT_TOTAL.LINES, 0L))
            .from(ACCOUNT)
            .leftJoin(ACCOUNT_TOTAL)
            .on(ACCOUNT_TOTAL.ACCOUNT_CODE.eq(ACCOUNT.CODE))
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
  Account account(@PathVariable String code, @RequestParam(defaultValue = "") String after) {
    var account = database.selectFrom(ACCOUNT).where(ACCOUNT.CODE.eq(code)).fetchOne();
    if (account == null) {
      throw new Refused(
          Rule.NOT_FOUND,
          "There is no account %s.".formatted(app.pragmata.core.Reading.abridged(code)));
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
                    JOURNAL_ENTRY.JOB_ID,
                    JOURNAL_ENTRY.JOB_NUMBER,
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
  ResponseEntity<byte[]> trialBalanceFile(
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("trial-balance", format)
        .head("Account", "Name", "Debit", "Credit")
        .rows(
            trialBalance().accounts(),
            a ->
                new Object[] {
                  a.code(),
                  a.name(),
                  ListFile.amount(a.debitMinor()),
                  ListFile.amount(a.creditMinor())
                })
        .answer();
  }

  /** The whole journal, the newest entry first; written while it is read, however long it is. */
  @GetMapping("/api/books/journal/file")
  void journalFile(
      @RequestParam(defaultValue = "csv") ListFile.Format format, HttpServletResponse response)
      throws IOException {
    ListFile file =
        ListFile.into(response, "journal", format)
            .head(
                "Entry",
                "Date",
                "Event",
                "Description",
                "Job",
                "Cost centre",
                "Account",
                "Name",
                "Debit",
                "Credit");
    Condition further = noCondition();
    List<BooksEntry> entries;
    do {
      entries = listEntries(further, PORTION);
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
      entry.jobNumber(),
      entry.costCentre(),
      line.accountCode(),
      line.accountName(),
      ListFile.amount(line.debitMinor()),
      ListFile.amount(line.creditMinor())
    };
  }
}
