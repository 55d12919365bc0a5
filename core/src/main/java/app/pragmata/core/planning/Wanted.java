package app.pragmata.core.planning;

import java.time.LocalDateTime;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A visit for which a time is looked for.
 *
 * @param visitId its own; null while there is none yet
 * @param place where it is; null where nobody knows, which costs no driving
 * @param minutes how long it is expected to take
 * @param skillIds what whoever goes must know
 * @param notBefore what it waits for is there by then, such as a part or the end of another visit;
 *     null for nothing
 * @param respondBy until when somebody was promised on site, by the company's clock; null for no
 *     promise
 */
public record Wanted(
    @Nullable Long visitId,
    @Nullable Place place,
    int minutes,
    Set<Long> skillIds,
    @Nullable LocalDateTime notBefore,
    @Nullable LocalDateTime respondBy) {
  public Wanted {
    skillIds = Set.copyOf(skillIds);
    if (minutes < 1) {
      throw new IllegalArgumentException("A visit takes some time");
    }
  }
}
