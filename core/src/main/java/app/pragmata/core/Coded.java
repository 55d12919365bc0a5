package app.pragmata.core;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A word of a vocabulary. It has one code, the same in the database, the API and the browser, which
 * is the constant's name in small letters; words for people are made where it is shown.
 */
public interface Coded {
  /** The name of the constant, as every enum has it. */
  String name();

  /** How it is stored and sent, such as {@code not_this_time}. */
  default String code() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The word with this code; empty when the vocabulary has none. */
  static <E extends Enum<E> & Coded> Optional<E> find(Class<E> vocabulary, String code) {
    return Optional.ofNullable(WordsByCode.of(vocabulary).get(code)).map(vocabulary::cast);
  }

  /** The words with these codes, in their order; another is a broken invariant. */
  static <E extends Enum<E> & Coded> List<E> getAll(Class<E> vocabulary, String... codes) {
    return Arrays.stream(codes).map(code -> get(vocabulary, code)).toList();
  }

  /** The word with this code; another is a broken invariant. */
  static <E extends Enum<E> & Coded> E get(Class<E> vocabulary, String code) {
    return find(vocabulary, code)
        .orElseThrow(
            () ->
                new IllegalArgumentException(
                    "“%s” is no %s".formatted(code, vocabulary.getSimpleName())));
  }
}
