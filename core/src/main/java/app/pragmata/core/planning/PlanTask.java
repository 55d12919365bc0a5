package app.pragmata.core.planning;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A visit for which a person and a time are looked for together with others.
 *
 * @param wanted with its id
 * @param preferredId who should go if they can, such as whoever was there last; null for anybody
 */
public record PlanTask(Wanted wanted, @Nullable Long preferredId) {
  public PlanTask {
    if (wanted.visitId() == null) {
      throw new IllegalArgumentException("A visit is known by its id");
    }
  }

  /** Its visit. */
  public long visitId() {
    return Objects.requireNonNull(wanted.visitId());
  }
}
