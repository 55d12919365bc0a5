package app.pragmata.server.deposits;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.DEPOSIT;
import static app.pragmata.server.generated.Tables.DEPOSIT_USE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.books.MoneyIn;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.DepositRecord;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.quoting.StoredQuote;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Deposits from the money's coming in to where it went; each step posts and is one transaction. */
@Service
@Transactional
public class DepositService {
  /** Money as it came in for a quote; an empty day is today. */
  public record DepositForm(
      @Nullable String amount, @Nullable String receivedOn, @Nullable PaymentMethod method) {}

  /** A deposit with what is left of it, in minor units. */
  public record DepositView(
      long id, LocalDate receivedOn, PaymentMethod method, long amountMinor, long heldMinor) {}

  private record Held(long id, long quoteId, Money left) {}

  private final DSLContext database;
  private final QuoteService quotes;
  private final BooksStore books;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;
  private final Events events;

  DepositService(
      DSLContext database,
      QuoteService quotes,
      BooksStore books,
      CompanyStore companies,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.quotes = quotes;
    this.books = books;
    this.companies = companies;
    this.repeats = repeats;
    this.events = events;
  }

  /** A deposit that the office saw come in; gives its id. */
  public long receive(Act act, @Nullable String key, long quoteId, DepositForm form) {
    return repeats.once(
        act,
        key,
        "receive deposit",
        quoteId + " " + form,
        () -> {
          var reading = new Reading();
          MoneyIn money =
              MoneyIn.read(
                  reading,
                  act,
                  companies.getCompany().typed(),
                  form.amount(),
                  form.receivedOn(),
                  form.method());
          StoredQuote quote = quotes.lock(quoteId);
          Money gross = quote.gross();
          if (money != null && held(List.of(quoteId)).plus(money.amount()).compareTo(gross) > 0) {
            reading.fault(
                "amount",
                Rule.EXCEEDS_LIMIT,
                "With this the deposit would be more than the total of %s. Check the amount."
                    .formatted(gross));
          }
          if (money != null && money.amount().isZero()) {
            reading.fault("amount", Rule.MISSING, "Enter how much came in.");
          }
          reading.refuseIfFaulty();
          if (!quote.isAccepted()) {
            throw new Refused(
                Rule.QUOTE_NOT_ACCEPTED,
                "A deposit is taken for an accepted quote. Record the yes first.");
          }
          return insert(act, quote, Objects.requireNonNull(money), null);
        });
  }

  /** Takes in what a card payment brought; its deposit is made once. */
  void receiveByCard(Act act, long quoteId, Money amount, long cardPaymentId) {
    insert(
        act,
        quotes.lock(quoteId),
        new MoneyIn(amount, act.today(), PaymentMethod.CARD),
        cardPaymentId);
  }

  private long insert(Act act, StoredQuote quote, MoneyIn money, @Nullable Long cardPaymentId) {
    Long entry =
        books.post(
            act,
            new BooksEvent.DepositReceived(money.amount()),
            source(quote, "deposit"),
            money.day());
    DepositRecord deposit = database.newRecord(DEPOSIT);
    deposit.setQuoteId(quote.id());
    deposit.setAmountMinor(money.amount().minor());
    deposit.setReceivedOn(money.day());
    deposit.setMethod(money.method());
    deposit.setCardPaymentId(cardPaymentId);
    deposit.setJournalEntryId(Objects.requireNonNull(entry));
    events.store(act, DepositEvent.DEPOSIT_RECEIVED, deposit);
    return deposit.getId();
  }

  /**
   * Gives back all that is left of a quote's deposits, where no job will use it; gives the quote.
   */
  public long refund(Act act, @Nullable String key, long quoteId) {
    return repeats.once(
        act,
        key,
        "refund deposit",
        quoteId,
        () -> {
          StoredQuote quote = quotes.lock(quoteId);
          List<Held> all = listHeld(List.of(quoteId));
          if (all.isEmpty()) {
            throw new Refused(Rule.NO_DEPOSIT_LEFT, "Nothing of a deposit is left to give back.");
          }
          requireNoRunningJob(quoteId);
          for (Held deposit : all) {
            Long entry =
                books.post(
                    act,
                    new BooksEvent.DepositRefunded(deposit.left()),
                    source(quote, "deposit given back"));
            use(
                act,
                DepositEvent.DEPOSIT_GIVEN_BACK,
                quoteId,
                deposit.id(),
                deposit.left(),
                null,
                Objects.requireNonNull(entry));
          }
          return quoteId;
        });
  }

