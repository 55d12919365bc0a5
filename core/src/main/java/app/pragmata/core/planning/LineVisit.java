package app.pragmata.core.planning;

import app.pragmata.core.Coded;
import app.pragmata.core.jobs.VisitState;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How a promised line stands with the visits of its job.
 *
 * @param visit the one that does it; null while none is to
 */
public record LineVisit(Standing standing, @Nullable JobVisit visit) {
  /** Whether somebody goes for a promised line. */
  public enum Standing implements Coded {
    /** It is done without one, such as what is only delivered. */
    NOT_NEEDED,
    /** Nobody is to go for it yet. */
    MISSING,
    /** Its visit waits for a time. */
    WAITING,
    /** Somebody goes, or is there. */
    PLANNED,
    /** Somebody was there. */
    DONE
  }

  /**
   * A visit of the job.
   *
   * @param day null while it waits
   * @param finishedAt null until then
   */
  public record JobVisit(
      long id, VisitState.Code state, @Nullable LocalDate day, @Nullable Instant finishedAt) {
    private boolean standing(Standing standing) {
      return this.standing() == standing;
    }

    private Standing standing() {
      return switch (state) {
        case UNPLANNED -> Standing.WAITING;
        case PLANNED, DRIVING, ON_SITE -> Standing.PLANNED;
        case FINISHED, CHECKED -> Standing.DONE;
        case NOT_THIS_TIME, CALLED_OFF -> Standing.MISSING;
      };
    }
  }

  /** It needs none. */
  public static final LineVisit NOT_NEEDED = new LineVisit(Standing.NOT_NEEDED, null);

  /**
   * Of a line that needs a visit: the next one of its job does it unless another was chosen. What
   * was over before the line was promised did not do it.
   *
   * @param chosenId which visit does it; null for any
   * @param doneOnId on which visit it was ticked off as done; null while it was not
   * @param visits all of the job
   */
  public static LineVisit of(
      Instant promisedAt, @Nullable Long chosenId, @Nullable Long doneOnId, List<JobVisit> visits) {
    if (doneOnId != null) {
      return new LineVisit(
          Standing.DONE,
          visits.stream().filter(visit -> visit.id() == doneOnId).findFirst().orElse(null));
    }
    List<JobVisit> able =
        visits.stream()
            .filter(visit -> chosenId == null || visit.id() == chosenId)
            .filter(visit -> !visit.standing(Standing.MISSING))
            .filter(
                visit ->
                    chosenId != null
                        || visit.finishedAt() == null
                        || visit.finishedAt().isAfter(promisedAt))
            .toList();
    for (Standing standing : List.of(Standing.PLANNED, Standing.WAITING, Standing.DONE)) {
      JobVisit first =
          able.stream()
              .filter(visit -> visit.standing(standing))
              .min(
                  Comparator.comparing(
                          JobVisit::day, Comparator.nullsLast(Comparator.naturalOrder()))
                      .thenComparing(JobVisit::id))
              .orElse(null);
      if (first != null) {
        return new LineVisit(standing, first);
      }
    }
    return new LineVisit(Standing.MISSING, null);
  }
}
