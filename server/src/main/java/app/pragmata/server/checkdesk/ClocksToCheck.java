package app.pragmata.server.checkdesk;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.WORK_BASE;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.mapping;
import static java.util.stream.Collectors.summingInt;
import static java.util.stream.Collectors.toList;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.table;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.Coded;
import app.pragmata.core.checkdesk.WorkedClock;
import app.pragmata.core.checkdesk.WorkedDay;
import app.pragmata.core.checkdesk.WorkedVisit.Clocks;
import app.pragmata.core.checkdesk.WorkedVisit.DayAround;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.server.checkdesk.FinishedVisits.Shown;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.TapPositions;
import app.pragmata.server.planning.PersonHours;
import app.pragmata.server.planning.SuggestedMiles;
import app.pragmata.server.planning.SuggestedMiles.Stored;
import app.pragmata.server.records.Cells;
import java.math.BigDecimal;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Reads the clocks of finished visits and of their technicians' days. */
@Component
class ClocksToCheck {
  /** What is asked about one visit. */
  interface OfVisits {
    Clocks clocks(Shown visit);

    /** The day of its technician around it. */
    DayAround day(Shown visit);

    /** The labour on all visits of its job but those that came to nothing. */
    int labourOfJob(Shown visit);

    /** What its time costs at the rates in force when it was worked. */
    Money cost(Shown visit);
  }

  private record WhoseDay(long personId, LocalDate day) {}

  private record OnDay(LocalDate day, WorkedClock clock) {}

  /**
   * A clock on a visit of a job.
   *
   * @param entry as it is costed; of 0 minutes while it runs
   */
  private record OnJob(long jobId, VisitState.Code state, WorkedClock clock, TimeEntry entry) {
    boolean isLabourOfJob() {
      return clock.kind() == TimeEntry.Kind.LABOUR && !state.isDropped();
    }
  }

  private static final Field<Boolean> BY_HAND =
      field(
          "{0} is null or date_trunc('minute', {0}) <> date_trunc('minute', {1})"
              + " or coalesce(date_trunc('minute', {2}) <> date_trunc('minute', {3}), false)",
          Boolean.class,
          TIME_ENTRY.MEASURED_FROM,
          TIME_ENTRY.STARTED_AT,
          TIME_ENTRY.MEASURED_TO,
          TIME_ENTRY.ENDED_AT);

  private static final List<Field<?>> CLOCK =
      List.of(
          TIME_ENTRY.DAY,
          TIME_ENTRY.PERSON_ID,
          TIME_ENTRY.VISIT_ID,
          TIME_ENTRY.KIND,
          TIME_ENTRY.STARTED_AT,
          TIME_ENTRY.ENDED_AT,
          TIME_ENTRY.END_IN_DOUBT,
          BY_HAND);

  private static final Stored NOWHERE = new Stored(null, null, "");

  private final DSLContext database;
  private final TapPositions positions;
  private final SuggestedMiles roads;
  private final PersonHours hours;
  private final CompanyStore companies;

  ClocksToCheck(
      DSLContext database,
      TapPositions positions,
      SuggestedMiles roads,
      PersonHours hours,
      CompanyStore companies) {
    this.database = database;
    this.positions = positions;
    this.roads = roads;
    this.hours = hours;
    this.companies = companies;
  }

  /**
   * Those of these visits, read at once.
   *
   * @param last the last of their days
   */
  OfVisits read(List<Shown> shown, LocalDate last) {
    List<OnJob> ofTheJobs = ofTheJobs(shown);
    Map<Long, List<OnJob>> byVisit =
        ofTheJobs.stream()
            .collect(groupingBy(one -> Objects.requireNonNull(one.clock().visitId())));
    Map<Long, Integer> labour =
        ofTheJobs.stream()
            .filter(OnJob::isLabourOfJob)
            .collect(groupingBy(OnJob::jobId, summingInt(one -> one.clock().minutes())));
    Map<WhoseDay, List<WorkedClock>> byDay = ofTheDays(shown);
    Map<Long, Stored> sites = sites(shown, byDay);
    Map<Long, Stored> bases =
        database
            .selectFrom(WORK_BASE)
            .fetchMap(
                WORK_BASE.PERSON_ID, row -> new Stored(row.getLatitude(), row.getLongitude(), ""));
    Map<Long, BigDecimal> away = positions.listAway(shown.stream().map(Shown::id).toList());
    PersonHours.OfDays patterns = hours.until(last);
    var days = new HashMap<WhoseDay, WorkedDay>();
    byDay.forEach((of, clocks) -> days.put(of, worked(of, clocks, patterns)));
    var costing = new Costing(companies.getCompany().terms());
    return new OfVisits() {
      @Override
      public Clocks clocks(Shown visit) {
        return Clocks.of(of(visit), away.get(visit.id()));
      }

      @Override
      public DayAround day(Shown visit) {
        Long technician = visit.technicianId();
        if (technician == null) {
          return new WorkedDay(List.of(), 0).around(visit.id(), List.of(), before -> null);
        }
        List<WorkedClock> own =
            of(visit).stream().filter(clock -> clock.personId() == technician).toList();
        return days.computeIfAbsent(
                new WhoseDay(technician, visit.day()), of -> worked(of, List.of(), patterns))
            .around(
                visit.id(), own, before -> roads.minutes(from(technician, before), visit.place()));
      }

      /** From the site of what was before it, or else from where their day starts. */
      private Stored from(long technician, @Nullable WorkedClock before) {
        Stored site = before == null ? null : sites.get(before.visitId());
        return site == null || site.latitude() == null
            ? bases.getOrDefault(technician, NOWHERE)
            : site;
      }

      @Override
      public int labourOfJob(Shown visit) {
        return labour.getOrDefault(visit.jobId(), 0);
      }

      @Override
      public Money cost(Shown visit) {
        return byVisit.getOrDefault(visit.id(), List.of()).stream()
            .filter(one -> one.clock().to() != null)
            .map(one -> costing.cost(one.entry()).total())
            .collect(Money.sum());
      }

      private List<WorkedClock> of(Shown visit) {
        return byVisit.getOrDefault(visit.id(), List.of()).stream().map(OnJob::clock).toList();
      }
    };
  }

