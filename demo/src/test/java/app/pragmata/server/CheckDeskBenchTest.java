package app.pragmata.server;

import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.jobs.VisitState;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * The check desk on the large company: 500 finished visits with all that is odd about them, against
 * the bare statements, and a hundred checked in one act, against a script in SQL that costs, checks
 * and posts the same visits set by set. Asserts nothing.
 */
@Tag("bench")
class CheckDeskBenchTest {
  private static final int SHOWN = 500;
  private static final int AT_ONCE = 100;
  private static final int ROUNDS = 30;
  private static final int CHECKS = 12;

  /**
   * What a check writes, by whoever would do it in the database alone; 0 stands for the visits, 1
   * for the day.
   */
  private static final String BY_HAND =
      """
      with costs as (
        select e.id, e.visit_id, round(clock_minutes(e.started_at, e.ended_at) * w.wage_per_hour * (1 + w.on_cost_share)
            * c.cost_factor * 100 / 60)::bigint as of_time, round(e.miles * m.cost_per_mile * 100)::bigint as of_distance
        from time_entry e
          cross join lateral (select * from wage where person_id = e.person_id and from_day <= e.day
            order by from_day desc limit 1) w
          cross join lateral (select * from rate_class_terms where rate_class = e.rate_class and from_day <= e.day
            order by from_day desc limit 1) c
          cross join lateral (select * from vehicle_cost where from_day <= e.day order by from_day desc limit 1) m
        where e.visit_id = any({0}) and e.removed_at is null
      ), costed as (
        update time_entry e set time_cost_minor = costs.of_time, distance_cost_minor = costs.of_distance, version = e.version + 1
        from costs where costs.id = e.id
        returning e.id, e.visit_id, costs.of_time, costs.of_distance
      ), checked as (
        update visit set state = 'checked', checked_at = now(), checked_by = 1, version = version + 1 where id = any({0})
        returning id, job_id
      ), sums as (
        select v.id, v.job_id, sum(c.of_time) as of_time, sum(c.of_distance) as of_distance,
          row_number() over (order by v.id) as place
        from checked v join costed c on c.visit_id = v.id group by v.id, v.job_id
      ), opened as (
        insert into period (month) values (date_trunc('month', {1}::date)::date) on conflict do nothing
      ), entries as (
        insert into journal_entry (number, entry_date, event, description, source_kind, source_id, posted_at, posted_by)
        select 900000000 + s.place, {1}, 'time_approved', 'time approved', 'visit', s.id, now(), 1 from sums s
        returning id, source_id
      ), posted as (
        insert into journal_line (entry_id, position, account_code, posting_category, job_id, job_number, cost_centre,
          debit_minor, credit_minor)
        select e.id, l.place, l.account, l.category, l.job_id, l.job_number, l.cost_centre, l.debit, l.credit
        from entries e join sums s on s.id = e.source_id join job j on j.id = s.job_id
          cross join lateral (values
            (1, (select account_code from journal_line where posting_category = 'work_in_progress' limit 1),
              'work_in_progress', j.id, j.number, j.cost_centre, s.of_time + s.of_distance, 0::bigint),
            (2, (select account_code from journal_line where posting_category = 'payroll_clearing' limit 1),
              'payroll_clearing', null, null, null, 0::bigint, s.of_time),
            (3, (select account_code from journal_line where posting_category = 'vehicle_costs_absorbed' limit 1),
              'vehicle_costs_absorbed', null, null, null, 0::bigint, s.of_distance))
            l (place, account, category, job_id, job_number, cost_centre, debit, credit)
        where l.debit + l.credit > 0
        returning entry_id
      ), told as (
        insert into audit_entry (at, person_id, record_kind, record_id, owner_kind, owner_id, event, reason, before, after)
        select now(), 1, 'time_entry', c.id, 'job', v.job_id, 'time_costed', '', '{}'::jsonb,
          jsonb_build_object('timeCostMinor', c.of_time, 'distanceCostMinor', c.of_distance)
        from costed c join checked v on v.id = c.visit_id
        union all
        select now(), 1, 'visit', v.id, 'job', v.job_id, 'visit_checked', '', '{"state": "finished"}'::jsonb, '{"state": "checked"}'::jsonb
        from checked v
        returning id
      )
      update job set state = 'checked', state_since = now(), version = version + 1 where id in (select job_id from checked)
      """;

  private final RunningPragmata program = RunningPragmata.large();
  private final DSLContext database = program.database();
  private final Visitor office = Visitor.signedIn(program, "hester");

  @Test
  void five_hundred_finished_visits_and_a_hundred_checked() {
    String path = "/api/check-desk?from=" + firstDay();
    JsonNode desk = office.get(path).json();
    System.out.printf(
        "%nThe check desk, large company: %d visits, %d of them odd%n",
        desk.path("visits").size(), desk.path("visits").size() - desk.path("plain").asInt());
    List<String> bare = program.statementsWithValues(() -> office.get(path));
    Bench.compare(
        "the check list", ROUNDS, i -> office.get(path), i -> Bench.runBare(database, bare));
    System.out.printf("and how many statements: %d%n", bare.size());
    check(desk);
  }

  /** The day from which on at least so many are finished. */
  private LocalDate firstDay() {
    return database
        .select(VISIT.DAY)
        .from(VISIT)
        .where(VISIT.STATE.eq(VisitState.Code.FINISHED))
        .orderBy(VISIT.DAY.desc())
        .limit(SHOWN)
        .fetch(VISIT.DAY)
        .getLast();
  }

  private void check(JsonNode desk) {
    List<Map<String, Object>> visits =
        desk.path("visits")
            .valueStream()
            .filter(visit -> visit.path("odd").isEmpty())
            .limit(AT_ONCE)
            .map(CheckDeskBenchTest::shown)
            .toList();
    var ids = val(visits.stream().map(visit -> (Long) visit.get("visitId")).toArray(Long[]::new));
    var act = new ArrayList<Double>();
    var script = new ArrayList<Double>();
    for (int round = 0; round < CHECKS; round++) {
      script.add(milliseconds(() -> rolledBack(ids)));
      long start = System.nanoTime();
      JsonNode checked = office.post("/api/visit-checks", Map.of("visits", visits)).json();
      act.add((System.nanoTime() - start) / 1e6);
      visits = checked.path("visits").valueStream().map(CheckDeskBenchTest::shown).toList();
      JsonNode back = office.post("/api/visit-checks/take-back", Map.of("visits", visits)).json();
      visits = back.path("visits").valueStream().map(CheckDeskBenchTest::shown).toList();
    }
    System.out.printf(
        "%d visits checked in one act, median %5.1f ms    set by set in SQL %5.1f ms    x %.2f%n",
        visits.size(), median(act), median(script), median(act) / median(script));
  }

  private void rolledBack(Field<Long[]> ids) {
    try {
      database.transaction(
          inside -> {
            inside.dsl().execute(BY_HAND, ids, val(LocalDate.now(program.clock())));
            throw new RolledBack();
          });
    } catch (RolledBack done) {
      // As it was.
    }
  }

  private static final class RolledBack extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  private static double milliseconds(Runnable work) {
    long start = System.nanoTime();
    work.run();
    return (System.nanoTime() - start) / 1e6;
  }

  private static double median(List<Double> times) {
    return times.stream().sorted().skip(times.size() / 2).findFirst().orElseThrow();
  }

  private static Map<String, Object> shown(JsonNode visit) {
    return Map.of(
        "visitId", visit.path("visitId").asLong(), "version", visit.path("version").asInt());
  }
}
