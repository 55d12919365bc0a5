package app.pragmata.server.checkdesk;

import app.pragmata.core.checkdesk.WorkedVisit;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.partswanted.PartWantedState;
import app.pragmata.server.checkdesk.CheckDeskApi.VisitToCheck;
import app.pragmata.server.field.TapPositions;
import app.pragmata.server.records.Vocabulary;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads finished visits with all that may be odd about them, in as many statements as for one. */
@Repository
class FinishedVisits {
  private static final int MOST = 500;

  private static final String SQL =
      Vocabulary.inSql(
          """
      with shown as (
        select v.id, v.version, v.day, v.start_time, v.job_id, v.technician_id from visit v
        where v.state = :FINISHED and v.day between {0} and {1} and ({2} is null or v.technician_id = {2})
        order by v.day, v.technician_id, v.start_time, v.id limit {3}
      ), promised as (
        select a.job_id, sum(l.minutes) filter (where l.rate_class is not null) as minutes
        from accepted_quote a join promised_line l on l.quote_id = a.quote_id
        where a.job_id in (select job_id from shown) group by a.job_id
      ), beyond as (
        select used.job_id, used.part_id from (
          select v.job_id, p.part_id, sum(p.quantity) as quantity from visit v join visit_part p on p.visit_id = v.id
          where v.job_id in (select job_id from promised) and p.removed_at is null group by v.job_id, p.part_id) used
        left join lateral (
          select sum(l.quantity) as quantity from accepted_quote a join promised_line l on l.quote_id = a.quote_id
          where a.job_id = used.job_id and l.part_id = used.part_id) said on true
        where used.quantity > coalesce(said.quantity, 0)
      )
      select s.id, s.version, s.day, s.technician_id, coalesce(t.name, ''), s.job_id, j.number, c.name, j.title,
        clock.unsure, clock.labour, clock.drive, clock.by_hand,
        (select coalesce(sum(clock_minutes(e.started_at, e.ended_at)), 0) from visit v
          join time_entry e on e.visit_id = v.id and e.removed_at is null and e.kind = :LABOUR where v.job_id = s.job_id)::int,
        coalesce(promised.minutes, 0)::int,
        part.lines, part.free, part.beyond, part.below,
        array(select u.name from unlisted_part u
          where u.visit_id = s.id and u.visit_part_id is null and u.dropped_at is null order by u.id),
        array(select coalesce(p.name, w.words) from part_wanted w left join part p on p.id = w.part_id
          where w.job_id = s.job_id and w.state in (:WANTED, :ORDERED, :ARRIVED) order by w.id),
        (select count(*) from checklist_answer a where a.visit_id = s.id and a.out_of_limits)::int
      from shown s
        join job j on j.id = s.job_id
        join customer c on c.id = j.customer_id
        left join person t on t.id = s.technician_id
        left join promised on promised.job_id = s.job_id
        cross join lateral (
          select count(*) filter (where e.ended_at is null or e.end_in_doubt)::int as unsure,
            coalesce(sum(clock_minutes(e.started_at, e.ended_at)) filter (where e.kind = :LABOUR), 0)::int as labour,
            coalesce(sum(clock_minutes(e.started_at, e.ended_at)) filter (where e.kind = :DRIVE), 0)::int as drive,
            count(*) filter (where e.measured_from is null
              or date_trunc('minute', e.measured_from) <> date_trunc('minute', e.started_at)
              or date_trunc('minute', e.measured_to) <> date_trunc('minute', e.ended_at))::int as by_hand
          from time_entry e where e.visit_id = s.id and e.removed_at is null) clock
        cross join lateral (
          select count(*)::int as lines,
            array_remove(array_agg(distinct p.name) filter (where u.cost_minor = 0 or u.unit_price = 0), null) as free,
            array_remove(array_agg(distinct p.name) filter (where exists (
              select 1 from beyond b where b.job_id = s.job_id and b.part_id = u.part_id)), null) as beyond,
            array_remove(array_agg(distinct p.name) filter (where exists (
              select 1 from stock_level l where l.place_id = u.place_id and l.part_id = u.part_id and l.quantity < 0)),
              null) as below
          from visit_part u join part p on p.id = u.part_id where u.visit_id = s.id and u.removed_at is null) part
      order by s.day, t.name, s.start_time, s.id
      """,
          VisitState.Code.class, TimeEntry.Kind.class, PartWantedState.class);

  private final DSLContext database;
  private final TapPositions positions;

  FinishedVisits(DSLContext database, TapPositions positions) {
    this.database = database;
    this.positions = positions;
  }

  /** Those of these days that nobody has checked; the first of many. */
  List<VisitToCheck> list(LocalDate first, LocalDate last, @Nullable Long technicianId) {
    List<Record> rows =
        List.copyOf(
            database.fetch(
                SQL,
                DSL.val(first),
                DSL.val(last),
                DSL.val(technicianId, SQLDataType.BIGINT),
                DSL.val(MOST)));
    Map<Long, BigDecimal> away =
        positions.listAway(rows.stream().map(row -> row.get(0, Long.class)).toList());
    return rows.stream().map(row -> visit(row, away)).toList();
  }

  private static VisitToCheck visit(Record row, Map<Long, BigDecimal> away) {
    long id = row.get(0, Long.class);
    var worked =
        new WorkedVisit(
            row.get(9, Integer.class),
            row.get(10, Integer.class),
            row.get(11, Integer.class),
            row.get(12, Integer.class),
            away.get(id),
            row.get(13, Integer.class),
            row.get(14, Integer.class),
            names(row, 16),
            names(row, 17),
            names(row, 18),
            names(row, 19),
            names(row, 20),
            row.get(21, Integer.class));
    return new VisitToCheck(
        id,
        row.get(1, Integer.class),
        row.get(2, LocalDate.class),
        row.get(3, Long.class),
        row.get(4, String.class),
        row.get(5, Long.class),
        row.get(6, Long.class),
        row.get(7, String.class),
        row.get(8, String.class),
        worked.labourMinutes(),
        worked.driveMinutes(),
        row.get(15, Integer.class),
        worked.oddities());
  }

  private static List<String> names(Record row, int column) {
    String[] names = row.get(column, String[].class);
    return names == null ? List.of() : List.of(names);
  }
}
