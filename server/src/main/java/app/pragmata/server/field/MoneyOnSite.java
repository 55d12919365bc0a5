package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CARD_PAYMENT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.TRANSFER_PROMISE;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.field.Tap;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.receipts.CardPaymentState;
import app.pragmata.server.receipts.CardPayments;
import app.pragmata.server.receipts.ReceiptForm;
import app.pragmata.server.receipts.ReceiptLetters;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Money that a customer pays on site: it is on the job until its invoice takes it. */
@Service
class MoneyOnSite {
  /**
   * What a customer pays.
   *
   * @param amount as typed, with VAT
   * @param method a bank transfer is a promise, and no money yet
   * @param card the card's number, of a card only
   * @param receiptTo where a receipt goes by mail; empty for nowhere
   * @param tappedAt by the phone's clock, as is when it was sent; null for now
   */
  record MoneyForm(
      @Nullable String amount,
      @Nullable PaymentMethod method,
      @Nullable String card,
      @Nullable String receiptTo,
      @Nullable Instant tappedAt,
      @Nullable Instant sentAt) {
    /** Without the card's number, which is kept nowhere. */
    private String content() {
      return amount + " " + method + " " + receiptTo;
    }

    /** On which day it came in, however long it waited on the phone. */
    private LocalDate day(Act act) {
      return tappedAt == null || sentAt == null
          ? act.today()
          : LocalDate.ofInstant(Tap.corrected(tappedAt, sentAt, act.at()), act.zone());
    }
  }

  /**
   * What was paid for a job.
   *
   * @param asked card payments of which the terminal has not said yet what became of them
   * @param receiptTo the customer's address, for a receipt; empty where nobody knows
   * @param cardNotice what whoever pays by card should know; null where no terminal takes cards
   */
  record MoneyOfJob(
      List<MoneyTaken> taken,
      List<PromisedTransfer> promised,
      List<AskedCard> asked,
      String receiptTo,
      @Nullable String cardNotice) {}

  /** Money that came in for a job, and how. */
  record MoneyTaken(long number, LocalDate receivedOn, long amountMinor, PaymentMethod method) {}

  /** Money that the customer said they would send. */
  record PromisedTransfer(long id, LocalDateTime promisedAt, long amountMinor, String promisedTo) {}

  /** A card payment whose answer is lost: it may have been taken or not. */
  record AskedCard(long id, LocalDateTime askedAt, long amountMinor) {}

  private static final int DAYS_UNTIL_IT_COMES = 5;

  private final DSLContext database;
  private final VisitStore visits;
  private final ReceiptService receipts;
  private final ReceiptLetters letters;
  private final CardPayments cards;
  private final ToDoService toDos;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;
  private final TransactionTemplate transaction;

  MoneyOnSite(
      DSLContext database,
      VisitStore visits,
      ReceiptService receipts,
      ReceiptLetters letters,
      CardPayments cards,
      ToDoService toDos,
      CompanyStore companies,
      RepeatableRequests repeats,
      TransactionTemplate transaction) {
    this.database = database;
    this.visits = visits;
    this.receipts = receipts;
    this.letters = letters;
    this.cards = cards;
    this.toDos = toDos;
    this.companies = companies;
    this.repeats = repeats;
    this.transaction = transaction;
  }

  /** Takes it in for the visit's job, or notes that it is promised. */
  void take(Act act, @Nullable String key, long visitId, MoneyForm form) {
    String to = readReceiptTo(form);
    LocalDate day = form.day(act);
    switch (Objects.requireNonNull(form.method())) {
      case CARD -> takeByCard(act, key, visitId, form, to);
      case BANK_TRANSFER -> once(act, key, visitId, form, visit -> promise(act, visit, form));
      case CASH, CHEQUE ->
          once(act, key, visitId, form, visit -> receive(act, key, visit, form, to, day));
    }
  }

  private static String readReceiptTo(MoneyForm form) {
    var reading = new Reading();
    if (form.method() == null) {
      reading.fault("method", Rule.MISSING, "Say how it is paid.");
    }
    String receiptTo = reading.optional("receiptTo", form.receiptTo(), MailAddress::parse);
    reading.refuseIfFaulty();
    return receiptTo == null ? "" : receiptTo;
  }

  /** Refuses what no phone may keep: a card is asked for at once or not at all. */
  static void requireKeepable(MoneyForm form) {
    if (form.method() == PaymentMethod.CARD || form.card() != null) {
      throw new Refused(
          Rule.WRONG_KIND,
          "A card is only taken while there is a network. Nothing of it was kept; take it again.");
    }
  }

  /**
   * What came in late and counts, in the office's hands: of whatever visit it was, on the day on
   * which it came.
   */
  void writeDown(Act act, String key, LockedVisit visit, MoneyForm form, LocalDate day) {
    requireKeepable(form);
    String to = readReceiptTo(form);
    if (form.method() == PaymentMethod.BANK_TRANSFER) {
      promise(act, visit, form);
    } else {
      receive(act, key, visit, form, to, day);
    }
  }

  /** No transaction is open while the terminal answers. */
  private void takeByCard(
      Act act, @Nullable String key, long visitId, MoneyForm form, String receiptTo) {
    long jobId =
        Objects.requireNonNull(transaction.execute(status -> lock(act, visitId).job().id()));
    cards.payForJob(act, key, jobId, form.amount(), form.card(), receiptTo);
  }

  /** Does something with the visit once, and gives the id of what was made. */
  private interface Taking {
    long take(LockedVisit visit);
  }

