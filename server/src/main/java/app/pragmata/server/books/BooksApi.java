package app.pragmata.server.books;

import static app.pragmata.server.generated.Tables.ACCOUNT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static app.pragmata.server.generated.Tables.JOURNAL_LINE;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.http.ListFile;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
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
      String event,
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
      String code, String name, String kind, long debitMinor, long creditMinor, int entries) {}

  record Account(
      String code,
      String name,
      String kind,
      long balanceMinor,
      List<AccountEntry> entries,
      @Nullable Long before) {}

  /** One line of an account; the balance after it is debit less credit. */
  record AccountEntry(
      long entryId,
      long number,
      LocalDate date,
      String event,
      String description,
      @Nullable Long jobId,
      @Nullable Long jobNumber,
      long debitMinor,
      long creditMinor,
      long balanceMinor) {}

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

  /** The entries of one job, newest first. */
  public List<BooksEntry> listEntriesOfJob(long jobId) {
    return listEntries(JOURNAL_ENTRY.JOB_ID.eq(jobId), 200);
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
            JOB.NUMBER,
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
                .convertFrom(
                    rows -> rows.map(org.jooq.Records.mapping(BooksStore.AccountLine::new))))
        .from(JOURNAL_ENTRY)
        .join(PERSON)
        .on(PERSON.ID.eq(JOURNAL_ENTRY.POSTED_BY))
        .leftJoin(JOB)
        .on(JOB.ID.eq(JOURNAL_ENTRY.JOB_ID))
        .where(condition)
        .orderBy(JOURNAL_ENTRY.NUMBER.desc())
        .limit(limit)
        .fetch(org.jooq.Records.mapping(BooksEntry::new));
  }

  @GetMapping("/api/books/trial-balance")
  TrialBalance trialBalance() {
    Field<BigDecimal> debits = coalesce(sum(JOURNAL_LINE.DEBIT_MINOR), BigDecimal.ZERO);
    Field<BigDecimal> credits = coalesce(sum(JOURNAL_LINE.CREDIT_MINOR), BigDecimal.ZERO);
    List<AccountBalance> accounts =
        database
            .select(
                ACCOUNT.CODE,
                ACCOUNT.NAME,
                ACCOUNT.KIND,
                debits,
                credits,
                count(JOURNAL_LINE.ENTRY_ID))
            .from(ACCOUNT)
            .leftJoin(JOURNAL_LINE)
            .on(JOURNAL_LINE.ACCOUNT_CODE.eq(ACCOUNT.CODE))
            .groupBy(ACCOUNT.CODE)
            .orderBy(ACCOUNT.CODE)
            .fetch(
                row -> {
                  long balance = row.value4().subtract(row.value5()).longValueExact();
                  return new AccountBalance(
                      row.value1(),
                      row.value2(),
                      row.value3(),
                      Math.max(balance, 0),
                      Math.max(-balance, 0),
                      row.value6());
                });
    return new TrialBalance(
        accounts,
        accounts.stream().mapToLong(AccountBalance::debitMinor).sum(),
        accounts.stream().mapToLong(AccountBalance::creditMinor).sum());
  }

  /** An account's newest lines first, each with the balance that it led to. */
  @GetMapping("/api/books/accounts/{code}")
  Account account(
      @PathVariable String code, @RequestParam(required = false) @Nullable Long before) {
    var account = database.selectFrom(ACCOUNT).where(ACCOUNT.CODE.eq(code)).fetchOne();
    if (account == null) {
      throw new Refused(
          Rule.NOT_FOUND,
          "There is no account %s.".formatted(app.pragmata.core.Reading.abridged(code)));
    }
    Field<BigDecimal> running =
        sum(JOURNAL_LINE.DEBIT_MINOR.minus(JOURNAL_LINE.CREDIT_MINOR))
            .over()
            .orderBy(JOURNAL_ENTRY.NUMBER);
    var lines =
        select(
                JOURNAL_ENTRY.ID,
                JOURNAL_ENTRY.NUMBER.as("number"),
                JOURNAL_ENTRY.ENTRY_DATE,
                JOURNAL_ENTRY.EVENT,
                JOURNAL_ENTRY.DESCRIPTION,
                JOURNAL_ENTRY.JOB_ID,
                JOB.NUMBER.as("job_number"),
                JOURNAL_LINE.DEBIT_MINOR,
                JOURNAL_LINE.CREDIT_MINOR,
                running.cast(Long.class).as("balance"))
            .from(JOURNAL_LINE)
            .join(JOURNAL_ENTRY)
            .on(JOURNAL_ENTRY.ID.eq(JOURNAL_LINE.ENTRY_ID))
            .leftJoin(JOB)
            .on(JOB.ID.eq(JOURNAL_ENTRY.JOB_ID))
            .where(JOURNAL_LINE.ACCOUNT_CODE.eq(code))
            .asTable("lines");
    Field<Long> number = field("number", Long.class);
    List<AccountEntry> entries =
        database
            .select()
            .from(lines)
            .where(before == null ? noCondition() : number.lt(before))
            .orderBy(number.desc())
            .limit(PAGE * 2)
            .fetchInto(AccountEntry.class);
    return new Account(
        code,
        account.getName(),
        account.getKind(),
        balance(code),
        entries,
        entries.size() < PAGE * 2 ? null : entries.getLast().number());
  }

  private long balance(String code) {
    return database
        .select(
            coalesce(
                sum(JOURNAL_LINE.DEBIT_MINOR.minus(JOURNAL_LINE.CREDIT_MINOR)), BigDecimal.ZERO))
        .from(JOURNAL_LINE)
        .where(JOURNAL_LINE.ACCOUNT_CODE.eq(code))
        .fetchSingle()
        .value1()
        .longValueExact();
  }

  @GetMapping("/api/books/trial-balance/file")
  ResponseEntity<byte[]> trialBalanceFile(@RequestParam(defaultValue = "csv") String format) {
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

  @GetMapping("/api/books/journal/file")
  ResponseEntity<byte[]> journalFile(@RequestParam(defaultValue = "csv") String format) {
    var file =
        ListFile.named("journal", format)
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
    for (BooksEntry entry : listEntries(noCondition(), Integer.MAX_VALUE)) {
      file.rows(
          entry.lines(),
          line ->
              new Object[] {
                entry.number(),
                entry.date(),
                entry.event(),
                entry.description(),
                entry.jobNumber(),
                entry.costCentre(),
                line.accountCode(),
                line.accountName(),
                ListFile.amount(line.debitMinor()),
                ListFile.amount(line.creditMinor())
              });
    }
    return file.answer();
  }
}
