package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CAUSE_CODE;
import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.LATE_ACT;
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
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectCount;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.when;

import app.pragmata.core.Decimal;
import app.pragmata.core.field.ForgottenClock;
import app.pragmata.core.field.HoursWorked;
import app.pragmata.core.field.LateActState;
import app.pragmata.core.field.PocketStep;
import app.pragmata.core.field.ReportCopy;
import app.pragmata.core.jobs.Capture;
import app.pragmata.core.jobs.PromisedParts;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.core.partswanted.PartWantedState;
import app.pragmata.server.checklists.AskedChecklist;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.customers.SiteService;
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
import app.pragmata.server.stores.Handovers;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.SelectField;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** The technician's own day: no wage, cost, price or margin, and nobody else's visits. */
@RestController
class PocketApi {
  /**
   * The technician's day.
   *
   * @param clock the one that runs on no visit, or was forgotten on one; null for none
   * @param inDoubt times of whatever day of which it is to be said when they ended
   * @param offVisits what was done on no visit on this day, without what is on the clock
   * @param crew with whom a visit of the day is shared
   * @param otherWork what is paid for beside visits
   * @param later the stops of the next day that has any
   * @param lateActs what came in late and waits for the office, or was answered on this day
   * @param asked how many parts that others give or want wait for one's yes
   */
  record Day(
      LocalDate day,
      List<Stop> stops,
      List<Stop> later,
      @Nullable RunningClock clock,
      List<Weeks.WeekEntry> inDoubt,
      HoursWorked offVisits,
      List<Mate> crew,
      List<String> otherWork,
      List<OwnLateAct> lateActs,
      int asked) {}

  /**
   * What one tapped without a network and what the office could not take as it was.
   *
   * @param at when it was tapped, by the company's clock
   * @param customer whose visit; null for time on no visit
   * @param detail why it waits
   * @param reason why it does not count; empty for anything else
   */
  record OwnLateAct(
      long id,
      PocketStep step,
      LocalDateTime at,
      @Nullable String customer,
      LateActState state,
      String detail,
      String reason) {}

  /** What a phone carries along for when there is no network: visits of today and the next day. */
  record Carried(Day day, List<PocketVisit> visits) {}

  /**
   * A clock that runs.
   *
   * @param work of other paid time; empty for everything else
   * @param since when it was started, by the company's clock
   * @param forgotten whether it has run past the hours of its person
   */
  record RunningClock(
      TimeEntry.Kind kind,
      @Nullable Long visitId,
      String work,
      Instant startedAt,
      LocalDateTime since,
      boolean forgotten) {}

  /**
   * Somebody of the crew.
   *
   * @param onClock what they are doing on this visit by their clock; null for nothing
   */
  record Mate(long personId, String name, TimeEntry.@Nullable Kind onClock) {}

  /**
   * A stop of the day, or one of an earlier day that is still running.
   *
   * @param running whether a clock of this person runs on it
   * @param unseenMessages how many messages of the office nobody on the job has seen
   */
  record Stop(
      long visitId,
      VisitState.Code state,
      LocalDate day,
      LocalTime start,
      int expectedMinutes,
      String customer,
      String site,
      String title,
      boolean running,
      int labourMinutes,
      int unseenMessages) {}

