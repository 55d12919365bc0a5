package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.JOB_SKILL;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB_SKILL;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.mapping;
import static java.util.stream.Collectors.toSet;
import static org.jooq.impl.DSL.arrayToString;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.Districts;
import app.pragmata.core.planning.Promised;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.Job;
import app.pragmata.server.generated.tables.Visit;
import app.pragmata.server.planning.PlannedVisit.Companion;
import app.pragmata.server.records.Cells;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record4;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads visits with all that is needed to plan them. */
@Repository
class PlannedVisits {
  private static final Visit FOLLOWED = VISIT.as("followed");
  private static final String SEPARATOR = ",";

  private static final int MOST_WAITING = 200;
  private static final Condition WAITS = VISIT.STATE.eq(VisitState.Code.UNPLANNED);

  /** Nobody knows when a visit is over that waits itself, or when a part arrives without a day. */
  private static final LocalDateTime NOT_YET = LocalDate.of(2999, 12, 31).atStartOfDay();

  private final DSLContext database;
  private final CompanyStore companies;
  private final RoadMap roads;

  PlannedVisits(DSLContext database, CompanyStore companies, RoadMap roads) {
    this.database = database;
    this.companies = companies;
    this.roads = roads;
  }

  /** All that are on one of these days; none that was dropped. */
  List<PlannedVisit> between(LocalDate first, LocalDate last) {
    return fetchVisits(onDays(first, last));
  }

  private static Condition onDays(LocalDate first, LocalDate last) {
    return VISIT
        .DAY
        .between(first, last)
        .and(
            VISIT.STATE.notIn(
                VisitState.Code.NOT_THIS_TIME,
                VisitState.Code.CALLED_OFF,
                VisitState.Code.UNPLANNED));
  }

  /**
   * The visits that wait for a time, whoever was promised first before the others; the first of
   * many.
   */
  List<PlannedVisit> waiting() {
    return fetchVisits(WAITS, MOST_WAITING, beside(WAITS));
  }

  /** The visits of a day, and the first of those that wait for a time, as {@link #waiting}. */
  record DayAndWaiting(List<PlannedVisit> ofDay, List<PlannedVisit> waiting) {}

  /** What is drawn anew whenever one visit changes, in as few statements as it takes. */
  DayAndWaiting dayAndWaiting(LocalDate day) {
    Condition ofDay = onDays(day, day);
    Beside beside = beside(ofDay.or(WAITS));
    return new DayAndWaiting(
        fetchVisits(ofDay, Integer.MAX_VALUE, beside), fetchVisits(WAITS, MOST_WAITING, beside));
  }

  /**
   * How many visits wait for a time; they are counted only where not all of them were read.
   *
   * @param read how many were
   */
  int countWaiting(int read) {
    return read < MOST_WAITING ? read : database.fetchCount(VISIT, WAITS);
  }

  /** One visit; refused when there is no such visit. */
  PlannedVisit visit(long id) {
    return fetchVisits(VISIT.ID.eq(id)).stream()
        .findFirst()
        .orElseThrow(
            () -> new Refused(Rule.NOT_FOUND, "This visit does not exist. Reload the page."));
  }

  /** These visits by their ids; one that is not there is left out. */
  List<PlannedVisit> visits(Collection<Long> ids) {
    return fetchVisits(VISIT.ID.in(ids));
  }

  /** Who was there last at the site of each of these visits; none where nobody was. */
  Map<Long, Long> lastThere(Collection<Long> visitIds) {
    Visit past = VISIT.as("past");
    Job pastJob = JOB.as("past_job");
    return database
        .select(
            VISIT.ID,
            field(
                select(past.TECHNICIAN_ID)
                    .from(past)
                    .join(pastJob)
                    .on(pastJob.ID.eq(past.JOB_ID))
                    .where(pastJob.SITE_ID.eq(JOB.SITE_ID))
                    .and(past.STATE.in(VisitState.Code.FINISHED, VisitState.Code.CHECKED))
                    .orderBy(past.DAY.desc(), past.ID.desc())
                    .limit(1)))
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(VISIT.ID.in(visitIds))
        .fetch()
        .stream()
        .filter(row -> row.value2() != null)
        .collect(Collectors.toMap(row -> row.value1(), row -> row.value2()));
  }

