package app.pragmata.server.jobs;

import app.pragmata.core.jobs.Closing;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A document that takes cost of a job out of work in progress.
 *
 * @param document its kind, number and moment
 * @param some what it takes the cost of; null for all that is left, by which it closes the job
 * @param reason why the job is not charged or done; may be empty
 */
public record CostTaking(LockedJob job, Closing document, @Nullable Some some, String reason) {
  /** Visits and suppliers' bills of a job. */
  public record Some(Set<Long> visitIds, Set<Long> otherCostIds) {
    public Some {
      visitIds = Set.copyOf(visitIds);
      otherCostIds = Set.copyOf(otherCostIds);
    }
  }

  boolean closes() {
    return some == null;
  }
}
