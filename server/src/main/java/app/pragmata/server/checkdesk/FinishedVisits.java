package app.pragmata.server.checkdesk;

import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.checkdesk.CheckRules;
import app.pragmata.core.checkdesk.WorkedVisit;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.field.LateActState;
import app.pragmata.core.jobs.Capture;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.core.partswanted.PartWantedState;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.checkdesk.CheckDeskApi.VisitToCheck;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.TapPositions;
import app.pragmata.server.http.AskedSpan;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.planning.PersonHours;
import app.pragmata.server.planning.SuggestedMiles;
import app.pragmata.server.planning.SuggestedMiles.Stored;
import app.pragmata.server.records.Vocabulary;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads finished visits with all that may be odd about them, in as many statements as for one. */
@Repository
class FinishedVisits {
  /**
   * Which are asked for.
   *
   * @param technicianId who is responsible; null for everybody
   * @param kindOfJobId null for every kind
   * @param district the postcode district of the site; empty for every one
   * @param costCentre empty for every one
   */
  record Asked(
      AskedSpan days,
      @Nullable Long technicianId,
      @Nullable Long kindOfJobId,
      String district,
      String costCentre) {}

  private static final int MOST = 500;

  private static final String SQL =
      Vocabulary.inSql(
          """
      with shown as (
        select v.id, v.version, v.day, v.start_time, v.job_id, v.technician_id from visit v
          join job j on j.id = v.job_id join site s on s.id = j.site_id
        where v.state = :FINISHED and v.day between {0} and {1} and ({2} is null or v.technician_id = {2})
          and ({4} is null or j.kind_of_job_id = {4})
          and ({5} = '' or s.postcode ~* ('^' || {5} || '([^0-9a-z]|$)'))
          and ({6} = '' or j.cost_centre = {6})
        order by v.day, v.technician_id, v.start_time, v.id limit {3}
      ), promised as (
        select a.job_id, sum(l.minutes) filter (where l.rate_class is not null) as minutes
        from accepted_quote a join promised_line l on l.quote_id = a.quote_id
        where a.job_id in (select job_id from shown) group by a.job_id
      ), beyond as materialized (
        select used.job_id, used.part_id from (
          select v.job_id, p.part_id, sum(p.quantity) as quantity from visit v join visit_part p on p.visit_id = v.id
          where v.job_id in (select job_id from promised) and p.removed_at is null group by v.job_id, p.part_id) used
        left join lateral (
          select sum(l.quantity) as quantity from accepted_quote a join promised_line l on l.quote_id = a.quote_id
          where a.job_id = used.job_id and l.part_id = used.part_id) said on true
        where used.quantity > coalesce(said.quantity, 0)
      ), person_day as (
        select e.person_id, e.day, coalesce(sum(clock_minutes(e.started_at, e.ended_at)) filter (where e.kind <> :BREAK), 0)::int
            as minutes, max(e.started_at) filter (where e.visit_id is not null) as last_start
        from time_entry e
        where (e.person_id, e.day) in (select technician_id, day from shown) and e.removed_at is null
        group by e.person_id, e.day
      )
      select s.id as visit_id, s.version as visit_version, s.day as visit_day, s.start_time as visit_start, s.technician_id,
        coalesce(t.name, '') as technician, s.job_id, j.number as job_number, c.id as customer_id, c.name as customer, j.title,
        clock.unsure, clock.labour, clock.drive, clock.own_drive, clock.by_hand,
        (select coalesce(sum(clock_minutes(e.started_at, e.ended_at)), 0) from visit v
          join time_entry e on e.visit_id = v.id and e.removed_at is null and e.kind = :LABOUR where v.job_id = s.job_id)::int
          as job_labour,
        coalesce(promised.minutes, 0)::int as promised,
        part.lines as part_lines, part.cost as part_cost, part.free, part.beyond, part.below,
        array(select u.name from unlisted_part u
          where u.visit_id = s.id and u.visit_part_id is null and u.dropped_at is null order by u.id) as unpriced,
        array(select coalesce(p.name, w.words) from part_wanted w left join part p on p.id = w.part_id
          where w.job_id = s.job_id and w.state in (:WANTED, :ORDERED, :ARRIVED) order by w.id) as wanted,
        (select count(*) from extra_work_offer o join quote q on q.id = o.quote_id
          where o.visit_id = s.id and q.state = :SENT)::int as extra_work,
        (select :SIGNATURE = any(k.before_finish) from kind_of_job k where k.id = j.kind_of_job_id)
          and not exists (select 1 from visit_signature g where g.visit_id = s.id) as unsigned,
        (select count(*) from checklist_answer a where a.visit_id = s.id and a.out_of_limits)::int as out_of_limits,
        (select coalesce(sum(b.things), 0) from phone_unsent b where b.visit_id = s.id)::int as unsent,
        (select count(*) from late_act a where a.visit_id = s.id and a.state = :WAITING)::int as undecided,
        case when d.last_start is null or d.last_start > clock.last_start then 0 else d.minutes end as day_minutes,
        coalesce(clock_minutes(before.ended_at, clock.first_start), 0) as gap,
        site.latitude, site.longitude,
        coalesce(last_site.latitude, base.latitude) as before_latitude,
        coalesce(last_site.longitude, base.longitude) as before_longitude
      from shown s
        join job j on j.id = s.job_id
        join customer c on c.id = j.customer_id
        join site on site.id = j.site_id
        left join person t on t.id = s.technician_id
        left join work_base base on base.person_id = s.technician_id
        left join promised on promised.job_id = s.job_id
        left join person_day d on d.person_id = s.technician_id and d.day = s.day
        cross join lateral (
          select count(*) filter (where e.ended_at is null or e.end_in_doubt)::int as unsure,
            coalesce(sum(clock_minutes(e.started_at, e.ended_at)) filter (where e.kind = :LABOUR), 0)::int as labour,
            coalesce(sum(clock_minutes(e.started_at, e.ended_at)) filter (where e.kind = :DRIVE), 0)::int as drive,
            coalesce(sum(clock_minutes(e.started_at, e.ended_at))
              filter (where e.kind = :DRIVE and e.person_id = s.technician_id), 0)::int as own_drive,
            min(e.started_at) filter (where e.person_id = s.technician_id) as first_start,
            max(e.started_at) filter (where e.person_id = s.technician_id) as last_start,
            count(*) filter (where e.measured_from is null
              or date_trunc('minute', e.measured_from) <> date_trunc('minute', e.started_at)
              or date_trunc('minute', e.measured_to) <> date_trunc('minute', e.ended_at))::int as by_hand
          from time_entry e where e.visit_id = s.id and e.removed_at is null) clock
        cross join lateral (
          select count(*)::int as lines, coalesce(sum(u.cost_minor), 0)::bigint as cost,
            array_remove(array_agg(distinct p.name) filter (where u.cost_minor = 0 or u.unit_price = 0), null) as free,
            array_remove(array_agg(distinct p.name)
              filter (where (s.job_id, u.part_id) in (select b.job_id, b.part_id from beyond b)), null) as beyond,
            array_remove(array_agg(distinct p.name) filter (where exists (
              select 1 from stock_level l where l.place_id = u.place_id and l.part_id = u.part_id and l.quantity < 0)),
              null) as below
          from visit_part u join part p on p.id = u.part_id where u.visit_id = s.id and u.removed_at is null) part
        left join lateral (
          select e.ended_at, e.visit_id from time_entry e
          where e.person_id = s.technician_id and e.day = s.day and e.removed_at is null
            and e.visit_id is distinct from s.id and e.started_at < clock.first_start
          order by e.started_at desc limit 1) before on true
        left join visit last on last.id = before.visit_id
        left join job last_job on last_job.id = last.job_id
        left join site last_site on last_site.id = last_job.site_id
      order by s.day, t.name, s.start_time, s.id
      """,
          VisitState.Code.class,
          TimeEntry.Kind.class,
          PartWantedState.class,
          Capture.class,
          QuoteState.Code.class,
          LateActState.class);

