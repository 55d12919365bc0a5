package app.pragmata.server.jobs;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.generated.tables.records.VisitRecord;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A visit with its job, both locked until the transaction ends. What is changed on it is stored by
 * {@link VisitStore}.
 */
public final class LockedVisit {
  /**
   * What stands beside the visit.
   *
   * @param otherStates of the job's other visits
   * @param companionIds who comes besides the visit's technician
   * @param recordedIds who has any time on the visit
   * @param running the clocks that run on the visit, of different people
   * @param worked whether labour that has ended or a part is recorded on the visit
   * @param billed whether a document has taken cost of the visit
   */
  record Beside(
      List<VisitState.Code> otherStates,
      List<Long> companionIds,
      List<Long> recordedIds,
      List<Clock> running,
      boolean worked,
      boolean billed) {}

  private final VisitRecord row;
  private final LockedJob job;
  private final Beside beside;

  LockedVisit(VisitRecord row, LockedJob job, Beside beside) {
    this.row = row;
    this.job = job;
    this.beside = beside;
  }

  VisitRecord row() {
    return row;
  }

  public LockedJob job() {
    return job;
  }

  public long id() {
    return row.getId();
  }

  public int version() {
    return row.getVersion();
  }

  public VisitState state() {
    return VisitState.of(row.getState());
  }

  /** The part that it waits for, or waited for until it arrived; empty for none. */
  public String awaitedPart() {
    return row.getAwaitedPart();
  }

  /** Who is responsible; null while it is unplanned. */
  public @Nullable Long technicianId() {
    return row.getTechnicianId();
  }

  /** On which it is; null while it is unplanned. */
  public @Nullable LocalDate day() {
    return row.getDay();
  }

  /**
   * Why the warranty bears nothing of its labour or its drive; null for that it may. Refused once
   * an invoice has charged it.
   */
  public void excludeFromWarranty(TimeEntry.Kind kind, @Nullable String reason) {
    if (isBilled()) {
      throw charged();
    }
    switch (kind) {
      case LABOUR -> row.setLabourWarrantyExclusion(reason);
      case DRIVE -> row.setDriveWarrantyExclusion(reason);
      case BREAK -> throw new IllegalArgumentException("No warranty bears a break");
    }
  }

  /** When it begins by its plan; null while it is unplanned. */
  public @Nullable LocalTime start() {
    return row.getStartTime();
  }

  public int expectedMinutes() {
    return row.getExpectedMinutes();
  }

  /** Who comes besides its technician. */
  public List<Long> companionIds() {
    return beside.companionIds();
  }

  /** The clocks that run on it, of different people. */
  public List<Clock> running() {
    return beside.running();
  }

  /** The clock of this person that runs on it. */
  public Optional<Clock> running(long personId) {
    return running().stream().filter(clock -> clock.personId() == personId).findFirst();
  }

  /** Whether the person has any time on it. */
  public boolean isRecordedBy(long personId) {
    return beside.recordedIds().contains(personId);
  }

  /** Whether labour that has ended or a part is recorded on it. */
  public boolean isWorked() {
    return beside.worked();
  }

  /**
   * Whether a document has taken its cost or closed its job: what is recorded on it from now on is
   * cost at once, and needs no check.
   */
  public boolean isBilled() {
    return job.closed() || beside.billed();
  }

  /**
   * Refuses to change a cost that another document has taken than the one that closes the job.
   *
   * @param costReleaseId of the cost; null while none has taken it
   */
  void requireOpen(@Nullable Long costReleaseId) {
    if (costReleaseId != null && !costReleaseId.equals(job.costReleaseId())) {
      throw charged();
    }
  }

  private static Refused charged() {
    return new Refused(
        Rule.VISIT_BILLED,
        "An invoice has charged this. Take the work back by a credit note first, then correct it.");
  }

  /** Whether the person is its technician. */
  public boolean isResponsible(long personId) {
    return Objects.equals(row.getTechnicianId(), personId);
  }

  /** Whether the person comes to it. */
  public boolean isOfCrew(long personId) {
    return isResponsible(personId) || companionIds().contains(personId);
  }

  /** The states of all visits of the job, with this one's as it is by now. */
  List<VisitState.Code> statesOfJob() {
    var states = new ArrayList<>(beside.otherStates());
    states.add(row.getState());
    return states;
  }

  void setState(VisitState state) {
    row.setState(state.code());
  }

  void plan(VisitPlan plan) {
    plan(row, plan);
  }

  void unplan() {
    row.setTechnicianId(null);
    row.setDay(null);
    row.setPlannedDay(null);
    row.setStartTime(null);
    row.setOverruled(new String[0]);
  }

  static void plan(VisitRecord row, VisitPlan plan) {
    row.setTechnicianId(plan.technicianId());
    row.setDay(plan.day());
    row.setPlannedDay(plan.day());
    row.setStartTime(plan.start());
    row.setExpectedMinutes(plan.expectedMinutes());
    row.setLateMinutes(null);
    row.setAcceptedAt(null);
  }

  /** A visit that begins on another day than planned is a visit of that day. */
  public void begin(Instant at, ZoneId zone) {
    row.setDay(at.atZone(zone).toLocalDate());
    row.setBegunAt(at);
  }

  /**
   * What was done is all; the note says it in words.
   *
   * @param reason why somebody has to come again, or why nothing came of it; empty for done
   */
  public void finish(Instant at, String note, VisitOutcome outcome, String reason) {
    row.setNote(note);
    row.setOutcome(outcome);
    row.setReason(reason);
    finish(at);
  }

  /** What came of it; null where nobody of the field has said. */
  public @Nullable VisitOutcome outcome() {
    return row.getOutcome();
  }

  /** When its technician said that they come as planned; null until then. */
  public @Nullable Instant acceptedAt() {
    return row.getAcceptedAt();
  }

  /** Its technician comes as planned. */
  public void accept(Instant at) {
    row.setAcceptedAt(at);
  }

  /** Its technician comes so many minutes after its time. */
  public void beLate(int minutes) {
    row.setLateMinutes((short) minutes);
  }

  /** Its technician told the customer what the job costs in all; what was told last holds. */
  public void tellPrice(BillingBasis.PromisedOnSite price) {
    row.setToldMinor(price.told().minor());
    row.setToldWithVat(price.withVat());
  }

  /** The same without a word. */
  public void finish(Instant at) {
    row.setFinishedAt(at);
  }

  /** Somebody of the office says that all on it is correct. */
  public void check(VisitState.Finished finished, Instant at, long personId) {
    setState(finished.check());
    row.setCheckedAt(at);
    row.setCheckedBy(personId);
  }

  /** Nobody has said so after all. */
  public void uncheck() {
    row.setCheckedAt(null);
    row.setCheckedBy(null);
  }

  /** Why it did not happen. */
  public void giveReason(String reason) {
    row.setReason(reason);
  }
}
