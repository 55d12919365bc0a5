package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.books.PaymentMethod;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.receipts.ReceiptForm;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Money that a customer hands over on site: it is on the job until its invoice takes it. */
@Service
@Transactional
class MoneyOnSite {
  /** What was handed over; the amount as typed, with VAT. */
  record MoneyForm(@Nullable String amount, @Nullable PaymentMethod method) {}

  /** Money that came in for a job, and how. */
  record MoneyTaken(long number, LocalDate receivedOn, long amountMinor, PaymentMethod method) {}

  private final DSLContext database;
  private final VisitStore visits;
  private final ReceiptService receipts;
  private final RepeatableRequests repeats;

  MoneyOnSite(
      DSLContext database, VisitStore visits, ReceiptService receipts, RepeatableRequests repeats) {
    this.database = database;
    this.visits = visits;
    this.receipts = receipts;
    this.repeats = repeats;
  }

  /** Takes it in for the visit's job; gives the receipt's id. */
  long take(Act act, @Nullable String key, long visitId, MoneyForm form) {
    return repeats.once(
        act,
        key,
        "take money on site",
        visitId + " " + form,
        () -> {
          var reading = new Reading();
          if (form.method() != PaymentMethod.CASH && form.method() != PaymentMethod.CHEQUE) {
            reading.fault("method", Rule.WRONG_KIND, "Say whether it is cash or a cheque.");
          }
          reading.refuseIfFaulty();
          LockedVisit visit = OwnVisit.require(visits.lock(visitId), act.personId());
          OwnVisit.requireWasThere(visit);
          return receipts.receive(
              act,
              key + " receipt",
              new ReceiptForm(
                  null, form.amount(), null, form.method(), null, visit.job().id(), null));
        });
  }

  /** What came in for the visit's job, the newest first; nothing of somebody else's visit. */
  @Transactional(readOnly = true)
  public List<MoneyTaken> list(Act act, long visitId) {
    return database
        .select(RECEIPT.NUMBER, RECEIPT.RECEIVED_ON, RECEIPT.AMOUNT_MINOR, RECEIPT.METHOD)
        .from(RECEIPT)
        .join(VISIT)
        .on(VISIT.JOB_ID.eq(RECEIPT.JOB_ID))
        .where(VISIT.ID.eq(visitId).and(PocketApi.ofCrew(act)))
        .and(RECEIPT.TAKEN_BACK_ON.isNull())
        .orderBy(RECEIPT.ID.desc())
        .fetch(Records.mapping(MoneyTaken::new));
  }
}
