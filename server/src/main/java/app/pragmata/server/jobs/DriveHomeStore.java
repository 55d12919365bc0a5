package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.DRIVE_HOME_SHARE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.Coded;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.generated.tables.records.DriveHomeShareRecord;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.records.Vocabulary;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Drives that led to no visit, and what the visits of their day bear of them. */
@Repository
public class DriveHomeStore {
  /** A person's day. */
  public record PersonDay(long personId, LocalDate day) {}

  /**
   * A visit of somebody's day.
   *
   * @param recorded whether they have any time of the day on it
   * @param minutesOnSite their own of the day
   */
  record DayVisit(
      long visitId, long jobId, VisitState.Code state, boolean recorded, int minutesOnSite) {
    /** Whether nothing more will be recorded on it. */
    boolean over() {
      return state == VisitState.Code.CHECKED || state.isDropped();
    }
  }

  // Three readings by index: with “or” in one every visit would be read.
  private static final String VISITS =
      Vocabulary.inSql(
          """
      with asked as (select * from unnest({0}, {1}) as asked (person_id, day)),
        of_day as (
          select a.person_id, a.day, t.visit_id from asked a join time_entry t
            on t.person_id = a.person_id and t.day = a.day and t.visit_id is not null and t.removed_at is null
          union select a.person_id, a.day, v.id from asked a join visit v
            on v.day = a.day and v.technician_id = a.person_id
          union select a.person_id, a.day, v.id from asked a join visit v on v.day = a.day
            join visit_companion c on c.visit_id = v.id and c.person_id = a.person_id)
      select o.person_id, o.day, v.id, v.job_id, v.state, count(t.id) > 0 as recorded,
          coalesce(sum(clock_minutes(t.started_at, t.ended_at)) filter (where t.kind = :LABOUR), 0)::int as minutes
        from of_day o join visit v on v.id = o.visit_id left join time_entry t
          on t.visit_id = v.id and t.person_id = o.person_id and t.day = o.day and t.removed_at is null
        group by o.person_id, o.day, v.id order by min(t.started_at), v.id
      """,
          TimeEntry.Kind.class);

  private final DSLContext database;

  DriveHomeStore(DSLContext database) {
    this.database = database;
  }

  /** Whether a share stands: it takes nothing back and is not taken back. */
  static Condition stands() {
    var back = DRIVE_HOME_SHARE.as("back");
    return DRIVE_HOME_SHARE
        .TAKES_BACK_ID
        .isNull()
        .and(notExists(selectOne().from(back).where(back.TAKES_BACK_ID.eq(DRIVE_HOME_SHARE.ID))));
  }

  /** The days of those who come to these visits or have time on them. */
  List<PersonDay> listDays(Collection<Long> visitIds) {
    return database
        .resultQuery(
            """
            select t.person_id, t.day from time_entry t where t.visit_id = any({0}) and t.removed_at is null
            union select v.technician_id, v.day from visit v where v.id = any({0}) and v.day is not null
            union select c.person_id, v.day from visit v join visit_companion c on c.visit_id = v.id
              where v.id = any({0}) and v.day is not null
            """,
            val(visitIds.toArray(Long[]::new)))
        .fetch(row -> new PersonDay(row.get(0, Long.class), row.get(1, LocalDate.class)));
  }

  /** The visits of each person's day, in the order in which they were at them. */
  Map<PersonDay, List<DayVisit>> listVisits(Collection<PersonDay> days) {
    return database
        .resultQuery(
            VISITS,
            val(days.stream().map(PersonDay::personId).toArray(Long[]::new)),
            val(days.stream().map(PersonDay::day).toArray(LocalDate[]::new)))
        .fetchGroups(
            row -> new PersonDay(row.get("person_id", Long.class), row.get("day", LocalDate.class)),
            row ->
                new DayVisit(
                    row.get("id", Long.class),
                    row.get("job_id", Long.class),
                    Coded.get(VisitState.Code.class, row.get("state", String.class)),
                    row.get("recorded", Boolean.class),
                    row.get("minutes", Integer.class)));
  }

  /**
   * People's drives of these days that led to no visit and have ended, also those taken off; days
   * without any are left out.
   */
  Map<PersonDay, List<TimeEntryRecord>> listDrives(Collection<PersonDay> days) {
    if (days.isEmpty()) {
      return Map.of();
    }
    return database
        .selectFrom(TIME_ENTRY)
        .where(
            row(TIME_ENTRY.PERSON_ID, TIME_ENTRY.DAY)
                .in(days.stream().map(each -> row(each.personId(), each.day())).toList()))
        .and(TIME_ENTRY.VISIT_ID.isNull().and(TIME_ENTRY.KIND.eq(TimeEntry.Kind.DRIVE)))
        .and(TIME_ENTRY.ENDED_AT.isNotNull())
        .orderBy(TIME_ENTRY.DAY, TIME_ENTRY.PERSON_ID, TIME_ENTRY.STARTED_AT)
        .fetchGroups(row -> new PersonDay(row.getPersonId(), row.getDay()), row -> row);
  }

  /** What stands shared of each of these drives. */
  Map<Long, List<DriveHomeShareRecord>> listStanding(Collection<Long> timeEntryIds) {
    return database
        .selectFrom(DRIVE_HOME_SHARE)
        .where(DRIVE_HOME_SHARE.TIME_ENTRY_ID.in(timeEntryIds))
        .and(stands())
        .orderBy(DRIVE_HOME_SHARE.ID)
        .fetchGroups(DRIVE_HOME_SHARE.TIME_ENTRY_ID, share -> share);
  }

  /** Keeps shares, and rows that take one back. */
  void insert(List<DriveHomeShareRecord> shares) {
    if (!shares.isEmpty()) {
      database.insertInto(DRIVE_HOME_SHARE).set(shares).execute();
    }
  }
}
