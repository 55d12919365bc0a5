package app.pragmata.server.jobs;

import app.pragmata.core.company.Priority;
import app.pragmata.core.company.ResponseTime;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.server.generated.tables.records.JobRecord;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.time.LocalDateTime;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/**
 * When somebody is to be on site.
 *
 * @param aroundTheClock whether all hours count, not the working hours alone
 * @param met when somebody was there first; null while nobody was
 */
public record RespondBy(
    Priority priority, Instant by, boolean aroundTheClock, @Nullable Instant met) {
  /**
   * Of a row with the columns of the table job; null when nobody has to be there by a certain time.
   */
  public static @Nullable RespondBy of(Record row) {
    JobRecord job = row.into(app.pragmata.server.generated.Tables.JOB);
    return job.getPriority() == null
        ? null
        : new RespondBy(
            job.getPriority(),
            job.getRespondBy(),
            job.getRespondAroundTheClock(),
            job.getRespondedAt());
  }

  /** As of the act, in the company's time. */
  public Response response(Act act, WorkingCalendar calendar) {
    int left =
        new ResponseTime(1, aroundTheClock).minutesLeft(met == null ? act.at() : met, by, calendar);
    return new Response(
        priority,
        LocalDateTime.ofInstant(by, act.zone()),
        left,
        left < 0,
        met == null ? null : LocalDateTime.ofInstant(met, act.zone()));
  }
}
