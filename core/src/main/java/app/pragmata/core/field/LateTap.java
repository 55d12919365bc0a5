package app.pragmata.core.field;

import app.pragmata.core.jobs.TimeEntry;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A tap that came in too late to be taken as it was.
 *
 * @param visitId null for one on no visit
 * @param starts the clock that it starts; null for one that starts none
 * @param work of other paid time or of a promised line that it starts; empty for everything else
 * @param at when it was tapped, by our clock
 * @param endedAt when the clock that it ends was really stopped, as somebody says; null for the
 *     moment of the tap
 * @param miles of the drive that it ends; nothing where nobody said
 */
public record LateTap(
    long id,
    @Nullable Long visitId,
    PocketStep step,
    TimeEntry.@Nullable Kind starts,
    String work,
    Instant at,
    @Nullable Instant endedAt,
    BigDecimal miles) {

  boolean startsTheSame(LateTap running) {
    return starts == running.starts
        && Objects.equals(visitId, running.visitId)
        && work.equals(running.work);
  }

  boolean ends(LateTap running) {
    return switch (step) {
      case DRIVE, START_WORK, START_CLOCK -> starts != null && !startsTheSame(running);
      case ARRIVE -> running.starts == TimeEntry.Kind.DRIVE;
      case PAUSE -> running.starts == TimeEntry.Kind.LABOUR;
      case FINISH, STOP_CLOCK -> true;
      default -> false;
    };
  }
}