  /**
   * One visit as this person stands to it: whoever comes along and has no clock on it yet is still
   * to start.
   *
   * @param opens from when on somebody can get in; null for at all hours, as is until when
   * @param crew who else comes
   * @param earlier the last visits at the same site
   * @param latitude of the site where somebody has given it; null where not, as is the longitude
   * @param elsewhere one's clock that runs, but not on this visit; null for none
   * @param suggestedMiles how far it is from where one was last, by the roads that the company
   *     knows; null where nobody knows
   * @param jobLabourMinutes what of the promised minutes is used up, by whoever worked on the job
   * @param promisedNetMinor what the promise comes to without VAT, in minor units; null for whoever
   *     does not see prices
   * @param work what is to be done of the promise, line by line
   * @param clockPerLine whether its lines are started and finished one by one
   * @param outcome what came of it; null until it is over
   * @param reason why it is not done, or did not happen; empty for none
   * @param accepted whether whoever is responsible has said to come as planned
   * @param lateMinutes how much later than planned one has said to come; null for as planned
   * @param toldMinor what the customer was told that the job costs in all; null for nothing
   * @param toldWithVat whether that is with VAT; null for nothing told
   * @param responsible whether finishing it is up to this person
   * @param beforeFinish what must be there before it is finished
   * @param checklists what is gone through on it
   * @param messages what was said about its job
   * @param customerReachable whether the customer can be written to
   * @param reportCopy whether the customer gets a report when it is over
   * @param reportGoesTo the mail address for it; empty for none
   * @param runningSince null while no clock of this person runs
   * @param labourMinutes this person's own, as are the drive and the miles
   */
  record PocketVisit(
      long visitId,
      VisitState.Code state,
      LocalDate day,
      LocalTime start,
      int expectedMinutes,
      String customer,
      String site,
      String address,
      @Nullable BigDecimal latitude,
      @Nullable BigDecimal longitude,
      String title,
      long jobNumber,
      @Nullable LocalTime opens,
      @Nullable LocalTime closes,
      String accessNotes,
      String contactName,
      String contactPhone,
      String notes,
      @Nullable String equipment,
      @Nullable LocalDate warrantyUntil,
      List<OtherEquipment> otherEquipment,
      List<Mate> crew,
      @Nullable RunningClock elsewhere,
      @Nullable BigDecimal suggestedMiles,
      boolean responsible,
      int promisedMinutes,
      int jobLabourMinutes,
      String promised,
      @Nullable Long promisedNetMinor,
      List<WorkToDo> work,
      boolean clockPerLine,
      String note,
      @Nullable VisitOutcome outcome,
      String reason,
      boolean accepted,
      @Nullable Short lateMinutes,
      @Nullable Long toldMinor,
      @Nullable Boolean toldWithVat,
      @Nullable Instant runningSince,
      int labourMinutes,
      int driveMinutes,
      BigDecimal miles,
      List<UsedPart> parts,
      List<UnlistedPartOnVisit> unlistedParts,
      List<PartToFit> partsToFit,
      List<MissingPart> missingParts,
      List<EarlierVisit> earlier,
      @Nullable String causeCode,
      List<Cause> causes,
      List<Capture> beforeFinish,
      List<AskedChecklist> checklists,
      List<JobMessages.JobMessage> messages,
      boolean customerReachable,
      ReportCopy reportCopy,
      String reportGoesTo) {}

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

  /**
   * What else stands at the site that the job is not about.
   *
   * @param warrantyUntil of its parts; null for none
   */
  record OtherEquipment(long id, String name, @Nullable LocalDate warrantyUntil) {
    static SelectField<List<OtherEquipment>> onSite() {
      var other = EQUIPMENT.as("other");
      return multiset(
              select(
                      other.ID,
                      other.MODEL.concat(", serial ").concat(other.SERIAL_NUMBER),
                      other.PARTS_WARRANTY_UNTIL)
                  .from(other)
                  .where(other.SITE_ID.eq(JOB.SITE_ID))
                  .and(other.ID.isDistinctFrom(JOB.EQUIPMENT_ID))
                  .and(other.REMOVED_ON.isNull())
                  .orderBy(other.FITTED_ON, other.ID))
          .convertFrom(rows -> rows.map(mapping(OtherEquipment::new)));
    }
  }

  /** Why something can be wrong; none are offered on a job without a fault. */
  record Cause(String code, String name) {}

  /** A part on no price list that waits for the office to price it. */
  record UnlistedPartOnVisit(long id, String name, BigDecimal quantity) {}

  /**
   * A part that was used.
   *
   * @param unrecorded how many of it are kept on record as equipment once fitted, and are not yet
   */
  record UsedPart(long id, String name, String unit, BigDecimal quantity, int unrecorded) {}

  /**
   * A part that the job waits for.
   *
   * @param name as it is on the price list, or as it was said; empty where nobody knows
   * @param expectedOn null where nobody knows
   */
  record MissingPart(
      long id,
      int version,
      String name,
      BigDecimal quantity,
      boolean urgent,
      PartWantedState state,
      @Nullable LocalDate expectedOn) {}

  /** A promised part of which so much is still to be fitted on the job. */
  record PartToFit(long partId, String name, BigDecimal quantity) {}

  private record Elsewhere(
      TimeEntry.Kind kind, @Nullable Long visitId, String work, Instant startedAt, LocalDate day) {}

  private record Clock(
      TimeEntry.Kind kind, Instant startedAt, @Nullable Instant endedAt, BigDecimal miles) {}

  private final DSLContext database;
  private final Clocks clocks;
  private final TimeEntries times;
  private final Weeks weeks;
  private final SuggestedMiles miles;
  private final PersonHours hours;
  private final PromiseStore promises;
  private final CompanyStore companies;
  private final Handovers handovers;

  PocketApi(
      DSLContext database,
      Clocks clocks,
      TimeEntries times,
      Weeks weeks,
      SuggestedMiles miles,
      PersonHours hours,
      PromiseStore promises,
      CompanyStore companies,
      Handovers handovers) {
    this.database = database;
    this.clocks = clocks;
    this.times = times;
    this.weeks = weeks;
    this.miles = miles;
    this.hours = hours;
    this.promises = promises;
    this.companies = companies;
    this.handovers = handovers;
  }

