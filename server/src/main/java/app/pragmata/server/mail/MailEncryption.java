package app.pragmata.server.mail;

import app.pragmata.core.Coded;

/** How mail is hidden from others on its way to the mail server (RFC 3207, RFC 8314). */
public enum MailEncryption implements Coded {
  /** Not at all, such as to a server on the same machine. */
  NONE,
  /** From the server's greeting on; a server that does not offer it gets nothing. */
  STARTTLS,
  /** From the first byte. */
  TLS
}
