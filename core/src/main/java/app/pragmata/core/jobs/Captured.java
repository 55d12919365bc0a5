package app.pragmata.core.jobs;

import java.util.Collection;
import java.util.List;

/**
 * What is there of a visit when somebody finishes it.
 *
 * @param cause whether the cause is known, or none can be because the job has no fault
 */
public record Captured(boolean photo, boolean signature, boolean cause) {
  /** What of that which is wanted is not there, each once and in the order of {@link Capture}. */
  public List<Capture> missing(Collection<Capture> wanted) {
    return wanted.stream().distinct().sorted().filter(capture -> !has(capture)).toList();
  }

  private boolean has(Capture capture) {
    return switch (capture) {
      case PHOTO -> photo;
      case SIGNATURE -> signature;
      case CAUSE -> cause;
    };
  }
}