  private final DSLContext database;
  private final TapPositions positions;
  private final SuggestedMiles roads;
  private final PersonHours hours;
  private final CompanyStore companies;
  private final CheckRuleStore rules;

  FinishedVisits(
      DSLContext database,
      TapPositions positions,
      SuggestedMiles roads,
      PersonHours hours,
      CompanyStore companies,
      CheckRuleStore rules) {
    this.database = database;
    this.positions = positions;
    this.roads = roads;
    this.hours = hours;
    this.companies = companies;
    this.rules = rules;
  }

  /** Those of these days that nobody has checked; the first of many. */
  List<VisitToCheck> list(Asked asked) {
    List<Record> rows =
        List.copyOf(
            database.fetch(
                SQL,
                // Written into the statement: a plan for any days and any visits takes ten times as
                // long as one for these.
                inline(asked.days().first()),
                inline(asked.days().last()),
                inline(asked.technicianId(), SQLDataType.BIGINT),
                inline(MOST),
                inline(asked.kindOfJobId(), SQLDataType.BIGINT),
                inline(asked.district()),
                inline(asked.costCentre())));
    List<Long> ids = rows.stream().map(row -> row.get("visit_id", Long.class)).toList();
    Map<Long, BigDecimal> away = positions.listAway(ids);
    Map<Long, Money> timeCost = timeCost(ids);
    PersonHours.OfDays patterns = hours.until(asked.days().last());
    CheckRules watched = rules.get();
    return rows.stream()
        .map(
            row -> {
              long id = row.get("visit_id", Long.class);
              WorkedVisit worked = worked(row, away.get(id), patterns);
              Money time = timeCost.getOrDefault(id, Money.ZERO);
              return visit(row, worked, time, watched);
            })
        .toList();
  }

