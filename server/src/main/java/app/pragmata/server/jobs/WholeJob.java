package app.pragmata.server.jobs;

import static org.jooq.impl.DSL.row;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Forecast;
import app.pragmata.core.billing.Promised;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.costing.WorkAhead;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.OtherCost;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.JobVat;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.PassedOn;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.jobs.Warranty;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.server.company.Company;
import app.pragmata.server.generated.tables.records.EquipmentRecord;
import app.pragmata.server.generated.tables.records.JobRecord;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A job with all that was promised, done and spent.
 *
 * @param closing empty while no closing document stands
 * @param promises its accepted quotes, the first of them first; none for one straight from a call
 */
public record WholeJob(
    Head job,
    List<PromiseStore.Promise> promises,
    Optional<Closing> closing,
    String customer,
    Place site,
    @Nullable Equipment equipment,
    String kindOfJob,
    String costCentre,
    JobVat vat,
    List<WholeVisit> visits,
    List<Other> others,
    List<JobCharges.Charged> charges,
    List<Awaited> awaited) {

  /** The facts for the core; days are the zone's. */
  public JobFacts facts(ZoneId zone) {
    return new JobFacts(
        promise(),
        visits.stream().map(WholeVisit::facts).toList(),
        others(zone, other -> true),
        chargeFacts(),
        vat);
  }

  /** The same without what an invoice has charged by time and parts, or another document took. */
  public JobFacts unbilled(ZoneId zone) {
    return new JobFacts(
        promise(),
        visits.stream().map(WholeVisit::unbilled).toList(),
        others(zone, other -> other.costReleaseId() == null),
        chargeFacts(),
        vat);
  }

  private List<JobFacts.Charge> chargeFacts() {
    return charges.stream().map(JobCharges.Charged::charge).toList();
  }

  private List<OtherCost> others(ZoneId zone, Predicate<Other> which) {
    return others.stream()
        .filter(which)
        .map(
            other ->
                new OtherCost(
                    other.id(),
                    other.addedAt().atZone(zone).toLocalDate(),
                    other.description(),
                    Money.ofMinor(other.costMinor()),
                    other.vatTreatment(),
                    other.passedOn()))
        .toList();
  }

  /** All that was promised: the sum of its accepted quotes. */
  public List<QuoteLine> promise() {
    return promises.stream().flatMap(each -> each.lines().stream()).toList();
  }

  /** What its accepted quotes promise together; empty for one straight from a call. */
  public Optional<Promised> promised() {
    return promises.isEmpty()
        ? Optional.empty()
        : Optional.of(
            new Promised(
                promises.getFirst().quote().promise(),
                promises.stream()
                    .map(each -> Money.ofMinor(each.quote().netMinor()))
                    .collect(Money.sum())));
  }

  /**
   * What it comes to at its end; empty once a document closed it or it was called off, and where
   * nothing is known of it yet.
   *
   * @param sold charged for good so far, without VAT
   */
  public Optional<Forecast> forecast(Company company, Money sold, LocalDate today) {
    JobFacts all = facts(company.zone());
    List<WorkAhead.Visit> open = open(today);
    if (closing.isPresent()
        || job.state() == JobState.Code.CALLED_OFF
        || (!all.begun() && promises.isEmpty() && open.isEmpty())) {
      return Optional.empty();
    }
    VatTreatment vat = company.terms().vat().usualOn(today);
    List<OtherCost> bills =
        awaited.stream().flatMap(each -> each.bill(today, vat).stream()).toList();
    WorkAhead ahead =
        open.isEmpty() && job.state() != JobState.Code.OPEN
            ? WorkAhead.ofBills(bills, today)
            : WorkAhead.of(
                all,
                open,
                promises.stream().flatMap(each -> each.work().stream()).toList(),
                bills,
                company.terms(),
                company.calendar(),
                today);
    return Optional.of(
        Forecast.of(
            new Forecast.Charged(
                all,
                unbilled(company.zone()),
                job.basis(),
                cover(company.zone()),
                promised(),
                sold),
            ahead,
            company.terms(),
            company.wording(),
            today));
  }

  private List<WorkAhead.Visit> open(LocalDate today) {
    return visits.stream()
        .filter(visit -> visit.state() == VisitState.Code.UNPLANNED || visit.state().isAhead())
        .map(visit -> visit.ahead(today))
        .toList();
  }

  /** The quotes that were accepted for it. */
  public List<Long> quoteIds() {
    return promises.stream().map(each -> each.quote().quoteId()).toList();
  }

  /**
   * What the equipment's warranty bears: as on the day of the first quote, else on the day on which
   * the job was asked for.
   */
  public Cover cover(ZoneId zone) {
    return equipment == null
        ? Cover.NONE
        : equipment
            .warranty()
            .on(
                promises.isEmpty()
                    ? job.createdAt().atZone(zone).toLocalDate()
                    : promises.getFirst().quote().quotedOn());
  }

  /** By whom it was to be answered and was; null when nobody has to be there by a certain time. */
  public @Nullable Response response(Act act, WorkingCalendar calendar) {
    return job.respondBy() == null ? null : job.respondBy().response(act, calendar);
  }

  /**
   * What is known of a job itself.
   *
   * @param notes what is wrong, in the caller's words; may be empty
   * @param notChargedReason null unless it is not charged
   * @param toldOnSite what the customer was told that it costs; null unless it is charged so
   * @param abovePromiseReason why more is charged than was promised; null while nobody has said
   * @param respondBy null when nobody has to be there by a certain time
   * @param partsWanted how many parts it waits for
   */
  public record Head(
      long id,
      int version,
      long number,
      long customerId,
      String title,
      String notes,
      BillingBasis.Code billingBasis,
      @Nullable String notChargedReason,
      BillingBasis.@Nullable PromisedOnSite toldOnSite,
      @Nullable String abovePromiseReason,
      @Nullable String faultCode,
      @Nullable String causeCode,
      JobState.Code state,
      Instant stateSince,
      Instant createdAt,
      @Nullable RespondBy respondBy,
      int partsWanted) {
    /** How it is charged. */
    public BillingBasis basis() {
      return BillingBasis.of(billingBasis, notChargedReason, toldOnSite);
    }

    static Head of(JobRecord row) {
      return new Head(
          row.getId(),
          row.getVersion(),
          row.getNumber(),
          row.getCustomerId(),
          row.getTitle(),
          row.getNotes(),
          row.getBillingBasis(),
          row.getNotChargedReason(),
          LockedJob.toldOnSite(row),
          row.getAbovePromiseReason(),
          row.getFaultCode(),
          row.getCauseCode(),
          row.getState(),
          row.getStateSince(),
          row.getCreatedAt(),
          RespondBy.of(row),
          row.getPartsWanted());
    }
  }

  /** The equipment that the work is on, with its warranty. */
  public record Equipment(
      String model,
      String serialNumber,
      @Nullable LocalDate partsWarrantyUntil,
      Warranty warranty) {
    static Equipment of(EquipmentRecord row) {
      return new Equipment(
          row.getModel(),
          row.getSerialNumber(),
          row.getPartsWarrantyUntil(),
          new Warranty(
              row.getFittedOn(),
              Objects.requireNonNullElse(row.getPartsWarrantyUntil(), LocalDate.MIN),
              new Share(row.getPartsWarrantyShare()),
              Objects.requireNonNullElse(row.getLabourWarrantyUntil(), LocalDate.MIN),
              new Share(row.getLabourWarrantyShare())));
    }
  }

  /** Where the work is. */
  public record Place(String name, String address, String accessNotes) {}

  /**
   * Who comes along to a visit.
   *
   * @param from when they come, where they come for some hours; null for all of it
   * @param to until when
   */
  public record Companion(long id, String name, @Nullable LocalTime from, @Nullable LocalTime to) {
    private WorkAhead.Worker worker(@Nullable LocalTime start, int expectedMinutes) {
      return start == null || from == null || to == null
          ? new WorkAhead.Worker(id, 0, expectedMinutes)
          : new WorkAhead.Worker(id, minutes(start, from), minutes(from, to));
    }

    private static int minutes(LocalTime from, LocalTime to) {
      return Math.floorMod((to.toSecondOfDay() - from.toSecondOfDay()) / 60, 24 * 60);
    }
  }

  /**
   * What a technician says of a visit.
   *
   * @param outcome null until it is over
   * @param acceptedAt when they said that they come as planned; null until then
   * @param lateMinutes how much later than planned they expect to be there; null for as planned
   * @param toldMinor what they told the customer that the job costs in all; null for nothing
   * @param toldWithVat whether that is with VAT; null for nothing told
   */
  public record Report(
      @Nullable VisitOutcome outcome,
      @Nullable Instant acceptedAt,
      @Nullable Short lateMinutes,
      @Nullable Long toldMinor,
      @Nullable Boolean toldWithVat) {}

  /**
   * A visit with its entries; technician, days and start are null while it is unplanned.
   *
   * @param companions who comes besides the technician
   * @param day on which it is: as planned, or as it then began
   * @param notBefore before which its part, or whatever else it waits for, is not there; null for
   *     nothing
   * @param awaitedPart the part that it waits for, or waited for until it arrived; empty for none
   * @param replacesId the visit that did not happen and of which it takes the place; null for none
   * @param report what its technician says of it
   */
  public record WholeVisit(
      long id,
      int version,
      VisitState.Code state,
      @Nullable Long technicianId,
      @Nullable String technician,
      List<Companion> companions,
      @Nullable LocalDate day,
      @Nullable LocalDate plannedDay,
      @Nullable LocalTime start,
      int expectedMinutes,
      @Nullable LocalDate notBefore,
      String awaitedPart,
      @Nullable LocalDate partArrivedOn,
      @Nullable Long replacesId,
      String note,
      String reason,
      Report report,
      @Nullable String labourWarrantyExclusion,
      @Nullable String driveWarrantyExclusion,
      List<Entry> entries,
      List<Use> uses,
      List<HomeShare> drivesHome) {
    private Set<Category> outOfWarranty() {
      var out = EnumSet.noneOf(Category.class);
      if (labourWarrantyExclusion != null) {
        out.add(Category.LABOUR);
      }
      if (driveWarrantyExclusion != null) {
        out.add(Category.DRIVE);
      }
      return out;
    }

    /** Whether a document has taken cost of it. */
    public boolean isBilled() {
      return entries.stream().anyMatch(entry -> entry.costReleaseId() != null)
          || uses.stream().anyMatch(use -> use.costReleaseId() != null);
    }

    private WorkAhead.Visit ahead(LocalDate today) {
      return new WorkAhead.Visit(
          id,
          Objects.requireNonNullElse(day, today),
          start,
          Stream.concat(
                  Stream.of(new WorkAhead.Worker(technicianId, 0, expectedMinutes)),
                  companions.stream().map(companion -> companion.worker(start, expectedMinutes)))
              .toList());
    }

    /** Clocks that still run are no facts yet. */
    VisitFacts facts() {
      return facts(entries, uses, drivesHome, Charging.WHOLE);
    }

    /** What no invoice has charged yet. */
    VisitFacts unbilled() {
      List<Entry> entriesLeft =
          entries.stream().filter(entry -> entry.costReleaseId() == null).toList();
      List<Use> usesLeft = uses.stream().filter(use -> use.costReleaseId() == null).toList();
      boolean all = entriesLeft.size() == entries.size() && usesLeft.size() == uses.size();
      return facts(
          entriesLeft,
          usesLeft,
          drivesHome.stream().filter(share -> share.costReleaseId() == null).toList(),
          all ? Charging.WHOLE : Charging.WHAT_WAS_ADDED);
    }

    private VisitFacts facts(
        List<Entry> entries, List<Use> uses, List<HomeShare> shares, Charging charging) {
      return new VisitFacts(
          id,
          Objects.requireNonNullElse(day, LocalDate.MIN),
          state.isDropped() ? Charging.NOTHING : charging,
          outOfWarranty(),
          entries.stream().filter(entry -> entry.endedAt() != null).map(Entry::fact).toList(),
          uses.stream().map(Use::fact).toList(),
          shares.stream().map(HomeShare::fact).toList());
    }
  }

  /**
   * A time entry; the end is null while the clock runs, the costs are null until the check.
   *
   * @param measuredFrom when its clock was started; null for time that was written down, as is to
   *     when it was stopped
   * @param inDoubt whether the next clock set its end and its person is still to say when it was
   */
  public record Entry(
      long id,
      int version,
      long personId,
      String person,
      TimeEntry.Kind kind,
      RateClass rateClass,
      LocalDate day,
      Instant startedAt,
      @Nullable Instant endedAt,
      BigDecimal miles,
      String description,
      @Nullable Long timeCostMinor,
      @Nullable Long distanceCostMinor,
      @Nullable Long costReleaseId,
      @Nullable Instant measuredFrom,
      @Nullable Instant measuredTo,
      boolean inDoubt) {

    /** Whole minutes; none while the clock runs. */
    public int minutes() {
      return endedAt == null ? 0 : TimeEntry.minutesBetween(startedAt, endedAt);
    }

    /** The entry for the core. */
    public TimeEntry fact() {
      return new TimeEntry(
          id,
          personId,
          kind,
          rateClass,
          day,
          minutes(),
          miles,
          timeCostMinor == null || distanceCostMinor == null
              ? null
              : new TimeEntry.Cost(Money.ofMinor(timeCostMinor), Money.ofMinor(distanceCostMinor)));
    }
  }

  /** What the visit bears of a drive that led to no visit. */
  public record HomeShare(
      long timeEntryId,
      long personId,
      String person,
      RateClass rateClass,
      LocalDate day,
      int minutes,
      BigDecimal miles,
      long timeCostMinor,
      long distanceCostMinor,
      @Nullable Long costReleaseId) {

    TimeEntry fact() {
      return new TimeEntry(
          timeEntryId,
          personId,
          TimeEntry.Kind.DRIVE,
          rateClass,
          day,
          minutes,
          miles,
          new TimeEntry.Cost(Money.ofMinor(timeCostMinor), Money.ofMinor(distanceCostMinor)));
    }
  }

  /**
   * A part used.
   *
   * @param warrantyExclusion null while the part is under the equipment's warranty
   * @param keptOnRecord whether it becomes equipment once it is fitted
   * @param onRecord how many of these are on record as equipment
   */
  public record Use(
      long id,
      int version,
      long partId,
      String name,
      String unit,
      BigDecimal quantity,
      long costMinor,
      UnitPrice unitPrice,
      @Nullable String warrantyExclusion,
      VatTreatment vatTreatment,
      boolean keptOnRecord,
      int onRecord,
      @Nullable Long costReleaseId) {

    PartUse fact() {
      return new PartUse(
          id,
          partId,
          name,
          quantity.stripTrailingZeros(),
          Money.ofMinor(costMinor),
          unitPrice,
          vatTreatment,
          warrantyExclusion != null);
    }
  }

  /** A supplier's bill for the job. */
  public record Other(
      long id,
      Instant addedAt,
      String supplier,
      String description,
      long costMinor,
      VatTreatment vatTreatment,
      PassedOn passedOn,
      @Nullable Long costReleaseId) {}

  /**
   * A supplier's bill that is to come.
   *
   * @param expectedMinor what it is expected to cost without VAT; null where nobody knows
   */
  public record Awaited(String supplier, String description, @Nullable Long expectedMinor) {
    Optional<OtherCost> bill(LocalDate day, VatTreatment vatTreatment) {
      return Optional.ofNullable(expectedMinor)
          .map(
              expected ->
                  new OtherCost(0, day, description, Money.ofMinor(expected), vatTreatment));
    }
  }
}
