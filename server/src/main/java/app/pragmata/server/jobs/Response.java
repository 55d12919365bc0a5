package app.pragmata.server.jobs;

import app.pragmata.core.company.Priority;
import app.pragmata.core.company.ResponseTime;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.server.generated.tables.records.JobRecord;
import app.pragmata.server.records.Act;
import java.time.LocalDateTime;
import org.jspecify.annotations.Nullable;

/**
 * By when somebody has to be on site for a job, in the company's time.
 *
 * @param minutesLeft until then, in the hours in which it is counted; below nothing when it is late
 * @param met when somebody was there; null while nobody was
 */
public record Response(
    Priority priority,
    LocalDateTime by,
    int minutesLeft,
    boolean late,
    @Nullable LocalDateTime met) {
  /** The job's response as of the act; null when nobody has to be there by a certain time. */
  public static @Nullable Response of(JobRecord job, Act act, WorkingCalendar calendar) {
    if (job.getPriority() == null) {
      return null;
    }
    var met = job.getRespondedAt();
    var counted = new ResponseTime(1, job.getRespondAroundTheClock());
    int left = counted.minutesLeft(met == null ? act.at() : met, job.getRespondBy(), calendar);
    return new Response(
        job.getPriority(),
        LocalDateTime.ofInstant(job.getRespondBy(), act.zone()),
        left,
        left < 0,
        met == null ? null : LocalDateTime.ofInstant(met, act.zone()));
  }
}
