package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.JOB_SKILL;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB_SKILL;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.array;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.val;

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
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Record4;
import org.jooq.Result;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads visits with all that is needed to plan them. */
@Repository
class PlannedVisits {
  /** What the job itself asks for, or what its kind does while nobody said otherwise. */
  private static final Field<Long[]> SKILL_IDS =
      array(
              select(KIND_OF_JOB_SKILL.SKILL_ID)
                  .from(KIND_OF_JOB_SKILL)
                  .where(KIND_OF_JOB_SKILL.KIND_OF_JOB_ID.eq(JOB.KIND_OF_JOB_ID))
                  .and(JOB.CREW_SIZE.isNull())
                  .union(
                      select(JOB_SKILL.SKILL_ID)
                          .from(JOB_SKILL)
                          .where(JOB_SKILL.JOB_ID.eq(JOB.ID))))
          .as("skill_ids");

  private static final Field<Short> CREW_SIZE =
      coalesce(JOB.CREW_SIZE, KIND_OF_JOB.CREW_SIZE).as("people");

  private static final int MOST_WAITING = 200;

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
    return fetchVisits(
        VISIT
            .DAY
            .between(first, last)
            .and(
                VISIT.STATE.notIn(
                    VisitState.Code.NOT_THIS_TIME,
                    VisitState.Code.CALLED_OFF,
                    VisitState.Code.UNPLANNED)));
  }

  /**
   * The visits that wait for a time, whoever was promised first before the others; the first of
   * many.
   */
  List<PlannedVisit> waiting() {
    return fetchVisits(VISIT.STATE.eq(VisitState.Code.UNPLANNED), MOST_WAITING);
  }

  /**
   * How many visits wait for a time; they are counted only where not all of them were read.
   *
   * @param read how many were
   */
  int countWaiting(int read) {
    return read < MOST_WAITING
        ? read
        : database.fetchCount(VISIT, VISIT.STATE.eq(VisitState.Code.UNPLANNED));
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

  /** The later of the day that it waits for and of the end of the visit that it follows. */
  private static @Nullable LocalDateTime notBefore(Record row, Map<Long, LocalDateTime> ends) {
    LocalDateTime start = partIsThere(row);
    LocalDateTime end =
        row.get(VISIT.FOLLOWS_ID) == null ? null : ends.get(row.get(VISIT.FOLLOWS_ID));
    return start == null || (end != null && end.isAfter(start)) ? end : start;
  }

  /** When the visits are over that these follow; none of one that was dropped. */
  private Map<Long, LocalDateTime> endsOfFollowed(Result<?> rows) {
    List<Long> ids =
        rows.getValues(VISIT.FOLLOWS_ID).stream().filter(Objects::nonNull).distinct().toList();
    return ids.isEmpty()
        ? Map.of()
        : database
            .select(VISIT.ID, VISIT.DAY, VISIT.START_TIME, VISIT.EXPECTED_MINUTES)
            .from(VISIT)
            .where(VISIT.ID.in(ids))
            .and(VISIT.STATE.notIn(VisitState.Code.NOT_THIS_TIME, VisitState.Code.CALLED_OFF))
            .fetchMap(
                VISIT.ID,
                row ->
                    row.get(VISIT.DAY) == null || row.get(VISIT.START_TIME) == null
                        ? NOT_YET
                        : row.get(VISIT.DAY)
                            .atTime(row.get(VISIT.START_TIME))
                            .plusMinutes(row.get(VISIT.EXPECTED_MINUTES)));
  }

  /** Who comes along to these, by visit; none for a visit to which nobody does. */
  private Map<Long, List<Companion>> companions(List<Long> visitIds) {
    return database
        .select(
            VISIT_COMPANION.VISIT_ID,
            VISIT_COMPANION.PERSON_ID,
            VISIT_COMPANION.STARTS_AFTER.coerce(Integer.class),
            VISIT_COMPANION.MINUTES.coerce(Integer.class))
        .from(VISIT_COMPANION)
        .where(VISIT_COMPANION.VISIT_ID.eq(any(val(visitIds.toArray(Long[]::new)))))
        .orderBy(VISIT_COMPANION.PERSON_ID)
        .fetchGroups(
            Record4::value1, row -> new Companion(row.value2(), row.value3(), row.value4()));
  }

  /** From when on the part may be there that it waits for; null where that is now. */
  private static @Nullable LocalDateTime partIsThere(Record row) {
    LocalDate day = row.get(VISIT.NOT_BEFORE);
    if (row.get(VISIT.PART_ARRIVED_ON) != null) {
      return null;
    }
    boolean unknown = day == null && !row.get(VISIT.AWAITED_PART).isEmpty();
    return unknown ? NOT_YET : day == null ? null : day.atStartOfDay();
  }

  private static @Nullable Promised promised(Record row) {
    return row.get(VISIT.TOLD_DAY) == null
        ? null
        : Promised.of(row.get(VISIT.TOLD_DAY), row.get(VISIT.TOLD_START));
  }

  private List<PlannedVisit> fetchVisits(Condition which) {
    return fetchVisits(which, Integer.MAX_VALUE);
  }

  private List<PlannedVisit> fetchVisits(Condition which, int most) {
    ZoneId zone = companies.getZone();
    Result<?> rows =
        database
            .select(VISIT.ID, VISIT.VERSION, VISIT.STATE, VISIT.TECHNICIAN_ID)
            .select(VISIT.DAY, VISIT.START_TIME, VISIT.EXPECTED_MINUTES)
            .select(VISIT.OVERRULED, VISIT.FINISHED_AT, VISIT.NOT_BEFORE, VISIT.FOLLOWS_ID)
            .select(JOB.ID, JOB.NUMBER, JOB.TITLE, JOB.RESPOND_BY, JOB.RESPONDED_AT)
            .select(
                CUSTOMER.ID,
                CUSTOMER.NAME,
                CUSTOMER.PHONE,
                SITE.NAME,
                SITE.AREA,
                KIND_OF_JOB.NAME,
                SITE.POSTCODE,
                SITE.LATITUDE,
                SITE.LONGITUDE,
                SITE.OPENS,
                SITE.CLOSES)
            .select(VISIT.TOLD_DAY, VISIT.TOLD_START, VISIT.AWAITED_PART, VISIT.PART_ARRIVED_ON)
            .select(SKILL_IDS, CREW_SIZE)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .join(KIND_OF_JOB)
            .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
            .where(which)
            .orderBy(JOB.RESPOND_BY.asc().nullsLast(), VISIT.ID)
            .limit(most)
            .fetch();
    Map<Long, LocalDateTime> ends = endsOfFollowed(rows);
    Map<Long, List<Companion>> companions = companions(rows.getValues(VISIT.ID));
    return rows.map(
        row ->
            new PlannedVisit(
                row.get(VISIT.ID),
                row.get(VISIT.VERSION),
                row.get(JOB.ID),
                row.get(JOB.NUMBER),
                row.get(JOB.TITLE),
                row.get(CUSTOMER.ID),
                row.get(CUSTOMER.NAME),
                row.get(CUSTOMER.PHONE),
                row.get(SITE.NAME),
                row.get(SITE.AREA),
                Districts.of(row.get(SITE.POSTCODE)),
                row.get(SITE.OPENS) == null
                    ? null
                    : Stretch.between(row.get(SITE.OPENS), row.get(SITE.CLOSES)),
                row.get(KIND_OF_JOB.NAME),
                row.get(VISIT.STATE),
                row.get(VISIT.TECHNICIAN_ID),
                companions.getOrDefault(row.get(VISIT.ID), List.of()),
                row.get(VISIT.DAY),
                row.get(VISIT.START_TIME),
                row.get(VISIT.EXPECTED_MINUTES),
                Arrays.stream(row.get(VISIT.OVERRULED))
                    .map(code -> Coded.get(Clash.class, code))
                    .collect(Collectors.toSet()),
                row.get(VISIT.FINISHED_AT) == null
                    ? null
                    : LocalDateTime.ofInstant(row.get(VISIT.FINISHED_AT), zone),
                notBefore(row, ends),
                row.get(VISIT.AWAITED_PART),
                row.get(VISIT.PART_ARRIVED_ON) != null,
                row.get(JOB.RESPOND_BY) == null || row.get(JOB.RESPONDED_AT) != null
                    ? null
                    : LocalDateTime.ofInstant(row.get(JOB.RESPOND_BY), zone),
                promised(row),
                roads.locate(
                    row.get(SITE.LATITUDE), row.get(SITE.LONGITUDE), row.get(SITE.POSTCODE)),
                Set.of(row.get(SKILL_IDS)),
                row.get(CREW_SIZE)));
  }
}
