package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.COST_RELEASE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.DRIVE_HOME_SHARE;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.OTHER_COST;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static app.pragmata.server.generated.Tables.WORK_ORDER;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.not;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectCount;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Forecast;
import app.pragmata.core.billing.Promised;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.VatTreatments;
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
import app.pragmata.core.jobs.WorkOrderState;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
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
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads whole jobs, any number of them, with one statement. */
@Repository
public class JobStore {
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
      List<OtherCost> bills = awaited.stream().map(each -> each.bill(today, vat)).toList();
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
     * What the equipment's warranty bears: as on the day of the first quote, else on the day on
     * which the job was asked for.
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

    /**
     * By whom it was to be answered and was; null when nobody has to be there by a certain time.
     */
    public @Nullable Response response(Act act, WorkingCalendar calendar) {
      return job.respondBy() == null ? null : job.respondBy().response(act, calendar);
    }
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

  /** A supplier's bill that is to come, and what it is expected to cost without VAT. */
  public record Awaited(String description, long expectedMinor) {
    OtherCost bill(LocalDate day, VatTreatment vatTreatment) {
      return new OtherCost(0, day, description, Money.ofMinor(expectedMinor), vatTreatment);
    }
  }

  private final DSLContext database;
  private final PromiseStore promises;
  private final CompanyStore companies;

  JobStore(DSLContext database, PromiseStore promises, CompanyStore companies) {
    this.database = database;
    this.promises = promises;
    this.companies = companies;
  }

  private static Condition closed() {
    return exists(
        selectOne()
            .from(COST_RELEASE)
            .where(COST_RELEASE.JOB_ID.eq(JOB.ID).and(COST_RELEASE.CLOSES)));
  }

  /** Whether something may still happen to the job; a condition on the table job. */
  public static Condition running() {
    return not(closed());
  }

  /** What the warranty of a piece of equipment bears on a day; nothing of one that there is not. */
  public Cover cover(@Nullable Long equipmentId, LocalDate day) {
    return database
        .selectFrom(EQUIPMENT)
        .where(EQUIPMENT.ID.eq(equipmentId))
        .fetchOptional(row -> Equipment.of(row).warranty().on(day))
        .orElse(Cover.NONE);
  }

  /** The job of this id as on a tax day; empty when there is none. */
  public Optional<WholeJob> find(long id, LocalDate taxDay) {
    return list(JOB.ID.eq(id), taxDay).stream().findFirst();
  }

  /**
   * All jobs that meet the condition, which may name the tables job, customer, site and
   * kind_of_job; with the VAT percents of a tax day.
   */
  public List<WholeJob> list(Condition condition, LocalDate taxDay) {
    return list(condition, taxDay, inline(true), (job, beside) -> job);
  }

  /** The same jobs, each with a field that is read beside it in the same statement. */
  public <T, R> List<R> list(
      Condition condition, LocalDate taxDay, Field<T> beside, BiFunction<WholeJob, T, R> result) {
    VatTreatments vat = companies.getCompany().terms().vat();
    Function<String, VatTreatment> vatTreatments = code -> vat.on(code, taxDay);
    Field<List<PromiseStore.Promise>> promised = promises.promises(JOB.ID, taxDay);
    Field<List<WholeVisit>> visits = visits(vatTreatments);
    Field<List<Other>> others = others(vatTreatments);
    Field<List<Awaited>> awaited = awaited();
    Field<List<JobCharges.Charged>> charges = JobCharges.charges(JOB.ID, vatTreatments);
    // Flat columns: nesting whole rows would make the driver read each of them from text.
    return database
        .select(JOB.fields())
        .select(COST_RELEASE.KIND, COST_RELEASE.INVOICE_NUMBER, COST_RELEASE.RELEASED_AT)
        .select(SITE.NAME, SITE.ADDRESS, SITE.ACCESS_NOTES)
        .select(EQUIPMENT.fields())
        .select(
            CUSTOMER.NAME,
            KIND_OF_JOB.NAME,
            JOB.COST_CENTRE,
            KIND_OF_JOB.VAT_CODE,
            CUSTOMER.VAT_CODE,
            promised,
            visits,
            others,
            charges,
            awaited,
            beside)
        .from(JOB)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .join(KIND_OF_JOB)
        .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
        .leftJoin(EQUIPMENT)
        .on(EQUIPMENT.ID.eq(JOB.EQUIPMENT_ID))
        .leftJoin(COST_RELEASE)
        .on(COST_RELEASE.JOB_ID.eq(JOB.ID).and(COST_RELEASE.CLOSES))
        .where(condition)
        .orderBy(JOB.STATE_SINCE, JOB.ID)
        .fetch(
            row ->
                result.apply(
                    new WholeJob(
                        Head.of(row.into(JOB)),
                        row.get(promised),
                        Optional.ofNullable(row.get(COST_RELEASE.KIND))
                            .map(
                                kind ->
                                    new Closing(
                                        kind,
                                        row.get(COST_RELEASE.INVOICE_NUMBER),
                                        row.get(COST_RELEASE.RELEASED_AT))),
                        row.get(CUSTOMER.NAME),
                        new Place(
                            row.get(SITE.NAME), row.get(SITE.ADDRESS), row.get(SITE.ACCESS_NOTES)),
                        row.get(EQUIPMENT.ID) == null ? null : Equipment.of(row.into(EQUIPMENT)),
                        row.get(KIND_OF_JOB.NAME),
                        row.get(JOB.COST_CENTRE),
                        new JobVat(
                            treatment(row.get(JOB.VAT_CODE), vatTreatments),
                            treatment(row.get(KIND_OF_JOB.VAT_CODE), vatTreatments),
                            treatment(row.get(CUSTOMER.VAT_CODE), vatTreatments)),
                        row.get(visits),
                        row.get(others),
                        row.get(charges),
                        row.get(awaited)),
                    row.get(beside)));
  }