  @GetMapping("/api/pocket/day")
  Day getPocketDay(Act act) {
    Condition stillRunning =
        VISIT
            .STATE
            .in(VisitState.Code.DRIVING, VisitState.Code.ON_SITE)
            .and(VISIT.DAY.lt(act.today()));
    List<Weeks.WeekEntry> ofDay =
        weeks.list(act, List.of(act.personId()), act.today(), act.today()).stream()
            .filter(entry -> entry.visitId() == null)
            .toList();
    return new Day(
        act.today(),
        stops(act, VISIT.DAY.eq(act.today()).or(stillRunning)),
        stops(act, VISIT.DAY.eq(nextDay(act))),
        times.listRunning(List.of(act.personId())).values().stream()
            .map(
                clock ->
                    running(
                        act,
                        new Elsewhere(
                            clock.kind(),
                            clock.visitId(),
                            clock.description(),
                            clock.startedAt(),
                            clock.day())))
            .filter(clock -> clock.visitId() == null || clock.forgotten())
            .findFirst()
            .orElse(null),
        weeks.listOpen(act, act.personId()).stream().filter(Weeks.WeekEntry::inDoubt).toList(),
        Weeks.sum(ofDay).worked(),
        mates(clocks.crewOfDay(act.personId(), act.today())),
        companies.getCompany().otherWork().names(),
        lateActs(act),
        handovers.countAsked(act.personId()));
  }

  /** The next day on which one has a stop, by a statement of its own inside another. */
  private static Field<LocalDate> nextDay(Act act) {
    var next = VISIT.as("next");
    return field(
        select(min(next.DAY))
            .from(next)
            .where(next.DAY.gt(act.today()))
            .and(next.STATE.notIn(VisitState.Code.NOT_THIS_TIME, VisitState.Code.CALLED_OFF))
            .and(OwnVisit.ofCrew(next, act.personId())));
  }

  private List<Stop> stops(Act act, Condition when) {
    return database
        .select(
            VISIT.ID,
            VISIT.STATE,
            VISIT.DAY,
            OwnHours.of(act.personId()),
            CUSTOMER.NAME,
            SITE.NAME.concat(", ").concat(SITE.ADDRESS),
            JOB.TITLE,
            clocks(act),
            JobMessages.unseen())
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .where(OwnVisit.ofCrew(VISIT, act.personId()))
        .and(VISIT.STATE.notIn(VisitState.Code.NOT_THIS_TIME, VisitState.Code.CALLED_OFF))
        .and(when)
        .orderBy(VISIT.DAY, VISIT.START_TIME, VISIT.ID)
        .fetch(
            row ->
                new Stop(
                    row.value1(),
                    ownState(row.value2(), row.value8()),
                    row.value3(),
                    row.value4().start(),
                    row.value4().minutes(),
                    row.value5(),
                    row.value6(),
                    row.value7(),
                    runningSince(row.value8()) != null,
                    minutes(row.value8(), TimeEntry.Kind.LABOUR),
                    row.value9()));
  }

