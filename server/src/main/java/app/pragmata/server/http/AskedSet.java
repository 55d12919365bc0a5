package app.pragmata.server.http;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Records that are asked for together, each once and not too many. */
public final class AskedSet {
  private static final int MOST = 100;

  private AskedSet() {}

  /**
   * The records as they were asked for; refused when there are none, more than a hundred, or one
   * twice.
   *
   * @param field of the form
   * @param id of the record that is meant
   * @param record what they are, such as “job”
   * @param verb what is to be done with them, such as “close”
   */
  public static <T> List<T> read(
      String field, @Nullable List<T> asked, Function<T, Long> id, String record, String verb) {
    var reading = new Reading();
    List<T> all = asked == null ? List.of() : asked;
    if (all.isEmpty()) {
      reading.fault(field, Rule.MISSING, "Name a %s to %s.".formatted(record, verb));
    }
    if (all.size() > MOST) {
      reading.fault(
          field,
          Rule.EXCEEDS_LIMIT,
          "At most %d at once. Send the rest afterwards.".formatted(MOST));
    }
    if (all.stream().map(id).distinct().count() < all.size()) {
      reading.fault(field, Rule.REPEATED, "A %s is named twice. Name each once.".formatted(record));
    }
    reading.refuseIfFaulty();
    return all;
  }
}