  private static @Nullable VatTreatment treatment(
      @Nullable String code, Function<String, VatTreatment> vatTreatments) {
    return code == null ? null : vatTreatments.apply(code);
  }

  private static Field<List<WholeVisit>> visits(Function<String, VatTreatment> vatTreatments) {
    var worker = PERSON.as("worker");
    Field<List<Entry>> entries =
        multiset(
                select(
                        TIME_ENTRY.ID,
                        TIME_ENTRY.VERSION,
                        TIME_ENTRY.PERSON_ID,
                        worker.NAME,
                        TIME_ENTRY.KIND,
                        TIME_ENTRY.RATE_CLASS,
                        TIME_ENTRY.DAY,
                        TIME_ENTRY.STARTED_AT,
                        TIME_ENTRY.ENDED_AT,
                        TIME_ENTRY.MILES,
                        TIME_ENTRY.DESCRIPTION,
                        TIME_ENTRY.TIME_COST_MINOR,
                        TIME_ENTRY.DISTANCE_COST_MINOR,
                        TIME_ENTRY.COST_RELEASE_ID,
                        TIME_ENTRY.MEASURED_FROM,
                        TIME_ENTRY.MEASURED_TO,
                        TIME_ENTRY.END_IN_DOUBT)
                    .from(TIME_ENTRY)
                    .join(worker)
                    .on(worker.ID.eq(TIME_ENTRY.PERSON_ID))
                    .where(TIME_ENTRY.VISIT_ID.eq(VISIT.ID).and(TIME_ENTRY.REMOVED_AT.isNull()))
                    .orderBy(TIME_ENTRY.STARTED_AT, TIME_ENTRY.ID))
            .as("entries")
            .convertFrom(rows -> rows.map(mapping(Entry::new)));
    var fitted = EQUIPMENT.as("fitted");
    Field<List<Use>> uses =
        multiset(
                select(
                        VISIT_PART.ID,
                        VISIT_PART.VERSION,
                        PART.ID,
                        PART.NAME,
                        PART.UNIT,
                        VISIT_PART.QUANTITY,
                        VISIT_PART.COST_MINOR,
                        VISIT_PART.UNIT_PRICE,
                        VISIT_PART.WARRANTY_EXCLUSION,
                        PART.VAT_CODE.convertFrom(vatTreatments),
                        field(PART.EQUIPMENT_KIND_ID.isNotNull()),
                        field(
                            selectCount()
                                .from(fitted)
                                .where(fitted.VISIT_PART_ID.eq(VISIT_PART.ID))),
                        VISIT_PART.COST_RELEASE_ID)
                    .from(VISIT_PART)
                    .join(PART)
                    .on(PART.ID.eq(VISIT_PART.PART_ID))
                    .where(VISIT_PART.VISIT_ID.eq(VISIT.ID).and(VISIT_PART.REMOVED_AT.isNull()))
                    .orderBy(VISIT_PART.ID))
            .as("uses")
            .convertFrom(rows -> rows.map(mapping(Use::new)));
    return multiset(
            select(
                    VISIT.ID,
                    VISIT.VERSION,
                    VISIT.STATE,
                    VISIT.TECHNICIAN_ID,
                    PERSON.NAME,
                    companions(),
                    VISIT.DAY,
                    VISIT.PLANNED_DAY,
                    VISIT.START_TIME,
                    VISIT.EXPECTED_MINUTES,
                    VISIT.NOT_BEFORE,
                    VISIT.AWAITED_PART,
                    VISIT.PART_ARRIVED_ON,
                    VISIT.REPLACES_ID,
                    VISIT.NOTE,
                    VISIT.REASON,
                    row(
                            VISIT.OUTCOME,
                            VISIT.ACCEPTED_AT,
                            VISIT.LATE_MINUTES,
                            VISIT.TOLD_MINOR,
                            VISIT.TOLD_WITH_VAT)
                        .mapping(Report.class, Report::new),
                    VISIT.LABOUR_WARRANTY_EXCLUSION,
                    VISIT.DRIVE_WARRANTY_EXCLUSION,
                    entries,
                    uses,
                    drivesHome())
                .from(VISIT)
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(VISIT.TECHNICIAN_ID))
                .where(VISIT.JOB_ID.eq(JOB.ID))
                .orderBy(VISIT.DAY.asc().nullsLast(), VISIT.START_TIME, VISIT.ID))
        .as("visits")
        .convertFrom(rows -> rows.map(mapping(WholeVisit::new)));
  }

  private static Field<List<Companion>> companions() {
    var companion = PERSON.as("companion");
    return multiset(
            select(
                    companion.ID,
                    companion.NAME,
                    VISIT.START_TIME,
                    VISIT_COMPANION.STARTS_AFTER,
                    VISIT_COMPANION.MINUTES)
                .from(VISIT_COMPANION)
                .join(companion)
                .on(companion.ID.eq(VISIT_COMPANION.PERSON_ID))
                .where(VISIT_COMPANION.VISIT_ID.eq(VISIT.ID))
                .orderBy(companion.NAME))
        .as("companions")
        .convertFrom(rows -> rows.map(mapping(JobStore::companion)));
  }

  private static Companion companion(
      long id,
      String name,
      @Nullable LocalTime start,
      @Nullable Short startsAfter,
      @Nullable Short minutes) {
    if (start == null || startsAfter == null || minutes == null) {
      return new Companion(id, name, null, null);
    }
    LocalTime from = start.plusMinutes(startsAfter);
    return new Companion(id, name, from, from.plusMinutes(minutes));
  }

  private static Field<List<HomeShare>> drivesHome() {
    var driver = PERSON.as("driver");
    return multiset(
            select(
                    DRIVE_HOME_SHARE.TIME_ENTRY_ID,
                    driver.ID,
                    driver.NAME,
                    TIME_ENTRY.RATE_CLASS,
                    TIME_ENTRY.DAY,
                    DRIVE_HOME_SHARE.MINUTES,
                    DRIVE_HOME_SHARE.MILES,
                    DRIVE_HOME_SHARE.TIME_COST_MINOR,
                    DRIVE_HOME_SHARE.DISTANCE_COST_MINOR,
                    DRIVE_HOME_SHARE.COST_RELEASE_ID)
                .from(DRIVE_HOME_SHARE)
                .join(TIME_ENTRY)
                .on(TIME_ENTRY.ID.eq(DRIVE_HOME_SHARE.TIME_ENTRY_ID))
                .join(driver)
                .on(driver.ID.eq(TIME_ENTRY.PERSON_ID))
                .where(DRIVE_HOME_SHARE.VISIT_ID.eq(VISIT.ID))
                .and(DriveHomeStore.stands())
                .orderBy(DRIVE_HOME_SHARE.ID))
        .as("drives_home")
        .convertFrom(rows -> rows.map(mapping(HomeShare::new)));
  }

  private static Field<List<Awaited>> awaited() {
    return multiset(
            select(WORK_ORDER.WHAT, WORK_ORDER.EXPECTED_MINOR)
                .from(WORK_ORDER)
                .where(
                    WORK_ORDER.JOB_ID.eq(JOB.ID).and(WORK_ORDER.STATE.eq(WorkOrderState.ORDERED)))
                .and(WORK_ORDER.EXPECTED_MINOR.isNotNull())
                .orderBy(WORK_ORDER.ID))
        .as("awaited")
        .convertFrom(rows -> rows.map(mapping(Awaited::new)));
  }

  private static Field<List<Other>> others(Function<String, VatTreatment> vatTreatments) {
    return multiset(
            select(
                    OTHER_COST.ID,
                    OTHER_COST.ADDED_AT,
                    OTHER_COST.SUPPLIER,
                    OTHER_COST.DESCRIPTION,
                    OTHER_COST.COST_MINOR,
                    OTHER_COST.VAT_CODE.convertFrom(vatTreatments),
                    OTHER_COST.PASSED_ON,
                    OTHER_COST.COST_RELEASE_ID)
                .from(OTHER_COST)
                .where(OTHER_COST.JOB_ID.eq(JOB.ID))
                .orderBy(OTHER_COST.ID))
        .as("others")
        .convertFrom(rows -> rows.map(mapping(Other::new)));
  }
}
