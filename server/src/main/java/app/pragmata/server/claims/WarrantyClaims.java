package app.pragmata.server.claims;

import static app.pragmata.server.generated.Tables.WARRANTY_CLAIM;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.claims.ClaimState;
import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.money.Money;
import app.pragmata.server.claims.ClaimsApi.ClaimForm;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.WarrantyClaimRecord;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.OtherCosts;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.util.Objects;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Follows claims on manufacturers' warranties. The office has a to-do until one is answered; what
 * is credited is taken off the job's cost, from the account that it stands on by then.
 */
@Service
@Transactional
class WarrantyClaims {
  private static final int LONGEST_NAME = 120;
  private static final int LONGEST_WORDS = 300;

  /** In so many working days somebody looks after a claim that nobody has answered. */
  private static final int PATIENCE_DAYS = 10;

  private final DSLContext database;
  private final VisitStore visits;
  private final OtherCosts otherCosts;
  private final ToDoService toDos;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;
  private final Events events;

  WarrantyClaims(
      DSLContext database,
      VisitStore visits,
      OtherCosts otherCosts,
      ToDoService toDos,
      CompanyStore companies,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.visits = visits;
    this.otherCosts = otherCosts;
    this.toDos = toDos;
    this.companies = companies;
    this.repeats = repeats;
    this.events = events;
  }

  /** Writes down what is claimed; gives its id. */
  long make(Act act, @Nullable String key, long jobId, ClaimForm form) {
    return repeats.once(
        act,
        key,
        "make claim",
        jobId + " " + form,
        () -> {
          var reading = new Reading();
          String manufacturer = reading.text("manufacturer", form.manufacturer(), LONGEST_NAME);
          String what = reading.text("what", form.what(), LONGEST_WORDS);
          Money amount = readAmount(reading, form.amount());
          reading.refuseIfFaulty();
          LockedJob job = visits.lockJob(jobId);
          WarrantyClaimRecord row = database.newRecord(WARRANTY_CLAIM);
          row.setJobId(jobId);
          row.setManufacturer(Objects.requireNonNull(manufacturer));
          row.setWhat(Objects.requireNonNull(what));
          row.setClaimedMinor(Objects.requireNonNull(amount).minor());
          row.setState(ClaimState.OPEN);
          row.setMadeOn(act.today());
          row.setReason("");
          row.setToDoId(remind(act, job, row));
          events.store(act, ClaimEvent.CLAIM_MADE, row);
          return row.getId();
        });
  }

  private @Nullable Money readAmount(Reading reading, @Nullable String typed) {
    Money amount = reading.required("amount", typed, companies.getCompany().typed()::money);
    if (amount != null && amount.isZero()) {
      reading.fault("amount", Rule.MISSING, "Enter an amount above nothing, without VAT.");
    }
    return amount;
  }

  private long remind(Act act, LockedJob job, WarrantyClaimRecord row) {
    Company company = companies.getCompany();
    return toDos.insertForOffice(
        act,
        act.personId(),
        ToDoForm.ofJob(
            "Claim from %s: %s for %s"
                .formatted(
                    row.getManufacturer(), Money.ofMinor(row.getClaimedMinor()), row.getWhat()),
            company.calendar().workdaysAfter(act.today(), PATIENCE_DAYS),
            job.customerId(),
            job.id()));
  }

  /** The manufacturer has it. */
  void send(Act act, long id, int version) {
    change(
        id,
        version,
        row -> {
          ClaimState before = row.getState();
          row.setState(before.become(ClaimState.SENT));
          row.setSentOn(act.today());
          row.setDecidedOn(null);
          row.setReason("");
          events.store(act, ClaimEvent.CLAIM_SENT, row);
          if (!before.isOpen()) {
            toDos.openAgain(act, row.getToDoId());
          }
        });
  }

  /**
   * They bear so much of it, without VAT: the job costs less by that, from wherever its cost stands
   * by now.
   */
  void credit(Act act, long id, int version, @Nullable String amount) {
    change(
        id,
        version,
        row -> {
          var reading = new Reading();
          Money credited = readAmount(reading, amount);
          Money claimed = Money.ofMinor(row.getClaimedMinor());
          if (credited != null && credited.compareTo(claimed) > 0) {
            reading.fault(
                "amount",
                Rule.EXCEEDS_LIMIT,
                "They credit more than the %s that were claimed. Make a claim of the rest first."
                    .formatted(claimed));
          }
          reading.refuseIfFaulty();
          row.setState(row.getState().become(ClaimState.CREDITED));
          row.setDecidedOn(act.today());
          VatTreatments vat = companies.getCompany().terms().vat();
          row.setOtherCostId(
              otherCosts.credit(
                  act,
                  visits.lockJob(row.getJobId()),
                  row.getManufacturer(),
                  "Warranty credited, " + row.getWhat(),
                  Objects.requireNonNull(credited),
                  vat.usualOn(act.today())));
          events.store(act, ClaimEvent.CLAIM_CREDITED, row);
          toDos.settle(act, row.getToDoId(), "Credited");
        });
  }

  /** They bear nothing of it. */
  void refuse(Act act, long id, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.text("reason", reason, LONGEST_WORDS);
    reading.refuseIfFaulty();
    change(
        id,
        version,
        row -> {
          row.setState(row.getState().become(ClaimState.REFUSED));
          row.setDecidedOn(act.today());
          row.setReason(Objects.requireNonNull(why));
          events.store(act, ClaimEvent.CLAIM_REFUSED, row, About.because(why));
          toDos.settle(act, row.getToDoId(), "Refused");
        });
  }

  /** The job is locked first, so that all about it happens in turn. */
  private void change(long id, int version, Consumer<WarrantyClaimRecord> change) {
    Long jobId =
        database
            .select(WARRANTY_CLAIM.JOB_ID)
            .from(WARRANTY_CLAIM)
            .where(WARRANTY_CLAIM.ID.eq(id))
            .fetchOne(WARRANTY_CLAIM.JOB_ID);
    if (jobId == null) {
      throw new Refused(Rule.NOT_FOUND, "There is no such claim. Reload the page.");
    }
    visits.lockJob(jobId);
    WarrantyClaimRecord row =
        database
            .selectFrom(WARRANTY_CLAIM)
            .where(WARRANTY_CLAIM.ID.eq(id))
            .forUpdate()
            .fetchSingle();
    Versions.require(version, row.getVersion());
    change.accept(row);
  }
}
