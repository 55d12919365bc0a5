package app.pragmata.core.customers;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.util.regex.Pattern;

/**
 * Mail addresses as far as their shape can be told: one that a browser takes for an address (HTML
 * Standard, 4.10.5.1.5), with a host that has a domain, within the lengths of RFC 5321, 4.5.3.1.
 */
public final class MailAddress {
  private static final int LONGEST = 254;

  private static final Pattern SHAPE =
      Pattern.compile(
          "(?=[^@]{1,64}@)[a-zA-Z0-9!#$%&'*+/=?^_`{|}~-]+(\\.[a-zA-Z0-9!#$%&'*+/=?^_`{|}~-]+)*"
              + "@([a-zA-Z0-9]([a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?\\.)+[a-zA-Z]([a-zA-Z0-9-]{0,61}[a-zA-Z0-9])");

  private MailAddress() {}

  /** The address as typed; unreadable when mail could not be sent to it. */
  public static String parse(String typed) {
    if (typed.length() > LONGEST || !SHAPE.matcher(typed).matches()) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“"
              + Reading.abridged(typed)
              + "” is not a mail address. Enter it like name@example.org, or leave it empty.");
    }
    return typed;
  }
}