  private void requireNoRunningJob(long quoteId) {
    database
        .select(JOB.NUMBER)
        .from(JOB)
        .join(ACCEPTED_QUOTE)
        .on(ACCEPTED_QUOTE.JOB_ID.eq(JOB.ID))
        .where(ACCEPTED_QUOTE.QUOTE_ID.eq(quoteId))
        .and(JobStore.running())
        .fetchOptional(JOB.NUMBER)
        .ifPresent(
            number -> {
              throw new Refused(
                  Rule.IN_USE,
                  "The deposit comes off the invoice of job %d. Call the job off first, or bill it."
                      .formatted(number));
            });
  }

  /**
   * Puts what is held for a job's quotes onto its invoice, at most what is owed on it; gives how
   * much that was.
   */
  public Money apply(
      Act act, Collection<Long> quoteIds, long invoiceId, Money owed, BooksStore.Source source) {
    Money applied = Money.ZERO;
    for (Held deposit : listHeld(quoteIds)) {
      Money left = owed.minus(applied);
      Money part = deposit.left().compareTo(left) > 0 ? left : deposit.left();
      if (part.isPositive()) {
        Long entry = books.post(act, new BooksEvent.DepositApplied(part), source);
        use(
            act,
            DepositEvent.DEPOSIT_USED,
            deposit.quoteId(),
            deposit.id(),
            part,
            invoiceId,
            Objects.requireNonNull(entry));
        applied = applied.plus(part);
      }
    }
    return applied;
  }

  private void use(
      Act act,
      DepositEvent event,
      long quoteId,
      long depositId,
      Money amount,
      @Nullable Long invoiceId,
      long entry) {
    database
        .insertInto(DEPOSIT_USE)
        .set(DEPOSIT_USE.DEPOSIT_ID, depositId)
        .set(DEPOSIT_USE.AMOUNT_MINOR, amount.minor())
        .set(DEPOSIT_USE.USED_ON, act.today())
        .set(DEPOSIT_USE.INVOICE_ID, invoiceId)
        .set(DEPOSIT_USE.JOURNAL_ENTRY_ID, entry)
        .execute();
    events.tell(
        act,
        event,
        depositId,
        About.partOf(quoteId).with(Map.of(), Map.of("amountMinor", amount.minor())));
  }

  /** All that ever came in for a quote, whatever became of it. */
  @Transactional(readOnly = true)
  public Money received(long quoteId) {
    return list(quoteId).stream()
        .map(deposit -> Money.ofMinor(deposit.amountMinor()))
        .collect(Money.sum());
  }

  /** What is left of the deposits of these quotes. */
  @Transactional(readOnly = true)
  public Money held(Collection<Long> quoteIds) {
    return listHeld(quoteIds).stream().map(Held::left).collect(Money.sum());
  }

  private List<Held> listHeld(Collection<Long> quoteIds) {
    Field<BigDecimal> left = left();
    return database
        .select(DEPOSIT.ID, DEPOSIT.QUOTE_ID, left)
        .from(DEPOSIT)
        .where(DEPOSIT.QUOTE_ID.in(quoteIds).and(left.gt(BigDecimal.ZERO)))
        .orderBy(DEPOSIT.ID)
        .fetch(
            row ->
                new Held(row.value1(), row.value2(), Money.ofMinor(row.value3().longValueExact())));
  }

  /** All deposits of a quote, the oldest first. */
  @Transactional(readOnly = true)
  public List<DepositView> list(long quoteId) {
    Field<BigDecimal> left = left();
    return database
        .select(DEPOSIT.ID, DEPOSIT.RECEIVED_ON, DEPOSIT.METHOD, DEPOSIT.AMOUNT_MINOR, left)
        .from(DEPOSIT)
        .where(DEPOSIT.QUOTE_ID.eq(quoteId))
        .orderBy(DEPOSIT.ID)
        .fetch(
            row ->
                new DepositView(
                    row.value1(),
                    row.value2(),
                    row.value3(),
                    row.value4(),
                    row.value5().longValueExact()));
  }

  private static Field<BigDecimal> left() {
    return DEPOSIT
        .AMOUNT_MINOR
        .cast(BigDecimal.class)
        .minus(
            coalesce(
                field(
                    select(sum(DEPOSIT_USE.AMOUNT_MINOR))
                        .from(DEPOSIT_USE)
                        .where(DEPOSIT_USE.DEPOSIT_ID.eq(DEPOSIT.ID))),
                inline(BigDecimal.ZERO)));
  }

  private BooksStore.Source source(StoredQuote quote, String what) {
    String costCentre =
        database
            .select(KIND_OF_JOB.COST_CENTRE)
            .from(KIND_OF_JOB)
            .where(KIND_OF_JOB.ID.eq(quote.kindOfJobId()))
            .fetchSingle(KIND_OF_JOB.COST_CENTRE);
    return new BooksStore.Source(
        "quote", quote.id(), "Q %d: %s".formatted(quote.number(), what), null, costCentre);
  }
}