  /** Who comes along to these, by visit; none for a visit to which nobody does. */
  private Map<Long, List<Companion>> companions(Condition which) {
    return database
        .select(
            VISIT_COMPANION.VISIT_ID,
            VISIT_COMPANION.PERSON_ID,
            VISIT_COMPANION.STARTS_AFTER.coerce(Integer.class),
            VISIT_COMPANION.MINUTES.coerce(Integer.class))
        .from(VISIT_COMPANION)
        .join(VISIT)
        .on(VISIT.ID.eq(VISIT_COMPANION.VISIT_ID))
        .where(which)
        .orderBy(VISIT_COMPANION.PERSON_ID)
        .fetchGroups(
            Record4::value1, row -> new Companion(row.value2(), row.value3(), row.value4()));
  }

  /**
   * What whoever comes must be able to do, by job where it asks for its own, and by kind of job.
   */
  private record Skills(Map<Long, Set<Long>> ofJobs, Map<Long, Set<Long>> ofKinds) {
    /** What the job itself asks for, or what its kind does while nobody said otherwise. */
    Set<Long> of(long jobId, long kindId, boolean ofItsOwn) {
      return ofItsOwn
          ? ofJobs.getOrDefault(jobId, Set.of())
          : ofKinds.getOrDefault(kindId, Set.of());
    }
  }

  private Skills skills(Condition which) {
    return new Skills(
        database
            .select(JOB_SKILL.JOB_ID, JOB_SKILL.SKILL_ID)
            .from(JOB_SKILL)
            .where(JOB_SKILL.JOB_ID.in(select(VISIT.JOB_ID).from(VISIT).where(which)))
            .collect(groupingBy(row -> row.value1(), mapping(row -> row.value2(), toSet()))),
        database
            .select(KIND_OF_JOB_SKILL.KIND_OF_JOB_ID, KIND_OF_JOB_SKILL.SKILL_ID)
            .from(KIND_OF_JOB_SKILL)
            .collect(groupingBy(row -> row.value1(), mapping(row -> row.value2(), toSet()))));
  }

  /** What stands beside visits: who comes along, by visit, and what whoever comes must know. */
  private record Beside(Map<Long, List<Companion>> companions, Skills skills) {}

  private Beside beside(Condition which) {
    return new Beside(companions(which), skills(which));
  }

  private List<PlannedVisit> fetchVisits(Condition which) {
    return fetchVisits(which, Integer.MAX_VALUE, beside(which));
  }

  private List<PlannedVisit> fetchVisits(Condition which, int most, Beside beside) {
    ZoneId zone = companies.getZone();
    var query =
        database
            .select(VISIT.ID, VISIT.VERSION, JOB.ID, JOB.NUMBER, JOB.TITLE)
            .select(CUSTOMER.ID, CUSTOMER.NAME, CUSTOMER.PHONE, SITE.NAME, SITE.AREA)
            .select(SITE.POSTCODE, SITE.LATITUDE, SITE.LONGITUDE, SITE.OPENS, SITE.CLOSES)
            .select(KIND_OF_JOB.ID, KIND_OF_JOB.NAME, KIND_OF_JOB.CREW_SIZE, JOB.CREW_SIZE)
            .select(VISIT.STATE, VISIT.TECHNICIAN_ID)
            .select(VISIT.DAY, VISIT.START_TIME, VISIT.EXPECTED_MINUTES)
            .select(arrayToString(VISIT.OVERRULED, inline(SEPARATOR)), VISIT.FINISHED_AT)
            .select(VISIT.AWAITED_PART, VISIT.PART_ARRIVED_ON, VISIT.NOT_BEFORE)
            .select(FOLLOWED.ID, FOLLOWED.DAY, FOLLOWED.START_TIME, FOLLOWED.EXPECTED_MINUTES)
            .select(JOB.RESPOND_BY, JOB.RESPONDED_AT, VISIT.TOLD_DAY, VISIT.TOLD_START)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .join(KIND_OF_JOB)
            .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
            .leftJoin(FOLLOWED)
            .on(FOLLOWED.ID.eq(VISIT.FOLLOWS_ID))
            .and(FOLLOWED.STATE.notIn(VisitState.Code.DROPPED))
            .where(which)
            .orderBy(JOB.RESPOND_BY.asc().nullsLast(), VISIT.ID)
            .limit(most);
    return Cells.fetch(query, cells -> read(cells, zone, beside));
  }

