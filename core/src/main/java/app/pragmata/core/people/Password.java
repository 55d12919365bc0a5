package app.pragmata.core.people;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.ResourceBundle;
import java.util.Set;

/**
 * What a new password has to be (NIST SP 800-63B, 5.1.1.2): long, and none of those that are tried
 * first. There are no rules about kinds of characters, for they make nothing safer.
 */
public final class Password {
  private static final int SHORTEST = 12;

  /** What BCrypt takes into its account; more would be cut without a word. */
  private static final int LONGEST_BYTES = 72;

  /** Words and rows of keys that most guesses begin with, one in a line. */
  private static final Set<String> COMMON =
      ResourceBundle.getBundle(
              Password.class.getPackageName() + ".common_passwords",
              Locale.ROOT,
              ResourceBundle.Control.getNoFallbackControl(ResourceBundle.Control.FORMAT_PROPERTIES))
          .keySet();

  private Password() {}

  /**
   * The password exactly as it was typed; unreadable, with what to do, when it is too short, too
   * long or too easily guessed.
   *
   * @param username whose it is to be; it may not hold this name and little else
   */
  public static String parse(String typed, String username) {
    if (typed.codePointCount(0, typed.length()) < SHORTEST) {
      throw new Unreadable(
          Rule.TOO_SHORT,
          "A password has at least 12 characters. Three words that have nothing to do with each other are easy to keep in mind.");
    }
    if (typed.getBytes(StandardCharsets.UTF_8).length > LONGEST_BYTES) {
      throw new Unreadable(
          Rule.TOO_LONG, "A password has at most 72 letters, fewer with accents. Shorten it.");
    }
    String plain = typed.toLowerCase(Locale.ROOT).replaceAll("[\\s_.-]", "");
    String word = plain.replaceAll("[^\\p{L}]+$", "").replaceAll("^[^\\p{L}]+", "");
    boolean name =
        !username.isEmpty() && word.replace(username, "").length() < 4 && plain.contains(username);
    if (COMMON.contains(plain) || COMMON.contains(word) || name || isPattern(plain)) {
      throw new Unreadable(
          Rule.EASILY_GUESSED,
          "This password is among the first that anybody tries. Choose another, such as three words that have nothing to do with each other.");
    }
    return typed;
  }

  /** The same few characters again and again, or a row of neighbours such as 1234 or abcd. */
  private static boolean isPattern(String plain) {
    int[] letters = plain.chars().toArray();
    for (int length = 1; length <= 4; length++) {
      boolean repeats = true;
      for (int i = length; i < letters.length; i++) {
        repeats &= letters[i] == letters[i - length];
      }
      if (repeats) {
        return true;
      }
    }
    int neighbours = 0;
    for (int i = 1; i < letters.length; i++) {
      neighbours += Math.abs(letters[i] - letters[i - 1]) <= 1 ? 1 : 0;
    }
    // 123456789012 has one step from 9 to 0 in it.
    return neighbours >= letters.length - 2;
  }
}