  private List<OwnLateAct> lateActs(Act act) {
    Instant midnight = act.today().atStartOfDay(act.zone()).toInstant();
    return database
        .select(
            LATE_ACT.ID,
            LATE_ACT.STEP,
            LATE_ACT.COUNTED_AT,
            CUSTOMER.NAME,
            LATE_ACT.STATE,
            LATE_ACT.DETAIL,
            LATE_ACT.REASON)
        .from(LATE_ACT)
        .leftJoin(VISIT)
        .on(VISIT.ID.eq(LATE_ACT.VISIT_ID))
        .leftJoin(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .leftJoin(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .where(LATE_ACT.PERSON_ID.eq(act.personId()))
        .and(LATE_ACT.STATE.eq(LateActState.WAITING).or(LATE_ACT.ANSWERED_AT.ge(midnight)))
        .orderBy(LATE_ACT.COUNTED_AT, LATE_ACT.ID)
        .fetch(
            row ->
                new OwnLateAct(
                    row.value1(),
                    row.value2(),
                    LocalDateTime.ofInstant(row.value3(), act.zone()),
                    row.value4(),
                    row.value5(),
                    row.value6(),
                    row.value7()));
  }

  /** All that a phone needs to go on without a network, today and on the next day of work. */
  @GetMapping("/api/pocket/carried")
  Carried getCarried(Act act) {
    Day day = getPocketDay(act);
    return new Carried(
        day,
        Stream.concat(day.stops().stream(), day.later().stream())
            .map(stop -> getPocketVisit(act, stop.visitId()))
            .toList());
  }

  private RunningClock running(Act act, Elsewhere clock) {
    return new RunningClock(
        clock.kind(),
        clock.visitId(),
        clock.work(),
        clock.startedAt(),
        LocalDateTime.ofInstant(clock.startedAt(), act.zone()),
        new ForgottenClock(
                clock.kind(),
                clock.visitId(),
                clock.startedAt(),
                hours.endOf(act.personId(), clock.day()))
            .isPastHours(act.at()));
  }

  private List<Mate> mates(Set<Long> personIds) {
    return personIds.isEmpty()
        ? List.of()
        : database
            .select(PERSON.ID, PERSON.NAME)
            .from(PERSON)
            .where(PERSON.ID.in(personIds))
            .orderBy(PERSON.NAME)
            .fetch(row -> new Mate(row.value1(), row.value2(), null));
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

  /** A visit that others have begun is still to start for whoever has no clock on it. */
  private static VisitState.Code ownState(VisitState.Code state, List<Clock> own) {
    boolean driving =
        own.stream()
            .anyMatch(clock -> clock.kind() == TimeEntry.Kind.DRIVE && clock.endedAt() == null);
    return switch (state) {
      case DRIVING, ON_SITE ->
          driving
              ? VisitState.Code.DRIVING
              : state == VisitState.Code.DRIVING ? VisitState.Code.PLANNED : state;
      default -> state;
    };
  }

  private static Field<List<Clock>> clocks(Act act) {
    return multiset(
            select(TIME_ENTRY.KIND, TIME_ENTRY.STARTED_AT, TIME_ENTRY.ENDED_AT, TIME_ENTRY.MILES)
                .from(TIME_ENTRY)
                .where(TIME_ENTRY.VISIT_ID.eq(VISIT.ID).and(TIME_ENTRY.REMOVED_AT.isNull()))
                .and(TIME_ENTRY.PERSON_ID.eq(act.personId())))
        .as("clocks")
        .convertFrom(rows -> rows.map(mapping(Clock::new)));
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

  private static @Nullable Instant runningSince(List<Clock> clocks) {
    return clocks.stream()
        .filter(clock -> clock.endedAt() == null)
        .map(Clock::startedAt)
        .findFirst()
        .orElse(null);
  }

  private static int minutes(List<Clock> clocks, TimeEntry.Kind kind) {
    return clocks.stream()
        .filter(clock -> clock.kind() == kind && clock.endedAt() != null)
        .mapToInt(clock -> TimeEntry.minutesBetween(clock.startedAt(), clock.endedAt()))
        .sum();
  }

  @GetMapping("/api/pocket/visits/{id}")
  PocketVisit getPocketVisit(Act act, @PathVariable long id) {
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
    SelectField<OwnHours> hours = OwnHours.of(act.personId());
    Field<List<Clock>> clocks = clocks(act);
    Field<List<Mate>> crew = crew(act);
    Field<List<PromiseStore.Promise>> promise = promises.promises(JOB.ID, act.today());
    Field<Map<Long, BigDecimal>> fitted = fittedOnTheJob();
    Field<List<ContactRecord>> contact = contactOnSite();
    Field<List<Cause>> causes = causes();
    Field<List<MissingPart>> missing = missingParts();
    Field<List<EarlierVisit>> earlier = EarlierVisit.before();
    Field<List<UnlistedPartOnVisit>> unlisted = unlistedParts();
    Field<List<Elsewhere>> elsewhere = elsewhere(act);
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
                hours,
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
        ownState(visit.getState(), row.get(clocks)),
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
        row.get(elsewhere).stream().findFirst().map(clock -> running(act, clock)).orElse(null),
        miles.between(
            row.get(whereLast),
            new SuggestedMiles.Stored(site.getLatitude(), site.getLongitude(), site.getPostcode())),
        Objects.equals(visit.getTechnicianId(), act.personId()),
        promised.stream()
            .mapToInt(line -> line instanceof QuoteLine.Labour labour ? labour.minutes() : 0)
            .sum(),
        row.value4().labourMinutes(),
        String.join(
            ", ", promised.stream().map(PocketApi::promisedPart).filter(Objects::nonNull).toList()),
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
        runningSince(row.get(clocks)),
        minutes(row.get(clocks), TimeEntry.Kind.LABOUR),
        minutes(row.get(clocks), TimeEntry.Kind.DRIVE),
        row.get(clocks).stream().map(Clock::miles).reduce(BigDecimal.ZERO, BigDecimal::add),
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
  private static Field<List<Elsewhere>> elsewhere(Act act) {
    var other = TIME_ENTRY.as("other");
    return multiset(
            select(other.KIND, other.VISIT_ID, other.DESCRIPTION, other.STARTED_AT, other.DAY)
                .from(other)
                .where(other.PERSON_ID.eq(act.personId()).and(other.ENDED_AT.isNull()))
                .and(other.REMOVED_AT.isNull().and(other.VISIT_ID.isDistinctFrom(VISIT.ID))))
        .as("elsewhere")
        .convertFrom(rows -> rows.map(mapping(Elsewhere::new)));
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
