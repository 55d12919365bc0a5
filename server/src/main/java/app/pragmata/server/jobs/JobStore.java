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

import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.jobs.Closing;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobVat;
import app.pragmata.core.jobs.WorkOrderState;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.jobs.WholeJob.Awaited;
import app.pragmata.server.jobs.WholeJob.Companion;
import app.pragmata.server.jobs.WholeJob.Entry;
import app.pragmata.server.jobs.WholeJob.Equipment;
import app.pragmata.server.jobs.WholeJob.Head;
import app.pragmata.server.jobs.WholeJob.HomeShare;
import app.pragmata.server.jobs.WholeJob.Other;
import app.pragmata.server.jobs.WholeJob.Place;
import app.pragmata.server.jobs.WholeJob.Report;
import app.pragmata.server.jobs.WholeJob.Use;
import app.pragmata.server.jobs.WholeJob.WholeVisit;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads whole jobs, any number of them, with one statement. */
@Repository
public class JobStore {
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
            select(WORK_ORDER.SUPPLIER, WORK_ORDER.WHAT, WORK_ORDER.EXPECTED_MINOR)
                .from(WORK_ORDER)
                .where(
                    WORK_ORDER.JOB_ID.eq(JOB.ID).and(WORK_ORDER.STATE.eq(WorkOrderState.ORDERED)))
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
