package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CAUSE_CODE;
import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PART_WANTED;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.UNLISTED_PART;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectCount;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.when;

import app.pragmata.core.Decimal;
import app.pragmata.core.field.ReportCopy;
import app.pragmata.core.jobs.PromisedParts;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import app.pragmata.server.checklists.AskedChecklist;
import app.pragmata.server.customers.SiteService;
import app.pragmata.server.field.PocketVisit.Cause;
import app.pragmata.server.field.PocketVisit.Mate;
import app.pragmata.server.field.PocketVisit.MissingPart;
import app.pragmata.server.field.PocketVisit.OtherEquipment;
import app.pragmata.server.field.PocketVisit.PartToFit;
import app.pragmata.server.field.PocketVisit.UnlistedPartOnVisit;
import app.pragmata.server.field.PocketVisit.UsedPart;
import app.pragmata.server.field.RunningClock.Clocked;
import app.pragmata.server.generated.tables.records.ContactRecord;
import app.pragmata.server.jobs.LinesDone;
import app.pragmata.server.jobs.LinesDone.WorkToDo;
import app.pragmata.server.jobs.OwnHours;
import app.pragmata.server.jobs.PromiseStore;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.planning.EarlierVisit;
import app.pragmata.server.planning.PersonHours;
import app.pragmata.server.planning.SuggestedMiles;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.SelectField;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Reads a visit as one of its crew stands to it, with one statement. */
@Component
class PocketVisits {
  /** Whom a visit is for, how they are written to, and what is to be done for them. */
  private record WorkedFor(
      String name,
      ReportCopy reportCopy,
      String mailAddress,
      boolean reachable,
      List<WorkToDo> work,
      boolean clockPerLine,
      int labourMinutes,
      List<OtherEquipment> otherEquipment) {
    static SelectField<WorkedFor> selected(Act act) {
      return row(
              CUSTOMER.NAME,
              CUSTOMER.REPORT_COPY,
              SiteService.mailAddress(),
              SiteService.isReachable(),
              LinesDone.ofJob(act.zone(), act.personId()),
              field(
                  select(KIND_OF_JOB.CLOCK_PER_LINE)
                      .from(KIND_OF_JOB)
                      .where(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))),
              TimeEntries.labourOfJob(),
              OtherEquipment.onSite())
          .mapping(WorkedFor.class, WorkedFor::new)
          .as("worked_for");
    }
  }

  private final DSLContext database;
  private final SuggestedMiles miles;
  private final PersonHours hours;
  private final PromiseStore promises;

  PocketVisits(
      DSLContext database, SuggestedMiles miles, PersonHours hours, PromiseStore promises) {
    this.database = database;
    this.miles = miles;
    this.hours = hours;
    this.promises = promises;
  }

  /** Somebody's own visit; refused where it is none of theirs. */
  PocketVisit get(Act act, long id) {
    Field<List<UsedPart>> used =
        multiset(
                select(VISIT_PART.ID, PART.NAME, PART.UNIT, VISIT_PART.QUANTITY, unrecorded())
                    .from(VISIT_PART)
                    .join(PART)
                    .on(PART.ID.eq(VISIT_PART.PART_ID))
                    .where(VISIT_PART.VISIT_ID.eq(VISIT.ID).and(VISIT_PART.REMOVED_AT.isNull()))
                    .orderBy(VISIT_PART.ID))
            .as("used")
            .convertFrom(rows -> rows.map(mapping(UsedPart::new)));
    SelectField<OwnHours> ownHours = OwnHours.of(act.personId());
    Field<OwnClocks> clocks = OwnClocks.of(act);
    Field<List<Mate>> crew = crew(act);
    Field<List<PromiseStore.Promise>> promise = promises.promises(JOB.ID, act.today());
    Field<Map<Long, BigDecimal>> fitted = fittedOnTheJob();
    Field<List<ContactRecord>> contact = contactOnSite();
    Field<List<Cause>> causes = causes();
    Field<List<MissingPart>> missing = missingParts();
    Field<List<EarlierVisit>> earlier = EarlierVisit.before();
    Field<List<UnlistedPartOnVisit>> unlisted = unlistedParts();
    Field<List<Clocked>> elsewhere = elsewhere(act);
    Field<List<SuggestedMiles.Stored>> whereLast =
        SuggestedMiles.whereLast(act.personId(), act.today());
    Field<Boolean> seesPrices = seesPrices(act);
    Field<List<JobMessages.JobMessage>> messages = JobMessages.ofJob(act.zone());
    Field<List<AskedChecklist>> checklists = AskedChecklist.ofVisit(act.zone());
    var row =
        database
            .select(
                VISIT,
                JOB,
                SITE,
                WorkedFor.selected(act),
                EQUIPMENT,
                clocks,
                crew,
                used,
                promise,
                fitted,
                contact,
                causes,
                ownHours,
                missing,
                earlier,
                unlisted,
                elsewhere,
                whereLast,
                seesPrices,
                BeforeFinish.WANTED,
                checklists,
                messages)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .leftJoin(EQUIPMENT)
            .on(EQUIPMENT.ID.eq(JOB.EQUIPMENT_ID))
            .where(VISIT.ID.eq(id).and(OwnVisit.ofCrew(VISIT, act.personId())))
            .fetchOne();
    if (row == null) {
      throw OwnVisit.notThere();
    }
    var visit = row.value1();
    var job = row.value2();
    var site = row.value3();
    var equipment = row.value5();
    boolean noEquipment = equipment == null || equipment.getId() == null;
    List<QuoteLine> promised =
        row.get(promise).stream().flatMap(each -> each.lines().stream()).toList();
    ContactRecord onSite = row.get(contact).stream().findFirst().orElse(null);
    return new PocketVisit(
        id,
        row.get(clocks).ownState(visit.getState()),
        visit.getDay(),
        row.value13().start(),
        row.value13().minutes(),
        row.value4().name(),
        site.getName(),
        site.getAddress(),
        site.getLatitude(),
        site.getLongitude(),
        job.getTitle(),
        job.getNumber(),
        site.getOpens(),
        site.getCloses(),
        site.getAccessNotes(),
        onSite == null ? "" : onSite.getName(),
        onSite == null ? "" : onSite.getPhone(),
        job.getNotes(),
        noEquipment ? null : equipment.getModel() + ", serial " + equipment.getSerialNumber(),
        noEquipment ? null : equipment.getPartsWarrantyUntil(),
        row.value4().otherEquipment(),
        row.get(crew),
        row.get(elsewhere).stream()
            .findFirst()
            .map(clock -> RunningClock.of(act, clock, hours))
            .orElse(null),
        miles.between(
            row.get(whereLast),
            new SuggestedMiles.Stored(site.getLatitude(), site.getLongitude(), site.getPostcode())),
        Objects.equals(visit.getTechnicianId(), act.personId()),
        promised.stream()
            .mapToInt(line -> line instanceof QuoteLine.Labour labour ? labour.minutes() : 0)
            .sum(),
        row.value4().labourMinutes(),
        String.join(
            ", ",
            promised.stream().map(PocketVisits::promisedPart).filter(Objects::nonNull).toList()),
        row.get(seesPrices)
            ? promised.stream().map(QuoteLine::net).collect(Money.sum()).minor()
            : null,
        row.value4().work(),
        row.value4().clockPerLine(),
        visit.getNote(),
        visit.getOutcome(),
        visit.getReason(),
        visit.getAcceptedAt() != null,
        visit.getLateMinutes(),
        visit.getToldMinor(),
        visit.getToldWithVat(),
        row.get(clocks).runningSince(),
        row.get(clocks).minutes(TimeEntry.Kind.LABOUR),
        row.get(clocks).minutes(TimeEntry.Kind.DRIVE),
        row.get(clocks).miles(),
        row.get(used),
        row.get(unlisted),
        partsToFit(promised, row.get(fitted)),
        row.get(missing),
        row.get(earlier),
        job.getCauseCode(),
        job.getFaultCode() == null ? List.of() : row.get(causes),
        row.get(BeforeFinish.WANTED),
        row.get(checklists),
        row.get(messages),
        row.value4().reachable(),
        row.value4().reportCopy(),
        row.value4().mailAddress());
  }

  /** Who else comes to the visit, each with what their clock on it says. */
  private static Field<List<Mate>> crew(Act act) {
    var companion = PERSON.as("companion");
    var own = TIME_ENTRY.as("own");
    return multiset(
            select(companion.ID, companion.NAME, own.KIND)
                .from(companion)
                .leftJoin(own)
                .on(own.PERSON_ID.eq(companion.ID).and(own.VISIT_ID.eq(VISIT.ID)))
                .and(own.ENDED_AT.isNull().and(own.REMOVED_AT.isNull()))
                .where(companion.ID.ne(act.personId()))
                .and(
                    companion
                        .ID
                        .eq(VISIT.TECHNICIAN_ID)
                        .or(
                            companion.ID.in(
                                select(VISIT_COMPANION.PERSON_ID)
                                    .from(VISIT_COMPANION)
                                    .where(VISIT_COMPANION.VISIT_ID.eq(VISIT.ID)))))
                .orderBy(companion.NAME))
        .as("crew")
        .convertFrom(rows -> rows.map(mapping(Mate::new)));
  }

  /** Whom to ask for at the site: whoever opens it, else anybody who is named for it. */
  private static Field<List<ContactRecord>> contactOnSite() {
    return multiset(
            select(CONTACT.fields())
                .from(CONTACT)
                .where(CONTACT.SITE_ID.eq(JOB.SITE_ID))
                .orderBy(CONTACT.OPENS.desc(), CONTACT.ID)
                .limit(1))
        .as("contact")
        .convertFrom(rows -> rows.into(CONTACT));
  }

  private static Field<Integer> unrecorded() {
    return when(PART.EQUIPMENT_KIND_ID.isNull(), 0)
        .otherwise(
            VISIT_PART
                .QUANTITY
                .cast(Integer.class)
                .minus(
                    field(
                        selectCount()
                            .from(EQUIPMENT)
                            .where(EQUIPMENT.VISIT_PART_ID.eq(VISIT_PART.ID)))));
  }

  private static Field<List<UnlistedPartOnVisit>> unlistedParts() {
    return multiset(
            select(UNLISTED_PART.ID, UNLISTED_PART.NAME, UNLISTED_PART.QUANTITY)
                .from(UNLISTED_PART)
                .where(UNLISTED_PART.VISIT_ID.eq(VISIT.ID).and(UnpricedParts.OPEN))
                .orderBy(UNLISTED_PART.ID))
        .as("unlisted")
        .convertFrom(rows -> rows.map(mapping(UnlistedPartOnVisit::new)));
  }

  /** The person's clock that runs on another visit or none. */
  private static Field<List<Clocked>> elsewhere(Act act) {
    var other = TIME_ENTRY.as("other");
    return multiset(
            select(other.KIND, other.VISIT_ID, other.DESCRIPTION, other.STARTED_AT, other.DAY)
                .from(other)
                .where(other.PERSON_ID.eq(act.personId()).and(other.ENDED_AT.isNull()))
                .and(other.REMOVED_AT.isNull().and(other.VISIT_ID.isDistinctFrom(VISIT.ID))))
        .as("elsewhere")
        .convertFrom(rows -> rows.map(mapping(Clocked::new)));
  }

  private static Field<Boolean> seesPrices(Act act) {
    return field(
        exists(
            selectOne()
                .from(PERSON)
                .where(PERSON.ID.eq(act.personId()).and(PERSON.MAY_SEE_PRICES))));
  }

  private static Field<List<MissingPart>> missingParts() {
    return multiset(
            select(
                    PART_WANTED.ID,
                    PART_WANTED.VERSION,
                    coalesce(PART.NAME, PART_WANTED.WORDS),
                    PART_WANTED.QUANTITY,
                    PART_WANTED.URGENT,
                    PART_WANTED.STATE,
                    PART_WANTED.EXPECTED_ON)
                .from(PART_WANTED)
                .leftJoin(PART)
                .on(PART.ID.eq(PART_WANTED.PART_ID))
                .where(PART_WANTED.JOB_ID.eq(JOB.ID).and(PART_WANTED.CLOSED_AT.isNull()))
                .orderBy(PART_WANTED.ID))
        .as("missing")
        .convertFrom(rows -> rows.map(mapping(MissingPart::new)));
  }

  private static Field<List<Cause>> causes() {
    return multiset(
            select(CAUSE_CODE.CODE, CAUSE_CODE.NAME)
                .from(CAUSE_CODE)
                .where(CAUSE_CODE.ACTIVE)
                .orderBy(CAUSE_CODE.NAME))
        .as("causes")
        .convertFrom(rows -> rows.map(mapping(Cause::new)));
  }

  /** Quantities by part, of all visits of the job together. */
  private static Field<Map<Long, BigDecimal>> fittedOnTheJob() {
    var visit = VISIT.as("visit_of_job");
    return multiset(
            select(VISIT_PART.PART_ID, sum(VISIT_PART.QUANTITY))
                .from(VISIT_PART)
                .join(visit)
                .on(visit.ID.eq(VISIT_PART.VISIT_ID))
                .where(visit.JOB_ID.eq(JOB.ID).and(VISIT_PART.REMOVED_AT.isNull()))
                .groupBy(VISIT_PART.PART_ID))
        .as("fitted")
        .convertFrom(rows -> rows.intoMap(row -> row.value1(), row -> row.value2()));
  }

  private static List<PartToFit> partsToFit(
      List<QuoteLine> promised, Map<Long, BigDecimal> fitted) {
    var parts = new PromisedParts(promised);
    fitted.forEach((partId, quantity) -> parts.use(partId, "", quantity));
    return parts.toFit().stream()
        .map(part -> new PartToFit(part.partId(), part.description(), part.quantity()))
        .toList();
  }

  private static @Nullable String promisedPart(QuoteLine line) {
    return line instanceof QuoteLine.Part part
        ? Decimal.text(part.quantity()) + " " + part.description()
        : null;
  }
}
