package app.pragmata.server.jobs;

import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import java.time.Instant;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/** A time entry as it is stored, running or ended; {@link TimeEntries} changes it. */
public final class Clock {
  private final TimeEntryRecord row;

  Clock(TimeEntryRecord row) {
    this.row = row;
  }

  TimeEntryRecord row() {
    return row;
  }

  public long id() {
    return row.getId();
  }

  public int version() {
    return row.getVersion();
  }

  /** Null for time on no visit. */
  public @Nullable Long visitId() {
    return row.getVisitId();
  }

  public long personId() {
    return row.getPersonId();
  }

  public TimeEntry.Kind kind() {
    return row.getKind();
  }

  public LocalDate day() {
    return row.getDay();
  }

  public Instant startedAt() {
    return row.getStartedAt();
  }

  /** What it is for; empty for a visit, a drive and a break. */
  public String description() {
    return row.getDescription();
  }

  /** The line of the promise that is worked on; null for none. */
  public @Nullable Long lineId() {
    return row.getPromisedLineId();
  }

  /** Whether it still runs. */
  public boolean isRunning() {
    return row.getEndedAt() == null;
  }

  /** Whether its cost is in the books. */
  public boolean isApproved() {
    return row.getTimeCostMinor() != null;
  }

  /** Whether somebody is still to say when it ended. */
  public boolean isInDoubt() {
    return row.getEndInDoubt();
  }
}