  private static WorkedDay worked(
      WhoseDay of, List<WorkedClock> clocks, PersonHours.OfDays patterns) {
    return new WorkedDay(clocks, patterns.minutes(of.personId(), of.day()));
  }

  /** All clocks on all visits of the jobs of these. */
  private List<OnJob> ofTheJobs(List<Shown> shown) {
    return Cells.fetch(
        database
            .select(CLOCK)
            .select(VISIT.JOB_ID, VISIT.STATE, TIME_ENTRY.ID, TIME_ENTRY.RATE_CLASS)
            .select(TIME_ENTRY.MILES)
            .from(VISIT)
            .join(TIME_ENTRY)
            .on(TIME_ENTRY.VISIT_ID.eq(VISIT.ID))
            .where(VISIT.JOB_ID.eq(any(val(shown.stream().map(Shown::jobId).toArray(Long[]::new)))))
            .and(TIME_ENTRY.REMOVED_AT.isNull()),
        cells -> {
          OnDay read = onDay(cells);
          long jobId = cells.number();
          VisitState.Code state = Coded.get(VisitState.Code.class, cells.text());
          return new OnJob(
              jobId,
              state,
              read.clock(),
              new TimeEntry(
                  cells.number(),
                  read.clock().personId(),
                  read.clock().kind(),
                  Coded.get(RateClass.class, cells.text()),
                  read.day(),
                  read.clock().minutes(),
                  Objects.requireNonNull(cells.decimal()),
                  null));
        });
  }

  /** All clocks of whoever is responsible for these, on the day of each. */
  private Map<WhoseDay, List<WorkedClock>> ofTheDays(List<Shown> shown) {
    Set<WhoseDay> days =
        shown.stream()
            .filter(visit -> visit.technicianId() != null)
            .map(visit -> new WhoseDay(Objects.requireNonNull(visit.technicianId()), visit.day()))
            .collect(Collectors.toSet());
    Field<Long> person = field("asked.person_id", SQLDataType.BIGINT);
    Field<LocalDate> day = field("asked.on_day", SQLDataType.LOCALDATE);
    var query =
        database
            .select(CLOCK)
            .from(
                table(
                    "unnest({0}, {1}) asked (person_id, on_day)",
                    val(days.stream().map(WhoseDay::personId).toArray(Long[]::new)),
                    val(days.stream().map(WhoseDay::day).toArray(LocalDate[]::new))))
            .join(TIME_ENTRY)
            .on(TIME_ENTRY.PERSON_ID.eq(person).and(TIME_ENTRY.DAY.eq(day)))
            .where(TIME_ENTRY.REMOVED_AT.isNull());
    return Cells.fetch(query, ClocksToCheck::onDay).stream()
        .collect(
            groupingBy(
                read -> new WhoseDay(read.clock().personId(), read.day()),
                mapping(OnDay::clock, toList())));
  }

  /** From {@link #CLOCK}. */
  private static OnDay onDay(Cells cells) throws SQLException {
    LocalDate day = Objects.requireNonNull(cells.day());
    return new OnDay(
        day,
        new WorkedClock(
            cells.number(),
            cells.optional(),
            Coded.get(TimeEntry.Kind.class, cells.text()),
            Objects.requireNonNull(cells.moment()),
            cells.moment(),
            cells.truth(),
            cells.truth()));
  }

  /** Where the visits of these days are; of those that are not shown it is read. */
  private Map<Long, Stored> sites(List<Shown> shown, Map<WhoseDay, List<WorkedClock>> days) {
    var sites = new HashMap<Long, Stored>();
    shown.forEach(visit -> sites.put(visit.id(), visit.place()));
    Long[] others =
        days.values().stream()
            .flatMap(List::stream)
            .map(WorkedClock::visitId)
            .filter(id -> id != null && !sites.containsKey(id))
            .distinct()
            .toArray(Long[]::new);
    database
        .select(VISIT.ID, SITE.LATITUDE, SITE.LONGITUDE, inline(""))
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .where(VISIT.ID.eq(any(val(others))))
        .forEach(
            row -> sites.put(row.value1(), new Stored(row.value2(), row.value3(), row.value4())));
    return sites;
  }
}
