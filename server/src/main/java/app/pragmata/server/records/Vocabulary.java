package app.pragmata.server.records;

import app.pragmata.core.Coded;
import org.jooq.Converter;

/** Stores the words of a vocabulary by their codes. */
public final class Vocabulary {
  private Vocabulary() {}

  /** Between a column's text and the word; a text that is none is a broken invariant. */
  public static <E extends Enum<E> & Coded> Converter<String, E> of(Class<E> vocabulary) {
    return Converter.ofNullable(
        String.class, vocabulary, code -> Coded.get(vocabulary, code), Coded::code);
  }
}
