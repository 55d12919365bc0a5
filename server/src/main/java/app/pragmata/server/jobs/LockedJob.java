package app.pragmata.server.jobs;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.CostObject;
import app.pragmata.core.books.CostPlace;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.server.generated.tables.records.JobRecord;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A job, locked until the transaction ends. What is changed on it is stored by {@link VisitStore}.
 */
public final class LockedJob {
  private final JobRecord row;
  private final String costCentre;
  private final Closing.@Nullable Kind closedBy;
  private final @Nullable Long costReleaseId;
  private final @Nullable Long closingInvoice;

  /**
   * The row, its kind's cost centre, and its closing document, by its kind, as what releases cost,
   * and by its number if it is an invoice; null while none stands.
   */
  LockedJob(
      JobRecord row,
      String costCentre,
      Closing.@Nullable Kind closedBy,
      @Nullable Long costReleaseId,
      @Nullable Long closingInvoice) {
    this.row = row;
    this.costCentre = costCentre;
    this.closedBy = closedBy;
    this.costReleaseId = costReleaseId;
    this.closingInvoice = closingInvoice;
  }

  JobRecord row() {
    return row;
  }

  public long id() {
    return row.getId();
  }

  public int version() {
    return row.getVersion();
  }

  public long number() {
    return row.getNumber();
  }

  public @Nullable Long equipmentId() {
    return row.getEquipmentId();
  }

  public long customerId() {
    return row.getCustomerId();
  }

  public long siteId() {
    return row.getSiteId();
  }

  public long kindOfJobId() {
    return row.getKindOfJobId();
  }

  /** The state of the work. */
  public JobState state() {
    return JobState.of(row.getState());
  }

  public BillingBasis basis() {
    return BillingBasis.of(row.getBillingBasis(), row.getNotChargedReason(), toldOnSite(row));
  }

  /** What the customer was told on site; null unless it is charged so. */
  static BillingBasis.@Nullable PromisedOnSite toldOnSite(JobRecord row) {
    Long told = row.getToldMinor();
    return told == null
        ? null
        : new BillingBasis.PromisedOnSite(
            Money.ofMinor(told), Objects.requireNonNull(row.getToldWithVat()));
  }

  /** Whether its closing document stands. */
  public boolean closed() {
    return closedBy != null;
  }

  /** Whether the invoice of this number closes it. */
  public boolean isClosedBy(long invoiceNumber) {
    return closingInvoice != null && closingInvoice == invoiceNumber;
  }

  /** What its sales and costs are of in the books. */
  public CostObject costObject() {
    return new CostObject(id(), number(), costCentre);
  }

  /** The document that takes what it costs from now on; null while it is work in progress. */
  @Nullable Long costReleaseId() {
    return costReleaseId;
  }

  /** Where its cost stands in the books. */
  public CostPlace costPlace() {
    return closedBy == null ? CostPlace.WORK_IN_PROGRESS : closedBy.costPlace();
  }

  /** The state of the work; refused when the job is closed or called off. */
  public JobState.Wanted requireUnbilled() {
    if (!closed() && state() instanceof JobState.Wanted wanted) {
      return wanted;
    }
    throw new Refused(
        Rule.JOB_CLOSED,
        "Job %d is %s; nothing on it can be changed any more."
            .formatted(number(), state() instanceof JobState.CalledOff ? "called off" : "billed"));
  }

  /**
   * Charges it by a basis.
   *
   * @param reason why more is charged than was promised; null for none
   */
  public void chooseBasis(BillingBasis basis, @Nullable String reason) {
    row.setNotChargedReason(null);
    row.setToldMinor(null);
    row.setToldWithVat(null);
    row.setAbovePromiseReason(reason);
    row.setBillingBasis(
        switch (basis) {
          case BillingBasis.FixedPrice fixed -> BillingBasis.Code.FIXED_PRICE;
          case BillingBasis.TimeAndParts worked -> BillingBasis.Code.TIME_AND_PARTS;
          case BillingBasis.PromisedOnSite onSite -> {
            row.setToldMinor(onSite.told().minor());
            row.setToldWithVat(onSite.withVat());
            yield BillingBasis.Code.PROMISED_ON_SITE;
          }
          case BillingBasis.NotCharged free -> {
            row.setNotChargedReason(free.reason());
            row.setAbovePromiseReason(null);
            yield BillingBasis.Code.NOT_CHARGED;
          }
        });
  }

  /** Treats it so whatever its quotes say; null for as they, its kind or its customer say. */
  public void decideVat(@Nullable String vatCode) {
    row.setVatCode(vatCode);
  }

  /** So many go to it together whatever its kind says; null for as its kind says. */
  public void need(@Nullable Integer crewSize) {
    row.setCrewSize(crewSize == null ? null : crewSize.shortValue());
  }

  /** Whether it waits for any part. */
  public boolean waitsForParts() {
    return row.getPartsWanted() > 0;
  }

  /** It waits for so many parts. */
  public void waitForParts(int count) {
    row.setPartsWanted((short) count);
  }

  /** Notes what was wrong and why; null where nobody knows. */
  public void noteCodes(@Nullable String faultCode, @Nullable String causeCode) {
    row.setFaultCode(faultCode);
    row.setCauseCode(causeCode);
  }

  /** Notes why it was wrong. */
  public void noteCause(String causeCode) {
    row.setCauseCode(causeCode);
  }

  /** Whether nobody was on site yet. */
  boolean awaitsResponse() {
    return row.getRespondedAt() == null;
  }

  /** Somebody is on site; whoever is there first has responded. */
  public void noteResponse(Instant at) {
    if (awaitsResponse()) {
      row.setRespondedAt(at);
    }
  }

  /** Brings its state in line with its visits'. */
  void follow(List<VisitState.Code> visits, Instant at) {
    setState(
        switch (state()) {
          case JobState.Wanted wanted ->
              wanted.after(visits.stream().map(VisitState::of).toList(), waitsForParts());
          case JobState.CalledOff calledOff -> calledOff;
        },
        at);
  }

  /** A change of the state is dated by the moment. */
  void setState(JobState state, Instant at) {
    if (state.code() != row.getState()) {
      row.setState(state.code());
      row.setStateSince(at);
    }
  }
}
