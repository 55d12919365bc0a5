package app.pragmata.server.records;

import app.pragmata.core.Coded;
import java.util.ArrayList;
import java.util.regex.Pattern;
import org.jooq.Converter;

/** Stores the words of a vocabulary by their codes. */
public final class Vocabulary {
  // Not a cast, such as ::bigint.
  private static final Pattern NAME = Pattern.compile("(?<!:):([A-Z][A-Z_]*)\\b");

  private Vocabulary() {}

  /** Between a column's text and the word; a text that is none is a broken invariant. */
  public static <E extends Enum<E> & Coded> Converter<String, E> of(Class<E> vocabulary) {
    return Converter.ofNullable(
        String.class, vocabulary, code -> Coded.get(vocabulary, code), Coded::code);
  }

  /**
   * An SQL text in which words of these vocabularies stand by their names, such as {@code state =
   * :CHECKED}, with their codes instead; a name that is none of them, or one of two, is a mistake
   * and found as soon as the text is.
   */
  @SafeVarargs
  public static String inSql(String text, Class<? extends Coded>... vocabularies) {
    return NAME.matcher(text)
        .replaceAll(
            found -> {
              var meant = new ArrayList<Coded>();
              for (Class<? extends Coded> words : vocabularies) {
                for (Coded word : words.getEnumConstants()) {
                  if (((Enum<?>) word).name().equals(found.group(1))) {
                    meant.add(word);
                  }
                }
              }
              if (meant.size() != 1) {
                throw new IllegalArgumentException(found.group() + " stands for " + meant);
              }
              return "'" + meant.getFirst().code() + "'";
            });
  }
}
