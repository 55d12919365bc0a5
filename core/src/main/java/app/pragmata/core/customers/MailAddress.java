package app.pragmata.core.customers;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;

/**
 * Mail addresses as far as their shape can be told (RFC 5321: one @, a name before, a host after).
 */
public final class MailAddress {
  private MailAddress() {}

  /** The address as typed; unreadable when mail could not be sent to it. */
  public static String parse(String typed) {
    if (!typed.matches("[^\\s@,;<>]{1,64}@[^\\s@,;<>]+\\.[^\\s@,;<>.]{2,}")) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "“"
              + Reading.abridged(typed)
              + "” is not a mail address. Enter it like name@example.org, or leave it empty.");
    }
    return typed;
  }
}