  /** What the time of these visits costs at the rates in force when it was worked. */
  private Map<Long, Money> timeCost(List<Long> visitIds) {
    var costing = new Costing(companies.getCompany().terms());
    return database
        .select(
            TIME_ENTRY.VISIT_ID,
            TIME_ENTRY.ID,
            TIME_ENTRY.PERSON_ID,
            TIME_ENTRY.KIND,
            TIME_ENTRY.RATE_CLASS,
            TIME_ENTRY.DAY,
            TimeEntries.clockMinutes(),
            TIME_ENTRY.MILES)
        .from(TIME_ENTRY)
        .where(TIME_ENTRY.VISIT_ID.eq(any(val(visitIds.toArray(Long[]::new)))))
        .and(TIME_ENTRY.REMOVED_AT.isNull().and(TIME_ENTRY.ENDED_AT.isNotNull()))
        .stream()
        .collect(
            Collectors.groupingBy(
                row -> row.value1(),
                Collectors.mapping(
                    row ->
                        costing
                            .cost(
                                new TimeEntry(
                                    row.value2(),
                                    row.value3(),
                                    row.value4(),
                                    row.value5(),
                                    row.value6(),
                                    row.value7(),
                                    row.value8(),
                                    null))
                            .total(),
                    Money.sum())));
  }

  private WorkedVisit worked(
      Record row, @Nullable BigDecimal milesAway, PersonHours.OfDays patterns) {
    Long technicianId = row.get("technician_id", Long.class);
    LocalDate day = row.get("visit_day", LocalDate.class);
    return new WorkedVisit(
        new WorkedVisit.Clocks(
            number(row, "unsure"),
            number(row, "labour"),
            number(row, "drive"),
            number(row, "by_hand"),
            milesAway),
        new WorkedVisit.DayAround(
            number(row, "own_drive"),
            roads.minutes(place(row, "before_"), place(row, "")),
            Math.max(0, number(row, "gap")),
            number(row, "day_minutes"),
            technicianId == null ? 0 : patterns.minutes(technicianId, day)),
        number(row, "job_labour"),
        number(row, "promised"),
        new WorkedVisit.Parts(
            names(row, "free"), names(row, "beyond"), names(row, "below"), names(row, "unpriced")),
        names(row, "wanted"),
        number(row, "extra_work"),
        row.get("unsigned", Boolean.class),
        number(row, "out_of_limits"),
        new WorkedVisit.Phone(number(row, "unsent"), number(row, "undecided")));
  }

  private static VisitToCheck visit(
      Record row, WorkedVisit worked, Money timeCost, CheckRules rules) {
    return new VisitToCheck(
        row.get("visit_id", Long.class),
        number(row, "visit_version"),
        row.get("visit_day", LocalDate.class),
        row.get("visit_start", LocalTime.class),
        row.get("technician_id", Long.class),
        row.get("technician", String.class),
        row.get("job_id", Long.class),
        row.get("job_number", Long.class),
        row.get("customer_id", Long.class),
        row.get("customer", String.class),
        row.get("title", String.class),
        worked.clocks().labourMinutes(),
        worked.clocks().driveMinutes(),
        number(row, "part_lines"),
        timeCost.plus(Money.ofMinor(row.get("part_cost", Long.class))).minor(),
        worked.oddities(rules));
  }

  private static Stored place(Record row, String which) {
    return new Stored(
        row.get(which + "latitude", BigDecimal.class),
        row.get(which + "longitude", BigDecimal.class),
        "");
  }

  private static int number(Record row, String column) {
    return row.get(column, Integer.class);
  }

  private static List<String> names(Record row, String column) {
    String[] names = row.get(column, String[].class);
    return names == null ? List.of() : List.of(names);
  }
}
