package app.pragmata.server.jobs;

import app.pragmata.core.jobs.TimeEntry;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What a clock is for.
 *
 * @param description of other paid time, or of the line that is worked on; empty for everything
 *     else
 * @param lineId the line of the promise that is worked on; null for none
 */
public record ClockedWork(TimeEntry.Kind kind, String description, @Nullable Long lineId) {
  /** Work on a visit that is of no line. */
  public static final ClockedWork LABOUR = of(TimeEntry.Kind.LABOUR);

  /** That says nothing more than its kind. */
  public static ClockedWork of(TimeEntry.Kind kind) {
    return new ClockedWork(kind, "", null);
  }

  /** Whether a clock that runs is for it; work that names no line is done by work on any. */
  public boolean isOn(Clock clock) {
    return clock.kind() == kind && (lineId == null || Objects.equals(lineId, clock.lineId()));
  }
}