  private void once(Act act, @Nullable String key, long visitId, MoneyForm form, Taking taking) {
    transaction.executeWithoutResult(
        status ->
            repeats.once(
                act,
                key,
                "take money on site",
                visitId + " " + form.content(),
                () -> taking.take(lock(act, visitId))));
  }

  private LockedVisit lock(Act act, long visitId) {
    LockedVisit visit = OwnVisit.require(visits.lock(visitId), act.personId());
    OwnVisit.requireWasThere(visit);
    return visit;
  }

  private long receive(
      Act act,
      @Nullable String key,
      LockedVisit visit,
      MoneyForm form,
      String receiptTo,
      LocalDate day) {
    long receipt =
        receipts.receive(
            act,
            key + " receipt",
            new ReceiptForm(
                null, form.amount(), day.toString(), form.method(), null, visit.job().id(), null));
    letters.send(act, receipt, receiptTo);
    return receipt;
  }

  /** Nothing goes into the books for a promise; the office is told to look for the money. */
  private long promise(Act act, LockedVisit visit, MoneyForm form) {
    Company company = companies.getCompany();
    var reading = new Reading();
    Money amount = reading.required("amount", form.amount(), company.typed()::money);
    if (amount != null && amount.isZero()) {
      reading.fault("amount", Rule.MISSING, "Enter how much they will send.");
    }
    reading.refuseIfFaulty();
    Money promised = Objects.requireNonNull(amount);
    String what =
        "%s promised to send %s for job %d, as %s says. Has it come?"
            .formatted(
                database.fetchValue(CUSTOMER.NAME, CUSTOMER.ID.eq(visit.job().customerId())),
                company.wording().money(promised, company.currency()),
                visit.job().number(),
                database.fetchValue(PERSON.NAME, PERSON.ID.eq(act.personId())));
    long toDo =
        toDos.insertForOffice(
            act,
            act.personId(),
            ToDoForm.ofJob(
                what,
                company.calendar().workdaysAfter(act.today(), DAYS_UNTIL_IT_COMES),
                visit.job().customerId(),
                visit.job().id()));
    return database
        .insertInto(TRANSFER_PROMISE)
        .set(TRANSFER_PROMISE.VISIT_ID, visit.id())
        .set(TRANSFER_PROMISE.AMOUNT_MINOR, promised.minor())
        .set(TRANSFER_PROMISE.PROMISED_AT, act.at())
        .set(TRANSFER_PROMISE.PROMISED_TO, act.personId())
        .set(TRANSFER_PROMISE.TO_DO_ID, toDo)
        .returning(TRANSFER_PROMISE.ID)
        .fetchSingle(TRANSFER_PROMISE.ID);
  }

  /** What was paid for the visit's job, the newest first; nothing of somebody else's visit. */
  @Transactional(readOnly = true)
  public MoneyOfJob list(Act act, long visitId) {
    var own = VISIT.ID.eq(visitId).and(OwnVisit.ofCrew(VISIT, act.personId()));
    var sibling = VISIT.as("sibling");
    return new MoneyOfJob(
        database
            .select(RECEIPT.NUMBER, RECEIPT.RECEIVED_ON, RECEIPT.AMOUNT_MINOR, RECEIPT.METHOD)
            .from(RECEIPT)
            .join(VISIT)
            .on(VISIT.JOB_ID.eq(RECEIPT.JOB_ID))
            .where(own.and(RECEIPT.TAKEN_BACK_ON.isNull()))
            .orderBy(RECEIPT.ID.desc())
            .fetch(Records.mapping(MoneyTaken::new)),
        database
            .select(
                TRANSFER_PROMISE.ID,
                TRANSFER_PROMISE.PROMISED_AT,
                TRANSFER_PROMISE.AMOUNT_MINOR,
                PERSON.NAME)
            .from(TRANSFER_PROMISE)
            .join(PERSON)
            .on(PERSON.ID.eq(TRANSFER_PROMISE.PROMISED_TO))
            .join(sibling)
            .on(sibling.ID.eq(TRANSFER_PROMISE.VISIT_ID))
            .join(VISIT)
            .on(VISIT.JOB_ID.eq(sibling.JOB_ID))
            .where(own)
            .orderBy(TRANSFER_PROMISE.ID.desc())
            .fetch(
                row ->
                    new PromisedTransfer(
                        row.value1(),
                        LocalDateTime.ofInstant(row.value2(), act.zone()),
                        row.value3(),
                        row.value4())),
        database
            .select(CARD_PAYMENT.ID, CARD_PAYMENT.ASKED_AT, CARD_PAYMENT.AMOUNT_MINOR)
            .from(CARD_PAYMENT)
            .join(VISIT)
            .on(VISIT.JOB_ID.eq(CARD_PAYMENT.JOB_ID))
            .where(own.and(CARD_PAYMENT.STATE.eq(CardPaymentState.ASKED)))
            .fetch(
                row ->
                    new AskedCard(
                        row.value1(),
                        LocalDateTime.ofInstant(row.value2(), act.zone()),
                        row.value3())),
        database
            .select(CUSTOMER.EMAIL)
            .from(CUSTOMER)
            .join(JOB)
            .on(JOB.CUSTOMER_ID.eq(CUSTOMER.ID))
            .join(VISIT)
            .on(VISIT.JOB_ID.eq(JOB.ID))
            .where(own)
            .fetchOptional(CUSTOMER.EMAIL)
            .orElse(""),
        cards.findNotice());
  }
}
