package app.pragmata.server.records;

import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Something that happened to a record.
 *
 * @param ownerId the record that it is a part of, of the kind's owner; null where it has none
 * @param changed the fields that are not what they were; of a new record those that are set
 */
public record Happened(Event event, long recordId, @Nullable Long ownerId, Set<String> changed) {
  /** Whether it is about this kind. */
  public boolean is(RecordKind kind) {
    return event.kind() == kind;
  }
}
