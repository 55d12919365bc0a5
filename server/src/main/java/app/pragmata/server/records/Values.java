package app.pragmata.server.records;

import app.pragmata.core.Coded;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/**
 * A record's values before and after, by the names that they have in the API, as text; only what
 * differs. What is not set is not there.
 */
record Values(Map<String, String> before, Map<String, String> after) {
  static final Values NONE = new Values(Map.of(), Map.of());

  /** What is no value of the record, or the moment of the event itself. */
  private static final Set<String> NOT_TOLD = Set.of("id", "version", "stateSince");

  static Values ofNew(Record row) {
    var after = new LinkedHashMap<String, String>();
    for (Field<?> field : row.fields()) {
      put(after, field, row.get(field));
    }
    return new Values(Map.of(), after);
  }

  static Values ofGone(Record row) {
    return new Values(ofNew(row).after(), Map.of());
  }

  static Values ofChanged(Record row) {
    var before = new LinkedHashMap<String, String>();
    var after = new LinkedHashMap<String, String>();
    for (Field<?> field : row.fields()) {
      if (!Objects.equals(text(row.original(field)), text(row.get(field)))) {
        put(before, field, row.original(field));
        put(after, field, row.get(field));
      }
    }
    return new Values(before, after);
  }

  /** These and what is told besides. */
  Values and(About about) {
    if (about.before().isEmpty() && about.after().isEmpty()) {
      return this;
    }
    var allBefore = new LinkedHashMap<>(before);
    var allAfter = new LinkedHashMap<>(after);
    about.before().forEach((name, value) -> allBefore.put(name, text(value)));
    about.after().forEach((name, value) -> allAfter.put(name, text(value)));
    return new Values(allBefore, allAfter);
  }

  boolean differ() {
    return !before.isEmpty() || !after.isEmpty();
  }

  /** The names of what differs. */
  Set<String> changed() {
    var names = new LinkedHashSet<>(before.keySet());
    names.addAll(after.keySet());
    return names;
  }

  private static void put(Map<String, String> values, Field<?> field, @Nullable Object value) {
    String name = name(field);
    String text = text(value);
    if (text != null && !text.isEmpty() && !NOT_TOLD.contains(name)) {
      values.put(name, text);
    }
  }

  /** A column's name as the API has it, such as {@code technicianId}. */
  private static String name(Field<?> field) {
    String[] words = field.getName().split("_", -1);
    var name = new StringBuilder(words[0]);
    Arrays.stream(words)
        .skip(1)
        .forEach(
            word ->
                name.append(Character.toUpperCase(word.charAt(0))).append(word, 1, word.length()));
    return name.toString();
  }

  private static @Nullable String text(@Nullable Object value) {
    return switch (value) {
      case null -> null;
      case Coded word -> word.code();
      case BigDecimal number ->
          number.signum() == 0 ? "0" : number.stripTrailingZeros().toPlainString();
      case JSONB document -> document.data();
      default -> value.toString();
    };
  }
}
