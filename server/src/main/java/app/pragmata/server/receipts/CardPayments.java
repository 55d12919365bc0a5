package app.pragmata.server.receipts;

import static app.pragmata.server.generated.Tables.CARD_PAYMENT;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.people.Role;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.CardPaymentRecord;
import app.pragmata.server.receipts.CardTerminal.Answer;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicBoolean;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.annotation.Bean;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Takes deposits and money on site by card. That it was asked for is on record before the terminal
 * is called, so a lost answer never loses the money: the terminal is asked again what became of it.
 */
@Service
public class CardPayments {
  private static final Duration SOON = Duration.ofMinutes(1);
  private static final Duration PATIENCE = Duration.ofDays(1);
  private static final Duration ASKED_AGAIN_EVERY = Duration.ofSeconds(30);

  private final DSLContext database;
  private final @Nullable CardTerminal terminal;
  private final ReceiptService receipts;
  private final ReceiptStore store;
  private final ReceiptLetters letters;
  private final RepeatableRequests repeats;
  private final ToDoService toDos;
  private final CompanyStore companies;
  private final TransactionTemplate transaction;
  private final Clock clock;

  CardPayments(
      DSLContext database,
      ObjectProvider<CardTerminal> terminal,
      ReceiptService receipts,
      ReceiptStore store,
      ReceiptLetters letters,
      RepeatableRequests repeats,
      ToDoService toDos,
      CompanyStore companies,
      TransactionTemplate transaction,
      Clock clock) {
    this.database = database;
    this.terminal = terminal.getIfAvailable();
    this.receipts = receipts;
    this.store = store;
    this.letters = letters;
    this.repeats = repeats;
    this.toDos = toDos;
    this.companies = companies;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** What whoever pays by card should know first; null where no terminal takes cards. */
  public @Nullable String findNotice() {
    return terminal == null ? null : terminal.notice();
  }

  private CardTerminal requireTerminal() {
    if (terminal == null) {
      throw new Refused(
          Rule.NO_CARD_TERMINAL,
          "We take no cards here. Pay by bank transfer, or ask us how else you can pay.");
    }
    return terminal;
  }

  /** Charges a card; refused, in words for the customer, unless the money was taken. */
  public void pay(long quoteId, Money amount, @Nullable String typedCard) {
    CardTerminal takesCards = requireTerminal();
    var reading = new Reading();
    String card = card(reading, typedCard);
    reading.refuseIfFaulty();
    CardPaymentRecord open = findOpen(quoteId);
    if (open != null) {
      requireNotTaken(askAgain(open));
    }
    String reference = UUID.randomUUID().toString();
    begin(quoteId, amount, reference);
    charge(takesCards, reference, amount, card);
    requireTaken(state(reference));
  }

  /**
   * Charges a card for a job, on site; refused, in words for whoever takes it, unless the money was
   * taken. The same request again charges nothing: it says what became of the first.
   *
   * @param receiptTo where a receipt goes; empty for nowhere
   */
  public void payForJob(
      Act act,
      @Nullable String key,
      long jobId,
      @Nullable String typedAmount,
      @Nullable String typedCard,
      String receiptTo) {
    CardTerminal takesCards = requireTerminal();
    var reading = new Reading();
    Money amount = amount(reading, typedAmount);
    String card = card(reading, typedCard);
    reading.refuseIfFaulty();
    findAskedOfJob(jobId).ifPresent(this::askAgain);
    var first = new AtomicBoolean();
    CardPaymentRecord payment =
        Objects.requireNonNull(
            transaction.execute(
                status -> {
                  long id =
                      repeats.once(
                          act,
                          key,
                          "pay by card on site",
                          jobId + " " + amount,
                          () -> {
                            first.set(true);
                            return begin(act, jobId, Objects.requireNonNull(amount), receiptTo);
                          });
                  return database
                      .selectFrom(CARD_PAYMENT)
                      .where(CARD_PAYMENT.ID.eq(id))
                      .fetchSingle();
                }));
    if (first.get()) {
      charge(takesCards, payment.getReference(), Objects.requireNonNull(amount), card);
    } else {
      askAgain(payment);
    }
    requireTaken(state(payment.getReference()));
  }

  private @Nullable Money amount(Reading reading, @Nullable String typed) {
    Money amount = reading.required("amount", typed, companies.getCompany().typed()::money);
    if (amount != null && amount.isZero()) {
      reading.fault("amount", Rule.MISSING, "Enter how much is to be taken.");
    }
    return amount;
  }

  private static String card(Reading reading, @Nullable String typed) {
    String card = typed == null ? "" : typed.replaceAll("[ -]", "");
    if (!card.matches("\\d{12,19}")) {
      reading.fault(
          "card", Rule.UNREADABLE, "A card has 12 to 19 digits. Check the number on yours.");
    }
    return card;
  }

  private void charge(CardTerminal takesCards, String reference, Money amount, String card) {
    Answer answer = takesCards.charge(reference, amount.minor(), card);
    settle(reference, answer == Answer.NONE ? takesCards.find(reference) : answer);
  }

  private static void requireTaken(CardPaymentState state) {
    switch (state) {
      case TAKEN -> {}
      case DECLINED ->
          throw new Refused(
              Rule.DECLINED, "The card was declined. No money was taken; try another card.");
      case NOT_TAKEN ->
          throw new Refused(
              Rule.DECLINED, "The card terminal did not answer. No money was taken; try again.");
      case ASKED -> throw unknown();
    }
  }

  private static void requireNotTaken(CardPaymentState state) {
    if (state == CardPaymentState.ASKED) {
      throw unknown();
    }
    if (state == CardPaymentState.TAKEN) {
      throw new Refused(Rule.DEPOSIT_PAID, "The deposit is paid already. Nothing more was taken.");
    }
  }

  private static Refused unknown() {
    return new Refused(
        Rule.CARD_ANSWER_UNKNOWN,
        "We do not know yet whether the money was taken. Please do not pay again; look here in a few minutes.");
  }

  private void begin(long quoteId, Money amount, String reference) {
    int begun =
        database
            .insertInto(CARD_PAYMENT)
            .set(CARD_PAYMENT.QUOTE_ID, quoteId)
            .set(CARD_PAYMENT.REFERENCE, reference)
            .set(CARD_PAYMENT.AMOUNT_MINOR, amount.minor())
            .set(CARD_PAYMENT.STATE, CardPaymentState.ASKED)
            .set(CARD_PAYMENT.ASKED_AT, clock.instant())
            .onConflictDoNothing()
            .execute();
    if (begun == 0) {
      throw new Refused(
          Rule.CARD_PAYMENT_RUNNING,
          "This deposit is being paid already. Look here again in a minute.");
    }
  }

  private long begin(Act act, long jobId, Money amount, String receiptTo) {
    return database
        .insertInto(CARD_PAYMENT)
        .set(CARD_PAYMENT.JOB_ID, jobId)
        .set(CARD_PAYMENT.ASKED_BY, act.personId())
        .set(CARD_PAYMENT.RECEIPT_TO, receiptTo)
        .set(CARD_PAYMENT.REFERENCE, UUID.randomUUID().toString())
        .set(CARD_PAYMENT.AMOUNT_MINOR, amount.minor())
        .set(CARD_PAYMENT.STATE, CardPaymentState.ASKED)
        .set(CARD_PAYMENT.ASKED_AT, act.at())
        .onConflictDoNothing()
        .returning(CARD_PAYMENT.ID)
        .fetchOptional(CARD_PAYMENT.ID)
        .orElseThrow(CardPayments::unknown);
  }

  private Optional<CardPaymentRecord> findAskedOfJob(long jobId) {
    return database
        .selectFrom(CARD_PAYMENT)
        .where(CARD_PAYMENT.JOB_ID.eq(jobId))
        .and(CARD_PAYMENT.STATE.eq(CardPaymentState.ASKED))
        .fetchOptional();
  }

  @Bean
  static Task<Void> cardAnswers(CardPayments payments) {
    return Tasks.recurring("card-answers", FixedDelay.of(ASKED_AGAIN_EVERY))
        .execute((work, context) -> payments.askAgain());
  }

  /** Asks what became of payments whose answer was lost. */
  public void askAgain() {
    List<CardPaymentRecord> lost =
        database
            .selectFrom(CARD_PAYMENT)
            .where(CARD_PAYMENT.STATE.eq(CardPaymentState.ASKED))
            .fetch();
    for (CardPaymentRecord payment : lost) {
      if (askAgain(payment) == CardPaymentState.ASKED
          && payment.getAskedAt().plus(PATIENCE).isBefore(clock.instant())) {
        tellOffice(payment.getReference());
      }
    }
  }

  /** A terminal that does not answer for a day is asked by a person, and by us as before. */
  private void tellOffice(String reference) {
    transaction.executeWithoutResult(
        status -> {
          CardPaymentRecord payment = lock(reference);
          if (payment.getToldAt() != null || payment.getState() != CardPaymentState.ASKED) {
            return;
          }
          payment.setToldAt(clock.instant());
          payment.update();
          Act act = Act.ofProgram(clock.instant(), companies.getZone());
          toDos.insertForOffice(
              act,
              act.personId(),
              new ToDoForm(
                  0,
                  "The card terminal does not say whether money was taken. Ask it for payment %s."
                      .formatted(reference),
                  null,
                  null,
                  store.findCustomerOf(payment.getQuoteId(), payment.getJobId()).orElse(null),
                  payment.getJobId(),
                  payment.getQuoteId()));
        });
  }

  private CardPaymentRecord lock(String reference) {
    return database
        .selectFrom(CARD_PAYMENT)
        .where(CARD_PAYMENT.REFERENCE.eq(reference))
        .forUpdate()
        .fetchSingle();
  }

  /** A payment that has just begun may not have reached the terminal, which would not know it. */
  private CardPaymentState askAgain(CardPaymentRecord payment) {
    boolean reached = payment.getAskedAt().isBefore(clock.instant().minus(SOON));
    if (payment.getState() == CardPaymentState.ASKED && terminal != null && reached) {
      settle(payment.getReference(), terminal.find(payment.getReference()));
    }
    return state(payment.getReference());
  }

  @EventListener
  void on(CardAnswered answered) {
    settle(answered.reference(), answered.answer());
  }

  /** Notes the terminal's answer, once however often it answers; money that came is a deposit. */
  void settle(String reference, Answer answer) {
    if (answer == Answer.NONE) {
      return;
    }
    transaction.executeWithoutResult(
        status -> {
          CardPaymentRecord payment = lock(reference);
          if (payment.getState() != CardPaymentState.ASKED) {
            return;
          }
          payment.setState(
              switch (answer) {
                case TAKEN -> CardPaymentState.TAKEN;
                case DECLINED -> CardPaymentState.DECLINED;
                case NOT_TAKEN, NONE -> CardPaymentState.NOT_TAKEN;
              });
          payment.setAnsweredAt(clock.instant());
          payment.update();
          if (answer == Answer.TAKEN) {
            Act act = payer(payment);
            long receipt =
                receipts.receiveByCard(
                    act,
                    payment.getQuoteId(),
                    payment.getJobId(),
                    Money.ofMinor(payment.getAmountMinor()),
                    payment.getId());
            letters.send(act, receipt, payment.getReceiptTo());
          }
        });
  }

  private Act payer(CardPaymentRecord payment) {
    return payment.getAskedBy() == null
        ? Act.ofCustomer(clock.instant(), companies.getZone())
        : new Act(payment.getAskedBy(), Role.TECHNICIAN, clock.instant(), companies.getZone());
  }

  private @Nullable CardPaymentRecord findOpen(long quoteId) {
    return database
        .selectFrom(CARD_PAYMENT)
        .where(CARD_PAYMENT.QUOTE_ID.eq(quoteId))
        .and(CARD_PAYMENT.STATE.in(CardPaymentState.ASKED, CardPaymentState.TAKEN))
        .fetchOne();
  }

  private CardPaymentState state(String reference) {
    return database
        .select(CARD_PAYMENT.STATE)
        .from(CARD_PAYMENT)
        .where(CARD_PAYMENT.REFERENCE.eq(reference))
        .fetchSingle(CARD_PAYMENT.STATE);
  }
}
