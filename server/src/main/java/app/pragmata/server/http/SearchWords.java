package app.pragmata.server.http;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Words that something is searched by: few enough that no search keeps the database long. */
public final class SearchWords {
  /** Longer than anything that people say when they look for something. */
  public static final int LONGEST = 100;

  private static final int MOST = 12;

  private SearchWords() {}

  /**
   * The words of a filter; none for an empty one, and refused when there are more than anybody
   * types.
   *
   * @param field of the request
   */
  public static List<String> read(String field, String typed) {
    List<String> words = words(typed).toList();
    if (typed.strip().length() > LONGEST || words.size() > MOST) {
      var reading = new Reading();
      reading.fault(
          field,
          Rule.TOO_LONG,
          "At most %d words and %d letters can be searched by. Leave some out."
              .formatted(MOST, LONGEST));
      reading.refuseIfFaulty();
    }
    return words;
  }

  /** The text with no more words than can be searched by, while it is still being typed. */
  public static String first(String typed) {
    String words = words(typed).limit(MOST).collect(Collectors.joining(" "));
    return words.substring(0, Math.min(words.length(), LONGEST));
  }

  private static Stream<String> words(String typed) {
    // More is not even looked at.
    String looked = typed.substring(0, Math.min(typed.length(), 10 * LONGEST));
    return Arrays.stream(looked.replaceAll("\\p{Cntrl}", " ").split("\\s+", -1))
        .filter(word -> !word.isEmpty());
  }
}
