package app.pragmata.core.customers;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Where somebody is, as said in one breath: an address with the postcode at its end, if any. */
public record Place(String address, String postcode) {
  private static final Pattern LIKE_A_POSTCODE =
      Pattern.compile(
          "(.*?)[\\s,]*\\b([a-z]{1,2}\\d[a-z0-9]?\\s*\\d[a-z]{0,2})", Pattern.CASE_INSENSITIVE);

  /**
   * Reads "12 Weir Street, Ostmere os4 2td"; without a postcode the whole text is the address. What
   * looks like a postcode and fits none is unreadable.
   */
  public static Place parse(String typed, Postcode postcodes) {
    String plain = typed.strip().replaceAll("\\s+", " ");
    Matcher matcher = LIKE_A_POSTCODE.matcher(plain);
    if (!matcher.matches()) {
      return new Place(plain, "");
    }
    return new Place(matcher.group(1).strip(), postcodes.parse(matcher.group(2)));
  }
}