  /** In the order in which the cells are selected. */
  private PlannedVisit read(Cells cells, ZoneId zone, Beside beside) throws SQLException {
    long id = cells.number();
    int version = cells.count();
    long jobId = cells.number();
    long jobNumber = cells.number();
    String title = cells.text();
    long customerId = cells.number();
    String customer = cells.text();
    String phone = cells.text();
    String site = cells.text();
    String area = cells.text();
    String postcode = cells.text();
    RoadMap.Located located = roads.locate(cells.decimal(), cells.decimal(), postcode);
    Stretch siteOpen = stretch(cells.time(), cells.time());
    long kindId = cells.number();
    String kindOfJob = cells.text();
    int crewOfKind = cells.count();
    Integer crewOfJob = cells.optionalCount();
    VisitState.Code state = Coded.get(VisitState.Code.class, cells.text());
    Long technicianId = cells.optional();
    LocalDate day = cells.day();
    LocalTime start = cells.time();
    int expectedMinutes = cells.count();
    String overruled = cells.text();
    LocalDateTime finished = local(cells.moment(), zone);
    String awaitedPart = cells.text();
    boolean partArrived = cells.day() != null;
    LocalDateTime partThere = partThere(cells.day(), awaitedPart, partArrived);
    LocalDateTime followedEnd = followedEnd(cells);
    LocalDateTime respondBy = local(cells.moment(), zone);
    boolean responded = cells.moment() != null;
    LocalDate toldDay = cells.day();
    LocalTime toldStart = cells.time();
    return new PlannedVisit(
        id,
        version,
        jobId,
        jobNumber,
        title,
        customerId,
        customer,
        phone,
        site,
        area,
        Districts.of(postcode),
        siteOpen,
        kindOfJob,
        state,
        technicianId,
        beside.companions().getOrDefault(id, List.of()),
        day,
        start,
        expectedMinutes,
        overruled.isEmpty()
            ? Set.of()
            : Set.copyOf(Coded.getAll(Clash.class, overruled.split(SEPARATOR))),
        finished,
        partThere == null || (followedEnd != null && followedEnd.isAfter(partThere))
            ? followedEnd
            : partThere,
        awaitedPart,
        partArrived,
        responded ? null : respondBy,
        toldDay == null || toldStart == null ? null : Promised.of(toldDay, toldStart),
        located,
        beside.skills().of(jobId, kindId, crewOfJob != null),
        crewOfJob == null ? crewOfKind : crewOfJob);
  }

  /** From when on the part may be there that it waits for; null where that is now. */
  private static @Nullable LocalDateTime partThere(
      @Nullable LocalDate notBefore, String awaitedPart, boolean arrived) {
    if (arrived) {
      return null;
    }
    return notBefore != null ? notBefore.atStartOfDay() : awaitedPart.isEmpty() ? null : NOT_YET;
  }

  /** When the visit is over that it follows; null for none, or for one that was dropped. */
  private static @Nullable LocalDateTime followedEnd(Cells cells) throws SQLException {
    Long id = cells.optional();
    LocalDate day = cells.day();
    LocalTime start = cells.time();
    Integer minutes = cells.optionalCount();
    if (id == null || minutes == null) {
      return null;
    }
    return day == null || start == null ? NOT_YET : day.atTime(start).plusMinutes(minutes);
  }

  /** By the company's clock; null for no moment. */
  private static @Nullable LocalDateTime local(@Nullable Instant moment, ZoneId zone) {
    return moment == null ? null : LocalDateTime.ofInstant(moment, zone);
  }

  /** From one time to another; null where there is none. */
  private static @Nullable Stretch stretch(@Nullable LocalTime from, @Nullable LocalTime to) {
    return from == null || to == null ? null : Stretch.between(from, to);
  }
}
