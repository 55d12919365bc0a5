package app.pragmata.core;

import java.util.Arrays;
import java.util.Map;
import java.util.stream.Collectors;

/** The words of each vocabulary by their codes; every stored word is looked up when it is read. */
final class WordsByCode {
  private static final ClassValue<Map<String, Coded>> OF =
      new ClassValue<>() {
        @Override
        protected Map<String, Coded> computeValue(Class<?> vocabulary) {
          return Arrays.stream(vocabulary.getEnumConstants())
              .map(Coded.class::cast)
              .collect(Collectors.toUnmodifiableMap(Coded::code, word -> word));
        }
      };

  private WordsByCode() {}

  static Map<String, Coded> of(Class<? extends Coded> vocabulary) {
    return OF.get(vocabulary);
  }
}
