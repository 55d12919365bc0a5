package app.pragmata.server.figures;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Vocabulary;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What goes wrong, why, and what it costs, by fault and cause. */
@RestController
class FaultFiguresApi {
  /**
   * One fault with one of its causes over the days asked for. Calls belong to a fault before
   * anybody knows the cause and stand on its first row only.
   *
   * @param calls how many called about it
   * @param solved how many of these were solved on the phone
   * @param jobs how many jobs it made
   * @param labourMinutes recorded on these
   * @param costMinor approved time, parts and other costs of these
   * @param netMinor what was billed for these, without VAT
   */
  record FaultFigures(
      String fault,
      @Nullable String cause,
      int calls,
      int solved,
      int jobs,
      int labourMinutes,
      long costMinor,
      long netMinor) {}

  /** The figures, and the days that they are about. */
  record Faults(LocalDate from, LocalDate to, List<FaultFigures> rows) {}

  private static final String SQL =
      Vocabulary.inSql(
          """
      with called as (
        select fault_code, count(*) as calls, count(*) filter (where outcome = 'solved') as solved
        from call where fault_code is not null and at >= {0} and at < {1}
        group by fault_code
      ), asked as (
        select id, fault_code, cause_code from job where fault_code is not null and created_at >= {0} and created_at < {1}
      ), made as (
        select asked.fault_code, asked.cause_code, count(*) as jobs,
          sum(coalesce(timed.minutes, 0)) as minutes,
          sum(coalesce(timed.cost, 0) + coalesce(timed.parts, 0)
            + (select coalesce(sum(o.cost_minor), 0) from other_cost o where o.job_id = asked.id)) as cost,
          sum((select coalesce(sum(s.net_minor), 0) from sale s where s.job_id = asked.id)) as net
        from asked left join lateral (
          select sum(time.minutes) as minutes, sum(time.cost) as cost, sum(part.cost) as parts from visit v
            cross join lateral (
              select sum(clock_minutes(t.started_at, t.ended_at)) filter (where t.kind = :LABOUR) as minutes,
                  sum(coalesce(t.time_cost_minor, 0) + coalesce(t.distance_cost_minor, 0)) as cost
                from time_entry t where t.visit_id = v.id and t.removed_at is null) time
            cross join lateral (select sum(p.cost_minor) as cost from visit_part p where p.visit_id = v.id and p.removed_at is null) part
            where v.job_id = asked.id) timed on true
        group by asked.fault_code, asked.cause_code
      ), rows as (
        select f.name as fault, c.name as cause, f.code, coalesce(m.jobs, 0) as jobs, coalesce(m.minutes, 0) as minutes,
          coalesce(m.cost, 0) as cost, coalesce(m.net, 0) as net,
          row_number() over (partition by f.code order by m.jobs desc nulls last, c.name) as place
        from fault_code f left join made m on m.fault_code = f.code left join cause_code c on c.code = m.cause_code
      )
      select rows.fault, rows.cause, case when place = 1 then coalesce(calls, 0) else 0 end::int,
        case when place = 1 then coalesce(solved, 0) else 0 end::int, rows.jobs::int, rows.minutes::int,
        rows.cost::bigint, rows.net::bigint
      from rows left join called on called.fault_code = rows.code
      where rows.jobs > 0 or calls > 0
      order by sum(rows.jobs) over (partition by rows.code) + coalesce(calls, 0) desc, rows.fault, place
      """,
          TimeEntry.Kind.class);

  private final DSLContext database;

  FaultFiguresApi(DSLContext database) {
    this.database = database;
  }

  /** Days as people type them; the last twelve months when they are left out. */
  @GetMapping("/api/figures/faults")
  Faults getFaultFigures(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to) {
    var reading = new Reading();
    LocalDate first = reading.optional("from", from, day -> Day.parsePast(day, act.today()));
    LocalDate last = reading.optional("to", to, day -> Day.parsePast(day, act.today()));
    reading.refuseIfFaulty();
    LocalDate start = Objects.requireNonNullElse(first, act.today().minusYears(1));
    LocalDate end = Objects.requireNonNullElse(last, act.today());
    return new Faults(
        start,
        end,
        database
            .resultQuery(SQL, startOf(start, act), startOf(end.plusDays(1), act))
            .fetch(
                row ->
                    new FaultFigures(
                        row.get(0, String.class),
                        row.get(1, String.class),
                        row.get(2, Integer.class),
                        row.get(3, Integer.class),
                        row.get(4, Integer.class),
                        row.get(5, Integer.class),
                        row.get(6, Long.class),
                        row.get(7, Long.class))));
  }

  private static OffsetDateTime startOf(LocalDate day, Act act) {
    return day.atStartOfDay(act.zone()).toOffsetDateTime();
  }

  @GetMapping("/api/figures/faults/file")
  ResponseEntity<byte[]> downloadFaultFigures(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("faults", format)
        .head(
            "Fault",
            "Cause",
            "Calls",
            "Solved on the phone",
            "Jobs",
            "Labour minutes",
            "Cost",
            "Net")
        .rows(
            getFaultFigures(act, from, to).rows(),
            row ->
                new @Nullable Object[] {
                  row.fault(),
                  row.cause(),
                  row.calls(),
                  row.solved(),
                  row.jobs(),
                  row.labourMinutes(),
                  ListFile.amount(row.costMinor()),
                  ListFile.amount(row.netMinor())
                })
        .answer();
  }
}
