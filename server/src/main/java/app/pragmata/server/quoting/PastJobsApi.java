package app.pragmata.server.quoting;

import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.quoting.Spread;
import app.pragmata.server.records.Vocabulary;
import java.util.List;
import java.util.function.ToLongFunction;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What jobs like the one being quoted really took. */
@RestController
class PastJobsApi {
  /**
   * Past jobs of a kind, on the same kind of equipment where enough are known.
   *
   * @param alike how many jobs the figures stand on
   * @param sameEquipment whether only those on the same kind of equipment were taken
   * @param labour minutes; null when there are too few
   * @param drive minutes
   * @param parts cost in minor units
   * @param jobs the newest of them
   */
  record PastJobs(
      int alike,
      boolean sameEquipment,
      @Nullable Spread labour,
      @Nullable Spread drive,
      @Nullable Spread parts,
      List<PastJob> jobs) {}

  /** A job that was billed, with what it took; the cost of its parts in minor units. */
  record PastJob(
      long id,
      long number,
      String title,
      long labourMinutes,
      long driveMinutes,
      long partsMinor,
      boolean sameEquipment) {}

  private static final int SHOWN = 8;

  /**
   * The newest 200 of a kind: what was usual years ago says less about the next one. Asked for as
   * one of a list, a kind that is rare is read by its index too, and not among all jobs.
   */
  private static final String SQL =
      Vocabulary.inSql(
          """
      select j.id, j.number, j.title,
        coalesce(t.labour, 0)::bigint, coalesce(t.drive, 0)::bigint, coalesce(p.cost, 0)::bigint,
        coalesce(
          e.equipment_kind_id = (select equipment_kind_id from equipment where id = {1}), false)
      from (select id, number, title, equipment_id from job
          where kind_of_job_id = any(array[{0}]) and state = :CHECKED
            and exists (select from cost_release r where r.job_id = job.id and r.closes)
          order by kind_of_job_id, id desc limit 200) j
      left join equipment e on e.id = j.equipment_id
      left join lateral (
        select sum(clock_minutes(started_at, ended_at)) filter (where kind = :LABOUR) as labour,
            sum(clock_minutes(started_at, ended_at)) filter (where kind = :DRIVE) as drive
          from time_entry
          where removed_at is null
            and visit_id in (select id from visit where job_id = j.id)) t on true
      left join lateral (
        select sum(cost_minor) as cost from visit_part
          where removed_at is null
            and visit_id in (select id from visit where job_id = j.id)) p on true
      order by j.id desc
      """,
          JobState.Code.class, TimeEntry.Kind.class);

  private final DSLContext database;

  PastJobsApi(DSLContext database) {
    this.database = database;
  }

  @GetMapping("/api/past-jobs")
  PastJobs pastJobs(
      @RequestParam long kindOfJobId, @RequestParam(required = false) @Nullable Long equipmentId) {
    List<PastJob> all = list(kindOfJobId, equipmentId);
    List<PastJob> same = all.stream().filter(PastJob::sameEquipment).toList();
    boolean enough = same.size() >= Spread.ENOUGH;
    List<PastJob> alike = enough ? same : all;
    return new PastJobs(
        alike.size(),
        enough,
        spread(alike, PastJob::labourMinutes),
        spread(alike, PastJob::driveMinutes),
        spread(alike, PastJob::partsMinor),
        alike.stream().limit(SHOWN).toList());
  }

  List<PastJob> list(long kindOfJobId, @Nullable Long equipmentId) {
    return database
        .resultQuery(SQL, DSL.val(kindOfJobId), DSL.val(equipmentId, Long.class))
        .fetch(
            row ->
                new PastJob(
                    row.get(0, Long.class),
                    row.get(1, Long.class),
                    row.get(2, String.class),
                    row.get(3, Long.class),
                    row.get(4, Long.class),
                    row.get(5, Long.class),
                    row.get(6, Boolean.class)));
  }

  private static @Nullable Spread spread(List<PastJob> jobs, ToLongFunction<PastJob> value) {
    return Spread.of(jobs.stream().map(value::applyAsLong).toList()).orElse(null);
  }
}
