package app.pragmata.server.records;

import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What is to be said of something that happened besides what the record itself shows.
 *
 * @param ownerId what the record is a part of, where no column of it says so
 * @param reason why; may be empty
 * @param before values that belong to the record but stand elsewhere, such as its lines
 * @param after the same afterwards
 */
public record About(
    @Nullable Long ownerId, String reason, Map<String, Object> before, Map<String, Object> after) {
  /** Nothing more. */
  public static final About NOTHING = new About(null, "", Map.of(), Map.of());

  /** A record that is part of this one. */
  public static About partOf(long ownerId) {
    return new About(ownerId, "", Map.of(), Map.of());
  }

  /** Why it was done. */
  public static About because(@Nullable String reason) {
    return NOTHING.why(reason);
  }

  /** The same with a reason; null is none. */
  public About why(@Nullable String why) {
    return new About(ownerId, why == null ? "" : why, before, after);
  }

  /** The same with values that stand elsewhere. */
  public About with(Map<String, Object> valuesBefore, Map<String, Object> valuesAfter) {
    return new About(ownerId, reason, valuesBefore, valuesAfter);
  }
}
